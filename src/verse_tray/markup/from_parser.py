"""From the parser's tree to ours."""

from __future__ import annotations

from sys import intern

from selectolax.lexbor import LexborHTMLParser, LexborNode

from verse_tray.markup.names import HTML, MATHML, SVG, child_namespace
from verse_tray.markup.tree import Comment, Element, Node, Text


def first_node(parser: LexborHTMLParser, *, document: bool) -> LexborNode | None:
    """Return the first node of what was parsed, a doctype or a comment before the root included."""
    node = parser.root
    if document and node is not None:
        while node.prev is not None:
            node = node.prev
    return node


def first_child(node: LexborNode, name: str) -> LexborNode | None:
    """Return the first child of an element, for a ``template`` the first node of its contents."""
    if name == "template":
        for fragment in node.template_fragments():
            if fragment.parent is not None and fragment.parent.mem_id == node.mem_id:
                return fragment.first_child
    return node.first_child


def build(parser: LexborHTMLParser, *, document: bool) -> tuple[Element, list[Node]]:
    """Return the container of our tree, and its nodes; keys count up from 1 in tree order."""
    root = Element("")
    node = first_node(parser, document=document)
    stack: list[tuple[LexborNode | None, Element]] = []
    parent = root
    add = root.children.append
    order: list[Node] = []
    foreign = False
    key = 1
    while True:
        while node is None:
            if not stack:
                return root, order
            node, parent = stack.pop()
            add = parent.children.append
            foreign = parent.namespace != HTML
        if node.is_text_node:
            text = Text(node.text_content or "", key)
            add(text)
            order.append(text)
        elif node.is_element_node:
            name = intern(node.tag or "")  # the parser makes a text of its own for each
            attributes = node.attributes
            if attributes and None in attributes.values():
                attributes = {each: value or "" for each, value in attributes.items()}
            if foreign:
                namespace = _foreign_namespace(parent, name)
            else:
                namespace = SVG if name == "svg" else MATHML if name == "math" else HTML
            element = Element(name, namespace, attributes, key)  # type: ignore[arg-type]
            add(element)
            order.append(element)
            child = first_child(node, name) if name == "template" else node.first_child
            if child is not None:
                stack.append((node.next, parent))
                parent = element
                add = element.children.append
                foreign = namespace != HTML
                node = child
                key += 1
                continue
        else:
            comment = _comment(node, key)
            add(comment)
            order.append(comment)
        key += 1
        node = node.next


def _foreign_namespace(parent: Element, name: str) -> str:
    encoding = parent.attributes.get("encoding", "").lower()
    annotation = encoding in ("text/html", "application/xhtml+xml")
    return child_namespace(parent.namespace, parent.name, name, annotation)


def _comment(node: LexborNode, key: int) -> Comment:
    # Of a fragment's first node Lexbor gives the whole fragment: cut behind the node.
    markup = node.html or ""
    if node.is_comment_node:
        return Comment("comment", markup[: markup.index("-->", 4) + 3], key)
    kind = "doctype" if node.tag == "-doctype" else "instruction"
    return Comment(kind, markup[: markup.index(">") + 1], key)
