"""What of a site does not agree with itself, or with the profiles of its editors."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from verse_tray.config.toml_text import locate
from verse_tray.editors.load import PIECE_MARK
from verse_tray.model.errors import ProfileFault, VerseTrayError
from verse_tray.model.phrasing import nearest
from verse_tray.sites.load import LoadedSite
from verse_tray.sites.marks import marks_in
from verse_tray.sites.records import Page, Region, Slot
from verse_tray.style.names import names_in


def contradictions(site: LoadedSite, text: str) -> list[ProfileFault]:
    """Return every contradiction, with its place in the site's file.

    Args:
        site: The site.
        text: Text of its file, searched for the lines.
    """
    found = [*_slots(site, "slots", site.site.slots, blocks=False), *_holders(site)]
    if not site.site.pages:
        found.append(("pages", "a site has a page at least"))
    for name, page in site.site.pages.items():
        found += _page(site, name, page)
    return [ProfileFault(key, message, *locate(text, key)) for key, message in found]


def _slots(site: LoadedSite, key: str, slots: dict[str, Slot], *, blocks: bool) -> Iterator[tuple[str, str]]:
    for name, slot in slots.items():
        if slot.editor is not None:
            yield from _editor(site, f"{key}.{name}.editor", slot.editor)
        if slot.wraps and slot.takes == "markup":
            yield f"{key}.{name}.wraps", "only a slot for styles or scripts has an element written around it"
        if blocks != (slot.at == "block"):
            told = "a slot of a region is at block" if blocks else "only a slot of a region is at block"
            yield f"{key}.{name}.at", told
        if slot.most is not None and len(slot.stands) > slot.most:
            yield f"{key}.{name}.stands", f"what stands there is longer than the {slot.most:,} characters it takes"


def _editor(site: LoadedSite, key: str, name: str) -> Iterator[tuple[str, str]]:
    try:
        site.editor(name)
    except VerseTrayError as error:
        yield key, str(error)


def _holders(site: LoadedSite) -> Iterator[tuple[str, str]]:
    holders = site.site.holders
    if holders is None:
        return
    if holders.editor is not None:
        yield from _editor(site, "holders.editor", holders.editor)
    if holders.reference.count("{name}") != 1:
        yield "holders.reference", "write {name} once, in the place of the holder's name, such as [[{name}]]"
        return
    opening, _, closing = holders.reference.partition("{name}")
    told = []
    for page in site.site.pages.values():
        for region in page.regions.values():
            try:
                fill = site.editor(region.editor).profile.publish.fill
            except VerseTrayError:  # told of where the region is
                return
            if fill is not None and (fill.opening, fill.closing) == (opening, closing):
                return
            told += [f"{region.editor} {f'fills in {fill.opening}…{fill.closing}' if fill else 'fills in nothing'}"]
    said = "; ".join(dict.fromkeys(told))
    yield "holders.reference", f"no region's editor fills in {opening}…{closing} ({said}); one of the two is wrong"


def _around(site: LoadedSite, page: str, region: Region, key: str) -> Iterator[tuple[str, str]]:
    """Yield what is wrong with what stands around each item of a region."""
    if region.around.count(PIECE_MARK) != 1:
        yield f"{key}.around", f"it has to hold {PIECE_MARK} once, in the place of the item"
    try:
        prefixes = site.editor(region.editor).style_prefixes
    except VerseTrayError:  # told of where the editor is named
        return
    for prefix in prefixes:
        names = [name.name for name in names_in(prefix)]
        if not all(name in region.around or name in site.pages.get(page, "") for name in names):
            told = f"{region.editor} lets styles reach only what is in {prefix}, and nothing of that name stands around"
            yield f"{key}.around", f'{told}; write it here, such as <div class="{names[0]}">{PIECE_MARK}</div>'


def _page(site: LoadedSite, name: str, page: Page) -> Iterator[tuple[str, str]]:
    key = f"pages.{name}"
    slots = {**site.site.slots, **page.slots}
    for slot in set(site.site.slots) & set(page.slots):
        yield f"{key}.slots.{slot}", "the site has a slot of this name too; give one of them another"
    yield from _slots(site, f"{key}.slots", page.slots, blocks=False)
    if not page.regions:
        yield f"{key}.regions", "a page has a region at least"
    for each, region in page.regions.items():
        at = f"{key}.regions.{each}"
        yield from _editor(site, f"{at}.editor", region.editor)
        yield from _slots(site, f"{at}.slots", region.slots, blocks=True)
        yield from _around(site, name, region, at)
        if region.twin is not None and region.twin not in page.regions:
            near = nearest(region.twin, page.regions)
            yield f"{at}.twin", f"there is no region {region.twin!r}" + (f"; did you mean {near}?" if near else "")
        for item, count in Counter(item.name for item in region.items).items():
            if count > 1:
                yield f"{at}.items", f"{count} items are called {item!r}; give each a name of its own"
    if name not in site.pages:
        return
    found = Counter(marks_in(site.pages[name]))
    for each in page.regions:
        if (count := found.pop(("region", each), 0)) != 1:
            yield f"{key}.page", f"{page.page} has to hold <!-- region: {each} --> once, and holds it {count} times"
    for kind, each in found:
        if kind == "region" or each not in slots:
            near = nearest(each, page.regions if kind == "region" else slots)
            hint = f"; did you mean {near}?" if near else ""
            yield f"{key}.page", f"{page.page} marks a {kind} {each!r} that nobody describes{hint}"
        elif found[kind, each] > 1:
            yield f"{key}.page", f"{page.page} holds <!-- slot: {each} --> {found[kind, each]} times; once is enough"
