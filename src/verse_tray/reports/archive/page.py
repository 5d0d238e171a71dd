"""The page of an audit: one file, which asks nobody for anything."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from verse_tray.audit.answers import WORST, Fill, Period
from verse_tray.model.phrasing import listed
from verse_tray.preview.templates import render
from verse_tray.reports.archive.figures import Grid, distributions, grid_of_periods, grid_of_pieces, heat_map
from verse_tray.reports.audit_text import Answers

_MOST_WORST = 40


def archive_page(found: Answers, periods: Sequence[Period], fills: Sequence[Fill], asked: str, day: str) -> bytes:
    """Return the page.

    Args:
        found: What was found.
        periods: The same by month.
        fills: How far pieces use up limits.
        asked: The filter; empty for none.
        day: The day that it is of.

    Raises:
        InputError: Matplotlib is missing.
    """
    grid = (grid_of_pieces(found.worst) if found.worst else None) or grid_of_periods(periods)
    counts = [verdict for verdict in reversed(WORST) if verdict != "set-aside" or _any(found, verdict)]
    made = render(
        "page.html",
        Path(__file__).parent,
        found=found,
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
    return made.encode("utf-8", "replace")


def _any(found: Answers, verdict: str) -> bool:
    return any(each.counts.get(verdict) for each in found.verdicts)


def _title(grid: Grid) -> str:
    if grid.of == "piece":
        return "How much of each piece is not as it was, in percent"
    return f"Pieces of each {grid.of} that are damaged, broken or set aside, in percent"


def _words(grid: Grid) -> str:
    """Return the numbers of a heat map for those who do not see it."""
    said = []
    for editor, row in zip(grid.editors, grid.shares, strict=True):
        values = [f"{column} {share:.0%}" for column, share in zip(grid.columns, row, strict=True) if share is not None]
        said.append(f"{editor}: {', '.join(values)}")
    return ". ".join(said)


def _sizes_words(fills: Sequence[Fill]) -> str:
    found: dict[str, list[float]] = {}
    for each in fills:
        found.setdefault(f"{each.editor}, {each.limit}", []).append(each.full)
    said = [f"{name}: {sum(full > 1 for full in used):,} of {len(used):,} over it" for name, used in found.items()]
    return listed(said, 40)
