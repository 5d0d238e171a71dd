"""A piece as readers get it: once for all editors that give readers the same."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from io import StringIO

from rich.console import Console, Group, RenderableType
from rich.padding import Padding
from rich.text import Text as Line

from verse_tray.journeys.highlights import Highlight, text_runs, written_highlights
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.stages import STAGES
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.grouping import Alike, grouped
from verse_tray.model.phrasing import listed
from verse_tray.preview.pages.described import text_of
from verse_tray.reports.styles import SEVERITY_STYLES, VERDICT_STYLES
from verse_tray.reports.terminal.blocks import blocks_of
from verse_tray.reports.terminal.inline import Losses, label_of

_WORST = 3
_SAID = 60  # characters of what is gone

_HEADINGS = {
    "editor": " In the editor ",
    "published": " As published ",
    "fitted": " Fitted, as published ",
    "placed": " Placed, as published ",
}


def piece_views(
    journeys: Sequence[Journey],
    sides: Sequence[str],
    width: int,
    besides: Mapping[str, Sequence[Journey]] | None = None,
) -> Iterator[RenderableType]:
    """Yield what readers of each editor's page get, editors alike together.

    Args:
        journeys: Journeys of one piece.
        sides: Sides to show: ``written``, ``editor``, ``published``, ``fitted``, ``placed``.
        width: Columns of the terminal.
        besides: Those of fitted or placed pieces, by the side.
    """
    if "written" in sides:
        tree = journeys[0].piece.parsed.tree
        yield Line.assemble((" As written ", "bold reverse"))
        yield Padding(Group(*blocks_of(tree.root.children, Losses({}, frozenset()))), (1, 0, 0, 2))
    for side in ("editor", "published", "fitted", "placed"):
        shown = (besides or {}).get(side, journeys)
        for alike, body in _grouped(shown, side, width) if side in sides else ():
            yield from _one(alike, side, body)


def _grouped(journeys: Sequence[Journey], side: str, width: int) -> list[tuple[list[Journey], RenderableType]]:
    groups: dict[str, tuple[list[Journey], RenderableType]] = {}
    for journey in journeys:
        body = _body(journey, side)
        plain = Console(file=StringIO(), width=width, color_system=None, force_terminal=False)
        with plain.capture() as shown:
            plain.print(body)
        groups.setdefault(shown.get(), ([], body))[0].append(journey)
    return list(groups.values())


def _one(alike: list[Journey], side: str, body: RenderableType) -> Iterator[RenderableType]:
    worst = max(alike, key=lambda journey: journey.verdict.rank)
    heading = Line.assemble((_HEADINGS[side], "bold reverse"))
    for verdict in sorted({journey.verdict for journey in alike}, key=lambda each: -each.rank):
        names = listed([journey.editor.name for journey in alike if journey.verdict is verdict], 99)
        heading.append_text(Line.assemble("  ", (verdict.value, VERDICT_STYLES[verdict]), f" in {names}"))
    yield Padding(heading, 0)  # wrapped, as all of this is
    yield Padding(body, (1, 0, 0, 2))
    if side != "editor":
        for group in grouped([("", worst.findings)])[:_WORST]:
            yield Padding(_finding(group), (0, 0, 0, 2))
        yield Line("")


def _finding(group: Alike) -> Line:
    finding = group.finding
    place = "" if finding.line is None else f"{finding.line}:{finding.column} "
    return Line.assemble(
        place, (finding.severity.value, SEVERITY_STYLES[finding.severity]), f" {finding.message}{group.elsewhere}"
    )


def _body(journey: Journey, side: str) -> RenderableType:
    if journey.refused:
        return Line("Nothing: the piece is refused.\n", "red")
    if side == "editor":
        view = journey.editor.profile.view
        if view.shows == "notice":
            return Line(f"[{view.notice or 'a notice in place of the piece'}]\n")
        tree = parse_fragment(journey.stages[STAGES.index("publish") - 1].markup, bounded=True).tree
        return Group(*blocks_of(tree.root.children, Losses({}, frozenset())))
    parts = list(blocks_of(journey.published.root.children, _losses(journey)))
    return Group(*parts) if parts else Line("Nothing of it shows.\n", "dim")


def _losses(journey: Journey) -> Losses:
    before, after = journey.piece.written_view, journey.published_view
    if before is after:
        return Losses({}, frozenset())
    there = {node.key for node in after.tree.nodes() if node.key}
    marks = written_highlights(journey)
    gone = {(mark.key, mark.run) for mark in marks if mark.kind == "gone"}
    gone |= {(each.key, None) for each in before.elements if each.name in _UNSEEN and each.key not in there}
    other = {mark.key: mark.said[-1] for mark in marks if mark.run is None and mark.said and _is_loss(mark)}
    wrote = {key: "".join(data.split()) for key, (data, _) in before.visible_texts.items()}
    leaked = set()
    for text, visible in after.texts:
        now = "".join((text.data if text.means is None else text.means).split())
        if visible and now and now not in wrote.get(text.key, ""):
            leaked.add(text.key or id(text))
    return Losses(_behind(before.tree, there, gone, other), frozenset(leaked))


_UNSEEN = frozenset(("script", "style"))


def _is_loss(mark: Highlight) -> bool:
    """Tell whether an element that is still there has lost its look, or what it is."""
    return mark.kind == "look" or (mark.kind == "changed" and mark.said[-1].endswith("> now."))


def _behind(
    written: Tree, there: set[int], gone: set[tuple[int, int | None]], other: dict[int, str]
) -> dict[int, list[str]]:
    """Return what is gone by the last node in front of it that is still there.

    By its key where it stands right behind the node or at the beginning of what is in it, by its key below zero where
    the node is an element that has ended, by 0 where there is none.
    """
    runs = {key: place for place, keys in text_runs(written).items() for key in keys}
    behind: dict[int, list[str]] = {}
    last = 0
    stack = [(*pair, "") for pair in _with_sibling(written.root)]
    while stack:
        node, sibling, around = stack.pop()
        if sibling in there:
            last = -sibling
        if type(node) is Text:
            if runs.get(node.key) in gone:
                behind.setdefault(last, []).append("gone: " + _short(f"“{' '.join(node.data.split())}”"))
            elif node.key in there:
                last = node.key
        elif type(node) is Element:
            if (node.key, None) in gone:
                behind.setdefault(last, []).append(f"gone: {_named(node)}")
                continue
            if node.key in there:
                last = node.key
            told = other.get(node.key, "")
            if told and told != around:  # the same of all that is in it is told once
                behind.setdefault(last, []).append(told.replace("Of its look goes", "look gone").rstrip("."))
            stack += [(*pair, told or around) for pair in _with_sibling(node)]
    return behind


def _with_sibling(parent: Element) -> list[tuple[Node, int]]:
    """Return the children of an element, the last first, each with the key of the element right before it."""
    found, sibling = [], 0
    for child in parent.children:
        found.append((child, sibling))
        if type(child) is Element:
            sibling = child.key
        elif type(child) is Text and child.data.strip():
            sibling = 0
    return found[::-1]


def _named(element: Element) -> str:
    label = label_of(element)
    if label:
        return _short(label.strip("[]"))
    words = text_of(element)
    return _short(f"<{element.name}>" + (f" “{words}”" if words else ""))


def _short(text: str) -> str:
    return text if len(text) <= _SAID else text[: _SAID - 1] + "…"
