"""A site in plain sentences: its pages, with the regions and slots that an author can paste into."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.sites.load import LoadedSite
from verse_tray.sites.records import Region, Slot

_AT = {
    "before-everything": "before everything",
    "head": "in the head",
    "body-start": "at the start of the body",
    "body-end": "at the end of the body",
    "block": "right before the block",
}


def site_text(site: LoadedSite) -> Iterator[RenderableType]:
    """Yield what to print about a site."""
    described = site.site
    yield Text.assemble((site.name, "bold"), f"  {described.title}")
    yield Text(f"{described.summary}\n")
    if described.slots:
        yield Text("Slots of the whole site", "bold")
        yield _slots(described.slots)
    if described.holders is not None:
        yield Text("Holders", "bold")
        told = f"{described.holders.where}; {described.holders.reference} in a field stands for one."
        yield Padding(_rows([(described.holders.title, told)]), (0, 0, 1, 2), expand=False)
    for name, page in described.pages.items():
        yield Text.assemble((f"Page {site.name}:{name}", "bold"), f"  {page.title}")
        for region, about in page.regions.items():
            yield Padding(_rows([(f"--region {region}", _region(about))]), (0, 0, 0, 2), expand=False)
            items = [f"{number} {item.name}" for number, item in enumerate(about.items, 1)]
            yield Padding(Text(f"stands there: {', '.join(items) or 'nothing'}"), (0, 0, 0, 6), expand=False)
            if about.slots:
                yield Padding(Text("each block has slots besides:"), (0, 0, 0, 6), expand=False)
                yield Padding(_slots(about.slots), (0, 0, 0, 4), expand=False)
        if page.slots:
            yield Padding(Text("slots of this page:"), (0, 0, 0, 2), expand=False)
            yield _slots(page.slots)
        yield Text("")


def _region(region: Region) -> str:
    phone = f", {region.phone_width:,} on a phone" if region.phone_width else ""
    field = "one field for all that stands there" if region.one_field else "a field for each item"
    twin = f" What is put here belongs into {region.twin} too." if region.twin else ""
    return (
        f"{region.title}: {region.width:,} pixels wide{phone}; editor {region.editor}, {field}. {region.where}.{twin}"
    )


def _slots(slots: Mapping[str, Slot]) -> RenderableType:
    rows = []
    for name, slot in slots.items():
        bare = ", without an element around them" if slot.wraps else ""
        most = f", at most {slot.most:,} characters" if slot.most else ""
        stands = ", not empty" if slot.stands else ""
        rows.append((name, f"{slot.title}: takes {slot.takes}{bare}{most}{stands}; {_AT[slot.at]}. {slot.where}."))
    return Padding(_rows(rows), (0, 0, 1, 4), expand=False)


def _rows(rows: list[tuple[str, str]]) -> Table:
    table = Table(box=None, show_header=False, padding=(0, 2, 0, 0), pad_edge=False)
    table.add_column(no_wrap=True, min_width=18)
    table.add_column(overflow="fold")
    for about, sentence in rows:
        table.add_row(about, sentence)
    return table
