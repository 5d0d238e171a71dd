"""Making a piece: as it was asked for, or in the form that survives an editor."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from verse_tray.editors.load import load_editor
from verse_tray.make.builder import Made
from verse_tray.make.fitting import better_fitted
from verse_tray.make.survive import Form, made_for
from verse_tray.make.terms import Styles, Terms
from verse_tray.media.picture_size import Measured, measure_file
from verse_tray.model.errors import InputError

Build = Callable[[str, Terms], Made]
"""Makes a piece in a form, under terms."""
_PLACES = (Styles.ELEMENT, Styles.INLINE, Styles.NONE)


def make_piece(
    forms: Sequence[Form], build: Build, *, styles: Styles | None, editor: str | None, form: str | None = None
) -> Made:
    """Return a piece.

    Args:
        forms: The forms that it can have, the best first.
        build: Makes it.
        styles: Where its look goes; None for into it, or where the editor keeps it.
        editor: The editor that it is for; None for any.
        form: The form that was asked for; None for the first, or the one that survives the editor.

    Raises:
        InputError: a value cannot be used.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    if editor is None:
        return build(form or forms[0].name, Terms(styles or Styles.INLINE))
    chosen = [each for each in forms if form in (None, each.name)]
    site = load_editor(editor)
    made = made_for(site, chosen, build, _PLACES if styles is None else (styles,))
    if styles is None and form is None and made.notes:
        return better_fitted(made, site, lambda terms: build(forms[0].name, terms))
    return made


def size_of_picture(address: str, width: int) -> tuple[int, int]:
    """Return the width and the height of a picture of so many CSS pixels' width, from its file where it is at hand.

    Raises:
        InputError: there is such a file, and it is no picture.
    """
    try:
        path = Path(address)
        there = path.is_file()
    except (OSError, ValueError):
        there = False
    if not there:
        return width, width
    found = measure_file(path)
    if not isinstance(found, Measured):
        raise InputError(f"{address}: {found.reason}. Give a PNG, JPEG, GIF, WebP, AVIF or SVG file, or an address.")
    return width, max(1, round(width * found.height / max(found.width, 1)))
