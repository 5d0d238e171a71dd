"""What a piece does: scripts, event handlers, forms and controls, frames."""

from __future__ import annotations

import re

from verse_tray.editors.lists import is_event_handler
from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.addresses import is_same_address
from verse_tray.markup.tree import Element, own_text
from verse_tray.model.patterns import lazy
from verse_tray.piece.view import View
from verse_tray.script.kinds import script_kind

DOERS = frozenset("button details dialog form iframe input script select summary textarea".split())
"""Elements that do something."""
_WORDS = lazy(r"[\w-]+")


def count_behaviour(written: View, after: View, sandbox: tuple[str, ...] | None = None) -> Count:
    """Count the elements that do something and the event handlers that still stand as they were, and still can work.

    Args:
        written: The written tree.
        after: The published tree.
        sandbox: Tokens of the sandboxed frame in which the page shows the piece; None when it stands in the page.
    """
    kept = total = 0
    astray = code_led_astray(written, after)
    for element in written.elements:
        now = after.by_key.get(element.key)
        muted = now is not None and sandbox is not None and bool(muted_by(now, sandbox))
        works = now is not None and not muted
        if element.name in DOERS:
            total += 1
            kept += works and now is not None and now.name == element.name and _same_source(element, now) and (
                (element.key, "") not in astray
            )  # fmt: skip
        for name, value in element.attributes.items():
            if is_event_handler(name):
                total += 1
                same = now is not None and now.attributes.get(name) == value
                kept += works and same and (element.key, name) not in astray
    return Count(kept, total)


def code_led_astray(written: View, after: View) -> dict[tuple[int, str], list[str]]:
    """Return the scripts and handlers that name classes or identifiers which the page does not have any more.

    Args:
        written: The written tree.
        after: The published tree.

    Returns:
        The names by the element's key and the handler's name; that is empty for a script.
    """
    gone = names_of(written) - names_of(after)
    if not gone:
        return {}
    found: dict[tuple[int, str], list[str]] = {}
    for element in written.elements:
        now = after.by_key.get(element.key)
        if now is None:
            continue
        code = {name: value for name, value in element.attributes.items() if is_event_handler(name)}
        if element.name == "script" and now.name == "script" and script_kind(now.attributes):  # else it never runs
            code[""] = own_text(now)
        for name, text in code.items():
            named = [each for each in gone.intersection(_WORDS.findall(text)) if is_named(text, each)]
            if named:
                found[element.key, name] = sorted(named)
    return found


def names_of(view: View) -> set[str]:
    """Return the classes and identifiers of a page."""
    found: set[str] = set()
    for element in view.elements:
        if element.attributes:
            found.update(element.attributes.get("class", "").split(), (element.attributes.get("id", ""),))
    return found - {""}


def is_named(code: str, name: str) -> bool:
    """Tell whether code names a class or an identifier: in quotes, perhaps behind a mark of selectors."""
    return re.search(rf"""["'`][^"'`\n]*(?<![\w-]){re.escape(name)}(?![\w-])""", code) is not None


def muted_by(element: Element, sandbox: tuple[str, ...]) -> str:
    """Return the sandbox token that an element misses to do its work; empty when it misses none."""
    if element.name == "script" or any(map(is_event_handler, element.attributes)):
        return "" if "allow-scripts" in sandbox else "allow-scripts"
    if element.name == "form":
        return "" if "allow-forms" in sandbox else "allow-forms"
    return ""


def _same_source(element: Element, now: Element) -> bool:
    for name in ("src", "srcdoc", "type"):
        was, found = element.attributes.get(name), now.attributes.get(name)
        if was != found and not (name == "src" and was and found and is_same_address(was, found)):
            return False
    return element.name != "script" or own_text(element) == own_text(now)
