"""The ways in which a piece can go into a region: whole, its styles and scripts in slots, its code in a holder."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from verse_tray.fitting.judge import Judge
from verse_tray.fitting.trips import Trips
from verse_tray.journeys.journey import journey
from verse_tray.markup.parse import parse_fragment
from verse_tray.model.findings import Finding, Verdict
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View
from verse_tray.place.doings import still_doing
from verse_tray.place.page import Kind, Paste, published, region_editor
from verse_tray.place.parts import Library, Parts, Script, is_nothing, script_elements, style_element, take_apart
from verse_tray.place.targets import Target, slot_of, slots_near, with_holders
from verse_tray.reading.differences import Comparison
from verse_tray.sites.load import Where
from verse_tray.sites.records import Slot

_EARLY = ("head", "body-start", "block")  # what stands before the doctype changes how browsers lay out the page
_DOING = 0.5
"""What it counts, beside how much alike a page looks, that it does what it did."""


class Part(NamedTuple):
    """Something that is pasted, before it is known where among others it comes."""

    text: str
    kind: Kind
    target: Target


class Way(NamedTuple):
    """A way in which a piece can go into a region."""

    name: str
    """What it is called: ``whole``, ``styles apart``, ``scripts apart``, ``both apart``, ``code in a holder``,
    ``all in a holder``."""
    field: str
    """What goes into the region's field."""
    parts: tuple[Part, ...]
    """What goes elsewhere."""

    @property
    def reference(self) -> bool:
        """Whether nothing but a reference goes into the field."""
        return self.name == "all in a holder"


class Outcome(NamedTuple):
    """What comes of a way."""

    way: Way
    texts: tuple[str, ...]
    """What is pasted into the field, in order: several where it is too large for one paste."""
    share: float
    """How much alike what readers get is to the piece as written, 0 to 1."""
    doing: float
    """How much of what it does it still does, 0 to 1."""
    missing: tuple[str, ...]
    """What it does not do any more, in words."""
    comparison: Comparison
    """What readers see, beside what they were to see."""
    refused: bool
    """Whether the field takes nothing."""
    findings: tuple[Finding, ...]
    """What becomes of the pastes in the field, with places in their text."""
    same: bool
    """Whether what is published is the piece itself, character for character."""

    @property
    def worth(self) -> float:
        """The two shares in one number."""
        return self.share + _DOING * self.doing

    @property
    def is_perfect(self) -> bool:
        """Whether readers get all of it."""
        return self.share > 1 - 1e-9 and self.doing > 1 - 1e-9

    @property
    def verdict(self) -> Verdict:
        """What readers get of the piece."""
        found = self.comparison
        if self.refused or found.kept < found.of or found.leaked:
            return Verdict.BROKEN
        if found.harmed or self.doing < 1 - 1e-9:
            return Verdict.DAMAGED
        return Verdict.INTACT if self.same else Verdict.REWRITTEN


class Ways:
    """The ways of one piece into one region."""

    def __init__(self, piece: Piece, where: Where, index: int, holder: str) -> None:
        """Take a piece.

        Args:
            piece: The piece.
            where: The region.
            index: Its place among what stands there, from 0 on.
            holder: The name that a holder of its code has.
        """
        self._piece = piece
        self._where = where
        self._holder = holder
        self.editor = region_editor(where, index)
        """The editor of the region, with the site's page around the piece."""
        self.judge = Judge(Trips(piece.source, self.editor), piece.source.text)
        """Holds what comes of a way against the piece."""

    def apart(self) -> Iterator[Way]:
        """Yield the ways of pasting it in parts, the ones with the fewest first."""
        if self.editor.profile.box is not None or not self._piece.source_map.exact:
            return
        apart = take_apart(self._piece)
        styles, left = self._styles(apart)
        scripts = self._scripts(apart)
        if styles:
            yield Way("styles apart", apart.without_styles if not left else self._text(apart, left), tuple(styles))
        if scripts:
            yield Way("scripts apart", apart.without_scripts, tuple(scripts))
        if styles and scripts:
            yield Way("both apart", self._text(apart, left, scripts=False), (*styles, *scripts))
        yield from self._in_holder(apart)

    @property
    def whole(self) -> Way:
        """The way of pasting all of it into the field."""
        return Way("whole", self._piece.source.text, ())

    def _text(self, apart: Parts, links: list[Library], *, scripts: bool = True) -> str:
        """Return what stays in the field when links that no slot takes stay there."""
        front = "".join(f"{each.tag}\n" for each in links)
        return front + (apart.without_styles if scripts else apart.markup)

    def _styles(self, apart: Parts) -> tuple[list[Part], list[Library]]:
        """Return where styles go, and the linked sheets that no slot takes."""
        links = [each for each in apart.libraries if not each.is_script]
        slots = slots_near(self._where.site, self._where.page, self._where.region)
        found = next(((target, slot) for target, slot in slots if slot.takes == "styles"), None)
        found = found or next(((t, s) for t, s in slots if s.takes == "markup" and s.at in ("head", "block")), None)
        heads = [
            (t, s) for t, s in slots if s.takes in ("markup", "styles") and not s.wraps and s.at in ("head", "block")
        ]
        parts = []
        if links and heads:
            parts += [Part(each.tag, "libraries", heads[0][0]) for each in links]
            links = []
        if apart.styles and found is not None:
            text = apart.styles if found[1].wraps else style_element(apart.styles)
            parts.append(Part(text + "\n" * (not text.endswith("\n")), "styles", found[0]))
        elif apart.styles:
            return [], []
        return parts, links

    def _scripts(self, apart: Parts) -> list[Part]:
        """Return where scripts go."""
        loads = [each for each in apart.libraries if each.is_script]
        if not loads and not apart.scripts:
            return []
        slots = slots_near(self._where.site, self._where.page, self._where.region)
        late = [each for each in slots if each[1].takes in ("scripts", "markup") and each[1].at == "body-end"]
        early = [each for each in slots if each[1].takes in ("scripts", "markup") and each[1].at in _EARLY]
        if not any(each.needs_page for each in apart.scripts):
            late += early
        for target, slot in late:
            if not slot.wraps or not (loads or any(each.module for each in apart.scripts)):
                parts = [Part(each.tag, "libraries", target) for each in loads]
                if apart.scripts:
                    parts.append(Part(_scripts_text(apart.scripts, slot), "scripts", target))
                return parts
        return []

    def _in_holder(self, apart: Parts) -> Iterator[Way]:
        """Yield the ways with a holder, where the field fills in references to holders."""
        holders, fill = self._where.site.site.holders, self.editor.profile.publish.fill
        if holders is None or fill is None or not holders.reference.startswith(fill.opening):
            return
        reference = holders.reference.replace("{name}", self._holder)
        target = Target("holder", self._holder)
        loads = [each.tag for each in apart.libraries]
        styles = [style_element(apart.styles)] if apart.styles else []
        scripts = [script_elements(apart.scripts)] if apart.scripts else []
        if code := "\n".join([*loads, *styles, *scripts]):
            if not is_nothing(apart.markup):
                field = f"{apart.markup.rstrip()}\n{reference}\n"
                yield Way("code in a holder", field, (Part(f"{code}\n", "holder", target),))
        text = self._piece.source.text
        yield Way("all in a holder", f"{reference}\n", (Part(text, "holder", target),))

    def outcome(self, way: Way, texts: tuple[str, ...] = ()) -> Outcome:
        """Return what comes of a way.

        Args:
            way: The way.
            texts: What goes into the field in place of what the way says; none at all for that.
        """
        texts, site = texts or (way.field,), self._where.site
        pastes = [Paste(each.text, each.kind, each.target, ()) for each in way.parts]
        held = {each.target.name: published(site, each) for each in pastes if each.target.kind == "holder"}
        editor = with_holders(self.editor, held)
        made = [journey(Piece(self._piece.source.edited(text)), editor) for text in texts]
        view = made[0].published_view
        if way.name != "whole" or len(made) > 1:
            view = View(parse_fragment(self._composed(pastes, [each.stages[-1].markup for each in made])).tree)
        share, comparison = self.judge.weighed(view)
        doing, missing = still_doing(self._piece.written_view, view)
        refused = any(each.refused for each in made)
        same = len(made) == 1 and made[0].stages[-1].markup == self._piece.source.text
        findings = tuple(finding for each in made for finding in each.findings)
        return Outcome(way, texts, -1.0 if refused else share, doing, missing, comparison, refused, findings, same)

    def _composed(self, pastes: list[Paste], fields: list[str]) -> str:
        """Return what readers get of all pastes of a piece, in the order in which the page has them."""
        site = self._where.site
        front, back = list[str](), list[str]()
        for each in pastes:
            if each.target.kind == "slot":
                slot = slot_of(site, each.target)
                text = published(site, each)
                if slot.wraps:
                    text = style_element(text) if slot.takes == "styles" else f"<script>{text}</script>"
                (back if slot.at == "body-end" else front).append(text)
        return "\n".join([*front, *fields, *back])


def _scripts_text(scripts: tuple[Script, ...], slot: Slot) -> str:
    if slot.wraps:
        return "\n;\n".join(each.text for each in scripts) + "\n"
    return script_elements(scripts) + "\n"
