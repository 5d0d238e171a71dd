"""Links to films that become players."""

from __future__ import annotations

import re
from collections.abc import Iterator

from msgspec import Struct

from verse_tray.editors.building import Players
from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.addresses import clean
from verse_tray.markup.tree import Element, Node, Text, whole_text
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy

_ID = lazy(r"[A-Za-z0-9_-]+")


class Film(Struct, frozen=True):
    """An address that was recognised as a film's."""

    name: str
    """What stands in the place of ``{id}``."""
    long: bool
    """Whether it is the long form."""


def run(state: State) -> None:
    """Put a player in the place of every film's address, alone or linked, unless it bears the leave-alone mark."""
    record = state.record
    if record.players is None:
        return
    rules = record.players
    state.settle()
    for element in state.elements:
        href = element.attributes.get("href")
        if element.name != "a" or element.namespace != "html" or href is None or element.fate:
            continue
        film = film_of(rules, href)
        if film is None or (not rules.links and whole_text(element).strip() != href.strip()):
            continue
        if film.long and rules.leave_alone and _left_alone(rules.leave_alone, _stored(state, element, href)):
            continue
        message = f"The link to {href} becomes a player; its own text goes. {_hint(rules, film)}"
        change = state.edits.change("players/link", message, Severity.ERROR, element)
        state.edits.replace(element, [_player(rules, film)], [change])
    state.settle()
    for text, linked in state.texts(frozenset(("a", "pre", "code", "textarea", "button"))):
        address = text.data.strip()
        film = None if linked or " " in address else film_of(rules, address)
        if film is None:
            continue
        message = f"The address {address} becomes a player. {_hint(rules, film, bare=True)}"
        change = state.edits.change("players/address", message, Severity.WARNING, text)
        start = text.data.index(address)
        front = text.data[:start]  # it speaks for the address behind it
        nodes: list[Node] = [Text(front, text.key, front + address), _player(rules, film)]
        if rest := text.data[start + len(address) :]:
            nodes.append(Text(rest, text.key))
        state.edits.replace(text, nodes, [change])
    state.settle()


def film_of(rules: Players, address: str) -> Film | None:
    """Return the film that an address stands for, in its long or its short form."""
    for template, long in ((rules.long, True), (rules.short, False)):
        name = _match(template, clean(address)) if template else None
        if name:
            return Film(name, long)
    return None


def _match(template: str, address: str) -> str | None:
    from urllib.parse import parse_qsl, urlsplit

    try:
        wanted, given = urlsplit(template), urlsplit(address)
        if given.scheme not in ("http", "https") or given.netloc.lower() != wanted.netloc.lower():
            return None
    except ValueError:
        return None
    if "{id}" in wanted.query:
        key = next((k for k, v in parse_qsl(wanted.query) if v == "{id}"), "")
        name = dict(parse_qsl(given.query)).get(key, "") if given.path == wanted.path else ""
    else:
        front, _, behind = wanted.path.partition("{id}")
        inside = given.path.startswith(front) and given.path.endswith(behind)
        name = given.path[len(front) : len(given.path) - len(behind)] if inside else ""
    return name if _ID.fullmatch(name) else None


def _stored(state: State, element: Element, href: str) -> str:
    """Return an address as it stands in the stored text, references and all."""
    if state.source_map is None or element.edited:
        from verse_tray.markup.serialise import escape_attribute

        return escape_attribute(href)
    place = state.source_map.attributes(state.source_map.number(element)).get("href")
    if place is None or place.value is None:
        return href
    return state.source_map.text[place.value.start : place.value.end]


def _left_alone(mark: str, stored: str) -> bool:
    return re.search(rf"&amp;{re.escape(mark)}(?:&|#|$)", stored) is not None


def _hint(rules: Players, film: Film, *, bare: bool = False) -> str:
    if not rules.leave_alone:
        return "This editor knows no way to keep it a link."
    form = "" if film.long else " (in the long form of the address)"
    if bare:  # behind an address that is no link, the mark means nothing
        return f"To keep it, make it a link, and put &amp;{rules.leave_alone} behind the link's address{form}."
    return f"To keep it a link, put &amp;{rules.leave_alone} behind it{form}."


def _player(rules: Players, film: Film) -> Element:
    address = rules.player.replace("{id}", film.name)
    sizes = {"width": str(rules.width), "height": str(rules.height)}
    return Element("iframe", attributes={"src": address, **sizes, "title": "Film", "allowfullscreen": ""})


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if (films := record.players) is not None:
        forms = " or ".join(form.replace("{id}", "…") for form in (films.long, films.short) if form)
        alone = f", unless &amp;{films.leave_alone} stands behind its long form" if films.leave_alone else ""
        yield "films", f"A link to {forms} becomes a player{alone}."


STEP = Step(
    "players",
    run,
    keys=("players",),
    told=_sentences,
    guide=(
        (
            "`players`",
            "film links that become players: `long` and `short` form of the address with `{id}`, address "
            "of the `player`, `width`, `height`, whether linked text does so too (`links`), the "
            "parameter that prevents it (`leaveAlone`)",
            "none",
        ),
    ),
    sample='<a href="https://films.gannetcove.example/watch?film=low-water">a film</a>\n',
)
