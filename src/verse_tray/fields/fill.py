"""Filling a piece with the values of a record."""

from __future__ import annotations

import json
import re

from msgspec import Struct

from verse_tray.fields.marks import Mark, find_marks
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import spelling
from verse_tray.piece.contexts import Context, Refused
from verse_tray.piece.encoding import written

_FOLD = lazy(r"[\s_-]+")
_FRONT = 400  # signs in front of a mark that are looked at


class Filled(Struct, frozen=True):
    """A piece, filled."""

    text: str
    """The text afterwards; marks that no field or value stands for are left in it."""
    findings: tuple[Finding, ...]
    """What was missing or could not be filled in, by place in the text before."""
    count: int
    """How many marks were filled in."""


_TRIMMED = frozenset(
    (
        *(Context.ADDRESS, Context.PICTURE_ADDRESS, Context.HOST, Context.PATH, Context.ADDRESS_PART, Context.MAIL),
        *(Context.SCHEME, Context.SRCSET, Context.STYLE_ADDRESS),
    )
)
"""What takes blanks at the ends of a value off; a telephone number takes them off everywhere."""
_IN_SCRIPTS = (Context.SCRIPT, Context.SCRIPT_VALUE, Context.JSON_VALUE)
_OPENING = lazy(r"(?:<[/!?]?|&#?[A-Za-z0-9]*)\Z")
_NEW_LINE_DROPPED = lazy(r"<(?:pre|listing|textarea)\b[^<>]*>\Z", re.IGNORECASE)


class Template:
    """A piece with marks; read once, filled many times."""

    def __init__(self, source: Source, form: re.Pattern[str]) -> None:
        self.source = source
        self._form = form
        self.marks: list[Mark] = find_marks(source.text, form)
        """Its marks, in the order in which they stand."""

    @property
    def names(self) -> tuple[str, ...]:
        """The fields that it names, each once."""
        return tuple(dict.fromkeys(mark.name for mark in self.marks))

    def names_field(self, field: str) -> bool:
        """Tell whether a mark stands for a field: capitals, blanks, hyphens and underscores do not matter."""
        return folded(field) in {folded(name) for name in self.names}

    def fill(self, values: dict[str, str], *, blank: bool = False) -> Filled:
        """Fill in values; a field is found as :meth:`names_field` says.

        Args:
            values: The record.
            blank: Whether a missing or empty value leaves nothing in place of its mark, and not the mark itself.
        """
        found = {folded(name): value for name, value in values.items()}
        splices: list[Splice] = []
        findings: list[Finding] = []
        count = at = 0
        front = ""  # the end of what stands before the mark once the ones before it are filled
        for mark in self.marks:
            front = (front + self.source.text[max(at, mark.span.start - _FRONT) : mark.span.start])[-_FRONT:]
            at = mark.span.end
            value = found.get(folded(mark.name))
            typed = None
            if not value:
                findings.append(self._missing(mark, values, known=value is not None, blank=blank))
                if blank:
                    typed = '""' if mark.context in (Context.SCRIPT_VALUE, Context.JSON_VALUE) else ""
            else:
                typed = self._typed(mark, re.sub(r"\r\n?", "\n", value), front, findings)
                count += typed is not None
            if typed is not None:
                splices.append(Splice(mark.span, typed))
            front = (front + (self.source.slice(mark.span) if typed is None else typed))[-_FRONT:]
        return Filled(Spliced(self.source.text, splices).text, tuple(findings), count)

    def _typed(self, mark: Mark, value: str, front: str, findings: list[Finding]) -> str | None:
        """Return a value as it is typed in place of a mark, and add what has to be told; None where it cannot stand."""
        shown = value if len(value) <= 40 else value[:39] + "…"
        try:
            typed = self._encodable(mark, written(value, mark.place))
        except Refused as refused:
            where = "" if mark.context is Context.NOWHERE else f" ({mark.context})"
            message = f"“{shown}” cannot be filled in for {mark.name} here{where}: {refused}. The mark is left in."
            findings.append(self._finding("fill/refused", mark, message, Severity.ERROR))
            return None
        if mark.context in _IN_SCRIPTS or "script" in mark.place.around:
            how = f"as {typed[:40]}"
            if mark.context not in (Context.SCRIPT_VALUE, Context.JSON_VALUE):
                how = "for the inside of a string" if mark.context is Context.SCRIPT else "for markup within a string"
            message = f"{mark.name} stands in a script: it was written {how}."
            findings.append(self._finding("fill/script", mark, message, Severity.NOTE))
        if (mark.context in _TRIMMED and value != value.strip()) or (
            mark.context is Context.PHONE and re.search(r"\s", value)
        ):
            where = "in" if mark.context is Context.PHONE else "at the ends of"
            message = f"The blanks {where} “{shown}” were left out: no {mark.context} has any."
            findings.append(self._finding("fill/blanks", mark, message, Severity.NOTE))
        if (held := self._form.search(value)) is not None:
            message = (
                f"The value of {mark.name} holds a mark itself ({held[0]}): it is written as text, and not filled."
            )
            findings.append(self._finding("fill/mark-in-value", mark, message, Severity.WARNING))
        if mark.context is Context.TEXT and value[0] == "\n" and _NEW_LINE_DROPPED.search(front):
            return "\n" + typed  # browsers drop the first one there (HTML standard, 13.2.6.4.7)
        if mark.context in (Context.TEXT, Context.ATTRIBUTE) and typed[0] != "&" and _OPENING.search(front):
            return f"&#{ord(typed[0])};{typed[1:]}"  # else it became a tag or a reference with what stands before it
        return typed

    def _encodable(self, mark: Mark, typed: str) -> str:
        """Return what is typed in signs that the piece's encoding has, where references mean nothing.

        Raises:
            Refused: there is no way of writing it.
        """
        if mark.context in (Context.TEXT, Context.ATTRIBUTE) or self.source.encoding.startswith("utf"):
            return typed
        try:
            typed.encode(self.source.encoding)
        except UnicodeEncodeError as error:
            if mark.context in _IN_SCRIPTS:
                return re.sub(r"[^\x00-\x7f]", lambda sign: json.dumps(sign[0])[1:-1], typed)
            sign = typed[error.start]
            raise Refused(f"the file's encoding, {self.source.encoding}, has no sign {sign}") from None
        return typed

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


def folded(name: str) -> str:
    """Return a field's name as marks are held against it."""
    return _FOLD.sub("", name).lower()


def extremes(template: Template, rows: tuple[dict[str, str], ...]) -> list[tuple[str, int]]:
    """Return what to look at among many records: why, and the number of the record (0-based); each record once.

    They are the shortest and the longest (by what fills the marks), one with a value missing, and one with signs that
    markup gives a meaning to.
    """
    names = [folded(name) for name in template.names]
    records = [{folded(name): value for name, value in row.items()} for row in rows]
    lengths = [sum(len(row.get(name, "")) for name in names) for row in records]
    whole = [n for n, row in enumerate(records) if all(row.get(name) for name in names)]
    candidates = whole or list(range(len(rows)))
    chosen: dict[int, list[str]] = {}
    if candidates:
        chosen.setdefault(min(candidates, key=lengths.__getitem__), []).append("the shortest")
        chosen.setdefault(max(candidates, key=lengths.__getitem__), []).append("the longest")
    missing = next((n for n, row in enumerate(records) if not all(row.get(name) for name in names)), None)
    if missing is not None:
        chosen.setdefault(missing, []).append("a value missing")
    special = max(range(len(rows)), key=lambda n: _special(records[n], names), default=None)
    if special is not None and _special(records[special], names):
        chosen.setdefault(special, []).append("special characters")
    return [(" and ".join(why), number) for number, why in chosen.items()]


def _special(row: dict[str, str], names: list[str]) -> int:
    values = "".join(row.get(name, "") for name in names)
    return len(set(re.findall(r"[<>&\"']|[^\x00-\x7f]", values)))
