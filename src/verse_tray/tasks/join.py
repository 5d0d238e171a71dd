"""Joining parts into one paste."""

from __future__ import annotations

import re
from pathlib import PurePath

from msgspec import Struct

from verse_tray.edit.apart import copies, set_apart
from verse_tray.editors.load import load_editor
from verse_tray.join.paste import Body, Joined, hold_ended, join, left_open
from verse_tray.markup.tree import own_text
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import hold_text
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.tasks.files import read_source


class JoinRequest(Struct, frozen=True):
    """Which parts become what."""

    parts: tuple[str, ...]
    """Files of HTML, CSS and JavaScript."""
    libraries: tuple[str, ...] = ()
    """Addresses of libraries, in order."""
    into: str | None = None
    """What they become: ``fragment``, ``document`` or ``slots``; None for a fragment, or for what the editor takes."""
    editor: str | None = None
    """Editor that the paste goes into."""
    apart: str | None = None
    """What is put before its own names, with a hyphen."""
    copies: int = 1
    """How many copies of it there are, each set apart."""
    title: str | None = None
    """Title of the document; None for that of a part, or its first heading."""
    language: str | None = None
    """Language of the document; None for that of a part."""


class JoinedParts(Struct, frozen=True):
    """The parts, joined."""

    text: str
    """The paste; empty for slots."""
    slots: dict[str, str]
    """Texts by the names of their files, in the order in which they are pasted; empty for one paste."""
    notes: tuple[str, ...]
    """What the author should know."""


def join_parts(request: JoinRequest) -> JoinedParts:
    """Join parts.

    Raises:
        InputError: a part cannot be read or is in no language that browsers read.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    notes: list[str] = []
    hold_text(request.title or "", "--title")
    if request.language is not None and not re.fullmatch(r"[A-Za-z]{2,8}(?:-[A-Za-z0-9]{1,8})*", request.language):
        raise InputError(f"--language {request.language}: expected a code such as en, de or pt-BR.")
    into = request.into
    if into is None and request.editor is not None and load_editor(request.editor).profile.box is not None:
        into = "document"
        notes.append(f"{request.editor} shows the piece in a frame of its own, so it becomes a whole document.")
    if into == "slots" and (request.apart is not None or request.copies > 1):
        raise InputError("--into slots writes several files: leave --apart and --copies out.")
    joined = join([read_source(name) for name in request.parts], list(request.libraries))
    notes += joined.notes
    if into == "slots":
        if any(module for _, module in joined.scripts):
            notes.append("One of the scripts is a module: where it is pasted, it has to be loaded as one.")
        return JoinedParts("", joined.slots(), tuple(notes))
    if into == "document":
        notes += _name(joined, request)
    elif joined.title:
        notes.append(f"Left out the title “{joined.title}”: a fragment has none.")
    if request.copies > 1:
        one = Piece(Source(joined.fragment(), request.parts[0]))
        hold_ended(one.source)
        notes += left_open(one.source) if len(request.parts) == 1 else []
        several, told = copies(one, request.copies, request.apart or "copy")
        joined = Joined(markup=[Body(several.strip())], title=joined.title, language=joined.language)
        notes += told
    text = joined.document() if into == "document" else joined.fragment()
    if request.apart is not None and request.copies == 1:
        text, told = set_apart(Piece(Source(text, request.parts[0])), request.apart)
        notes += told
    if into != "document" and (rule := _for_the_page(Piece(Source(text)))):
        notes.append(
            f"Its styles for {rule} are for the whole page of the site that it is pasted into. Write a class of the "
            "piece's own in its place."
        )
    return JoinedParts(text, {}, tuple(notes))


def _for_the_page(piece: Piece) -> str:
    """Return what of the page around it the styles of a piece are for; empty for nothing."""
    for _, sheet in Subject(piece).sheets:
        for rule in sheet.rules:
            for selector in rule.selectors.split(","):
                if selector.strip().lower() in ("body", "html", "*"):
                    return selector.strip()
    return ""


def _name(joined: Joined, request: JoinRequest) -> list[str]:
    """Give a document a title and a language, and say where they come from."""
    notes = []
    joined.title = request.title or joined.title
    if not joined.title:
        piece = Piece(Source("\n".join(body.text for body in joined.markup)))
        headings = [" ".join(own_text(each).split()) for each in Subject(piece).each("h1", "h2", "h3")]
        joined.title = next((each for each in headings if each), PurePath(request.parts[0]).stem.strip("-") or "Piece")
        notes.append(f"Its title is “{joined.title}”; --title gives another.")
    joined.language = request.language or joined.language
    if not joined.language:
        joined.language = "en"
        notes.append("Its language is written as English, en; --language says otherwise.")
    return notes
