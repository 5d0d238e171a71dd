"""Trees to text by the standard's algorithm (13.3, "Serializing HTML fragments"), keeping where each node's text went."""

from __future__ import annotations

from verse_tray.markup.names import HTML, RAW_TEXT, SERIALISED_AS_VOID
from verse_tray.markup.tree import Comment, Element, Node, Text, Tree


def escape_text(data: str) -> str:
    """Escape a text's data (13.3, "escaping a string")."""
    if "&" in data:
        data = data.replace("&", "&amp;")
    if "\xa0" in data:
        data = data.replace("\xa0", "&nbsp;")
    if "<" in data:
        data = data.replace("<", "&lt;")
    if ">" in data:
        data = data.replace(">", "&gt;")
    return data


def escape_attribute(value: str) -> str:
    """Escape an attribute's value (13.3, "escaping a string" in the attribute mode)."""
    value = escape_text(value)
    return value.replace('"', "&quot;") if '"' in value else value


def start_tag(element: Element) -> str:
    """Return the start tag of an element."""
    if not element.attributes:
        return f"<{element.name}>"
    written = "".join([f' {name}="{escape_attribute(value)}"' for name, value in element.attributes.items()])
    return f"<{element.name}{written}>"


def end_tag(element: Element) -> str:
    """Return the end tag of an element, empty for those that have none."""
    if element.namespace == HTML and element.name in SERIALISED_AS_VOID:
        return ""
    return f"</{element.name}>"


def holds_raw_text(element: Element) -> bool:
    """Tell whether the text inside an element is written as it is, unescaped."""
    return element.name in RAW_TEXT and element.namespace == HTML


class Written:
    """A serialised tree."""

    __slots__ = ("markup", "starts")

    def __init__(self, markup: str, starts: dict[int, Node]) -> None:
        self.markup = markup
        """The text."""
        self.starts = starts
        """The node whose start tag, text or comment begins at an offset of the text (0-based)."""


def serialise(tree: Tree) -> Written:
    """Serialise a tree."""
    pieces: list[str] = []
    add = pieces.append
    starts: dict[int, Node] = {}
    at = 0
    stack: list[Node | str] = [*reversed(tree.root.children)]
    raw = False
    while stack:
        node = stack.pop()
        if type(node) is str:  # the end tag of an element whose children have been written
            piece = node
            raw = False
        else:
            assert isinstance(node, Node)
            starts[at] = node
            if type(node) is Element:
                piece = start_tag(node)
                ending = end_tag(node)
                if ending and node.children:
                    stack.append(ending)
                    stack.extend(node.children[::-1])
                    raw = holds_raw_text(node)
                else:
                    piece += ending
            elif type(node) is Text:
                piece = node.data if raw else escape_text(node.data)
            else:
                assert isinstance(node, Comment)
                piece = node.markup
        add(piece)
        at += len(piece)
    return Written("".join(pieces), starts)
