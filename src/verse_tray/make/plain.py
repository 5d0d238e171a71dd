"""Texts from elsewhere, cleaned into plain markup: Markdown, and what word processors write."""

from __future__ import annotations

import re
from collections import Counter

from verse_tray.edit.layout import neaten
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Comment, Element, Node, Text
from verse_tray.model.decoding import Source
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted, listed
from verse_tray.style.declarations import parse_declarations

_KEPT = frozenset(
    "a abbr b blockquote br caption cite code col colgroup dd del dl dt em figcaption figure h1 h2 h3 h4 h5 h6 hr i "
    "img ins kbd li mark ol p pre q s small strong sub sup table tbody td tfoot th thead tr u ul".split()
)
_GONE = frozenset(
    "style script meta link title xml head template object iframe form input button select textarea".split()
)
_ATTRIBUTES = {
    "a": ("href",),
    "img": ("src", "alt", "width", "height"),
    "td": ("colspan", "rowspan"),
    "th": ("colspan", "rowspan", "scope"),
    "ol": ("start", "type"),
}
_HEADING = lazy(r"\b(?:mso)?heading ?([1-6])\b", re.IGNORECASE)
_BULLET = lazy(r"^[\s\xa0]*(?:[·•▪o§\uf0b7\uf0a7\u2013-]|(\d{1,3}|[a-z])[.)])[\s\xa0]+")


def from_markdown(text: str) -> str:
    """Return the HTML of a Markdown text (CommonMark, with tables), laid out for reading; HTML in it becomes text."""
    from markdown_it import MarkdownIt

    made = MarkdownIt("commonmark", {"html": False, "linkify": False}).enable(["table", "strikethrough"]).render(text)
    return neaten(Source(made)).text


def from_word(text: str) -> str:
    """Return plain markup of what a word processor wrote: structure, emphasis, links, tables, and none of its looks."""
    root = parse_fragment(text).take_tree().root
    nodes = _lists(_cleaned(root.children))
    cleaned = serialise_nodes([node for node in nodes if not _is_idle(node)])
    return neaten(Source(cleaned)).text


_LOST = {
    "form": "form", "input": "form control", "select": "form control", "textarea": "form control",
    "button": "button", "script": "script", "iframe": "frame", "video": "video", "audio": "sound", "object": "object",
    "svg": "drawing", "canvas": "drawing",
}  # fmt: skip
"""What plain markup has no room for, as an author calls it."""


def left_out(text: str, made: str) -> list[str]:
    """Return what of a text is not in the plain markup that was made of it, and what it lacks, in sentences."""
    before = Counter(_LOST[e.name] for e in parse_fragment(text).tree.elements() if e.name in _LOST)
    after = parse_fragment(made).tree.elements()
    before.subtract(Counter(_LOST[e.name] for e in after if e.name in _LOST))
    gone = [counted(count, what) for what, count in before.items() if count > 0]
    notes = [f"Left out: {listed(gone, 9)}."] if gone else []
    silent = sum(1 for e in after if e.name == "img" and not e.attributes.get("alt"))
    if silent:
        notes.append(f"{counted(silent, 'picture')} without alternative text: say in alt what each shows.")
    return notes


def serialise_nodes(nodes: list[Node]) -> str:
    """Return the markup of nodes."""
    from verse_tray.markup.tree import Tree

    return serialise(Tree(Element("", children=nodes))).markup


def _cleaned(children: list[Node], depth: int = 0) -> list[Node]:
    found: list[Node] = []
    for node in children:
        if isinstance(node, Comment):
            continue
        if isinstance(node, Text):
            found.append(Text(re.sub(r"[ \t\r\n]+", " ", node.data)))
            continue
        if (
            node.name in _GONE
            or depth > 200
            or "mso-element:comment" in node.attributes.get("style", "").replace(" ", "")
        ):
            continue
        inner = _cleaned(node.children, depth + 1)
        found += _one(node, inner)
    return found


def _one(node: Element, inner: list[Node]) -> list[Node]:
    """Return what an element becomes: itself, another, or its contents."""
    style = {d.name: d.value.lower() for d in parse_declarations(node.attributes.get("style", ""))}
    name = {"strike": "s", "tt": "code", "center": "p"}.get(node.name, node.name)
    if name in ("b", "strong") and style.get("font-weight") in ("normal", "400"):  # a wrapper that says nothing
        return inner
    if name == "p" and (heading := _HEADING.search(node.attributes.get("class", ""))):
        name = f"h{heading[1]}"
    if name == "div":
        return (
            inner
            if any(isinstance(c, Element) and c.name in ("p", "table", "ul", "ol") for c in inner)
            else _block("p", inner)
        )
    if name not in _KEPT:
        return _emphasised(style, inner) if name in ("span", "font") else inner
    if name == "a" and not node.attributes.get("href"):
        return inner
    if name in ("p", "li", "b", "i", "em", "strong", "u", "s") and not _has_content(inner):
        return []
    attributes = {key: node.attributes[key] for key in _ATTRIBUTES.get(name, ()) if node.attributes.get(key)}
    if name in ("td", "th", "li"):
        inner = _unwrapped(inner)
    if name == "img":
        attributes.setdefault("alt", "")
    made = Element(name, attributes=attributes, children=inner)
    if "msolist" in node.attributes.get("class", "").lower() or "mso-list" in style:
        made.attributes["data-list"] = style.get("mso-list", "l0 level1")
    return [made]


def _unwrapped(inner: list[Node]) -> list[Node]:
    """Return the contents of a cell or an item without the one paragraph around them."""
    solid = [node for node in inner if not _is_idle(node)]
    if len(solid) == 1 and isinstance(solid[0], Element) and solid[0].name == "p" and not solid[0].attributes:
        return solid[0].children
    return inner


def _block(name: str, inner: list[Node]) -> list[Node]:
    return [Element(name, children=inner)] if _has_content(inner) else []


def _emphasised(style: dict[str, str], inner: list[Node]) -> list[Node]:
    if not _has_content(inner):
        return inner
    if "ignore" in style.get("mso-list", ""):
        return inner
    if style.get("font-style") == "italic":
        inner = [Element("em", children=inner)]
    weight = style.get("font-weight", "")
    if weight == "bold" or (weight.isdecimal() and int(weight[:4]) >= 600):
        inner = [Element("strong", children=inner)]
    raised = {"super": "sup", "sub": "sub"}.get(style.get("vertical-align", ""))
    return [Element(raised, children=inner)] if raised else inner


def _has_content(nodes: list[Node]) -> bool:
    return any(
        bool(node.data.strip(" \xa0\t\n"))
        if isinstance(node, Text)
        else isinstance(node, Element) and node.name != "br"
        for node in nodes
    )


def _is_idle(node: Node) -> bool:
    return isinstance(node, Text) and not node.data.strip()


def _lists(nodes: list[Node]) -> list[Node]:
    """Make lists of paragraphs that a word processor wrote as list paragraphs, one level inside another."""
    found: list[Node] = []
    open_lists: list[Element] = []
    for node in nodes:
        if not isinstance(node, Element) or "data-list" not in node.attributes:
            if not _is_idle(node):
                open_lists = []
            found.append(node)
            continue
        level = re.search(r"level(\d)", node.attributes.pop("data-list"))
        depth = int(level[1]) if level else 1
        numbered = _strip_bullet(node)
        del open_lists[depth:]
        while len(open_lists) < depth:
            made = Element("ol" if numbered else "ul")
            if not open_lists:
                found.append(made)
            else:
                items = [child for child in open_lists[-1].children if isinstance(child, Element)]
                if not items:
                    items = [Element("li")]
                    open_lists[-1].children.append(items[0])
                items[-1].children.append(made)
            open_lists.append(made)
        open_lists[-1].children.append(Element("li", children=_without_idle(node.children)))
    return found


def _without_idle(nodes: list[Node]) -> list[Node]:
    return [n for n in nodes if not (isinstance(n, Text) and not n.data)]


def _strip_bullet(paragraph: Element) -> bool:
    """Take the typed bullet or number off the front of a list paragraph, and tell whether it was a number."""
    texts = _texts(paragraph)
    whole = "".join(text.data for text in texts)
    match = _BULLET.match(whole)
    gone = match.end() if match is not None else len(whole) - len(whole.lstrip(" \xa0"))
    for text in texts:
        taken = min(gone, len(text.data))
        text.data = text.data[taken:]
        gone -= taken
    return match is not None and match[1] is not None


def _texts(element: Element) -> list[Text]:
    found: list[Text] = []
    stack: list[Node] = element.children[::-1]
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            found.append(node)
        elif isinstance(node, Element):
            stack += node.children[::-1]
    return found
