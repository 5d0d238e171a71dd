"""The first screen of ``check``: which editors keep the piece, what is lost, the worst findings, what to run next."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from rich.console import Group, RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.editors.load import known_editors
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.limits.use import told
from verse_tray.journeys.remarks import SCRIPT_ASTRAY
from verse_tray.journeys.survival.counts import Count, Survival
from verse_tray.model.findings import Finding, Severity, Verdict
from verse_tray.model.grouping import grouped
from verse_tray.model.phrasing import as_argument, listed
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult
from verse_tray.reports.styles import SEVERITY_STYLES, VERDICT_STYLES

_OUTCOMES = {
    "refuse": "it is refused",
    "cut": "it is cut there",
    "drop": "what is too much goes",
    "warn": "the editor warns",
}
_SHOWN = 6
_MANY = 6  # editors above which the report is shortened
_NARROWEST = 56  # columns below which a table of words cannot be read
_NAMED = 3  # editors that are named beside a finding


def report(results: Iterable[PieceResult], wanted: Wanted) -> Iterator[RenderableType]:
    """Yield what to print for each piece; a bare text is a line that is not to be wrapped.

    Args:
        results: The results.
        wanted: What it shows.
    """
    every, width = wanted.every, wanted.width
    for result in results:
        yield _title(result)
        if result.mistakes:
            rows = [(finding.rule, (finding,)) for finding in result.mistakes]
            yield _findings("In the piece itself", rows, every, _most(result.journeys))
            certain = sum(1 for found in result.found if found.mend)
            if certain:
                command = f"verse-tray check {as_argument(result.piece.source.name)} --fix"
                yield Text.assemble(f"  {certain} of them can be mended:  ", (f"{command}\n", "bold"))
        if not result.journeys:
            yield from _noticed(result, every)
            continue
        unharmed, others = _apart(result.journeys)
        if others:
            yield _survival(others, result, width)
        if unharmed:
            yield Text(f"  Nothing is lost in {listed(unharmed, 99)}.\n", "green")
        yield from _limits(result.journeys)
        yield from _noticed(result, every)
        told = [(each.editor.name, each.findings) for each in result.journeys]
        if any(findings for _, findings in told):
            lost = any(journey.verdict.rank >= Verdict.DAMAGED.rank for journey in result.journeys)
            heading = "What is lost, the worst first" if lost else "What changes, though nothing is lost"
            heading = "Everything that changes" if every else heading
            yield _findings(heading, told, every, _most(result.journeys))
        yield _next(result, in_tray=wanted.in_tray)


def _noticed(result: PieceResult, every: bool) -> Iterator[RenderableType]:
    if not result.rendered:
        return
    told = [(each.editor.name, result.noticed(each.editor.name)) for each in result.journeys]
    if any(findings for _, findings in told):
        yield _findings("What a person would notice in a browser", told, every, _most(result.journeys))
    elif result.journeys or not result.noticed(""):
        yield Text("  Nothing sticks out, is squeezed or cannot be read in a browser.\n", "green")


def _most(journeys: tuple[Journey, ...]) -> int:
    """Return how many findings of a kind are shown: fewer where the table of editors is long."""
    return _SHOWN if len(journeys) <= _MANY else _SHOWN // 2


def _apart(journeys: tuple[Journey, ...]) -> tuple[list[str], tuple[Journey, ...]]:
    """Return the editors in which nothing is lost, when there are many editors, and the journeys through the others."""
    if len(journeys) <= _MANY:
        return [], journeys
    lost = tuple(each for each in journeys if each.verdict.rank >= Verdict.DAMAGED.rank)
    return [each.editor.name for each in journeys if each not in lost], lost


def _title(result: PieceResult) -> Text:
    source = result.piece.source
    count = len(result.piece.written_view.elements)
    size = f"{len(source.text):,} characters, {count:,} element{'' if count == 1 else 's'}"
    return Text.assemble((source.name, "bold"), f"\n{size}\n")


def _survival(journeys: tuple[Journey, ...], result: PieceResult, width: int) -> RenderableType:
    """Return the table of what survives: one of columns where it fits, else one that says what is lost."""
    table = Table(box=None, padding=0)  # gaps stand in the cells: padding around each would take longer than the rest
    looks = ("looks alike",) if result.rendered else ()
    headings = ("editor", "verdict", "alike", "text", "structure", "look", "behaviour", "links", *looks)
    rows = [[Text(heading, "bold") for heading in headings], *(_row(journey, result) for journey in journeys)]
    widths = [max(len(row[column]) for row in rows) for column in range(len(headings))]
    if sum(widths) + len(widths) + 1 > width:
        return _narrow_table(journeys, result, width)
    for number, heading in enumerate(headings):
        table.add_column(f"{' ' * (1 + (not number))}{heading}", header_style="bold", no_wrap=True)
    for row in rows[1:]:
        table.add_row(*(Text(" " * (1 + (not number))).append(cell) for number, cell in enumerate(row)))
    return Group(Text("  What readers still get", "bold"), table, Text())


def _row(journey: Journey, result: PieceResult) -> list[Text]:
    survived = journey.survival
    text = _count(survived.text)
    if survived.leaked:
        text.append(f", {survived.leaked:,} leaked", "red")
    row = [
        Text(journey.editor.name),
        Text(journey.verdict.value, VERDICT_STYLES[journey.verdict]),
        Text(str(survived.alike), "" if survived.alike == 100 else "yellow"),
        text,
        *map(_count, (survived.structure, survived.look, survived.behaviour, survived.links)),
    ]
    if result.rendered:
        row.append(Text(_alike(result, journey)))
    return row


def _narrow_table(journeys: tuple[Journey, ...], result: PieceResult, width: int) -> RenderableType:
    """Return what is lost in words: beside the names, or below them where there is no room."""
    table = Table(box=None, padding=(0, 0, 0, 2))
    for heading in ("editor", "verdict"):
        table.add_column(heading, header_style="bold", no_wrap=True)
    table.add_column("what readers still get", header_style="bold", overflow="fold")
    lines = Text()
    for journey in journeys:
        told = ", ".join(_lost(journey, result)) or "all of it"
        verdict = Text(journey.verdict.value, VERDICT_STYLES[journey.verdict])
        table.add_row(journey.editor.name, verdict, told)
        lines.append(f"{journey.editor.name}: ").append(verdict).append(f"\n{told}\n")
    if width >= _NARROWEST:
        return Group(table, Text())
    return Group(Text("What readers still get", "bold"), lines)


def _lost(journey: Journey, result: PieceResult) -> list[str]:
    survived = journey.survival
    kinds = zip(Survival._fields, survived, strict=True)
    lost = [
        f"{kind} {count.kept:,} of {count.of:,}" for kind, count in kinds if isinstance(count, Count) and count.lost
    ]
    if survived.leaked:
        lost.append(f"{survived.leaked:,} leaked")
    if journey.editor.name in result.rendered:
        lost.append(f"looks alike {_alike(result, journey)}")
    if survived.alike < 100:
        lost.append(f"{survived.alike} of 100 alike")
    return lost


def _alike(result: PieceResult, journey: Journey) -> str:
    score = result.rendered[journey.editor.name].score
    return "" if score is None else f"{int(score * 100)} of 100"


def _count(count: Count) -> Text:
    if not count.of:
        return Text("none", "dim")
    if not count.lost:
        return Text(f"all {count.of:,}")
    return Text(f"{count.kept:,} of {count.of:,}", "red")


def _limits(journeys: tuple[Journey, ...]) -> Iterator[RenderableType]:
    """Yield a line for each limit that is exceeded or nearly so, the largest overrun first."""
    near = [
        (use.used - use.most, journey.editor.name, use)
        for journey in journeys
        for use in journey.limits
        if use.exceeded or use.used * 10 >= use.most * 9
    ]
    for _, name, use in sorted(near, key=lambda row: -row[0]):
        size = f"{told(use)}, and at most {use.most:,} pass"
        text = f"{name}: {size}" + (f", so {_OUTCOMES[use.over]}." if use.exceeded else ": nearly full.")
        yield Text(f"  {text}\n", "red" if use.exceeded else "yellow")


def _findings(heading: str, told: Sequence[tuple[str, Sequence[Finding]]], every: bool, most: int) -> RenderableType:
    """Return findings, those of one cause in one line; notes that change nothing for readers are counted at the end."""
    table = Table(box=None, show_header=False, padding=0)
    table.add_column(justify="right", no_wrap=True)
    table.add_column(no_wrap=True)
    table.add_column(overflow="fold")
    groups = grouped(told)
    grave = [group for group in groups if group.finding.severity is not Severity.NOTE]
    shown = groups if every else (grave or groups)[:most]
    for group in shown:
        finding, editors = group.finding, group.editors
        place = "" if finding.line is None else f"  {finding.line}:{finding.column}"
        text = Text(finding.message + group.elsewhere)
        if editors:
            named = ", ".join(editors) if every or len(editors) <= _NAMED else f"{len(editors)} editors"
            text.append(f" [{named}]", "cyan")
        table.add_row(place, Text(f"  {finding.severity.value}  ", SEVERITY_STYLES[finding.severity]), text)
    parts: list[RenderableType] = [Text(f"  {heading}", "bold"), table]
    rest = [group for group in groups if group not in shown]
    if rest:
        notes = sum(group.size for group in rest if group.finding.severity is Severity.NOTE)
        more = sum(group.size for group in rest) - notes
        parts.append(Text(f"  {_left_out(more, notes)}: --every shows all.", "dim"))
    parts.append(Text(""))
    return Group(*parts)


def _left_out(more: int, notes: int) -> str:
    said = [f"{more:,} more"] if more else []
    if notes:
        said.append(f"{notes:,} note{'' if notes == 1 else 's'} that cost readers nothing")
    return f"and {' and '.join(said)}"


def _can_be_fitted(journey: Journey) -> bool:
    return journey.survival.alike < 100 or any(each.rule == SCRIPT_ASTRAY for each in journey.findings)


def _next(result: PieceResult, *, in_tray: bool) -> Text:
    """Return the commands that go on from here, complete: they work when they are pasted."""
    worst = max(result.journeys, key=lambda j: (j.verdict.rank, sum(f.severity is Severity.ERROR for f in j.findings)))
    name = as_argument(result.piece.source.name)
    text = Text()
    if in_tray:
        return text.append("  What readers will see:   ").append("verse-tray preview\n", "bold")
    if worst.verdict is not Verdict.INTACT:
        command = f"verse-tray trace {name} --editor {as_argument(worst.editor.asked)}"
        text.append("  Each one at its place:   ").append(f"{command}\n", "bold")
    unlike = [each for each in result.journeys if _can_be_fitted(each) and not each.refused]
    if unlike:
        least = min(unlike, key=lambda each: each.survival.alike)
        text.append("  So that it survives:     ")
        text.append(f"verse-tray fit {name} --editor {as_argument(least.editor.asked)}\n", "bold")
    chosen = [journey.editor.asked for journey in result.journeys]
    editors = "" if chosen == known_editors() else "".join(f" --editor {as_argument(each)}" for each in chosen)
    return text.append("  What readers will see:   ").append(f"verse-tray preview {name}{editors}\n", "bold")
