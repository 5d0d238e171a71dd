"""What each stage of a journey does to a piece, and why: all summed up, one opened with the places marked."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from rich.console import Group, RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.journeys.journey import Journey, finding_of
from verse_tray.journeys.stages import STAGES, Stage
from verse_tray.model.findings import Change
from verse_tray.model.phrasing import as_argument
from verse_tray.reports.excerpt import excerpt
from verse_tray.reports.styles import SEVERITY_STYLES, VERDICT_STYLES

_SHOWN_PER_RULE = 3
_RULES_SUMMED_UP = 4


def trace_text(journey: Journey, stage: str | None, *, every: bool, width: int) -> Iterator[RenderableType]:
    """Yield what to print; a bare text is a line that is not to be wrapped.

    Args:
        journey: The journey.
        stage: Name of the stage to open; None opens the one in which most is lost, below a summary of all.
        every: Whether to show every change, and not just a few of each rule.
        width: Columns of the terminal.
    """
    yield heading(journey)
    if stage is None:
        yield _summary(journey)
        opened = max(journey.stages, key=_gravity)
        if not opened.changes and not opened.notices:
            yield Text("Nothing is changed at any stage.\n")
            return
    else:
        opened = journey.stage(stage)
    yield from _opened(journey, opened, every, width)
    others = [each.name for each in journey.stages if each is not opened and (each.changes or each.notices)]
    if stage is None and others:
        piece, editor = as_argument(journey.piece.source.name), as_argument(journey.editor.asked)
        command = f"verse-tray trace {piece} --editor {editor} --stage"
        yield Text.assemble("  Another stage:          ", (f"{command} {others[0]}", "bold"))
        yield Text.assemble("  The markup side by side: ", (f"{command} {opened.name} --show columns\n", "bold"))


def heading(journey: Journey) -> Text:
    """Return the line above a trace."""
    verdict = Text(journey.verdict.value, VERDICT_STYLES[journey.verdict])
    source = journey.piece.source
    return Text.assemble((source.name, "bold"), " through ", (journey.editor.name, "bold"), ": ", verdict, "\n")


def _gravity(stage: Stage) -> tuple[int, int, int]:
    ranks = [change.severity.rank for change in (*stage.changes, *stage.notices)]
    return (-min(ranks, default=9), len(stage.changes), len(ranks))


def _summary(journey: Journey) -> RenderableType:
    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    table.add_column("stage", header_style="bold", no_wrap=True)
    table.add_column("characters", header_style="bold", justify="right", no_wrap=True)
    table.add_column("what happens", header_style="bold", overflow="fold")
    for number, stage in enumerate(journey.stages, 1):
        told = Text(_in_short(journey, stage))
        for notice in stage.notices:
            told.append(f"\n{notice.message}", SEVERITY_STYLES[notice.severity])
        table.add_row(Text(f"{number} {stage.name}", "bold"), f"{len(stage.markup):,}", told)
    return Group(table, Text())


def _count(stage: Stage) -> str:
    count = len(stage.changes)
    return f"{count:,} change{'' if count == 1 else 's'}" if count else "no change"


def _in_short(journey: Journey, stage: Stage) -> str:
    if not stage.changes:
        told = _quiet(journey, stage)
    else:
        rules = Counter(change.rule for change in stage.changes)
        shown = [f"{number} × {rule}" for rule, number in rules.most_common(_RULES_SUMMED_UP)]
        if len(rules) > _RULES_SUMMED_UP:
            shown.append(f"{len(rules) - _RULES_SUMMED_UP} more of other rules")
        told = f"{_count(stage)}: {', '.join(shown)}"
    if stage.name == "reopen" and journey.fixpoint is not None:
        told += f"\n{journey.fixpoint.told}"
    return told


def _quiet(journey: Journey, stage: Stage) -> str:
    if not stage.markup:
        return "nothing came this far"
    if stage.name == "reopen" and "reopen" not in journey.editor.lists:
        return "opening it again changes nothing in this editor"
    return {
        "written": "your file, as it stands",
        "paste": "the pane takes it as it is",
        "publish": "the stored markup goes into the page as it is",
    }.get(stage.name, "nothing is changed")


def _opened(journey: Journey, stage: Stage, every: bool, width: int) -> Iterator[RenderableType]:
    number = STAGES.index(stage.name) + 1
    size = f"{len(stage.markup):,} characters afterwards"
    yield Text.assemble(
        (f"{number} {stage.name}", "bold"), f"  {_count(stage) if stage.changes else _quiet(journey, stage)}, {size}"
    )
    told = (*stage.notices, *stage.changes)
    shown = told if every else _few(told)
    for change in sorted(shown, key=_by_place):
        yield _change(journey, change, width)
    left = Counter(change.rule for change in told) - Counter(change.rule for change in shown)
    if left:
        rows = ", ".join(f"{number} × {rule}" for rule, number in left.most_common())
        yield Padding(Text(f"and more of the same kind: {rows}. --every shows all.", "dim"), (0, 0, 0, 4))
    yield Text("")


def _by_place(change: Change) -> tuple[int, int]:
    span = change.span
    return (0, span.start) if span is not None else (1, 0)


def _few(changes: tuple[Change, ...]) -> list[Change]:
    shown: Counter[str] = Counter()
    few = []
    for change in changes:
        shown[change.rule] += 1
        if shown[change.rule] <= _SHOWN_PER_RULE:
            few.append(change)
    return few


def _change(journey: Journey, change: Change, width: int) -> RenderableType:
    source = journey.piece.source
    finding = finding_of(change, source)
    style = SEVERITY_STYLES[change.severity]
    nowhere = "added" if change.rule.endswith("-added") else "as a whole"
    place = nowhere if finding.line is None else f"{finding.line}:{finding.column}"
    head = Text.assemble((place, "bold"), "  ", (change.severity.value, style), f"  {change.rule}")
    parts: list[RenderableType] = [head]
    if (span := change.span) is not None:
        shown, carets = excerpt(source, span, width - 10)
        parts += [Text(f"    {shown}", no_wrap=True, overflow="crop"), Text(f"    {carets}", style)]
    parts.append(Padding(Text(change.message), (0, 0, 0, 4)))
    return Padding(Group(*parts), (0, 0, 0, 4))
