"""Reading a page: what its readers see of the piece in it, in a window of a given width."""

from __future__ import annotations

from msgspec import Struct, structs

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.reading.framed_match import match_framed
from verse_tray.reading.frames import FramedPiece
from verse_tray.reading.looks import KEEPS_LINES, box_of, is_lifted, lines_of, look_of, painted
from verse_tray.reading.made_text import made_text
from verse_tray.reading.meaning import MEANS, MEDIA, is_aside, medium_of, own_roles
from verse_tray.reading.records import Block, Box, Reading, Run
from verse_tray.reading.scripts import is_active
from verse_tray.reading.styles_known import Flags
from verse_tray.style.cascade import Hit, Matched, Winners, identity
from verse_tray.style.colours import Colour, over
from verse_tray.style.computed_style import Style

DESKTOP, PHONE = 1280, 375
"""Widths of the windows that readings are made for, in CSS pixels."""

_WHITE = Colour(1, 1, 1)
_BOXES_OF_ITEMS = frozenset(("flex", "inline-flex", "grid", "inline-grid"))
_NOTHING: frozenset[str] = frozenset()
_OF_THEIR_OWN = ("q", "details")  # elements of which browsers make more than is in them, or show less
_NOT_SHOWN = frozenset("script style template head title meta link base noscript datalist option optgroup".split())


class _Around(Struct, frozen=True):
    """What holds for the children of an element."""

    style: Style
    ground: Colour
    lines: frozenset[str]
    roles: frozenset[str]
    link: str
    block: int
    key: int
    inside: bool
    """Whether they are in the piece."""
    unseen: str
    """Why nothing of them is shown: ``hidden``, ``spoken``, ``gone``; empty for shown."""
    floated: bool
    """Whether they stand at the right, in something that floats there."""
    is_plain: bool
    """Whether text among them is shown as it is typed, but for its spaces."""


def read(page: FramedPiece, width: int) -> Reading:
    """Read a page.

    Args:
        page: A piece in its page.
        width: Width of the window in CSS pixels.
    """
    matched, bounded = match_framed(page)
    return _Reader(page, width, matched, bounded=bounded).read()


class _Reader:
    def __init__(self, page: FramedPiece, width: int, matched: Matched, *, bounded: bool) -> None:
        self._page = page
        self._matched = matched
        self._known = page.frame.styles_known(width)
        self._hits: dict[int, tuple[Hit, ...]] = {}
        self._keyframes = {
            named.name.split()[-1].strip("\"'")
            for sheet in page.sheets
            for named in sheet.named
            if named.name.startswith("@keyframes ")
        }
        self._active = is_active(page.holder, matched)
        self._apart = True  # whether something stands between the last run and what comes
        self._below = False
        self._filled = False
        self._reading = Reading(width, bounded=bounded)

    def read(self) -> Reading:
        first, nothing = self._known.first, _NOTHING
        around = _Around(
            first, _WHITE, nothing, nothing, "", 0, 0, inside=False, unseen="", floated=False, is_plain=True
        )  # fmt: skip
        self._reading.blocks.append(Block(0, 0, "block", across=False, gap=0, before=0, after=0, left=0, right=0))
        # pairs of a node and what is around it; for the end of an element, what was begun
        stack: list[_Waiting] = [(child, around) for child in self._page.tree.root.children[::-1]]
        while stack:
            node, here = stack.pop()
            if type(node) is Element:
                self._element(node, here, stack)
            elif type(node) is Text:
                if here.inside:
                    self._text(node, here)
            elif type(node) is _Made:
                self._show(node, here)
            elif type(node) is _Begun:
                self._end(node, here)
            elif node is None:  # the end of a block
                self._apart = True
        return self._reading

    def _element(self, element: Element, here: _Around, stack: list[_Waiting]) -> None:
        inside = here.inside or element is self._page.holder
        if element.name in _NOT_SHOWN and element.namespace == HTML:
            return
        known = self._known
        hits = self._matched.get(identity(element), ())
        if hits:
            same = self._hits.get(id(hits))
            hits = self._hits.setdefault(id(hits), known.hits(hits)) if same is None else same
        style, traits, winners, flags = known.element(element, here.style, hits)
        key = element.key
        unseen = here.unseen or traits.unseen
        if unseen == "gone" and not (inside and self._active):
            return
        if element.name == "br":
            self._apart = self._below = True
            return
        block, floated = here.block, here.floated or traits.floated
        if traits.is_block:
            self._reading.blocks.append(Block(block, key, *traits.model))
            block = len(self._reading.blocks) - 1
            self._apart = True
            stack.append((None, here))
        ground = over(traits.ground, here.ground) if traits.ground.alpha else here.ground
        roles, link = here.roles, here.link
        if element.name in MEANS or traits.is_marked:
            roles |= own_roles(element, style)
        if element.name == "a":
            link = element.attributes.get("href") or link
        lines = traits.lines if traits.cut else here.lines | traits.lines if traits.lines else here.lines
        around = _Around(style, ground, lines, roles, link, block, key, inside, unseen, floated, traits.is_plain)
        if inside and not unseen and (flags.moves or "animation-name" in style.said):
            self._note_moving(element, style, winners)
        if inside and element is not self._page.holder and not unseen:
            if traits.paints and element.name != "hr":
                stack.append((_Begun(style, key, len(self._reading.runs), len(self._reading.media)), here))
        if (
            inside
            and element.name in MEDIA
            and (medium := medium_of(element, style, len(self._reading.runs))) is not None
        ):
            if not unseen and style["visibility"] == "visible":
                medium.link, medium.block = link, block
                self._reading.media.append(medium)
                self._apart = True
            return
        if flags.makes or element.name in _OF_THEIR_OWN:
            self._children(element, around, winners, flags, stack)
        else:
            stack += [(child, around) for child in reversed(element.children)]

    def _children(
        self, element: Element, around: _Around, winners: Winners, flags: Flags, stack: list[_Waiting]
    ) -> None:
        makes = (flags.makes or element.name == "q") and around.inside and not around.unseen
        if makes and (behind := self._made(element, "::after", around, winners)) is not None:
            stack.append(behind)
        if element.name == "details" and "open" not in element.attributes:
            shut = structs.replace(around, unseen=around.unseen or "hidden")
            for child in reversed(element.children):
                summary = type(child) is Element and child.name == "summary"
                stack.append((child, around if summary else shut))
        else:
            stack += [(child, around) for child in reversed(element.children)]
        if makes and (before := self._made(element, "::before", around, winners)) is not None:
            stack.append(before)

    def _text(self, text: Text, here: _Around) -> None:
        data, self._filled = (text.data, False) if text.means is None else (text.means, True)
        if here.unseen:
            if data.strip() and not is_aside(data):
                kept = self._reading.spoken if here.unseen == "spoken" else self._reading.hidden
                kept.append((text.key, data))
            return
        style = here.style
        if here.is_plain:
            self._say(text.key, data, here)
            return
        if style["visibility"] != "visible" or style["font-size"] < 1:
            if data.strip() and self._active:
                self._reading.hidden.append((text.key, data))
            return
        if style["white-space-collapse"] in KEEPS_LINES and "\n" in data:
            first, *rest = data.split("\n")
            self._say(text.key, first, here)
            for line in rest:
                self._apart = self._below = True
                self._say(text.key, line, here)
        else:
            self._say(text.key, data, here)

    def _say(self, key: int, data: str, here: _Around, *, made: bool = False) -> None:
        shown = " ".join((data if data.isascii() else data.translate(_WITHOUT_WIDTH)).split())
        if not shown:
            self._apart = self._apart or bool(data)
            return
        style = here.style
        case = style["text-transform"]
        if case != "none":
            shown = _CASES.get(case, str)(shown)
        sign = (id(style), here.ground, here.lines, here.floated)
        looks = self._known.looks
        look = looks.get(sign)
        if look is None:
            look = look_of(style, here.ground, here.lines)
            look = looks.setdefault(sign, structs.replace(look, align="right") if here.floated else look)
        apart = self._apart or data[0].isspace()
        run = Run(key, shown, look, here.roles, here.link, here.block, made, apart, self._below, here.key, self._filled)
        self._reading.runs.append(run)
        self._apart, self._below = data[-1].isspace(), False

    def _made(self, element: Element, which: str, around: _Around, winners: Winners) -> tuple[_Made, _Around] | None:
        """Return what a pseudo-element shows, and how."""
        if not any(place.endswith(which) for place in winners):
            sign = {"::before": "\u201c", "::after": "\u201d"}[which]
            return (_Made(element.key, sign, around.ground), around) if element.name == "q" else None
        style = self._known.made(element, around.style, winners, which)
        content = style["content"]
        if content in ("normal", "none") or style["display"] == "none" or style["opacity"] == 0:
            return None
        return _Made(element.key, made_text(content, element), around.ground), structs.replace(
            around, style=style, ground=over(painted(style), around.ground), lines=lines_of(style, around.lines)
        )

    def _show(self, made: _Made, here: _Around) -> None:
        display = here.style["display"]
        apart = display not in ("inline", "contents") or is_lifted(here.style)
        self._apart = self._apart or apart
        first = len(self._reading.runs)
        self._say(made.key, made.text, here, made=True)
        self._end(
            _Begun(here.style, made.key, first, len(self._reading.media)), structs.replace(here, ground=made.ground)
        )
        self._apart = self._apart or apart

    def _end(self, begun: _Begun, here: _Around) -> None:
        """Note the box that an element paints, now that all that is in it was read."""
        reading = self._reading
        filled = len(reading.runs) > begun.first or len(reading.media) > begun.media
        if not begun.key and filled and all(run.filled for run in reading.runs[begun.first :]):
            return  # what the site itself puts in place of a mark
        item = here.style["display"] in _BOXES_OF_ITEMS
        sign = id(begun.style), here.ground, filled, item
        boxes = self._known.boxes
        if sign not in boxes:
            boxes[sign] = box_of(begun.style, here.ground, filled=filled, item=item)
        if (painted_box := boxes[sign]) is not None:
            reading.boxes.append(Box(begun.key, begun.first, len(reading.runs), painted_box))

    def _note_moving(self, element: Element, style: Style, winners: Winners) -> None:
        """Note what changes when readers point at an element, and what moves by itself."""
        moving = self._reading.moving
        for place, (value, _) in winners.items():
            name, _, where = place.partition(" ")
            if where.startswith(":") and not where.startswith("::") and not name.startswith(_UNREMARKABLE):
                told = moving.get((element.key, where), "")
                moving[element.key, where] = f"{told}{name}: {value}; "
        name = style["animation-name"]
        if name != "none" and any(part.strip("\"' ") in self._keyframes for part in name.split(",")):
            moving[element.key, "animation"] = name


class _Made(Struct, frozen=True):
    """Text that a style makes."""

    key: int
    text: str
    ground: Colour
    """What is behind it."""


class _Begun(Struct, frozen=True):
    """An element of which the end is not reached."""

    style: Style
    key: int
    first: int
    """Number of the first run in it."""
    media: int
    """How many pictures and the like stand before it."""


_Waiting = tuple[Node | _Begun | _Made | None, _Around]
"""What is to be read, and what is around it; for None, the end of a block."""
_UNREMARKABLE = ("cursor", "transition", "--")
_WITHOUT_WIDTH = dict.fromkeys((0xAD, 0x200B, 0x200C, 0x200D, 0x2060, 0xFE0E, 0xFE0F, 0xFEFF))
_CASES = {"uppercase": str.upper, "lowercase": str.lower, "capitalize": str.title}
