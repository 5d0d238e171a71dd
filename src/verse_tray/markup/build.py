"""From the parser's tree to ours, reading the marks on the way."""

from __future__ import annotations

from selectolax.lexbor import LexborHTMLParser, LexborNode

from verse_tray.markup.marks import ATTRIBUTE, CLOSE, OPEN, TEXT_MARK
from verse_tray.markup.names import HTML, MATHML, SVG, child_namespace
from verse_tray.markup.scan import Kind, Token
from verse_tray.markup.tree import NOWHERE, Comment, Element, Text


def build(parser: LexborHTMLParser, text: str, tokens: list[Token], first_key: int, *, document: bool) -> Element:
    """Return the container of our tree.

    Args:
        parser: A parser that has read the marked text (or the plain one, when ``tokens`` is empty).
        text: The source, without marks.
        tokens: The tokens that the marks' numbers speak of.
        first_key: Key of the first node; the others follow in tree order.
        document: Whether a whole document was parsed.
    """
    root = Element("")
    node = parser.root
    if document and node is not None:
        while node.prev is not None:
            node = node.prev
    places = _Places(text, tokens)
    stack: list[tuple[LexborNode | None, Element]] = []
    parent = root
    foreign = False
    key = first_key
    while True:
        while node is None:
            if not stack:
                return root
            node, parent = stack.pop()
            foreign = parent.namespace != HTML
        if node.is_element_node:
            name = node.tag or ""
            attributes = node.attributes
            start = end = NOWHERE
            if tokens and (mark := attributes.pop(ATTRIBUTE, None)) is not None:
                number = int(mark)
                _, start, end, _, _ = tokens[number]
                places.at = number + 1
            if foreign:
                namespace = _foreign_namespace(parent, name)
            else:
                namespace = SVG if name == "svg" else MATHML if name == "math" else HTML
            if None in attributes.values():
                attributes = {each: value or "" for each, value in attributes.items()}
            element = Element(name, namespace, attributes, key, start, end)  # type: ignore[arg-type]
            key += 1
            parent.children.append(element)
            child = _template_child(node) if name == "template" else node.first_child
            if child is not None:
                stack.append((node.next, parent))
                parent = element
                foreign = namespace != HTML
                node = child
                continue
        elif node.is_text_node:
            data, start, end = places.text(node.text_content or "")
            parent.children.append(Text(data, key, start, end))
            key += 1
        else:
            comment = places.comment(node)
            comment.key = key
            key += 1
            parent.children.append(comment)
        node = node.next


def _foreign_namespace(parent: Element, name: str) -> str:
    encoding = parent.attributes.get("encoding", "").lower()
    annotation = encoding in ("text/html", "application/xhtml+xml")
    return child_namespace(parent.namespace, parent.name, name, annotation)


def _template_child(node: LexborNode) -> LexborNode | None:
    for fragment in node.template_fragments():
        if fragment.parent is not None and fragment.parent.mem_id == node.mem_id:
            return fragment.first_child
    return node.first_child


class _Places:
    """Where texts and comments stand."""

    def __init__(self, source: str, tokens: list[Token]) -> None:
        self.source = source
        self.tokens = tokens
        self.at = 0
        """Number of the first token behind the last one that was placed."""
        self._instructions = [token for token in tokens if token.kind is Kind.INSTRUCTION]
        self._doctypes = [token for token in tokens if token.kind is Kind.DOCTYPE]

    def text(self, data: str) -> tuple[str, int, int]:
        """Return the text without its marks, and its place."""
        if not self.tokens:
            return data, NOWHERE, NOWHERE
        opened = data.find(OPEN)
        if opened < 0:
            return self._white(data)
        closed = data.find(CLOSE, opened)
        first = last = int(data[opened + 1 : closed])
        if data.find(OPEN, closed) < 0:
            data = data[:opened] + data[closed + 1 :]
        else:  # runs that flowed together because a tag between them was ignored or moved away
            numbers = [int(mark[1]) for mark in TEXT_MARK.finditer(data)]
            first, last = min(numbers), max(numbers)
            data = TEXT_MARK.sub("", data)
        self.at = last + 1
        return data, self.tokens[first].start, self.tokens[last].end

    def _white(self, data: str) -> tuple[str, int, int]:
        """White space bears no mark: it is the next run behind what was placed last, if that is the same."""
        tokens = self.tokens
        for number in range(self.at, min(self.at + 16, len(tokens))):
            kind, start, end, _, _ = tokens[number]
            if kind is Kind.TEXT:
                typed = self.source[start:end]
                if typed == data or typed.replace("\r\n", "\n").replace("\r", "\n") == data:
                    self.at = number + 1
                    return data, start, end
                break
            if kind is not Kind.END:
                break
        return data, NOWHERE, NOWHERE

    def comment(self, node: LexborNode) -> Comment:
        """Return a comment, instruction or doctype with its place."""
        markup = node.html or ""  # of a fragment's first node, Lexbor gives the whole fragment: cut behind the node
        token = None
        kind = "comment"
        if node.is_comment_node:
            markup = markup[: markup.index("-->", 4) + 3]
            mark = TEXT_MARK.search(markup) if self.tokens else None
            if mark:
                number = int(mark[1])
                token = self.tokens[number]
                self.at = number + 1
                markup = markup[: mark.start()] + markup[mark.end() :]
        elif node.tag == "-doctype":
            kind = "doctype"
            token = self._doctypes.pop(0) if self._doctypes else None
        else:
            kind = "instruction"
            markup = markup[: markup.index(">") + 1]
            token = self._instructions.pop(0) if self._instructions else None
        return Comment(kind, markup, 0, *((token.start, token.end) if token else (NOWHERE, NOWHERE)))
