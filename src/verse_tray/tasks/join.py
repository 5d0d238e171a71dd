"""Joining parts into one paste."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.editors.load import load_editor
from verse_tray.join.apart import set_apart
from verse_tray.join.paste import join
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece
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
    """What is put before identifiers, classes and animations, with a hyphen."""


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
    into = request.into
    if into is None and request.editor is not None and load_editor(request.editor).profile.box is not None:
        into = "document"
        notes.append(f"{request.editor} shows the piece in a frame of its own, so it becomes a whole document.")
    if into == "slots" and request.apart is not None:
        raise InputError("--into slots writes several files: name a folder with -o, and leave --apart out.")
    joined = join([read_source(name) for name in request.parts], list(request.libraries))
    notes += joined.notes
    if into == "slots":
        if any(module for _, module in joined.scripts):
            notes.append("One of the scripts is a module: where it is pasted, it has to be loaded as one.")
        return JoinedParts("", joined.slots(), tuple(notes))
    text = joined.document() if into == "document" else joined.fragment()
    if request.apart is not None:
        text, told = set_apart(Piece(Source(text)), request.apart)
        notes += told
    return JoinedParts(text, {}, tuple(notes))
