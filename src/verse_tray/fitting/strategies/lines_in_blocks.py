"""Text outside any block, which an editor would part into paragraphs and lines of its own."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

NAME = "lines-in-blocks"
SENTENCE = (
    "Text outside any block was put into one, on one line, since the editor makes paragraphs and breaks of its own."
)
_UNSEEN = frozenset("style script template link meta".split())
_LINE_ENDS = lazy(r"[ \t]*[\r\n]\s*")
_KEPT_LINES = frozenset("pre textarea script style".split())


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a block around each such run, with blanks for its line ends."""
    if not any(each.rule.startswith("paragraphs/") for each in draft.trip.changes):
        return
    run: list[Node] = []
    for child in [*draft.trip.piece.parsed.tree.root.children, Element("p")]:
        if isinstance(child, Element) and (child.name in BLOCKS or child.name in _UNSEEN):
            yield from _in_a_block(draft, run)
            run = []
        else:
            run.append(child)


def _in_a_block(draft: Draft, run: list[Node]) -> Iterator[Splice]:
    spans = [_whole(draft, node) for node in run]
    known = [span for span in spans if span is not None]
    inside = [each for node in run for each in (node, *(Tree(node).nodes() if isinstance(node, Element) else ()))]
    if len(known) < len(spans) or not any(map(_shows, run)):
        return
    if any(isinstance(each, Element) and each.name in _KEPT_LINES for each in inside):
        return
    start, end = known[0].start, known[-1].end
    found = [splice for text in inside if isinstance(text, Text) for splice in _on_one_line(draft, text, start, end)]
    if found:
        yield draft.put(start, "<div>")
        yield from found
        yield draft.put(end, "</div>")


def _on_one_line(draft: Draft, text: Text, start: int, end: int) -> Iterator[Splice]:
    """Yield a blank for each line end of a text, and nothing for those at the ends of the run."""
    span = draft.subject.own_span(text)
    if span is not None:
        for each in _LINE_ENDS.finditer(draft.subject.source.text, span.start, span.end):
            yield Splice(Span(*each.span()), "" if each.start() == start or each.end() == end else " ")


def _whole(draft: Draft, node: Node) -> Span | None:
    return draft.trip.piece.source_map.outer_span(node) if isinstance(node, Element) else draft.subject.span(node)


def _shows(node: Node) -> bool:
    return bool(node.data.strip()) if isinstance(node, Text) else isinstance(node, Element)
