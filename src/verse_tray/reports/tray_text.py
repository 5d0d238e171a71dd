"""What there is to tell of a tray: how its pieces are, what is ready to paste, what stands where."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.model.findings import Verdict
from verse_tray.model.phrasing import counted, listed
from verse_tray.reports.styles import VERDICT_STYLES
from verse_tray.trays.state import Checked, PlacedOn, Standing


def _table(*headings: str) -> Table:
    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    for heading in headings:
        table.add_column(heading, header_style="bold", overflow="fold")
    return table


def checked_text(
    title: str, known: Mapping[str, Checked], changed: Collection[str], doing: str
) -> Iterator[RenderableType]:
    """Yield how the pieces of a tray are.

    Args:
        title: The tray's title.
        known: What came of each piece.
        changed: Those that were worked on just now.
        doing: What was done: ``checked``, ``fitted``.
    """
    told = f"{len(changed)} {doing} now" if changed else "nothing has changed"
    yield Text.assemble((title or "Tray", "bold"), f": {counted(len(known), 'piece')}, {told}.")
    if not known:
        return
    table = _table("piece", "", "worst", "where")
    for name, each in known.items():
        worst = _worst(each.verdicts.values())
        where = [place or "in the piece itself" for place, verdict in each.verdicts.items() if verdict == worst.value]
        shown = listed(where, 3) if worst is not Verdict.INTACT and where else ""
        state = f"{doing} now" if name in changed else "unchanged"
        table.add_row(name, state, Text(worst.value, VERDICT_STYLES[worst]), Text(shown, overflow="fold"))
    yield table
    placed = any(":" in place and Verdict(verdict).rank >= Verdict.DAMAGED.rank
                 for each in known.values() for place, verdict in each.verdicts.items())  # fmt: skip
    if placed and doing == "checked":
        yield Text("\nThat is what becomes of them pasted whole; verse-tray place puts each part where it survives.")


def _worst(verdicts: Collection[str]) -> Verdict:
    return max(map(Verdict, verdicts), key=lambda each: each.rank, default=Verdict.INTACT)


def placed_text(
    title: str, placed: Mapping[str, PlacedOn], changed: Collection[str], standing: Sequence[Standing]
) -> Iterator[RenderableType]:
    """Yield what is ready to paste, site by site."""
    told = f"{len(changed)} placed now" if changed else "nothing has changed"
    yield Text.assemble((title or "Tray", "bold"), f": {counted(len(placed), 'site')}, {told}.")
    for site, each in placed.items():
        worst = _worst(each.verdicts.values())
        of_site = [one for one in standing if one.site == site and one.number is not None]
        left = [str(one.number) for one in of_site if not one.current]
        yield Text("")
        yield Text.assemble(
            (site, "bold"), f"  {counted(len(each.pastes), 'paste')}, ", (worst.value, VERDICT_STYLES[worst]),
            f", {counted(each.findings, 'thing')} to look at" if each.findings else "",
        )  # fmt: skip
        for piece, verdict in each.verdicts.items():
            yield Text(f"  {piece}: {verdict}")
        if left:
            yield Text(f"  to paste: {listed(left, 20)}; work through {each.folder}/paste-sheet.html")
        else:
            yield Text("  all of it stands on the site as it is now")
        gone = [one for one in standing if one.site == site and one.number is None]
        for one in gone:
            yield Text(f"  {listed(one.pieces)} stands in {one.target} since {one.date}, and belongs there no more")
    if any(not one.current for one in standing):
        yield Text(
            "\nverse-tray place --done NUMBER ticks one off; verse-tray place --standing tells what stands where."
        )


def standing_text(standing: Sequence[Standing]) -> Iterator[RenderableType]:
    """Yield what stands where."""
    if not standing:
        yield Text("Nothing was placed yet. Run: verse-tray place")
        return
    table = _table("paste", "site", "where", "pieces", "what stands there")
    for each in standing:
        if each.current:
            state = Text(f"as it is now, since {each.date}", "green")
        elif each.number is None:
            state = Text(f"pasted {each.date}; belongs there no more", "yellow")
        elif each.date:
            state = Text(f"an old version, pasted {each.date}", "bold yellow")
        else:
            state = Text("never pasted", "yellow")
        number = "" if each.number is None else str(each.number)
        pieces = Text(listed(each.pieces), overflow="fold")
        table.add_row(number, Text(each.site, overflow="fold"), Text(each.target, overflow="fold"), pieces, state)
    yield table
