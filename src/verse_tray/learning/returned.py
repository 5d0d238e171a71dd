"""What came back of a probe: whether it is that at all, and where it begins in a whole page."""

from __future__ import annotations

import re

from verse_tray.learning.probe.probe import ANCHOR, END, VERSION, Probe, cut, token_in
from verse_tray.markup.tree import Element
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece

_PAGE = re.compile(r"<!doctype\b|<html\b|<body\b", re.IGNORECASE)
_TAG = re.compile(r"<(?!w\d)[a-z]", re.IGNORECASE)
"""A tag; what a browser shows of a probe holds a bracket before a word."""
_ESCAPED = re.compile(r"&lt;[a-z]", re.IGNORECASE)
_TWICE = re.compile(r"&amp;lt;[a-z]", re.IGNORECASE)


def recognise(probe: Probe, text: str, name: str, *, visual: bool = False) -> str:
    """Return what came back of a probe.

    Args:
        probe: What was sent.
        text: What stands in the file.
        name: The file's name, for messages.
        visual: Whether it was pasted into a visual pane.

    Raises:
        InputError: it is empty, another text, of another probe or version, or not the source; it says what to do.
    """
    text = text.removesuffix("\n") if text.endswith("\n") and not probe.text.endswith("\n") else text
    if not text.strip():
        raise InputError(f"{name}: it is empty. Copy what the editor made of probe-{probe.number}.html into it.")
    found = token_in(text)
    if found is None and not ANCHOR.search(text):
        raise InputError(
            f"{name}: this is another text: no mark of the probe stands in it. Paste probe-{probe.number}.html into "
            "the editor, save, and copy the whole source back."
        )
    if found is not None and found != probe.token:
        _refuse_other(probe, found, name)
    if _PAGE.search(text):
        text = _inside(text, name)
    _refuse_seen(probe, text, name, visual=visual)
    if len(cut(text)) < 4:
        raise InputError(
            f"{name}: only {len(cut(text)) - 1} of {len(probe.questions)} cells came back. If the editor cuts texts, "
            "begin with less: verse-tray learn begin --most 2000; else copy all of it."
        )
    return text


def _refuse_other(probe: Probe, found: str, name: str) -> None:
    version, number, _ = found.split("-")
    if version != VERSION:
        raise InputError(
            f"{name}: it came of a probe of another version ({version}, this is {VERSION}). Begin anew: "
            "verse-tray learn begin"
        )
    whose = f"probe {number}" if int(number) != probe.number else "a probe of another folder"
    raise InputError(f"{name}: it came of {whose}, not of probe-{probe.number}.html. Copy what belongs here.")


def _inside(text: str, name: str) -> str:
    """Return what stands in the innermost element of a page that holds the whole probe."""
    begins, ends = re.search(r"Test\s+text\s+vt", text), text.rfind(END)
    if begins is None:
        raise InputError(f"{name}: the first line of the probe is missing in this page. Copy all of it.")
    last = (
        ends if ends > begins.start() else max((each.start() for each in ANCHOR.finditer(text)), default=begins.start())
    )
    piece = Piece(Source(text))
    best: tuple[int, int] | None = None
    for element in piece.parsed.tree.elements():
        bounds = _bounds(piece, element)
        if bounds is not None and bounds[0] <= begins.start() and last < bounds[1]:
            if best is None or bounds[1] - bounds[0] <= best[1] - best[0]:
                best = bounds
    if best is None:
        return text
    return text[best[0] : best[1]].strip()


def _bounds(piece: Piece, element: Element) -> tuple[int, int] | None:
    """Return where an element's contents begin and end in the text."""
    tag, end = piece.source_map.span(element), piece.source_map.end_span(element)
    return None if tag is None or end is None else (tag.end, end.start)


def _refuse_seen(probe: Probe, text: str, name: str, *, visual: bool) -> None:
    """Refuse what shows that tags were seen as text, or that only what is shown was copied."""
    cells, sent = cut(text), cut(probe.text)
    tagged = [number for number in sent if number >= 0 and _TAG.search(sent[number]) and number in cells]
    if not tagged:
        return
    twice = sum(bool(_TWICE.search(cells[number])) for number in tagged)
    escaped = sum(bool(_ESCAPED.search(cells[number])) for number in tagged)
    bare = not _TAG.search(text) and any("<w" in cells[number] for number in cells)
    if twice > 0.9 * len(tagged):
        raise InputError(
            f"{name}: it is escaped twice (&amp;lt; for a bracket). Something between the editor and this file escaped "
            "it; copy it from the source pane itself."
        )
    if escaped > 0.9 * len(tagged) and not visual:
        raise InputError(
            f"{name}: the tags came back as visible text: the probe went into the visual pane. Paste it into the "
            "source pane. If there is none, read it with --visual."
        )
    if bare:
        raise InputError(
            f"{name}: no tag came back: this was copied from what the page shows. Copy the source of it instead."
        )
