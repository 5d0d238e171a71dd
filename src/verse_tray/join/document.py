"""A whole document taken apart: what a fragment of it needs."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from msgspec import Struct

from verse_tray.markup.parse import parse_document
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element, Node, Tree, own_text
from verse_tray.model.decoding import Source
from verse_tray.piece.source_map import OwnSourceMap, SourceMap
from verse_tray.style.attribute_values import legacy_colour


class HeadPart(Struct, frozen=True):
    """Something of a document's head that a fragment needs."""

    kind: Literal["sheet", "style", "load", "script"]
    """A linked sheet, a style element, a script that is loaded, a script with its text."""
    tag: str
    """The element as typed."""
    css: str | None = None
    """The text of a style element without attributes."""


class TakenApart(Struct, frozen=True):
    """A document's parts."""

    head: tuple[HeadPart, ...]
    """What its head holds of styles and scripts, in order."""
    body: str
    """What stands in its body, as typed."""
    around: dict[str, str]
    """Attributes of its body that a box around the contents can have."""
    title: str
    """Its title; empty for none."""
    language: str
    """Its language; empty for none."""
    left_out: tuple[str, ...]
    """What a fragment cannot keep, in words."""


def take_apart(source: Source) -> TakenApart:
    """Take a document apart."""
    parsed = parse_document(source.text)
    source_map = OwnSourceMap(parsed)
    html = next((e for e in parsed.tree.root.children if isinstance(e, Element)), None)
    parts = {e.name: e for e in (html.children if html is not None else []) if isinstance(e, Element)}
    head: list[HeadPart] = []
    left_out: list[str] = []
    title = ""
    for child in parts["head"].children if "head" in parts else ():
        if not isinstance(child, Element):
            continue
        if (part := _head_part(source_map, child)) is not None:
            head.append(part)
        elif child.name == "title":
            title = " ".join(own_text(child).split())
        elif child.name == "base":
            left_out.append("the base address: addresses without a host lead elsewhere now")
    body = parts.get("body")
    around, gone = _around({} if body is None else body.attributes)
    language = "" if html is None else html.attributes.get("lang", "")
    return TakenApart(
        tuple(head), _inside(source_map, body), around, title, language, (*left_out, *(f"the body's {g}" for g in gone))
    )


_STANDS_FOR = {"bgcolor": "background-color", "text": "color"}


def _around(attributes: Mapping[str, str]) -> tuple[dict[str, str], list[str]]:
    """Return the attributes of a box that stands for a body, and what it cannot have, in words."""
    around: dict[str, str] = {}
    gone = []
    looks = []
    for name, value in attributes.items():
        if name in ("class", "id", "style", "dir", "lang", "title") and value.strip():
            around[name] = value
        elif name in _STANDS_FOR and (colour := legacy_colour(value)):
            looks.append(f"{_STANDS_FOR[name]}: {colour}")
        elif value.strip():
            gone.append(f"{name} “{value[:60]}”")
    if looks:
        around["style"] = "; ".join([*looks, *([around["style"]] if "style" in around else [])])
    return around, gone


def _head_part(source_map: SourceMap, element: Element) -> HeadPart | None:
    typed = _typed(source_map, element)
    if element.name == "link" and "stylesheet" in element.attributes.get("rel", "").lower():
        return HeadPart("sheet", typed)
    if element.name == "style":
        return HeadPart("style", typed, None if element.attributes else own_text(element))
    if element.name == "script":
        return HeadPart("load" if element.attributes.get("src") else "script", typed)
    return None


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
