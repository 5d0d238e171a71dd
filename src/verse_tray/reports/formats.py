"""The forms of a check's report. A form is a file of this package with a function ``report``, and a row here."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from importlib import import_module
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from verse_tray.model.findings import Verdict

if TYPE_CHECKING:
    from verse_tray.reports.results import PieceResult

FORMATS = {
    "text": "check_text",
    "json": "check_json",
    "sarif": "check_sarif",
    "junit": "check_junit",
}
"""The file of each form. ``text`` yields what a terminal shows; every other returns a text."""


class Wanted(Struct, frozen=True):
    """What a report shows."""

    every: bool = False
    """Whether every finding is shown, and not just the worst few."""
    width: int = 80
    """Columns of the terminal."""
    threshold: Verdict | None = Verdict.DAMAGED
    """Verdict from which on a piece has failed; None when none does."""
    in_tray: bool = False
    """Whether the pieces are those of a tray, whose commands need no file."""


def report_in(form: str) -> Callable[[Iterable[PieceResult], Wanted], Any]:
    """Return what makes a report in a form; it is loaded only now."""
    report: Callable[[Iterable[PieceResult], Wanted], Any] = import_module(f"{__package__}.{FORMATS[form]}").report
    return report
