"""A link whose address leads nowhere: none, a script, or a place that the piece does not have."""

from __future__ import annotations

from collections.abc import Iterator
from urllib.parse import unquote

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.addresses import clean, scheme_of
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import Guesses
from verse_tray.piece.addresses import may_be_filled
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="A click does nothing, or loads the same page anew.",
    advice="Write the address it is to lead to; for a place in the piece, an id there of the same spelling.",
    bad='<p><a href="#walks">Walks</a></p><h2 id="walk">Walks</h2>',
    good='<p><a href="#walks">Walks</a></p><h2 id="walks">Walks</h2>',
)
_DOES_NOTHING = lazy(r"javascript:\s*(?:void\b[^;]*|false|undefined|[\w.$]*\(\s*\))?;?\s*")
_LONGEST = 200


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each link without an address, with a script for one, or to a place that is not there."""
    guesses = Guesses()
    for element in subject.each("a", "area"):
        address = element.attributes.get("href")
        if address is None:
            continue
        told = _told(subject, element, clean(address), guesses)
        if told:
            yield Mistake(subject.attribute_span(element, "href"), told)


def _told(subject: Subject, element: Element, address: str, guesses: Guesses) -> str:
    if not address:
        return "This link has no address, so a click loads the same page anew. Write the address it is to lead to."
    if scheme_of(address) == "javascript":
        if _DOES_NOTHING.fullmatch(address) and "onclick" in element.attributes:
            return ""
        return (
            "The address of this link is a script, which most editors take away. Write an address; for what a script "
            "does, use a button."
        )
    if not address.startswith("#") or "download" in element.attributes:
        return ""
    name = unquote(address[1:])
    if name.lower() in ("", "top") or name.startswith(":~:") or may_be_filled(name) or len(name) > _LONGEST:
        return ""
    if subject.is_place(name) or name in subject.script_words or any(site.names(name) for site in subject.sites):
        return ""
    near = guesses.nearest(name, subject.identifiers, 0.7)
    known = f" Did you mean #{near}?" if near else " Give the element it is to lead to that id."
    return f"Nothing in the piece has the id “{name[:60]}”, so a click does nothing.{known}"
