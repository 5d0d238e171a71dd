"""The page that comes of pastes: a site's own order of slots, regions and items, with each paste in its place.

The same function makes the predicted page and puts the pastes together where that is tried out.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import lru_cache
from html import escape
from typing import Literal

from msgspec import Struct

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.editors.page import THEME_MARK
from verse_tray.journeys.journey import journey
from verse_tray.markup.serialise import escape_text
from verse_tray.model.decoding import Source
from verse_tray.place.targets import Target, field_editor, slot_of, slots_of_page
from verse_tray.sites.load import LoadedSite, Where
from verse_tray.sites.marks import plain_page, region_mark, slot_mark, with_marks_filled, with_slot_marks
from verse_tray.sites.records import Slot

Kind = Literal["libraries", "styles", "holder", "markup", "reference", "scripts", "mark"]
"""What a paste is; ``mark`` stands for a piece that a page is put around."""


class Paste(Struct, frozen=True):
    """One thing to paste."""

    text: str
    """What is to be copied, byte for byte."""
    kind: Kind
    """What it is."""
    target: Target
    """Where it goes."""
    pieces: tuple[str, ...]
    """The pieces that it is for."""
    index: int = -1
    """Its place among what stands in the region once it is there, from 0 on; for a slot of a block, that of the block;
    -1 for all others."""


def published(site: LoadedSite, paste: Paste, holders: dict[str, str] | None = None) -> str:
    """Return what readers get of a paste: its markup after the editor of its field."""
    return _published(site, paste, tuple((holders or {}).items()))


@lru_cache(maxsize=256)  # sheets, pages and remarks all ask for it
def _published(site: LoadedSite, paste: Paste, holders: tuple[tuple[str, str], ...]) -> str:
    editor = field_editor(site, paste.target, dict(holders))
    text, front, back = paste.text, "", ""
    if paste.target.kind == "slot" and slot_of(site, paste.target).wraps:
        front, back = _WRAPPERS[slot_of(site, paste.target).takes]
    made = journey(Source(front + text + back), editor).stages[-1].markup
    return made.removeprefix(front).removesuffix(back)


_WRAPPERS = {"styles": ("<style>", "</style>"), "scripts": ("<script>", "</script>"), "markup": ("", "")}


def holders_of(site: LoadedSite, pastes: Iterable[Paste]) -> dict[str, str]:
    """Return the markup of the holders that are among pastes, by name."""
    return {each.target.name: published(site, each) for each in pastes if each.target.kind == "holder"}


def predicted(site: LoadedSite, page: str, pastes: Sequence[Paste], *, themed: bool = True) -> str:
    """Return a page as readers get it once everything is pasted.

    Args:
        site: The site.
        page: The page's name.
        pastes: The pastes, in order; those for other pages are left out. In the place of one that is a mark stands
            :data:`verse_tray.editors.load.PIECE_MARK`.
        themed: Whether the site's usual theme is in it; else its mark is, and no other text is taken for a mark.
    """
    described = site.site.pages[page]
    holders = holders_of(site, pastes)
    widths = {name: region.width for name, region in described.regions.items()}
    slots = slots_of_page(site, page)
    made = site.pages.get(page) or plain_page(escape_text(described.title), widths)
    made = with_slot_marks(made, {target.name: slot.at for target, slot in slots})
    held = {
        slot_mark(target.name): _held(slot, [published(site, each) for each in pastes if each.target == target])
        for target, slot in slots
    }
    held |= {region_mark(name): "\n".join(_entries(site, page, name, pastes, holders)) for name in described.regions}
    if not themed:
        marked = any(each.kind == "mark" for each in pastes)
        held = {name: _without_marks(text, marked=marked) for name, text in held.items()}
    else:
        style = "<style>\n{}</style>".format(site.theme.replace("</style", r"<\/style"))
        held[THEME_MARK] = style if site.theme else ""
    return with_marks_filled(made, held)


_INNER = "\ufdd0"  # stands for the mark of the piece while others are taken out; no author uses it


def _without_marks(text: str, *, marked: bool) -> str:
    """Return what stands in a page, in which nothing is a mark but that of the piece."""
    text = text.replace(PIECE_MARK, "<!--piece-->").replace(THEME_MARK, "<!--theme-->")
    return text.replace(_INNER, PIECE_MARK) if marked else text


def _entries(site: LoadedSite, page: str, name: str, pastes: Sequence[Paste], holders: dict[str, str]) -> list[str]:
    """Return what stands in a region, in order."""
    region = site.site.pages[page].regions[name]
    entries = [region.around.replace(PIECE_MARK, item.markup) for item in region.items]
    here = [each for each in pastes if each.target == Target("region", name, page)]
    for paste in sorted(here, key=lambda each: each.index):
        shown = _INNER
        if paste.kind != "mark":
            shown = boxed(field_editor(site, paste.target, holders), published(site, paste, holders))
        own = [each for each in pastes if (each.target.page, each.target.region) == (page, name)]
        before = [published(site, each) for each in own if each.index == paste.index]
        entries.insert(paste.index, "\n".join([*before, region.around.replace(PIECE_MARK, shown)]))
    return entries


def boxed(editor: Editor, markup: str) -> str:
    """Return markup in the frame of its own that an editor's page shows it in, if it has one."""
    box = editor.profile.box
    if box is None:
        return markup
    sandbox = escape(" ".join(box.sandbox))
    return f'<iframe sandbox="{sandbox}" width="{box.width}" height="{box.height}" srcdoc="{escape(markup)}"></iframe>'


def _held(slot: Slot, texts: list[str]) -> str:
    """Return what a slot holds, in the page."""
    parts = [each.rstrip("\n") for each in (slot.stands, *texts) if each.strip()]
    if not parts:
        return ""
    if not slot.wraps:
        return "\n".join(parts)
    front, back = _WRAPPERS[slot.takes]
    return "\n".join([front, ("\n;\n" if slot.takes == "scripts" else "\n").join(parts), back])


def region_editor(
    where: Where, index: int, pastes: Sequence[Paste] = (), holders: dict[str, str] | None = None
) -> Editor:
    """Return the editor of a region, with the site's page around the place of a piece among what stands there.

    Args:
        where: The region.
        index: Its place among what stands there, from 0 on.
        pastes: What is pasted elsewhere on the page.
        holders: Holders that there will be besides those which the editor knows, by name.
    """
    target = Target("region", where.region, where.page)
    field = field_editor(where.site, target, holders)
    mark = Paste(PIECE_MARK, "mark", target, (), index)
    frame = predicted(where.site, where.page, [*pastes, mark], themed=False)
    found = Editor(field.name, field.profile, frame, where.site.theme, where.site.folder)
    found.asked = field.asked
    return found
