"""Filling a piece with the values of a record."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.fields.marks import Mark, find_marks
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import spelling
from verse_tray.piece.contexts import Context, Refused

_FOLD = lazy(r"[\s_-]+")


class Filled(Struct, frozen=True):
    """A piece, filled."""

    text: str
    """The text afterwards; marks that no field or value stands for are left in it."""
    findings: tuple[Finding, ...]
    """What was missing or could not be filled in, by place in the text before."""
    count: int
    """How many marks were filled in."""


class Template:
    """A piece with marks; read once, filled many times."""

    def __init__(self, source: Source, form: re.Pattern[str]) -> None:
        self.source = source
        self.marks: list[Mark] = find_marks(source.text, form)
        """Its marks, in the order in which they stand."""

    @property
    def names(self) -> tuple[str, ...]:
        """The fields that it names, each once."""
        return tuple(dict.fromkeys(mark.name for mark in self.marks))

    def fill(self, values: dict[str, str], *, blank: bool = False) -> Filled:
        """Fill in values; a field is found whatever the capitals, spaces, hyphens and underscores in its name.

        Args:
            values: The record.
            blank: Whether a missing or empty value leaves nothing in place of its mark, and not the mark itself.
        """
        folded = {_folded(name): value for name, value in values.items()}
        splices, findings = [], []
        for mark in self.marks:
            value = folded.get(_folded(mark.name))
            if value is None or not value:
                findings.append(self._missing(mark, values, known=value is not None, blank=blank))
                if blank:
                    splices.append(Splice(mark.span, ""))
                continue
            try:
                splices.append(Splice(mark.span, self._behind(mark, mark.place.written(value))))
            except Refused as refused:
                shown = value if len(value) <= 40 else value[:39] + "…"
                message = (
                    f"“{shown}” cannot be filled in for {mark.name} here ({mark.context}): {refused}. The mark is left "
                    "in."
                )
                findings.append(self._finding("fill/refused", mark, message, Severity.ERROR))
            else:
                if mark.context is Context.SCRIPT:
                    message = f"{mark.name} stands in a script: it was written for the inside of a string."
                    findings.append(self._finding("fill/script", mark, message, Severity.NOTE))
        return Filled(Spliced(self.source.text, splices).text, tuple(findings), len(splices))

    def _behind(self, mark: Mark, typed: str) -> str:
        """Keep a value from becoming a tag or a reference together with the sign in front of it."""
        if mark.context not in (Context.TEXT, Context.ATTRIBUTE):
            return typed
        front = self.source.text[max(0, mark.span.start - 2) : mark.span.start]
        return (
            f"&#{ord(typed[0])};{typed[1:]}"
            if front.endswith(("<", "</", "<!", "<?", "&", "&#")) and typed[0] != "&"
            else typed
        )

    def _missing(self, mark: Mark, values: dict[str, str], *, known: bool, blank: bool) -> Finding:
        effect = "nothing stands in its place" if blank else "the mark is left in, and readers see it"
        if known:
            return self._finding(
                "fill/empty", mark, f"The record has no value for {mark.name}: {effect}.", Severity.WARNING
            )
        near = spelling(mark.name, list(values), 0.6)
        message = f"No field is named {mark.name}: {effect}{near}"
        return self._finding("fill/unknown", mark, message, Severity.ERROR)

    def _finding(self, rule: str, mark: Mark, message: str, severity: Severity) -> Finding:
        return Finding(rule, "written", message, *self.source.place(mark.span.start), severity)


def _folded(name: str) -> str:
    return _FOLD.sub("", name).lower()


def extremes(template: Template, rows: tuple[dict[str, str], ...]) -> list[tuple[str, int]]:
    """Return what to look at among many records: why, and the number of the record (0-based); each record once.

    They are the shortest and the longest (by what fills the marks), one with a value missing, and one with signs that
    markup gives a meaning to.
    """
    names = [_folded(name) for name in template.names]
    folded = [{_folded(name): value for name, value in row.items()} for row in rows]
    lengths = [sum(len(row.get(name, "")) for name in names) for row in folded]
    whole = [n for n, row in enumerate(folded) if all(row.get(name) for name in names)]
    candidates = whole or list(range(len(rows)))
    chosen: dict[int, list[str]] = {}
    if candidates:
        chosen.setdefault(min(candidates, key=lengths.__getitem__), []).append("the shortest")
        chosen.setdefault(max(candidates, key=lengths.__getitem__), []).append("the longest")
    missing = next((n for n, row in enumerate(folded) if not all(row.get(name) for name in names)), None)
    if missing is not None:
        chosen.setdefault(missing, []).append("a value missing")
    special = max(range(len(rows)), key=lambda n: _special(folded[n], names), default=None)
    if special is not None and _special(folded[special], names):
        chosen.setdefault(special, []).append("special characters")
    return [(" and ".join(why), number) for number, why in chosen.items()]


def _special(row: dict[str, str], names: list[str]) -> int:
    values = "".join(row.get(name, "") for name in names)
    return len(set(re.findall(r"[<>&\"']|[^\x00-\x7f]", values)))
