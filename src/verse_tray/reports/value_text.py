"""The values of a piece that can be changed, as a table and as JSON."""

from __future__ import annotations

from collections.abc import Iterator

import msgspec
from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.edit.values import Value, ValueKind
from verse_tray.model.decoding import Source
from verse_tray.model.phrasing import as_argument

_HEADINGS = {
    ValueKind.PROPERTY: "Custom properties",
    ValueKind.COLOUR: "Colours",
    ValueKind.SIZE: "Sizes",
    ValueKind.DURATION: "Durations",
    ValueKind.LINK: "Links",
    ValueKind.PICTURE: "Pictures",
    ValueKind.TEXT: "Texts",
}


def values_text(source: Source, values: list[Value]) -> Iterator[RenderableType]:
    """Yield what to print."""
    if not values:
        yield Text(f"{source.name}: there is no value to change in it.")
        return
    table = Table(box=None, show_header=False, padding=(0, 2, 0, 0), pad_edge=False)  # one for all kinds: they line up
    table.add_column(no_wrap=True)
    table.add_column(no_wrap=True)
    table.add_column(overflow="fold")
    for kind, heading in _HEADINGS.items():
        rows = [value for value in values if value.kind is kind]
        if rows:
            if table.row_count:
                table.add_row()
            table.add_row(Text(heading, "cyan"))
        for value in rows:
            shown = value.value if len(value.value) <= 70 else f"{value.value[:69]}…"
            table.add_row(Text(f"  {value.name}", "bold"), Text(_places(source, value), "dim"), shown)
    yield table
    yield Text("")
    yield Text.assemble(
        "Change one:  ", (f"verse-tray adjust {as_argument(source.name)} --set {values[0].name}=…", "bold")
    )


def _places(source: Source, value: Value) -> str:
    places = ["{}:{}".format(*source.place(place.span.start)) for place in value.places]
    return ", ".join(places) if len(places) <= 2 else f"{places[0]} and {len(places) - 1} more"


def values_json(source: Source, values: list[Value]) -> str:
    """Return the values as JSON text, ending in a line end."""
    rows = [
        {
            "name": value.name,
            "kind": value.kind.value,
            "value": value.value,
            "places": [dict(zip(("line", "column"), source.place(p.span.start), strict=True)) for p in value.places],
        }
        for value in values
    ]
    packed = msgspec.json.encode({"format": "verse-tray/1", "file": source.name, "values": rows})
    return msgspec.json.format(packed, indent=2).decode() + "\n"
