"""Markup before and after a stage, or as written and as fitted: unified, or in two columns."""

from __future__ import annotations

import difflib
from collections.abc import Iterator

from rich.console import Group, RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.journeys.journey import Journey
from verse_tray.journeys.stages import STAGES
from verse_tray.markup.lines import block_lines
from verse_tray.reports.mend_text import LINE_STYLES
from verse_tray.reports.trace_text import heading

_CONTEXT = 2


def unified(journey: Journey, stage: str) -> Iterator[RenderableType]:
    """Yield the lines that a stage changed, those before marked with ``-`` and those after with ``+``."""
    yield heading(journey)
    rows = list(_unified(*_both(journey, stage), (f"before {stage}", f"after {stage}")))
    yield from rows or [_same(journey, stage)]


def columns(journey: Journey, stage: str) -> Iterator[RenderableType]:
    """Yield the lines around what a stage changed, before on the left and after on the right."""
    yield heading(journey)
    table = _columns(*_both(journey, stage), (f"before {stage}", f"after {stage}"))
    yield _same(journey, stage) if table is None else Group(table, Text())


def fitted(before: str, after: str, *, in_columns: bool) -> Iterator[RenderableType]:
    """Yield the lines that differ of a piece as written and as fitted, unified or in columns; nothing for the same."""
    texts, names = (block_lines(before), block_lines(after)), ("as written", "fitted")
    if in_columns:
        table = _columns(*texts, names)
        yield from () if table is None else (table,)
    else:
        yield from _unified(*texts, names)


def _unified(before: list[str], after: list[str], names: tuple[str, str]) -> Iterator[RenderableType]:
    for line in difflib.unified_diff(before, after, *names, lineterm="", n=_CONTEXT):
        yield Text(line, LINE_STYLES.get(line[:1], ""))


def _columns(before: list[str], after: list[str], names: tuple[str, str]) -> Table | None:
    """Return the lines around what differs, side by side; None where nothing does."""
    table = Table(box=None, padding=(0, 1, 0, 0), pad_edge=False, expand=True)
    table.add_column("", justify="right", no_wrap=True, style="dim")
    table.add_column(names[0], header_style="bold", ratio=1, overflow="fold")
    table.add_column("", no_wrap=True)
    table.add_column("", justify="right", no_wrap=True, style="dim")
    table.add_column(names[1], header_style="bold", ratio=1, overflow="fold")
    groups = list(difflib.SequenceMatcher(None, before, after).get_grouped_opcodes(_CONTEXT))
    for number, group in enumerate(groups):
        if number:
            table.add_row("", "⋮", "", "", "⋮")
        for kind, first, last, new_first, new_last in group:
            for row in range(max(last - first, new_last - new_first)):
                old = first + row if first + row < last else None
                new = new_first + row if new_first + row < new_last else None
                mark, style = (
                    (" ", "dim") if kind == "equal" else ("|" if None not in (old, new) else "<>"[old is None], "")
                )
                table.add_row(
                    *_cell(before, old, style or "red"), mark, *_cell(after, new, style or "green")
                )  # fmt: skip
    return table if groups else None


def _same(journey: Journey, stage: str) -> Text:
    changed = journey.stage(stage).markup != journey.stages[max(0, STAGES.index(stage) - 1)].markup
    white = "Only white space between elements differs" if changed else "The markup is the same"
    return Text(f"{white} before and after this stage.")


def _cell(lines: list[str], number: int | None, style: str) -> tuple[str, Text]:
    return ("", Text("")) if number is None else (str(number + 1), Text(lines[number], style))


def _both(journey: Journey, stage: str) -> tuple[list[str], list[str]]:
    number = STAGES.index(stage)
    before = journey.stages[max(0, number - 1)].markup
    return block_lines(before), block_lines(journey.stages[number].markup)
