"""A placement in steps, one a paste: where to go, what to copy, what stands around it, what to look at afterwards."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import PurePath

from msgspec import Struct

from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Text
from verse_tray.model.phrasing import counted, listed
from verse_tray.piece.view import View
from verse_tray.place.page import Paste, holders_of, published
from verse_tray.place.placement import Placement
from verse_tray.place.targets import field_editor, slot_of, told


class Step(Struct, frozen=True):
    """One step of a placement."""

    number: int
    """From 1 on."""
    file: str
    """Name of the file with what is to be copied."""
    paste: Paste
    """What is pasted."""
    title: str
    """Where to, for people: ``Sidebar``."""
    scope: str
    """Whom that is for: ``on A post, 300 pixels wide``."""
    where: str
    """How to get there."""
    how: str
    """Which pane it goes into, and how, in a sentence."""
    rich: bool
    """Whether it is copied as it looks, and not as source."""
    before: str
    """What stands before it, in words."""
    after: str
    """What stands behind it, in words; empty where nothing does."""
    look: tuple[str, ...]
    """What to look at afterwards, in sentences."""
    publishing: str
    """Whether saving is enough, in a sentence."""


def steps_of(placement: Placement) -> list[Step]:
    """Return the steps of a placement."""
    found = []
    for number, paste in enumerate(placement.pastes, 1):
        about = told(placement.site, paste.target)
        before, after = _around(placement, paste)
        editor = field_editor(placement.site, paste.target)
        asked = editor.profile.publish.asked
        found.append(
            Step(
                number,
                _file(number, paste),
                paste,
                about.title,
                about.scope,
                about.where,
                _how(placement, paste),
                editor.profile.paste.pane == "visual-rich",
                before,
                after,
                tuple(_look(placement, paste)),
                _publishing(paste, asked=asked),
            )
        )
    return found


_PUBLISHED = "Saved is not published here: publish the page afterwards, or readers see the old one."
_ENDINGS = {"styles": ".css", "scripts": ".js"}


def _publishing(paste: Paste, *, asked: bool) -> str:
    if paste.target.kind == "holder":
        return "Readers get it where a reference stands for it."
    return _PUBLISHED if asked else "Saving is enough: readers see it at once."


def _file(number: int, paste: Paste) -> str:
    pieces = "-".join(dict.fromkeys(PurePath(each).stem for each in paste.pieces[:2]))
    bare = not paste.text.lstrip().startswith("<")
    place = "holder" if paste.target.kind == "holder" else paste.target.name
    stem = "-".join(each for each in (place, "reference" * (paste.kind == "reference"), pieces) if each)
    name = re.sub(r"[^\w-]+", "-", stem).strip("-")[:80]
    return f"{number}-{name}{_ENDINGS.get(paste.kind, '.html') if bare else '.html'}"


def _how(placement: Placement, paste: Paste) -> str:
    target, site = paste.target, placement.site
    pane = field_editor(site, target).profile.paste.pane
    if target.kind == "holder":
        return f"Make a new one, call it {target.name}, and paste the text as it is; no editor touches it."
    if target.kind == "slot":
        slot = slot_of(site, target)
        there = "below what stands there" if slot.stands else "into the empty field"
        if slot.wraps:
            what = "the style" if slot.takes == "styles" else "the script"
            return f"Paste the text {there}, without an element around it: the site writes {what} element itself."
        return f"Paste the text {there}, with the tags."
    if pane == "visual-rich":
        return "There is no source pane: copy it as it looks (open the file in a browser, select all, copy), and paste."
    if pane == "visual-text":
        return "The field takes plain text: tags would be read as text."
    if paste.kind == "reference":
        return "Paste the reference into the source pane; the page puts what is in the holder in its place."
    return "Paste it into the source pane, never into the visual one: there, readers would see the tags."


def _around(placement: Placement, paste: Paste) -> tuple[str, str]:
    """Return what stands before and behind a paste, in words."""
    target, site = paste.target, placement.site
    earlier = [each for each in placement.pastes if each.target == target]
    if target.kind == "holder":
        return "nothing: a holder has one text", ""
    if target.kind == "slot":
        at = earlier.index(paste)
        if at:
            return f"what came in with {listed(earlier[at - 1].pieces)}", ""
        stands = slot_of(site, target).stands.strip()
        return (f"what stands there already, which ends with “{_short(stands[-60:])}”" if stands else "nothing"), ""
    items = [(item.name, item.markup) for item in site.site.pages[target.page].regions[target.name].items]
    entries = [(f"“{name}”", markup) for name, markup in items]
    for each in sorted(earlier, key=lambda each: each.index):
        entries.insert(each.index, (listed(each.pieces), each.text))
    before = entries[paste.index - 1][0] if paste.index else "nothing: it comes first"
    after = entries[paste.index + 1][0] if paste.index + 1 < len(entries) else ""
    return before, after


def _short(text: str) -> str:
    return " ".join(text.split())


def _look(placement: Placement, paste: Paste) -> Iterator[str]:
    """Yield what to look at once it is pasted."""
    target = paste.target
    if target.kind == "holder":
        yield "Nothing can be seen yet: the reference to it comes in a later step."
        return
    if paste.kind == "styles":
        last = next((each for each in reversed(placement.pastes) if each.kind in ("markup", "reference")), None)
        later = last is not None and placement.pastes.index(last) > placement.pastes.index(paste)
        yield "Other pages look as they did." + (" Nothing else can be seen yet." if later else "")
        return
    if paste.kind == "libraries":
        yield "The page still loads, and looks as it did."
        return
    if paste.kind == "scripts":
        yield "Reload the published page: what moves, swaps or opens does so, on a phone too."
        return
    holders = holders_of(placement.site, placement.pastes)
    view = View(parse_fragment(published(placement.site, paste, holders)).tree)
    words = _short(" ".join(node.data for node in view.tree.nodes() if type(node) is Text and node.data.strip()))
    names: dict[str, int] = {}
    for element in view.elements:
        names[element.name] = names.get(element.name, 0) + _counts(element)
    shows = [counted(names[name], word) for name, word in _SHOWN.items() if names.get(name)]
    begins = f"It begins with “{words[:60].rstrip()}{'…' if len(words) > 60 else ''}”" if words else "It shows no text"
    yield f"{begins}{f', and has {listed(shows)}' if shows else ''}."
    profile = field_editor(placement.site, target).profile
    if profile.view.shows == "notice":
        yield f"The editor shows only “{profile.view.notice}” in its place: look at the published page."
    if profile.box is not None:
        size = f"{profile.box.width} by {profile.box.height} pixels"
        yield f"It stands in a frame of {size}: what is longer scrolls there."
    yield "No tag can be read as text, and nothing sticks out on a phone."


_SHOWN = {"img": "picture", "a": "link", "table": "table", "iframe": "frame", "form": "form", "button": "button"}


def _counts(element: Element) -> bool:
    return element.name != "a" or bool(element.attributes.get("href"))
