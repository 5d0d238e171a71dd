"""Several pieces on one page, or one piece several times: each is set apart where names of theirs would clash."""

from __future__ import annotations

import re
from typing import NamedTuple

from verse_tray.edit.apart.own import own_names
from verse_tray.markup.parse import parse_document
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.script.reading import read_script


class _Own(NamedTuple):
    """The names of a piece."""

    ids: frozenset[str]
    looks: frozenset[str]
    """Classes and animations that its own styles define."""
    code: frozenset[str]
    """What its scripts declare for the whole page."""
    sheet: str
    """Its styles."""
    scripted: bool
    """Whether it has scripts."""


class Names:
    """The names on a page."""

    def __init__(self, page: str) -> None:
        """Take the page with what stands there."""
        elements = parse_document(page).tree.elements()
        self._ids = {each.attributes["id"] for each in elements if each.attributes.get("id")}
        self._pieces: list[_Own] = []
        self._used: set[str] = set()

    def apart(self, piece: Piece, name: str, *, as_given: bool = False) -> tuple[Piece, str, list[str]]:
        """Return a piece that clashes with nothing on the page so far, and remember it.

        Args:
            piece: The piece.
            name: What is put before its names where they would clash.
            as_given: Whether it has to stay as it is.

        Returns:
            The piece, what was put before its names, empty for nothing, and notes for the author.
        """
        own = _own(piece)
        clash = self._clash(own)
        prefix = ""
        notes: list[str] = []
        if clash and as_given:
            notes.append(
                f"{piece.source.name}: {clash} stands on the page more than once, and it is left as it was given; see "
                "that its code can live with that."
            )
        elif clash:
            from verse_tray.edit.apart import set_apart  # few pieces clash

            prefix = self._prefix(name)
            shared = not own.scripted and any(own.sheet == each.sheet for each in self._pieces)
            text, told = set_apart(piece, prefix, looks=not shared)
            piece = Piece(piece.source.edited(text))
            own = _own(piece)
            notes += [
                f"{piece.source.name}: {clash} was on the page already: its names begin with {prefix}- now.",
                *told,
            ]
        self._pieces.append(own)
        self._ids |= own.ids
        return piece, prefix, notes

    def _prefix(self, name: str) -> str:
        base = re.sub(r"[^A-Za-z0-9_-]+", "-", name).strip("-") or "piece"
        base = base if base[0].isalpha() else f"piece-{base}"
        number = 2
        while f"{base}-{number}" in self._used:
            number += 1
        self._used.add(f"{base}-{number}")
        return f"{base}-{number}"

    def _clash(self, own: _Own) -> str:
        """Return a name that is there already and means something else, in words; empty for none."""
        if both := sorted(own.ids & self._ids):
            return f"the identifier {both[0]}"
        for other in self._pieces:
            if both := sorted(own.code & other.code):
                return f"{both[0]}, which its script declares,"
            if own.sheet != other.sheet and (both := sorted(own.looks & other.looks)):
                return f"the class or animation {both[0]}"
            if own.scripted and other.scripted and (both := sorted(own.looks & other.looks)):
                return f"the class or animation {both[0]}"  # both scripts would find the elements of both
        return ""


def _own(piece: Piece) -> _Own:
    subject = Subject(piece)
    names = own_names(subject, "")
    code: set[str] = set()
    for each in subject.scripts:
        reading = read_script(each.text)
        code |= set(reading.declared) | reading.made
    return _Own(
        names.ids | names.groups | names.maps | names.windows,
        names.classes | names.frames,
        frozenset(code),
        "\n".join(sheet.text for sheet, _ in subject.sheets),
        bool(subject.scripts),
    )
