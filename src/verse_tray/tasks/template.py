"""Pieces in templates: read, and written."""

from __future__ import annotations

import os
from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct

from verse_tray.editors.load import load_editor
from verse_tray.fitting.fit import fit
from verse_tray.model.decoding import LARGEST_BYTES, Source, decode
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import read_file
from verse_tray.place.in_templates import InTemplate, in_templates
from verse_tray.place.template import How
from verse_tray.tasks.files import read_piece
from verse_tray.tasks.outputs import keep, may_be_mended, write_whole


class TemplateRequest(Struct, frozen=True):
    """A piece, and where in which templates it goes."""

    file: str
    """The piece."""
    templates: tuple[str, ...]
    """The templates."""
    landmarks: tuple[tuple[How, str], ...]
    """Where it goes; of several templates, each has to have one of them at least."""
    editor: str | None = None
    """Editor of the templates: the piece is fitted to it beforehand."""


def place_in_templates(request: TemplateRequest) -> list[InTemplate]:
    """Put a piece into templates.

    Raises:
        InputError: a landmark is not there once, or a file cannot be read.
    """
    for name in request.templates:
        if request.file != "-" and os.path.realpath(name) == os.path.realpath(request.file):
            raise InputError(f"--in {name}: this is the piece itself. Give the template that it goes into.")
    piece = read_piece(request.file)
    templates = [_read_template(name) for name in request.templates]
    text = piece.source.text
    if request.editor is not None:
        text = "\n".join(fit(piece, load_editor(request.editor)).texts)
    return in_templates(piece.source.edited(text), templates, request.landmarks)


def write_templates(made: Sequence[InTemplate]) -> list[tuple[InTemplate, Path]]:
    """Write templates, and return those that were changed, each with where it stands as it was.

    Raises:
        OutputError: one cannot be written; it stands as it was.
    """
    changed = [each for each in made if each.text != each.source.text]
    for each in changed:
        may_be_mended(Path(each.source.name))
    written = []
    for each in changed:
        path = Path(each.source.name)
        kept = keep(path)
        write_whole(path, each.data, mended=True)
        written.append((each, kept))
    return written


def _read_template(name: str) -> Source:
    try:
        data = read_file(name, LARGEST_BYTES + 1)
    except IsADirectoryError:
        raise InputError(f"{name}: this is a folder. Give a template.") from None
    except FileNotFoundError:
        raise InputError(f"{name}: there is no such file. Give a template.") from None
    except (OSError, ValueError) as error:
        raise InputError(f"{name}: it cannot be read: {getattr(error, 'strerror', None) or error}.") from None
    return decode(data, name)
