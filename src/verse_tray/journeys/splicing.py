"""Edits as splices of the text that they edit."""

from __future__ import annotations

from collections.abc import Sequence

from verse_tray.journeys.edits import Edit
from verse_tray.markup.names import fold_name
from verse_tray.markup.serialise import escape_attribute, serialise
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.spans import Span
from verse_tray.piece.source_map import SourceMap

After = dict[int, tuple[Node, ...]]
"""What stands in the place of a node that was put in and edited again, by its ``id``."""
_GONE = ("replace", "drop")
_SPACE = "\t\n\f\r "


def splice(source_map: SourceMap, log: Sequence[Edit]) -> Spliced | None:
    """Make the edits of a tree in the text that it was read from.

    Returns:
        The text; None when an edit has no place of its own in it: an element that browsers added, or one of several
        that a misnested tag was made into, or children that were arranged otherwise.
    """
    if not source_map.exact:
        return None
    splices: list[Splice] = []
    fated: set[int] = set()
    added: dict[tuple[int, str], str] = {}  # attributes that the tag does not have as typed, written when all is known
    values: dict[tuple[int, str], Splice] = {}  # the last value of an attribute that is set more than once counts
    after = {id(s.node): s.nodes if s.kind == "replace" else () for s in log if s.inner and s.kind in _GONE}
    for edit in log:
        if edit.inner:
            continue
        span = source_map.span(edit.node)
        if span is None or edit.kind == "children":
            return None
        if edit.kind == "attribute":
            _attribute(source_map, edit, values, added)
            continue
        if edit.kind != "rename":
            if span.start in fated:
                return None
            fated.add(span.start)
        splices += _edit(source_map, edit, span, after)
    splices += values.values()
    tags: dict[int, str] = {}
    for (number, name), value in added.items():
        tags[number] = tags.get(number, "") + f' {name}="{escape_attribute(value)}"'
    for number, text in tags.items():
        tag = source_map.span_of(number)
        assert tag is not None
        at = tag.end - (2 if source_map.text[tag.end - 2] == "/" else 1)
        while source_map.text[at - 1] in _SPACE:
            at -= 1
        splices.append(Splice(Span(at, at), text))
    try:
        return Spliced(source_map.text, splices)
    except ValueError:  # elements that overlap in the text, as misnested formatting does
        return None


def _edit(source_map: SourceMap, edit: Edit, span: Span, after: After) -> list[Splice]:
    node = edit.node
    end = source_map.end_span(node)
    if edit.kind == "rename":
        assert edit.value is not None
        old = span.start + 1
        while source_map.text[old] not in "\t\n\f\r />":
            old += 1
        splices = [Splice(Span(span.start + 1, old), edit.value)]
        if end:
            splices.append(Splice(end, f"</{edit.value}>"))
        return splices
    if edit.kind in ("unwrap", "escape"):
        texts = [_written(_expanded((each,), after), raw=False) for each in edit.nodes]
        splices = [Splice(span, texts[0] if texts else "")]
        if end:
            splices.append(Splice(end, texts[1] if len(texts) > 1 else ""))
        return splices
    whole = (source_map.outer_span(node) or span) if type(node) is Element else span
    if edit.kind == "front":
        return [Splice(whole, ""), Splice(Span(0, 0), source_map.text[whole.start : whole.end])]
    return [Splice(whole, _written(_expanded(edit.nodes, after), edit.raw))]


def _expanded(nodes: tuple[Node, ...], after: After) -> list[Node]:
    found: list[Node] = []
    stack = [*reversed(nodes)]
    while stack:
        node = stack.pop()
        if id(node) in after:
            stack += reversed(after[id(node)])
        else:
            found.append(node)
    return found


def _written(nodes: list[Node], raw: bool) -> str:
    if raw:
        return "".join(node.data for node in nodes if isinstance(node, Text))
    root = Element("")
    root.children = nodes
    return serialise(Tree(root)).markup


def _attribute(
    source_map: SourceMap, edit: Edit, values: dict[tuple[int, str], Splice], added: dict[tuple[int, str], str]
) -> None:
    number, name = source_map.number(edit.node), edit.attribute
    place = source_map.attributes(number).get(fold_name(name))
    if place is None:
        added.pop((number, name), None)
        if edit.value is not None:
            added[number, name] = edit.value
    elif edit.value is not None and (was := values.get((number, name))) is not None and not was.text:
        added[number, name] = edit.value  # it was taken away before, so it is the last one now
    elif edit.value is not None:
        added.pop((number, name), None)
        written = f'{source_map.text[place.name.start : place.name.end]}="{escape_attribute(edit.value)}"'
        values[number, name] = Splice(place.whole, written)
    else:
        added.pop((number, name), None)
        start = place.whole.start
        while source_map.text[start - 1] in _SPACE:
            start -= 1
        values[number, name] = Splice(Span(start, place.whole.end), "")
