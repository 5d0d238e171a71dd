"""What can be pasted into: slots, regions and holders, each with the editor of its field."""

from __future__ import annotations

from typing import Literal, NamedTuple

from msgspec import Struct, structs

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Limit
from verse_tray.journeys.limits.use import size
from verse_tray.sites.load import LoadedSite
from verse_tray.sites.records import Slot

Kind = Literal["slot", "region", "holder"]


class Target(Struct, frozen=True):
    """A field that something is pasted into."""

    kind: Kind
    """What it is."""
    name: str
    """Name of the slot, the region or the holder."""
    page: str = ""
    """Its page; empty for what belongs to the whole site."""
    region: str = ""
    """Its region, for a slot that each block of a region has."""

    @property
    def key(self) -> str:
        """How it is written in files: ``slot own-styles``, ``region post:sidebar``, ``holder tide-clock``."""
        return f"{self.kind} {':'.join(each for each in (self.page, self.region, self.name) if each)}"


class Told(NamedTuple):
    """What an author is told of a target."""

    title: str
    """Its name for people."""
    where: str
    """How to get there."""
    scope: str
    """Whom it is for, in words: ``for the whole site``."""


def told(site: LoadedSite, target: Target) -> Told:
    """Return what an author is told of a target."""
    described = site.site
    if target.kind == "holder":
        assert described.holders is not None
        return Told(f"{described.holders.title}: {target.name}", described.holders.where, "for the whole site")
    page = described.pages.get(target.page)
    if target.kind == "slot":
        slot = slot_of(site, target)
        scope = "for the whole site"
        if page is not None:
            scope = f"for this block in {page.regions[target.region].title}" if target.region else f"for {page.title}"
        return Told(slot.title, slot.where, scope)
    assert page is not None
    region = page.regions[target.name]
    return Told(region.title, region.where, f"on {page.title}, {region.width:,} pixels wide")


def slot_of(site: LoadedSite, target: Target) -> Slot:
    """Return the slot that a target is."""
    described = site.site
    if not target.page:
        return described.slots[target.name]
    page = described.pages[target.page]
    return page.regions[target.region].slots[target.name] if target.region else page.slots[target.name]


def slots_near(site: LoadedSite, page: str, region: str) -> list[tuple[Target, Slot]]:
    """Return the slots that a block of a region can use, the nearest first: its own, the page's, the site's."""
    described = site.site.pages[page]
    near = [(Target("slot", name, page, region), slot) for name, slot in described.regions[region].slots.items()]
    near += [(Target("slot", name, page), slot) for name, slot in described.slots.items()]
    return near + [(Target("slot", name), slot) for name, slot in site.site.slots.items()]


def slots_of_page(site: LoadedSite, page: str) -> list[tuple[Target, Slot]]:
    """Return the slots that have a place on a page, those of the site first."""
    own = [(Target("slot", name, page), slot) for name, slot in site.site.pages[page].slots.items()]
    return [*((Target("slot", name), slot) for name, slot in site.site.slots.items()), *own]


def field_editor(site: LoadedSite, target: Target, holders: dict[str, str] | None = None) -> Editor:
    """Return the editor of a target's field.

    Args:
        site: The site.
        target: The target.
        holders: Holders that there will be besides those which the editor knows, by name.
    """
    if target.kind == "slot":
        name = slot_of(site, target).editor
    elif target.kind == "holder":
        name = site.site.holders.editor if site.site.holders is not None else None
    else:
        name = site.site.pages[target.page].regions[target.name].editor
    if name is None:
        return plain_editor()
    editor = site.editor(name)
    profile = structs.replace(editor.profile, regions=())
    if target.kind == "region":
        region = site.site.pages[target.page].regions[target.name]
        if region.one_field:
            there = "\n".join(item.markup for item in region.items)
            profile = structs.replace(profile, limits=tuple(_with(limit, there) for limit in profile.limits))
    return with_holders(editor.with_(profile=profile), holders or {})


def with_holders(editor: Editor, holders: dict[str, str]) -> Editor:
    """Return an editor that fills in references to holders besides those which it knows, if it fills in any."""
    profile, fill = editor.profile, editor.profile.publish.fill
    if not holders or fill is None:
        return editor
    fill = structs.replace(fill, holders={**fill.holders, **holders})
    return editor.with_(profile=structs.replace(profile, publish=structs.replace(profile.publish, fill=fill)))


def _with(limit: Limit, there: str) -> Limit:
    """Return a limit that counts what stands in the field already."""
    if limit.of != "piece" or limit.unit not in ("characters", "utf-16", "bytes"):
        return limit
    return structs.replace(limit, already=limit.already + size(there, limit.unit))
