"""Code that browsers find in what an editor has written, though nobody wrote it as code, or the editor forbids it.

What a stage writes is text, and browsers may read another tree in it than the one that was cleaned: a comment that
ends sooner, an element that changes its kind with what is around it.
"""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from verse_tray.editors.lists import Lists, is_event_handler
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES, scheme_of
from verse_tray.markup.tree import Element, Tree, own_text
from verse_tray.model.findings import Change, Location, Severity
from verse_tray.model.spans import Span
from verse_tray.piece.locations import KnownLocation, NodeLocation
from verse_tray.piece.piece import Piece
from verse_tray.script.kinds import script_kind

CODE_ALIVE = "writing/code-alive"
"""Rule of what tells of it."""


class Code(Struct, frozen=True):
    """Something that browsers run."""

    element: Element
    """The element that holds it."""
    name: str
    """The attribute that it stands in; ``script`` for the text of a script."""
    text: str
    """The code, or the address of a script."""


def code_in(tree: Tree) -> Iterator[Code]:
    """Yield what browsers run in a tree: scripts, event handlers, addresses that are scripts."""
    for element in tree.elements():
        attributes = element.attributes
        if element.name == "script" and script_kind(attributes):
            text = attributes.get("src") or own_text(element)
            if text.strip():
                yield Code(element, "script", text)
        for name, value in attributes.items():
            if is_event_handler(name) or (name in ADDRESS_ATTRIBUTES and scheme_of(value) == "javascript"):
                yield Code(element, name, value)


def is_forbidden(code: Code, lists: Lists) -> bool:
    """Tell whether a stage takes such code away."""
    element, record = code.element, lists.record
    if element.name == "script" and record.scripts is not None:
        if record.scripts != "keep":
            return True
    elif lists.element(element.namespace, element.name) not in ("keep", "empty"):
        return True
    if code.name == "script":
        return False
    if lists.attribute_cause(element.namespace, element.name, code.name) is not None:
        return True
    if is_event_handler(code.name):
        return not record.event_handlers
    listed = record.addresses.attributes.get(code.name, record.addresses.schemes)
    return listed is not None and "javascript" not in listed


def holds_forbidden(tree: Tree, lists: Lists) -> bool:
    """Tell whether there is code in a tree that a stage takes away."""
    return any(is_forbidden(code, lists) for code in code_in(tree))


def come_alive(piece: Piece, before: Tree, after: Tree, lists: Lists, stage: str) -> list[Change]:
    """Return an error for each piece of code that browsers run after a stage and did not run before it.

    Args:
        piece: The piece.
        before: What browsers read in the text before the stage.
        after: What they read in it afterwards.
        lists: The lists of the stage.
        stage: Its name.
    """
    known = {(code.name, code.text) for code in code_in(before)}
    owned = {(code.element.key, code.name) for code in code_in(before) if code.element.key}
    told = []
    for code in code_in(after):
        if (code.name, code.text) in known or (code.element.key, code.name) in owned:
            continue
        shown = " ".join(code.text.split())[:40]
        what = f"A script (“{shown}”)" if code.name == "script" else f"{code.name}=“{shown}”"
        forbids = "although this editor forbids such code" if is_forbidden(code, lists) else "and did not before"
        message = (
            f"{what} comes alive: browsers read another tree in what this editor writes, and run this, {forbids}. Take "
            "it out of the piece."
        )
        told.append(Change(CODE_ALIVE, stage, message, Severity.ERROR, _place(piece, code)))
    return told


def _place(piece: Piece, code: Code) -> Location | None:
    """Return where the code stands in the author's file: at its element, or where its text does."""
    if code.element.key:
        return NodeLocation(piece, code.element.key)
    at = piece.source.text.find(code.text) if code.text else -1
    return None if at < 0 else KnownLocation(Span(at, at + len(code.text)))
