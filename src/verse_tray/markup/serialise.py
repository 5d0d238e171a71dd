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


def text_markup(text: Text) -> str:
    """Return a text as it is written inside its parent."""
    parent = text.parent
    if parent is not None and parent.namespace == HTML and parent.name in RAW_TEXT:
        return text.data
    return escape_text(text.data)


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
    stack: list[tuple[list[Node], int, str]] = []
    children, index, closing = tree.root.children, 0, ""
    while True:
        if index == len(children):
            if not stack:
                return Written("".join(pieces), starts)
            add(closing)
            at += len(closing)
            children, index, closing = stack.pop()
            continue
        node = children[index]
        index += 1
        starts[at] = node
        if type(node) is Element:
            piece = start_tag(node)
            add(piece)
            at += len(piece)
            ending = end_tag(node)
            if node.children and ending:
                stack.append((children, index, closing))
                children, index, closing = node.children, 0, ending
                continue
            piece = ending
        elif type(node) is Text:
            piece = text_markup(node)
        else:
            assert isinstance(node, Comment)
            piece = node.markup
        add(piece)
        at += len(piece)
