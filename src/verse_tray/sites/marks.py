"""Marks in a site's pages: where regions, slots and the theme have their places."""

from __future__ import annotations

import re

from verse_tray.editors.page import THEME_MARK
from verse_tray.model.patterns import lazy

_MARK = lazy(r"<!--\s*(region|slot):\s*([\w-]+)\s*-->")
_ANY_MARK = lazy(r"<!--\s*(?:(region|slot):\s*([\w-]+)|theme)\s*-->")
_HEAD_ENDS = lazy(r"</head\s*>|(?=<body\b)", re.IGNORECASE)
_BODY_STARTS = lazy(r"<body\b(?:\"[^\"]*\"|'[^']*'|[^>\"'])*>", re.IGNORECASE)
_BODY_ENDS = lazy(r"</body\s*>", re.IGNORECASE)


def region_mark(name: str) -> str:
    """Return what marks a region's place."""
    return f"<!-- region: {name} -->"


def slot_mark(name: str) -> str:
    """Return what marks a slot's place."""
    return f"<!-- slot: {name} -->"


def marks_in(page: str) -> list[tuple[str, str]]:
    """Return the marks of a page, ``region`` or ``slot`` and a name each, in order."""
    return [(each[1], each[2]) for each in _MARK.finditer(page)]


def with_marks_filled(page: str, held: dict[str, str]) -> str:
    """Return a page with what stands in the places of its marks; what is put in is not searched for marks."""

    def filled(match: re.Match[str]) -> str:
        kind, name = match[1], match[2]
        mark = THEME_MARK if kind is None else region_mark(name) if kind == "region" else slot_mark(name)
        return held.get(mark, match[0])

    return _ANY_MARK.sub(filled, page)


def with_slot_marks(page: str, slots: dict[str, str]) -> str:
    """Return a page in which every slot has its mark.

    Args:
        page: The page.
        slots: Where each slot is, by its name, see :class:`verse_tray.sites.records.Slot`.
    """
    there = {name for kind, name in marks_in(page) if kind == "slot"}
    missing: dict[str, list[str]] = {}
    for name, at in slots.items():
        if name not in there and at != "block":
            missing.setdefault(at, []).append(slot_mark(name))
    for at, marks in missing.items():
        offset = _place(page, at)
        page = page[:offset] + "".join(f"{mark}\n" for mark in marks) + page[offset:]
    return page


def _place(page: str, at: str) -> int:
    """Return the offset of a place of a page."""
    if at == "before-everything":
        return 0
    if at == "head":
        found = _HEAD_ENDS.search(page)
        return found.start() if found else 0
    if at == "body-start":
        found = _BODY_STARTS.search(page)
        return found.end() if found else 0
    ends = list(_BODY_ENDS.finditer(page))
    return ends[-1].start() if ends else len(page)


def plain_page(title: str, regions: dict[str, int]) -> str:
    """Return a page with nothing but its regions, each as wide as it is said to be.

    Args:
        title: Title, as markup.
        regions: Widths in CSS pixels, by name.
    """
    boxes = "\n".join(
        f'<div style="max-width: {width}px">\n{region_mark(name)}\n</div>' for name, width in regions.items()
    )
    return (
        '<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n'
        '<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        f"<title>{title}</title>\n{THEME_MARK}\n</head>\n<body>\n{boxes}\n</body>\n</html>\n"
    )
