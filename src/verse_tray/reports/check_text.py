"""The first screen of ``check``: which editors keep the piece, what is lost, the worst findings, what to run next."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from verse_tray.editors.load import known_editors
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.limits.use import told
from verse_tray.journeys.survival.counts import Count, Survival
from verse_tray.model.findings import SCRIPT_ASTRAY, Finding, Severity, Verdict
from verse_tray.model.grouping import grouped
from verse_tray.model.phrasing import as_argument, listed
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult
from verse_tray.reports.styles import SEVERITY_STYLES, VERDICT_STYLES
from verse_tray.reports.text_layout import Rows, Words

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


def report(results: Iterable[PieceResult], wanted: Wanted) -> Iterator[Words | Rows]:
    """Yield what to print for each piece.

    Args:
        results: The results.
        wanted: What it shows.
    """
    every, width = wanted.every, wanted.width
    for result in results:
        yield _title(result)
        if result.mistakes:
            rows = [(finding.rule, (finding,)) for finding in result.mistakes]
            yield from _findings("In the piece itself", rows, every, _most(result.journeys))
            certain = sum(1 for found in result.found if found.mend)
            if certain:
                command = f"verse-tray check {as_argument(result.piece.source.name)} --fix"
                yield Words(f"  {certain} of them can be mended:  ", (f"{command}\n", "bold"))
        if not result.journeys:
            yield from _noticed(result, every)
            continue
        unharmed, others = _apart(result.journeys)
        if others:
            yield from _survival(others, result, width)
        if unharmed:
            yield Words((f"  Nothing is lost in {listed(unharmed, 99)}.\n", "green"))
        yield from _limits(result.journeys)
        yield from _noticed(result, every)
        told = [(each.editor.name, each.findings) for each in result.journeys]
        if any(findings for _, findings in told):
            lost = any(journey.verdict.rank >= Verdict.DAMAGED.rank for journey in result.journeys)
            heading = "What is lost, the worst first" if lost else "What changes, though nothing is lost"
            heading = "Everything that changes" if every else heading
            yield from _findings(heading, told, every, _most(result.journeys))
        yield _next(result, in_tray=wanted.in_tray)


def _noticed(result: PieceResult, every: bool) -> Iterator[Words | Rows]:
    if not result.rendered:
        return
    told = [(each.editor.name, result.noticed(each.editor.name)) for each in result.journeys]
    if any(findings for _, findings in told):
        yield from _findings("What a person would notice in a browser", told, every, _most(result.journeys))
    elif result.journeys or not result.noticed(""):
        yield Words(("  Nothing sticks out, is squeezed or cannot be read in a browser.\n", "green"))


def _most(journeys: tuple[Journey, ...]) -> int:
    """Return how many findings of a kind are shown: fewer where the table of editors is long."""
    return _SHOWN if len(journeys) <= _MANY else _SHOWN // 2


def _apart(journeys: tuple[Journey, ...]) -> tuple[list[str], tuple[Journey, ...]]:
    """Return the editors in which nothing is lost, when there are many editors, and the journeys through the others."""
    if len(journeys) <= _MANY:
        return [], journeys
    lost = tuple(each for each in journeys if each.verdict.rank >= Verdict.DAMAGED.rank)
    return [each.editor.name for each in journeys if each not in lost], lost


def _title(result: PieceResult) -> Words:
    source = result.piece.source
    count = len(result.piece.written_view.elements)
    size = f"{len(source.text):,} characters, {count:,} element{'' if count == 1 else 's'}"
    return Words((source.name, "bold"), f"\n{size}\n")


def _survival(journeys: tuple[Journey, ...], result: PieceResult, width: int) -> Iterator[Words | Rows]:
    """Yield the table of what survives: one of columns where it fits, else one that says what is lost."""
    looks = ("looks alike",) if result.rendered else ()
    headings = ("editor", "verdict", "alike", "text", "structure", "look", "behaviour", "links", *looks)
    rows = [_row(journey, result) for journey in journeys]
    texts = [headings, *([cell.text for cell in row] for row in rows)]
    widths = [max(map(len, column)) for column in zip(*texts, strict=True)]
    if sum(widths) + len(widths) + 1 > width:
        yield from _narrow_table(journeys, result, width)
        return
    gaps = ("  ", *[" "] * (len(headings) - 1))  # they stand in the cells
    yield Words(("  What readers still get", "bold"), wrapped=True)
    yield Rows(
        [[cell.after(gap) for gap, cell in zip(gaps, row, strict=True)] for row in rows],
        [f"{gap}{heading}" for gap, heading in zip(gaps, headings, strict=True)],
    )
    yield Words()


def _row(journey: Journey, result: PieceResult) -> list[Words]:
    survived = journey.survival
    leaked = [(f", {survived.leaked:,} leaked", "red")] if survived.leaked else []
    row = [
        Words(journey.editor.name),
        Words((journey.verdict.value, VERDICT_STYLES[journey.verdict])),
        Words((str(survived.alike), "" if survived.alike == 100 else "yellow")),
        Words(_count(survived.text), *leaked),
        *(Words(_count(each)) for each in (survived.structure, survived.look, survived.behaviour, survived.links)),
    ]
    if result.rendered:
        looks = _looks(result, journey)
        row.append(Words("" if looks is None else f"{looks} of 100"))
    return row


def _narrow_table(journeys: tuple[Journey, ...], result: PieceResult, width: int) -> Iterator[Words | Rows]:
    """Yield what is lost in words: beside the names, or below them where there is no room."""
    told = [", ".join(_lost(journey, result)) or "all of it" for journey in journeys]
    if width < _NARROWEST:
        yield Words(("What readers still get", "bold"), wrapped=True)
        parts: list[str | tuple[str, str]] = []
        for journey, each in zip(journeys, told, strict=True):
            verdict = (journey.verdict.value, VERDICT_STYLES[journey.verdict])
            parts += [f"{journey.editor.name}: ", verdict, f"\n{each}\n"]
        yield Words(*parts, wrapped=True)
        return
    rows = [
        (
            Words(f"  {journey.editor.name}"),
            Words("  ", (journey.verdict.value, VERDICT_STYLES[journey.verdict]), "  "),
            Words(each),
        )
        for journey, each in zip(journeys, told, strict=True)
    ]
    yield Rows(rows, ("  editor", "  verdict  ", "what readers still get"), is_folded=True)
    yield Words()


def _lost(journey: Journey, result: PieceResult) -> list[str]:
    survived = journey.survival
    kinds = zip(Survival._fields, survived, strict=True)
    lost = [
        f"{kind} {count.kept:,} of {count.of:,}" for kind, count in kinds if isinstance(count, Count) and count.lost
    ]
    if survived.leaked:
        lost.append(f"{survived.leaked:,} leaked")
    if survived.alike < 100:
        lost.append(f"{survived.alike} of 100 alike")
    if (looks := _looks(result, journey)) is not None and looks < 100:
        lost.append(f"looks alike {looks} of 100 in a browser")
    return lost


def _looks(result: PieceResult, journey: Journey) -> int | None:
    """Return how alike it looks in a browser, of 100; None where that was not asked."""
    rendered = result.rendered.get(journey.editor.name)
    score = None if rendered is None else rendered.score
    return None if score is None else int(score * 100)


def _count(count: Count) -> tuple[str, str]:
    if not count.of:
        return "none", "dim"
    if not count.lost:
        return f"all {count.of:,}", ""
    return f"{count.kept:,} of {count.of:,}", "red"


def _limits(journeys: tuple[Journey, ...]) -> Iterator[Words]:
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
        yield Words((f"  {text}\n", "red" if use.exceeded else "yellow"))


def _findings(
    heading: str, told: Sequence[tuple[str, Sequence[Finding]]], every: bool, most: int
) -> Iterator[Words | Rows]:
    """Yield findings, those of one cause in one line; notes that change nothing for readers are counted at the end."""
    rows = []
    groups = grouped(told)
    grave = [group for group in groups if group.finding.severity is not Severity.NOTE]
    shown = groups if every else (grave or groups)[:most]
    for group in shown:
        finding, editors = group.finding, group.editors
        place = "" if finding.line is None else f"  {finding.line}:{finding.column}"
        named = ", ".join(editors) if every or len(editors) <= _NAMED else f"{len(editors)} editors"
        where = [(f" [{named}]", "cyan")] if editors else []
        severity = Words((f"  {finding.severity.value}  ", SEVERITY_STYLES[finding.severity]))
        rows.append((Words(place), severity, Words(finding.message + group.elsewhere, *where)))
    yield Words((f"  {heading}", "bold"), wrapped=True)
    yield Rows(rows, is_right=True, is_folded=True)
    rest = [group for group in groups if group not in shown]
    if rest:
        notes = sum(group.size for group in rest if group.finding.severity is Severity.NOTE)
        more = sum(group.size for group in rest) - notes
        yield Words((f"  {_left_out(more, notes)}: --every shows all.", "dim"), wrapped=True)
    yield Words()


def _left_out(more: int, notes: int) -> str:
    said = [f"{more:,} more"] if more else []
    if notes:
        said.append(f"{notes:,} note{'' if notes == 1 else 's'} that cost readers nothing")
    return f"and {' and '.join(said)}"


def _can_be_fitted(journey: Journey) -> bool:
    return journey.survival.alike < 100 or any(each.rule == SCRIPT_ASTRAY for each in journey.findings)


def _next(result: PieceResult, *, in_tray: bool) -> Words:
    """Return the commands that go on from here, complete: they work when they are pasted."""
    worst = max(result.journeys, key=lambda j: (j.verdict.rank, sum(f.severity is Severity.ERROR for f in j.findings)))
    name = as_argument(result.piece.source.name)
    if in_tray:
        return Words("  What readers will see:   ", ("verse-tray preview\n", "bold"))
    parts: list[str | tuple[str, str]] = []
    if worst.verdict is not Verdict.INTACT:
        command = f"verse-tray trace {name} --editor {as_argument(worst.editor.asked)}"
        parts += ["  Each one at its place:   ", (f"{command}\n", "bold")]
    unlike = [each for each in result.journeys if _can_be_fitted(each) and not each.refused]
    if unlike:
        least = min(unlike, key=lambda each: each.survival.alike)
        command = f"verse-tray fit {name} --editor {as_argument(least.editor.asked)}"
        parts += ["  So that it survives:     ", (f"{command}\n", "bold")]
    chosen = [journey.editor.asked for journey in result.journeys]
    editors = "" if chosen == known_editors() else "".join(f" --editor {as_argument(each)}" for each in chosen)
    return Words(*parts, "  What readers will see:   ", (f"verse-tray preview {name}{editors}\n", "bold"))
