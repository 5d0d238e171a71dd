"""A pen's strokes as splices of the text that they edit."""

from __future__ import annotations

from verse_tray.journeys.pen import Stroke
from verse_tray.journeys.typed import Typed
from verse_tray.markup.names import fold_name
from verse_tray.markup.serialise import escape_attribute, serialise
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.spans import Span

After = dict[int, tuple[Node, ...]]
"""What stands in the place of a node that was put in and edited again, by its ``id``."""
_GONE = ("replace", "drop")
_SPACE = "\t\n\f\r "


def splice(typed: Typed, strokes: list[Stroke]) -> Spliced | None:
    """Make the edits of a tree in the text that it was read from.

    Returns:
        The text; None when an edit has no place of its own in it: an element that browsers added, or one of several
        that a misnested tag was made into, or children that were arranged otherwise.
    """
    if not typed.exact:
        return None
    splices: list[Splice] = []
    fated: set[int] = set()
    added: dict[tuple[int, str], str] = {}  # attributes that the tag does not have as typed, written when all is known
    values: dict[tuple[int, str], Splice] = {}  # the last value of an attribute that is set more than once counts
    after = {id(s.node): s.nodes if s.kind == "replace" else () for s in strokes if s.inner and s.kind in _GONE}
    for stroke in strokes:
        if stroke.inner:
            continue
        span = typed.span(stroke.node)
        if span is None or stroke.kind == "children":
            return None
        if stroke.kind == "attribute":
            _attribute(typed, stroke, values, added)
            continue
        if stroke.kind != "rename":
            if span.start in fated:
                return None
            fated.add(span.start)
        splices += _edit(typed, stroke, span, after)
    splices += values.values()
    tags: dict[int, str] = {}
    for (number, name), value in added.items():
        tags[number] = tags.get(number, "") + f' {name}="{escape_attribute(value)}"'
    for number, text in tags.items():
        tag = typed.span_of(number)
        assert tag is not None
        at = tag.end - (2 if typed.text[tag.end - 2] == "/" else 1)
        while typed.text[at - 1] in _SPACE:
            at -= 1
        splices.append(Splice(Span(at, at), text))
    try:
        return Spliced(typed.text, splices)
    except ValueError:  # elements that overlap in the text, as misnested formatting does
        return None


def _edit(typed: Typed, stroke: Stroke, span: Span, after: After) -> list[Splice]:
    node = stroke.node
    end = typed.end_span(node)
    if stroke.kind == "rename":
        assert stroke.value is not None
        old = span.start + 1
        while typed.text[old] not in "\t\n\f\r />":
            old += 1
        splices = [Splice(Span(span.start + 1, old), stroke.value)]
        if end:
            splices.append(Splice(end, f"</{stroke.value}>"))
        return splices
    if stroke.kind in ("unwrap", "escape"):
        texts = [_written(_expanded((each,), after), raw=False) for each in stroke.nodes]
        splices = [Splice(span, texts[0] if texts else "")]
        if end:
            splices.append(Splice(end, texts[1] if len(texts) > 1 else ""))
        return splices
    whole = (typed.outer_span(node) or span) if type(node) is Element else span
    if stroke.kind == "front":
        return [Splice(whole, ""), Splice(Span(0, 0), typed.text[whole.start : whole.end])]
    return [Splice(whole, _written(_expanded(stroke.nodes, after), stroke.raw))]


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
    typed: Typed, stroke: Stroke, values: dict[tuple[int, str], Splice], added: dict[tuple[int, str], str]
) -> None:
    number, name = typed.number(stroke.node), stroke.attribute
    place = typed.attributes(number).get(fold_name(name))
    if place is None:
        added.pop((number, name), None)
        if stroke.value is not None:
            added[number, name] = stroke.value
    elif stroke.value is not None:
        written = f'{typed.text[place.name.start : place.name.end]}="{escape_attribute(stroke.value)}"'
        values[number, name] = Splice(place.whole, written)
    else:
        start = place.whole.start
        while typed.text[start - 1] in _SPACE:
            start -= 1
        values[number, name] = Splice(Span(start, place.whole.end), "")
