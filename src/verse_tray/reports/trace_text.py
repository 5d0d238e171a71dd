"""What each stage of a journey does to a piece, and why, with the place marked."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from rich.console import Group, RenderableType
from rich.padding import Padding
from rich.text import Text

from verse_tray.journeys.engine import Journey, finding_of
from verse_tray.journeys.stages import STAGES, Stage
from verse_tray.model.findings import Change
from verse_tray.reports.check_text import SEVERITY_STYLES, VERDICT_STYLES
from verse_tray.reports.excerpt import excerpt

_SHOWN_PER_RULE = 3
_QUIET = {
    "written": "your file, as it stands",
    "paste": "the source pane takes it as it is",
    "save": "nothing is changed",
    "reopen": "nothing is changed",
    "publish": "the stored markup goes into the page as it is",
}


def trace_text(journey: Journey, stage: str | None, *, every: bool, width: int) -> Iterator[RenderableType]:
    """Yield what to print; a bare text is a line that is not to be wrapped.

    Args:
        journey: The journey.
        stage: Name of the only stage to show; None for all.
        every: Whether to show every change, and not just a few of each rule.
        width: Columns of the terminal.
    """
    verdict = Text(journey.verdict.value, VERDICT_STYLES[journey.verdict])
    source = journey.piece.source
    yield Text.assemble((source.name, "bold"), " through ", (journey.editor.name, "bold"), ": ", verdict, "\n")
    for each in journey.stages:
        if stage is None or each.name == stage:
            yield from _stage(journey, each, every, width)


def _stage(journey: Journey, stage: Stage, every: bool, width: int) -> Iterator[RenderableType]:
    count = len(stage.changes)
    size = f"{len(stage.markup):,} characters"
    quiet = _QUIET[stage.name] if stage.markup else "nothing came this far"
    changed = f"{count:,} change{'' if count == 1 else 's'}, {size} afterwards"
    told = changed if count else f"{quiet}; {size}"
    number = STAGES.index(stage.name) + 1
    yield Text.assemble((f"{number} {stage.name}", "bold"), f"  {told}")
    changes = stage.changes if every else _few(stage.changes)
    for change in sorted(changes, key=_by_place):
        yield _change(journey, change, width)
    left = Counter(change.rule for change in stage.changes) - Counter(change.rule for change in changes)
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
