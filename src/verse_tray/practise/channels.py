"""The editors of the practice site: the stand-ins, two that browsers clean for, and a rule that changes at a date."""

from __future__ import annotations

from datetime import date
from typing import Any

from msgspec import Struct, structs

from verse_tray.editors.adopt import adopt
from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.journeys.journey import journey, markup_after
from verse_tray.journeys.limits.use import UNIT_NAMES
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

CHANGES = date(2027, 1, 1)
"""From this day on, blog posts lose their figures: what is in them stays."""
CHANGES_IN = "blog-post"
"""The editor whose rules change."""
ROLES = ("author", "administrator")
"""Who can sign in."""
_OF_ADMINISTRATORS = ("administrator", "teacher")
"""Variants of editors that an administrator gets."""
_SHORT: dict[str, Any] = {
    "elements": ["p", "br", "b", "strong", "i", "em", "u", "a", "ul", "ol", "li", "blockquote", "code", "h3", "h4"],
    "attributes": ["href", "title", "lang"],
    "comments": False,
}
_LONG: dict[str, Any] = {
    "removeElements": ["form", "input", "button", "select", "textarea", "iframe", "object", "embed", "style", "script"],
    "replaceWithChildrenElements": ["center", "font"],
    "removeAttributes": ["onclick", "onload", "onerror", "onmouseover", "onfocus", "id", "tabindex"],
    "comments": True,
}
BY_BROWSER: dict[str, tuple[str, dict[str, Any], bool]] = {
    "browser-note": ("Note, cleaned by your browser", _SHORT, True),
    "browser-page": ("Page, cleaned by your browser", _LONG, False),
}
"""Editors that clean in the browser, by the methods of the HTML Sanitizer API: title, configuration, whether with
``setHTML`` (else ``setHTMLUnsafe``)."""


class Kept(Struct, frozen=True):
    """What an editor made of a text."""

    text: str
    """What is stored now."""
    refused: str = ""
    """Why it took nothing; empty where it did."""


def channels() -> list[str]:
    """Return the names of all editors."""
    return [*known_editors(), *BY_BROWSER]


def editor_of(channel: str, role: str, day: date) -> Editor:
    """Return the editor of a name, as it is for a role on a day."""
    if channel in BY_BROWSER:
        _, configuration, safe = BY_BROWSER[channel]
        return adopt(configuration, safe=safe, name=channel)
    found = load_editor(channel)
    if role == "administrator":
        variant = next((name for name in _OF_ADMINISTRATORS if name in found.profile.variants), "")
        found = load_editor(f"{channel}:{variant}") if variant else found
    return _changed(found) if channel == CHANGES_IN and day >= CHANGES else found


def _changed(editor: Editor) -> Editor:
    save = editor.profile.save
    kept = None if save.elements is None else tuple(each for each in save.elements if each != "figure")
    unwrapped = (*save.replace_with_children_elements, "figure")
    changed = structs.replace(save, elements=kept, replace_with_children_elements=unwrapped)
    return editor.with_(profile=structs.replace(editor.profile, save=changed))


def saved(text: str, editor: Editor, *, visual: bool = False) -> Kept:
    """Paste a text into a pane and save it.

    Args:
        text: What was pasted; of a visual pane, what the browser made of it.
        editor: The editor.
        visual: Whether it comes from a visual pane.
    """
    kept = markup_after(Piece(Source(text)), editor, ("save",) if visual else ("paste", "save"))
    if kept or not text.strip():
        return Kept(kept)
    over = [use for use in journey(text, editor, reopened=0).limits if use.exceeded and use.over == "refuse"]
    why = "; ".join(f"{use.used:,} of at most {use.most:,} {UNIT_NAMES[use.unit]}" for use in over)
    return Kept("", f"It is over the limit: {why}. Nothing was saved." if over else "")


def opened_again(stored: str, editor: Editor) -> str:
    """Open what is stored in the visual pane and save it as it is there."""
    return markup_after(Piece(Source(stored)), editor, ("reopen",)) if "reopen" in editor.lists else stored


def published(stored: str, editor: Editor) -> str:
    """Publish what is stored."""
    return markup_after(Piece(Source(stored)), editor, ("publish",))


def title_of(channel: str, editor: Editor) -> str:
    """Return an editor's name for people."""
    return BY_BROWSER[channel][0] if channel in BY_BROWSER else editor.profile.title
