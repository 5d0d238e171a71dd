"""What a published piece does, in the terminal: errors and refusals, links, controls."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.journeys.journey import Journey
from verse_tray.preview.trials import Acted
from verse_tray.reports.styles import SEVERITY_STYLES


def trial_text(journey: Journey, acted: Acted) -> Iterator[RenderableType]:
    """Yield what to print about one journey."""
    yield Padding(Text.assemble((f"{journey.piece.source.name} in {journey.editor.name}", "bold"), ", as published"), 0)
    yield Text("")
    if acted.findings:
        table = _table()
        for each in acted.findings:
            severity = Text(each.severity.value, SEVERITY_STYLES[each.severity])
            table.add_row(_place(each.line, each.column), severity, each.message)
        yield Text("  Errors, refusals and requests", "bold")
        yield table
    elif "<script" in f"{journey.editor.frame}{journey.stages[-1].markup}".lower():  # those of slots and holders too
        yield Text("  Its scripts run without an error.", "green")
    else:
        yield Text("  It has no scripts.", "dim")
    yield Text("")
    if acted.loading or acted.by_itself:
        yield Text("  What happens by itself", "bold")
        table = _table()
        for when, changes in (("on loading", acted.loading), ("within ten seconds", acted.by_itself)):
            if changes:
                table.add_row("", when, "\n".join(changes))
        yield table
        yield Text("")
    clicked = [each for each in acted.controls if each.clicks]
    if clicked:
        yield Text("  What a click does", "bold")
        table = _table()
        for control in clicked:
            table.add_row(_place(control.line, control.column), control.name, "\n".join(control.told))
        yield table
        yield Text(f"  and {acted.more} more controls that were not tried.\n" if acted.more else "")
    looks = [each for each in acted.controls if each.looks]
    if looks:
        yield Text("  Under the pointer and in focus", "bold")
        table = _table()
        for control in looks:
            told = [f"{look.state}: {', '.join(look.changes)}" for look in control.looks if look.changes]
            table.add_row(_place(control.line, control.column), control.name, "\n".join(told))
        yield table
        yield Text("")
    if acted.links:
        yield Text("  Where its links lead", "bold")
        table = _table()
        for link in acted.links:
            table.add_row(_place(link.line, link.column), link.text, f"{link.address}  ({link.opens})")
        yield table
        yield Text("")


def _table() -> Table:
    table = Table(box=None, show_header=False, padding=(0, 0, 0, 2), pad_edge=True)
    table.add_column(justify="right", no_wrap=True)
    table.add_column(overflow="fold")
    table.add_column(overflow="fold")
    return table


def _place(line: int | None, column: int | None) -> str:
    return "" if line is None else f"{line}:{column}"
