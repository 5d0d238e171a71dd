"""Where in a piece something was lost, and where on the page something is that nobody wrote: marks for previews."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple

from verse_tray.journeys.journey import Journey
from verse_tray.journeys.survival.structure import are_equivalent
from verse_tray.markup.names import HTML, INVISIBLE
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.phrasing import listed
from verse_tray.piece.locations import key_of
from verse_tray.piece.view import View, solid
from verse_tray.style.cascade import Winners

Kind = Literal["gone", "changed", "look", "new", "leaked"]
"""What a mark says: element or text are gone with all that is in them; it is another element, or lacks something; its
look is lost; nobody wrote it; it was no text."""

_SILENT = frozenset(("script", "style", "template", "link", "meta", "title", "base", "noscript", "head"))


class Highlight(NamedTuple):
    """Something to mark in a view."""

    key: int
    """Number of the element (see :func:`numbered`), or of the one around the text; 0 for the piece as a whole."""
    run: int | None
    """Which run of text inside that element, from 0; None for the element itself."""
    kind: Kind
    """What happened to it."""
    said: tuple[str, ...]
    """Sentences about it."""


def numbered(tree: Tree) -> Iterator[tuple[Element, int]]:
    """Yield each element of a tree with its number: its key, or, for one that an editor added, one below zero."""
    added = 0
    for element in tree.elements():
        if element.key:
            yield element, element.key
        else:
            added -= 1
            yield element, added


def written_highlights(journey: Journey) -> tuple[Highlight, ...]:
    """Return what of the written piece readers do not get, in tree order; of what goes as a whole, the outermost."""
    before, after = journey.piece.written_view, journey.published_view
    if before is after:
        return ()
    said = _said(journey)
    there = {text.key for text, visible in after.texts if visible}
    found: list[Highlight] = []
    stack: list[tuple[Node, int, int]] = [(node, 0, run) for node, run in reversed(_runs(before.tree.root))]
    while stack:
        node, around, run = stack.pop()
        if type(node) is Text:
            if node.key not in there and solid(node.data):
                found.append(Highlight(around, run, "gone", said.get(node.key, ())))
        elif type(node) is Element and node.name not in _SILENT:
            mark = _of_element(node, before, after, said)
            if mark is not None and mark.kind == "gone" and _leaves_something(node, after, there):
                mark = mark._replace(kind="changed")
            if mark is not None:
                found.append(mark)
            if node.name not in INVISIBLE and not (mark is not None and mark.kind == "gone"):
                stack += [(child, node.key, run) for child, run in reversed(_runs(node))]
    return tuple(found)


def published_highlights(journey: Journey) -> tuple[Highlight, ...]:
    """Return what readers get and nobody wrote: elements that the editor added, and leaked text."""
    before, after = journey.piece.written_view, journey.published_view
    if before is after:
        return ()
    said = _said(journey)
    numbers = {id(element): number for element, number in numbered(after.tree)}
    wrote = {key: "".join(data.split()) for key, (data, _) in before.visible_texts.items()}
    found: list[Highlight] = []
    stack: list[tuple[Node, int, int]] = [(node, 0, run) for node, run in reversed(_runs(after.tree.root))]
    while stack:
        node, around, run = stack.pop()
        if type(node) is Text:
            now = "".join((node.data if node.means is None else node.means).split())
            if now and now not in wrote.get(node.key, ""):
                found.append(Highlight(around, run, "leaked", said.get(node.key, ())))
        elif type(node) is Element and node.name not in _SILENT:
            if not node.key:
                found.append(Highlight(numbers[id(node)], None, "new", (f"The editor added this <{node.name}>.",)))
            if node.name not in INVISIBLE:
                stack += [(child, numbers[id(node)], run) for child, run in reversed(_runs(node))]
    return tuple(found)


def text_runs(tree: Tree) -> dict[tuple[int, int], tuple[int, ...]]:
    """Return the keys of the texts of a tree by the number of the element around them and the run of text in it."""
    numbers = {id(element): number for element, number in numbered(tree)} | {id(tree.root): 0}
    found: dict[tuple[int, int], tuple[int, ...]] = {}
    for parent in (tree.root, *tree.elements()):
        for node, run in _runs(parent):
            if type(node) is Text:
                place = numbers[id(parent)], run
                found[place] = (*found.get(place, ()), node.key)
    return found


def _said(journey: Journey) -> dict[int, tuple[str, ...]]:
    """Return what was said of each node, by its key."""
    said: dict[int, tuple[str, ...]] = {}
    for change in journey.changes:
        key = key_of(change)
        if key is not None and change.message not in said.get(key, ()):
            said[key] = (*said.get(key, ()), change.message)
    return said


def _runs(parent: Element) -> list[tuple[Node, int]]:
    """Return the children of an element, each text with the number of its run: texts side by side are one in a page."""
    found: list[tuple[Node, int]] = []
    run, within = -1, False
    for child in parent.children:
        if type(child) is Text:
            if not child.data:
                continue
            run += not within
            within = True
        else:
            within = False
        found.append((child, run))
    return found


def _of_element(element: Element, before: View, after: View, said: dict[int, tuple[str, ...]]) -> Highlight | None:
    now = after.by_key.get(element.key)
    told = said.get(element.key, ())
    if now is None:
        if after.tree.merged.get(element.key) in after.by_key or (element.name == "span" and not element.attributes):
            return None
        return Highlight(element.key, None, "gone", told)
    if element.namespace == HTML and not are_equivalent(element.name, now.name):
        return Highlight(element.key, None, "changed", (*told, f"<{element.name}> is <{now.name}> now."))
    lost = _lost_look(before.cascade.winners.get(element.key), after.cascade.winners.get(element.key))
    if lost:
        return Highlight(element.key, None, "look", (*told, f"Of its look goes: {listed(lost)}."))
    if told and now.attributes != element.attributes:
        return Highlight(element.key, None, "changed", told)
    return None


def _lost_look(before: Winners | None, now: Winners | None) -> list[str]:
    if not before or before == now:
        return []
    now = now or {}
    return list(dict.fromkeys(name.partition(" ")[0] for name, value in before.items() if now.get(name) != value))


def _leaves_something(element: Element, after: View, there: set[int]) -> bool:
    """Tell whether something inside an element that went is still there."""
    stack: list[Node] = list(element.children)
    while stack:
        node = stack.pop()
        if type(node) is Text:
            if node.key in there:
                return True
        elif type(node) is Element:
            if node.key in after.by_key:
                return True
            stack += node.children
    return False
