"""The first screen of ``check``: which editors keep the piece, what is lost, the worst findings, what to run next."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from rich.console import Group, RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.journeys.journey import Journey
from verse_tray.journeys.limits.use import told
from verse_tray.journeys.survival.counts import Count, Survival
from verse_tray.model.findings import Finding, Severity, Verdict
from verse_tray.model.phrasing import listed
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult

VERDICT_STYLES = {
    Verdict.INTACT: "bold green",
    Verdict.REWRITTEN: "green",
    Verdict.DAMAGED: "bold yellow",
    Verdict.BROKEN: "bold red",
}
SEVERITY_STYLES = {Severity.ERROR: "red", Severity.WARNING: "yellow", Severity.NOTE: "dim"}
_OUTCOMES = {
    "refuse": "it is refused",
    "cut": "it is cut there",
    "drop": "what is too much goes",
    "warn": "the editor warns",
}
_SHOWN = 6
_MANY = 6  # editors above which the report is shortened
_NAMED = 3  # editors that are named beside a finding
_WIDE = 76  # columns that the full table needs


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
            gravest = sorted(result.mistakes, key=lambda finding: finding.severity.rank)
            rows = [(finding, (finding.rule,)) for finding in gravest]
            yield _findings("In the piece itself", rows, every, _most(result.journeys))
            certain = sum(1 for found in result.found if found.mend)
            if certain:
                command = f"verse-tray check {result.piece.source.name} --fix"
                yield Text.assemble(f"  {certain} of them can be mended:  ", (f"{command}\n", "bold"))
        if not result.journeys:
            yield from _noticed(result, every)
            continue
        unharmed, others = _apart(result.journeys)
        if others:
            yield (_survival_table if width >= _WIDE + 12 * bool(result.rendered) else _narrow_table)(others, result)
        if unharmed:
            yield Text(f"  Nothing is lost in {listed(unharmed, 99)}.\n", "green")
        yield from _limits(result.journeys)
        yield from _noticed(result, every)
        merged = _merge([(each.editor.name, each.findings) for each in result.journeys])
        if merged:
            lost = any(journey.verdict.rank >= Verdict.DAMAGED.rank for journey in result.journeys)
            heading = "What is lost, the worst first" if lost else "What changes, though nothing is lost"
            heading = "Everything that changes" if every else heading
            yield _findings(heading, merged, every, _most(result.journeys))
        yield _next(result)


def _noticed(result: PieceResult, every: bool) -> Iterator[RenderableType]:
    if not result.rendered:
        return
    merged = _merge([(each.editor.name, result.noticed(each.editor.name)) for each in result.journeys])
    if merged:
        yield _findings("What a person would notice in a browser", merged, every, _most(result.journeys))
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


def _survival_table(journeys: tuple[Journey, ...], result: PieceResult) -> RenderableType:
    table = Table(box=None, padding=0)  # gaps stand in the cells: padding around each would take longer than the rest
    looks = ("looks alike",) if result.rendered else ()
    for heading in ("editor", "verdict", "text", "structure", "look", "behaviour", "links", *looks):
        table.add_column(f"  {heading}", header_style="bold", overflow="fold")
    for journey in journeys:
        survived = journey.survival
        text = _count(survived.text)
        if survived.leaked:
            text.append(f", {survived.leaked:,} leaked", "red")
        verdict = Text(f"  {journey.verdict.value}", VERDICT_STYLES[journey.verdict])
        row = [_count(c) for c in (survived.structure, survived.look, survived.behaviour, survived.links)]
        if looks:
            row.append(Text(f"  {_alike(result, journey)}"))
        table.add_row(Text(f"  {journey.editor.name}"), verdict, text, *row)
    return Group(Text("  What readers still get", "bold"), table, Text())


def _narrow_table(journeys: tuple[Journey, ...], result: PieceResult) -> RenderableType:
    table = Table(box=None, padding=(0, 0, 0, 2))
    for heading in ("editor", "verdict"):
        table.add_column(heading, header_style="bold", no_wrap=True)
    table.add_column("what readers still get", header_style="bold")
    for journey in journeys:
        survived = journey.survival
        kinds = zip(Survival._fields, survived, strict=True)
        lost = [
            f"{kind} {count.kept:,} of {count.of:,}" for kind, count in kinds if isinstance(count, Count) and count.lost
        ]
        if survived.leaked:
            lost.append(f"{survived.leaked:,} leaked")
        if journey.editor.name in result.rendered:
            lost.append(f"looks alike {_alike(result, journey)}")
        verdict = Text(journey.verdict.value, VERDICT_STYLES[journey.verdict])
        table.add_row(journey.editor.name, verdict, ", ".join(lost) or "all of it")
    return Group(table, Text())


def _alike(result: PieceResult, journey: Journey) -> str:
    score = result.rendered[journey.editor.name].score
    return "" if score is None else f"{int(score * 100)} of 100"


def _count(count: Count) -> Text:
    if not count.of:
        return Text("  none", "dim")
    if not count.lost:
        return Text(f"  all {count.of:,}")
    return Text(f"  {count.kept:,} of {count.of:,}", "red")


def _limits(journeys: tuple[Journey, ...]) -> Iterator[RenderableType]:
    for journey in journeys:
        for use in journey.limits:
            if use.exceeded or use.used * 10 >= use.most * 9:
                outcome = _OUTCOMES[use.over]
                size = f"{told(use)}, and at most {use.most:,} pass"
                text = f"{journey.editor.name}: {size}" + (f", so {outcome}." if use.exceeded else ": nearly full.")
                yield Text(f"  {text}\n", "red" if use.exceeded else "yellow")


def _merge(told: Sequence[tuple[str, Sequence[Finding]]]) -> list[tuple[Finding, tuple[str, ...]]]:
    """Return findings once each, with the editors that share them, the gravest and most shared first."""
    found: dict[tuple[str, int | None, int | None, str], tuple[Finding, list[str]]] = {}
    for editor, findings in told:
        for finding in findings:
            key = (finding.rule, finding.line, finding.column, "" if finding.line else finding.message)
            found.setdefault(key, (finding, []))[1].append(editor)
    rows = [(finding, tuple(dict.fromkeys(names))) for finding, names in found.values()]
    rows.sort(key=lambda row: (row[0].severity.rank, -len(row[1]), row[0].line or 0, row[0].column or 0))
    return rows


def _findings(heading: str, rows: Sequence[tuple[Finding, tuple[str, ...]]], every: bool, most: int) -> RenderableType:
    table = Table(box=None, show_header=False, padding=0)
    table.add_column(justify="right", no_wrap=True)
    table.add_column(no_wrap=True)
    table.add_column(overflow="fold")
    shown = rows if every else rows[:most]
    for finding, editors in shown:
        place = "" if finding.line is None else f"  {finding.line}:{finding.column}"
        text = Text(finding.message)
        if editors:
            named = ", ".join(editors) if every or len(editors) <= _NAMED else f"{len(editors)} editors"
            text.append(f" [{named}]", "cyan")
        table.add_row(place, Text(f"  {finding.severity.value}  ", SEVERITY_STYLES[finding.severity]), text)
    parts: list[RenderableType] = [Text(f"  {heading}", "bold"), table]
    if len(rows) > len(shown):
        parts.append(Text(f"  and {len(rows) - len(shown):,} more: --every shows all.", "dim"))
    parts.append(Text(""))
    return Group(*parts)


def _next(result: PieceResult) -> Text:
    worst = max(result.journeys, key=lambda j: (j.verdict.rank, sum(f.severity is Severity.ERROR for f in j.findings)))
    name = result.piece.source.name
    text = Text()
    if worst.verdict is not Verdict.INTACT:
        text.append("  Each one at its place:   ").append(
            f"verse-tray trace {name} --editor {worst.editor.name}\n", "bold"
        )
    return text.append("  What readers will see:   ").append(f"verse-tray preview {name}\n", "bold")
