"""The page of an audit: one file, which asks nobody for anything."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from verse_tray.audit.answers import WORST, Fill, Period, Row
from verse_tray.model.phrasing import counted, listed
from verse_tray.preview.templates import render
from verse_tray.reports.archive.figures import MARKS, Grid, distributions, grid_of_periods, grid_of_pieces, heat_map
from verse_tray.reports.audit_text import Answers, trial_told
from verse_tray.reports.signs import visible

_MOST_WORST = 40


def archive_page(
    found: Answers, few: Sequence[Row], periods: Sequence[Period], fills: Sequence[Fill], asked: str, day: str
) -> bytes:
    """Return the page.

    Args:
        found: What was found.
        few: All pieces in editors, where there are few enough for a column each; none at all else.
        periods: The same by month.
        fills: How far pieces use up limits.
        asked: The filter; empty for none.
        day: The day that it is of.
    """
    grid = grid_of_pieces(few) if few else grid_of_periods(periods)
    counts = [verdict for verdict in reversed(WORST) if verdict != "set-aside" or _any(found, verdict)]
    made = render(
        "page.html",
        Path(__file__).parent,
        found=found,
        pieces=_pieces(found),
        told=trial_told,
        shown=counts,
        asked=asked,
        day=day,
        heat=heat_map(grid) if grid.columns else None,
        heat_title=_title(grid),
        heat_words=_words(grid),
        sizes=distributions(fills) if fills else None,
        sizes_words=_sizes_words(fills),
        worst=[row for row in found.worst if row.verdict not in ("intact", "rewritten")][:_MOST_WORST],
    )
    return visible(made).encode("utf-8", "replace")


def _pieces(found: Answers) -> str:
    """Return how many pieces the page is about."""
    shown = max((sum(each.counts.values()) for each in found.verdicts), default=0)
    return counted(shown, "piece") + (f" of {found.pieces:,}" if shown < found.pieces else "")


def _any(found: Answers, verdict: str) -> bool:
    return any(each.counts.get(verdict) for each in found.verdicts)


def _title(grid: Grid) -> str:
    if grid.of == "piece":
        told = ", ".join(f"{sign.strip()} {verdict}" for verdict, sign in MARKS.items() if sign in grid.marks.values())
        return f"How much of each piece looks otherwise, in percent{f' ({told})' if told else ''}"
    return f"Pieces of each {grid.of} that are damaged, broken or set aside, in percent"


def _words(grid: Grid) -> str:
    """Return the numbers of a heat map for those who do not see it."""
    said = []
    for editor, row in zip(grid.editors, grid.shares, strict=True):
        values = [f"{column} {share:.0%}" for column, share in zip(grid.columns, row, strict=True) if share is not None]
        said.append(f"{editor}: {', '.join(values)}")
    return ". ".join(said)


def _sizes_words(fills: Sequence[Fill]) -> str:
    found: dict[str, tuple[int, int]] = {}
    for each in fills:
        over, of = found.get(name := f"{each.editor}, {each.limit}", (0, 0))
        found[name] = over + each.pieces * (each.tenth >= 10), of + each.pieces
    said = [f"{name}: {over:,} of {of:,} over it" for name, (over, of) in found.items()]
    return listed(said, 40)
