"""Figures of an audit, drawn by Matplotlib as SVG (extra ``audit``)."""

from __future__ import annotations

import io
import warnings
from collections.abc import Sequence
from typing import TYPE_CHECKING, NamedTuple

from verse_tray.audit.answers import Fill, Period, Row

if TYPE_CHECKING:
    from matplotlib.figure import Figure

_MOST_COLUMNS = 18
MOST_PIECES = 18
"""Pieces that get a column of their own."""
_INK, _SOFT = "#1b2428", "#5d6b70"
MARKS = {"damaged": " ~", "broken": " !", "set-aside": " ?"}
"""Signs of verdicts."""
_WIDTH = 10.5  # inches
_NO_DATE = "no date"


class Grid(NamedTuple):
    """Numbers by editor and column."""

    editors: list[str]
    columns: list[str]
    shares: list[list[float | None]]
    """Share of the pieces that are damaged, broken or set aside, 0 to 1, row by row; None where there are no pieces."""
    of: str
    """What a column is."""
    marks: dict[tuple[int, int], str]
    """Signs behind the numbers, by row and column."""


def grid_of_periods(periods: Sequence[Period]) -> Grid:
    """Return the share of bad pieces by month, by quarter or by year: the finest that leaves numbers readable."""
    found: dict[tuple[str, str], tuple[int, int]] = {}
    columns: list[str] = []
    of = ""
    for length, of in ((7, "month"), (6, "quarter"), (4, "year"), (3, "decade")):  # noqa: B007 (the last one counts)
        found = {}
        for each in periods:
            column = _column(each.month, length)
            pieces, bad = found.get((each.editor, column), (0, 0))
            found[each.editor, column] = pieces + each.pieces, bad + each.bad
        columns = sorted({column for _, column in found}, key=lambda column: (column == _NO_DATE, column))
        if len(columns) <= _MOST_COLUMNS:
            break
    editors = sorted({editor for editor, _ in found})
    shares: list[list[float | None]] = []
    for editor in editors:
        pairs = [found.get((editor, column)) for column in columns]
        shares.append([None if pair is None else pair[1] / pair[0] for pair in pairs])
    return Grid(editors, columns, shares, of, {})


def _column(month: str, length: int) -> str:
    if not month:
        return _NO_DATE
    if length == 6:
        return f"{month[:4]} Q{(int(month[5:7]) + 2) // 3}"
    return month[:length] + ("0s" if length == 3 else "")


def grid_of_pieces(rows: Sequence[Row]) -> Grid:
    """Return how much of each piece is not alike any more."""
    names = list(dict.fromkeys((each.source, each.name) for each in sorted(rows, key=lambda row: (row.date, row.name))))
    editors = sorted({each.editor for each in rows})
    found = {(each.editor, each.source, each.name): each for each in rows}
    each_row = [[found.get((editor, *name)) for name in names] for editor in editors]
    shares = [[None if each is None else 1 - each.alike / 100 for each in row] for row in each_row]
    marks = {
        (down, across): MARKS[each.verdict]
        for down, row in enumerate(each_row)
        for across, each in enumerate(row)
        if each is not None and each.verdict in MARKS
    }
    return Grid(editors, [_short(name) for _, name in names], shares, "piece", marks)


def _short(name: str, most: int = 16) -> str:
    tail = name.rstrip("/").rpartition("/")[2] or name
    return tail if len(tail) <= most else f"{tail[: most - 1]}…"


def heat_map(grid: Grid) -> bytes:
    """Draw a heat map with the percentage in each cell; the scale is one that colour-blind readers can tell apart."""
    left = 0.2 + 0.085 * max(map(len, grid.editors), default=0)
    turned = 0.1 * max(map(len, grid.columns), default=0) > (_WIDTH - left - 0.9) / max(1, len(grid.columns))
    below = 0.2 + 0.06 * max(map(len, grid.columns), default=0) if turned else 0.3
    high = 0.42 * max(2, len(grid.editors))
    across, down = _WIDTH, 0.1 + high + below
    figure = _figure(across, down)
    import numpy as np
    from matplotlib import colormaps

    axes = figure.add_axes((left / across, below / down, (across - left - 0.9) / across, high / down))
    shares = np.array([[np.nan if each is None else each * 100 for each in row] for row in grid.shares])
    scale = colormaps["cividis_r"].with_extremes(bad="#ffffff")
    image = axes.imshow(shares, cmap=scale, vmin=0, vmax=100, aspect="auto")
    for row, column in np.ndindex(shares.shape):
        value = shares[row, column]
        red, green, blue, _ = scale(value / 100)
        ink = "#ffffff" if 0.3 * red + 0.6 * green + 0.1 * blue < 0.5 else _INK
        text = "·" if np.isnan(value) else f"{value:.0f}{grid.marks.get((row, column), '')}"
        axes.text(column, row, text, ha="center", va="center", color=_SOFT if np.isnan(value) else ink, fontsize=9.5)
    axes.set_xticks(
        range(len(grid.columns)), grid.columns, rotation=40 if turned else 0, ha="right" if turned else "center"
    )
    axes.set_yticks(range(len(grid.editors)), grid.editors)
    axes.tick_params(length=0)
    axes.set_xticks(np.arange(-0.5, len(grid.columns)), minor=True)
    axes.set_yticks(np.arange(-0.5, len(grid.editors)), minor=True)
    axes.grid(which="minor", color="#fbfbf8", linewidth=2)
    axes.tick_params(which="minor", length=0)
    axes.spines[:].set_visible(False)
    beside = figure.add_axes(((across - 0.75) / across, below / down, 0.12 / across, high / down))
    bar = figure.colorbar(image, cax=beside, ticks=[0, 50, 100])
    bar.ax.set_yticklabels(["0 %", "50 %", "100 %"])
    bar.outline.set_visible(False)
    return _svg(figure)


def distributions(fills: Sequence[Fill]) -> bytes:
    """Draw how many pieces use up how much of each limit; what is over it is hatched."""
    found: dict[tuple[str, str], list[int]] = {}
    for each in fills:
        found.setdefault((each.editor, each.limit), [0] * 16)[each.tenth] += each.pieces
    across = 3
    down = -(-len(found) // across)
    figure = _figure(_WIDTH, 1.9 * down)
    figure.subplots_adjust(
        left=0.05, right=0.99, wspace=0.16, hspace=0.75, bottom=0.45 / (1.9 * down), top=1 - 0.25 / (1.9 * down)
    )
    from matplotlib.ticker import MaxNLocator

    for number, ((editor, limit), counts) in enumerate(sorted(found.items()), 1):
        axes = figure.add_subplot(down, across, number)
        lefts = range(0, 160, 10)
        bars = axes.bar(lefts, counts, width=9, align="edge", color="#2a5f86")
        for left, bar in zip(lefts, bars, strict=True):
            if left >= 100:
                bar.set(facecolor="#f3e3d0", edgecolor="#8f5200", hatch="////", linewidth=0.8)
        axes.axvline(100, color=_INK, linewidth=1.2)
        axes.set_title(f"{editor}: {sum(counts[10:]):,} of {sum(counts):,} over it", loc="left", fontsize=10)
        axes.set_xlabel(f"% of {limit}", fontsize=8.5)
        axes.set_xticks([0, 50, 100, 150], ["0", "50", "100", "150+"])
        axes.set_xlim(-2, 162)
        axes.yaxis.set_major_locator(MaxNLocator(4, integer=True))
        axes.spines[["top", "right"]].set_visible(False)
    return _svg(figure)


def _figure(width: float, height: float) -> Figure:
    import matplotlib
    from matplotlib.figure import Figure

    matplotlib.rcParams.update(
        {
            "svg.fonttype": "none", "svg.hashsalt": "verse-tray", "text.parse_math": False,
            "font.family": "DejaVu Sans", "font.size": 9.5,
            "text.color": _INK, "axes.labelcolor": _SOFT, "xtick.color": _SOFT, "ytick.color": _INK,
            "axes.edgecolor": _SOFT,
        }
    )  # fmt: skip
    return Figure(figsize=(width, height))


def _svg(figure: Figure) -> bytes:
    made = io.BytesIO()
    with warnings.catch_warnings():  # letters that the font has not are drawn by whoever shows the figure
        warnings.filterwarnings("ignore", "Glyph .* missing from font", UserWarning)
        figure.savefig(made, format="svg", metadata={"Date": None}, transparent=True)
    return made.getvalue()
