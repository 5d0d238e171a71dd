"""A whole document taken apart: what a fragment of it needs."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.markup.parse import parse_document
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.decoding import Source
from verse_tray.piece.source_map import SourceMap


class TakenApart(Struct, frozen=True):
    """A document's parts."""

    head: tuple[str, ...]
    """Style elements, linked sheets and scripts of its head, as typed and in order."""
    body: str
    """What stands in its body, as source_map."""
    left_out: tuple[str, ...]
    """What a fragment cannot keep, in words."""


def take_apart(source: Source) -> TakenApart:
    """Take a document apart."""
    parsed = parse_document(source.text)
    source_map = SourceMap(parsed, lambda node: node.key)
    html = next((e for e in parsed.tree.root.children if isinstance(e, Element)), None)
    parts = {e.name: e for e in (html.children if html is not None else []) if isinstance(e, Element)}
    head, left_out = [], []
    for child in parts["head"].children if "head" in parts else ():
        if not isinstance(child, Element):
            continue
        if _is_kept(child):
            head.append(_typed(source_map, child))
        elif child.name == "title":
            left_out.append("the title")
        elif child.name == "base":
            left_out.append("the base address: addresses without a host lead elsewhere now")
    body = parts.get("body")
    if body is not None:
        for name in ("class", "id", "style", "onload"):
            if body.attributes.get(name):
                left_out.append(f"the body's {name} “{body.attributes[name][:60]}”")
    return TakenApart(tuple(head), _inside(source_map, body), tuple(left_out))


def _is_kept(element: Element) -> bool:
    if element.name == "link":
        return "stylesheet" in element.attributes.get("rel", "").lower()
    return element.name in ("style", "script")


def _typed(source_map: SourceMap, element: Element) -> str:
    span = (
        source_map.outer_span(element)
        if source_map.parsed.end_spans.get(element.key) or element.name == "link"
        else None
    )
    if span is not None and source_map.exact:
        return source_map.text[span.start : span.end]
    return serialise(Tree(Element("", children=[element]))).markup


def _inside(source_map: SourceMap, body: Element | None) -> str:
    if body is None:
        return ""
    start, end = source_map.span(body), source_map.end_span(body)
    if start is not None and end is not None and source_map.exact:
        return source_map.text[start.end : end.start].strip("\r\n")
    children: list[Node] = body.children
    return serialise(Tree(Element("", children=children))).markup.strip()
