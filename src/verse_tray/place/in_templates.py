"""A piece at one or several landmarks of one or several templates."""

from __future__ import annotations

import difflib
import re
from collections.abc import Sequence
from pathlib import PurePath

from msgspec import Struct

from verse_tray.edit.apart import set_apart
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding, Severity
from verse_tray.piece.piece import Piece
from verse_tray.place.landmarks import NoLandmarkError
from verse_tray.place.tags import is_xml_flavoured
from verse_tray.place.template import Change, How, insert, standing
from verse_tray.place.twins import missing_twins
from verse_tray.place.well_formed import not_well_formed

Landmarks = Sequence[tuple[How, str]]
"""Where a piece goes: how, and the landmark."""


class InTemplate(Struct, frozen=True):
    """A template with the piece in it."""

    source: Source
    """As it was."""
    text: str
    """As it is with the piece."""
    changes: tuple[Change, ...]
    """What is different, in order; none where all of it stood there already."""
    notes: tuple[str, ...]
    """What was done, in sentences."""
    findings: tuple[Finding, ...]
    """What the author should know, with places in the template, or in the piece where it is about that."""

    @property
    def data(self) -> bytes:
        """The template with the piece, in its own encoding."""
        return self.source.encode(self.text)


def in_templates(piece: Source, templates: Sequence[Source], landmarks: Landmarks) -> list[InTemplate]:
    """Put a piece into templates.

    Args:
        piece: The piece.
        templates: The templates.
        landmarks: Where it goes; of several templates, each has to have one of them at least.

    Raises:
        InputError: a landmark is not there once.
    """
    found = []
    for template in templates:
        others = [each for each in templates if each is not template]
        found.append(_in(template, piece, landmarks, others))
    for each in landmarks:
        if all(each not in used for _, used in found):
            names = ", ".join(template.name for template in templates)
            raise InputError(f"the landmark {each[1]} is in none of {names}. Name it as it stands in one of them.")
    return [each for each, _ in found]


def _in(
    template: Source, piece: Source, landmarks: Landmarks, others: Sequence[Source]
) -> tuple[InTemplate, list[tuple[How, str]]]:
    """Return a template with the piece at all of the landmarks that it has, and these."""
    stem = _stem(piece.name)
    now, notes, findings = template, list[str](), list[Finding]()
    used: list[tuple[How, str]] = []
    missing: InputError | None = None
    for how, landmark in landmarks:
        name = stem if not used else f"{stem}-{len(used) + 1}"
        text = piece.text
        if used:
            prefix = re.sub(r"[^\w-]+", "-", name if name[0].isalpha() else f"piece-{name}")
            apart, told = set_apart(Piece(piece), prefix)
            if apart != text:
                notes += [f"At {landmark} its names begin with {name}-, as it stands there twice.", *told]
            text = apart
        try:
            made = insert(now, text, name, how, landmark)
        except NoLandmarkError as error:
            if not others:
                raise
            missing = missing or error  # another template may have it
            continue
        used.append((how, landmark))
        notes += made.notes
        now = now.edited(made.text)
    if not used and missing is not None:
        raise missing
    for name in standing(now):
        if re.fullmatch(rf"{re.escape(stem)}-\d+", name) and int(name.rpartition("-")[2]) > len(used):
            notes.append(f"{template.name}: {name} stands there still, from another time: remove it if it is too many.")
    if is_xml_flavoured(template.text) and (fault := not_well_formed(piece)) is not None:
        findings.append(fault)
    findings += missing_twins(template, [each for _, each in landmarks], piece.name, others)
    changes = _changes(template.text, now.text)
    return InTemplate(template, now.text, changes, tuple(notes), tuple(findings)), used


def _changes(before: str, after: str) -> tuple[Change, ...]:
    """Return what is different, as whole lines; ``start`` is the number of a line, from 0 on."""
    old, new = before.splitlines(keepends=True), after.splitlines(keepends=True)
    first = 0
    while first < min(len(old), len(new)) and old[first] == new[first]:
        first += 1
    last = 0
    while last < min(len(old), len(new)) - first and old[-1 - last] == new[-1 - last]:
        last += 1
    old, new = old[first : len(old) - last], new[first : len(new) - last]
    if not old and not new:
        return ()
    if max(len(old), len(new)) > _MOST_COMPARED:
        return (Change(first, "".join(old), "".join(new)),)
    found = difflib.SequenceMatcher(None, old, new, autojunk=False).get_opcodes()
    return tuple(
        Change(first + one, "".join(old[one:two]), "".join(new[three:four]))
        for kind, one, two, three, four in found
        if kind != "equal"
    )


_MOST_COMPARED = 3_000  # lines between the first and the last that differ; comparing more takes long


def grave(made: Sequence[InTemplate]) -> bool:
    """Tell whether anything should be looked at."""
    return any(each.severity is not Severity.NOTE for one in made for each in one.findings)


def _stem(name: str) -> str:
    return re.sub(r"[^\w.-]+", "-", PurePath(name).stem).strip("-.") or "piece"
