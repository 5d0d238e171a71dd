"""What differs between two pieces, in the terminal."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.journeys.journey import Journey
from verse_tray.preview.comparing import Comparison
from verse_tray.preview.comparing.differences import grouped
from verse_tray.preview.pages.described import place_of, text_of


def comparison_text(made: Comparison, names: tuple[str, str]) -> Iterator[RenderableType]:
    """Yield what to print; ``names`` are those of the two files."""
    where = f" as {made.side} in {made.first.editor.name}" if made.first.editor.name else ""
    yield Text.assemble((names[0], "bold"), " and ", (names[1], "bold"), f"{where}\n")
    for numbers, journey, name in (
        (made.aligned.first_only, made.first, names[0]),
        (made.aligned.second_only, made.second, names[1]),
    ):
        if numbers:
            yield Text(f"  Only in {name}", "bold")
            yield from (Text(f"  {_place(journey, number):>7}  {_name(journey, made, number)}") for number in numbers)
            yield Text("")
    if made.same:
        yield Text("  They look the same.\n", "green")
    for width, found in made.found.items():
        if not found:
            continue
        table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False, title_justify="left")
        for heading in ("", f"{width} px wide", "", names[0], names[1]):
            table.add_column(heading, header_style="bold", overflow="fold")
        for group in grouped(found):
            each = group[0]
            name = f"<{each.name}>" + (f" and {len(group) - 1} more" if len(group) > 1 else "")
            table.add_row(_place(made.first, each.first), name, each.what, *each.values)
        yield table
        yield Text("")


def _name(journey: Journey, made: Comparison, number: int) -> str:
    tree = journey.published_view.by_key if made.side == "published" else journey.piece.written_view.by_key
    element = tree.get(number)
    return "an element that the editor added" if element is None else f"<{element.name}> {text_of(element)}".rstrip()


def _place(journey: Journey, number: int) -> str:
    line, column = place_of(journey, number)
    return "" if line is None else f"{line}:{column}"
