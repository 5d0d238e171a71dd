"""What an audit found, the most useful first; in the terminal and as JSON."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import msgspec
from msgspec import Struct
from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.audit.answers import WORST, Drifted, Hurting, Row, Saved, Verdicts
from verse_tray.model.phrasing import counted, listed

FORMAT = "verse-tray/1"
SHOWN_RULES = 6
"""Rules that are shown where not all are."""
_STYLES = {"intact": "green", "rewritten": "green", "damaged": "yellow", "broken": "bold red", "set-aside": "bold red"}


class Answers(Struct):
    """What is shown of an audit."""

    store: str
    """The store."""
    pieces: int
    """How many pieces there are in it."""
    verdicts: list[Verdicts]
    """How many of them have which verdict, by editor."""
    causes: list[Hurting]
    """What hurts most of them."""
    worst: list[Row]
    """The worst of them, or all that were asked for."""
    full: list[Row]
    """Those that are near a limit."""
    saved: Saved
    """What it would save to mend the first few rules."""
    drifted: list[Drifted] | None = None
    """Those whose verdict is another than it was; None where that was not asked."""


def audit_text(found: Answers, *, every: bool) -> Iterator[RenderableType]:
    """Yield what a terminal shows.

    Args:
        found: What was found.
        every: Whether all pieces are shown, and not the worst few.
    """
    yield Text.assemble((found.store, "bold"), f"  {counted(found.pieces, 'piece')}")
    if found.drifted is not None:
        yield from _drift(found.drifted, every=every)
    yield Padding(_verdicts(found.verdicts), (1, 0, 1, 2))
    if found.causes:
        yield Text("What hurts most of them", "bold")
        yield from _causes(found.causes if every else found.causes[:SHOWN_RULES])
        if found.saved.saved and found.saved.rules > 1:
            yield Text(
                f"  With all {found.saved.rules} mended, nothing would hurt {found.saved.saved:,} of the "
                f"{found.saved.of:,} that are damaged or broken (a piece in two editors counts twice)."
            )
        yield Text("")
    bad = [row for row in found.worst if row.verdict not in ("intact", "rewritten")]
    if bad or every:
        yield Text("All of them, the worst first" if every else "The worst", "bold")
        yield from _rows(found.worst if every else bad[:8])
        yield Text("")
    if found.full:
        yield Text("Near a limit", "bold")
        yield Padding(_full(found.full if every else found.full[:5]), (0, 0, 1, 2))
    if not every and bad:
        yield Text(
            "All of them: --every. Some of them: --where 'verdict=broken and rule~scripts'. As a table: --export. As a "
            "page: --report. Repaired: verse-tray fit --from."
        )


def _table(*headings: str) -> Table:
    table = Table(box=None, padding=(0, 2, 0, 0), header_style="dim")
    for heading in headings:
        table.add_column(heading, overflow="fold")
    return table


def _verdicts(found: Sequence[Verdicts]) -> Table:
    shown = [
        verdict
        for verdict in reversed(WORST)
        if verdict != "set-aside" or any(verdict in each.counts for each in found)
    ]
    table = _table("editor", *shown)
    for each in found:
        cells = [Text(f"{each.counts.get(verdict, 0):,}", _STYLES[verdict]) for verdict in shown]
        table.add_row(each.editor, *cells)
    return table


def _causes(found: Sequence[Hurting]) -> Iterator[RenderableType]:
    """Yield what hurts most: how many pieces, how many that nothing else hurts, and what it says of one of them."""
    for each in found:
        alone = f", {each.alone:,} by nothing else" if each.alone else ""
        count = Text.assemble((f"{each.pieces:,} {'piece' if each.pieces == 1 else 'pieces'}", "bold"), alone)
        yield Text.assemble("  ", count, f"  {each.rule} in {listed(each.editors, 3)}")
        place = "" if each.line is None else f":{each.line}:{each.column}"
        yield Padding(Text(f"{each.example}{place}: {each.message}"), (0, 0, 0, 6))
        if told := " ".join(filter(None, (each.mend, trial_told(each)))):
            yield Padding(Text(f"▸ {told}"), (0, 0, 0, 6))


def trial_told(cause: Hurting) -> str:
    """Return what came of rewriting some of the pieces that a rule hurts; empty where that was not tried."""
    trial = cause.trial
    if trial is None:
        return ""
    if not trial.tried:
        return "Tried on none: nothing that it hurts is damaged or broken."
    saves = f"{trial.saved:,}" if trial.saved else "none"
    other = "of them" if not trial.saved else "other" if trial.better == 1 else "others"
    others = f", and gives readers more of {trial.better:,} {other}"
    return f"Tried on {counted(trial.tried, 'piece')}: fitting saves {saves}{others if trial.better else ''}."


def _rows(found: Sequence[Row]) -> Iterator[RenderableType]:
    """Yield pieces, each with what hurts it below."""
    for each in found:
        verdict = Text(f"{each.verdict:<10}", _STYLES.get(each.verdict, ""))
        alike = " –" if each.verdict == "set-aside" else f"{each.alike}"
        where = "  ".join(filter(None, (each.editor, each.date[:10], each.name)))
        yield Text.assemble("  ", verdict, f"{alike:>3}  {where}")
        if why := each.why or listed(each.rules.split(", "), 4):
            yield Padding(Text(why, "dim"), (0, 0, 0, 17))


def _full(found: Sequence[Row]) -> Table:
    table = _table("piece", "editor", "used", "limit")
    for each in found:
        table.add_row(each.name, each.editor, f"{each.full:.0%}", each.limit)
    return table


def _drift(found: Sequence[Drifted], *, every: bool) -> Iterator[RenderableType]:
    yield Text(f"{counted(len(found), 'verdict')} changed since" if found else "No verdict has changed since", "bold")
    if not found:
        return
    table = _table("piece", "editor", "was", "is", "because", "new rules")
    for each in found if every else found[:12]:
        because = "the piece has changed" if each.because == "piece" else "the editor has changed"
        now = Text(each.now, _STYLES.get(each.now, ""))
        table.add_row(each.name, each.editor, each.was, now, because, each.rules)
    yield Padding(table, (0, 0, 0, 2))
    if not every and len(found) > 12:
        yield Text(f"  {len(found) - 12} more: --every shows them.", "dim")


def audit_json(found: Answers) -> str:
    """Return the same as JSON."""
    record = {
        "format": FORMAT,
        "store": found.store,
        "pieces": found.pieces,
        "editors": [{"editor": each.editor, "verdicts": each.counts} for each in found.verdicts],
        "causes": [
            {**each._asdict(), "trial": None if each.trial is None else each.trial._asdict()} for each in found.causes
        ],
        "saved": found.saved._asdict(),
        "rows": [each._asdict() for each in found.worst],
        "nearLimits": [each._asdict() for each in found.full],
        "drifted": None if found.drifted is None else [each._asdict() for each in found.drifted],
    }
    return msgspec.json.format(msgspec.json.encode(record), indent=2).decode() + "\n"
