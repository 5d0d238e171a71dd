"""White space in markup, for reading or for a small size. That readers get the same is proven each time."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from msgspec import Struct

from verse_tray.edit.css_layout import compact_css, neat_css
from verse_tray.edit.flow import WHITE, Flow, is_white
from verse_tray.edit.same import same_reading
from verse_tray.edit.typed_markup import BREAK, TypedMarkup
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Comment, Element, Node, Text
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

INDENT = "  "
_DEEPEST = 150  # deeper than that, what is inside stands as it was typed


class LaidOut(Struct, frozen=True):
    """A text with other white space."""

    text: str
    """The text; the old one where another would not have read the same."""
    changed: bool
    """Whether it was laid out at all."""


def neaten(source: Source, *, width: int = 100) -> LaidOut:
    """Lay a piece out for reading: a line for each block, indented by its depth, at most ``width`` columns."""
    return _proven(source, lambda piece: "\n".join(_Neat(piece, width).lines()) + "\n")


def compact(source: Source) -> LaidOut:
    """Lay a piece out small: no white space that means nothing."""
    return _proven(source, lambda piece: _Compact(piece).text() + "\n")


def _proven(source: Source, lay_out: Callable[[Piece], str]) -> LaidOut:
    piece = Piece(source)
    if piece.parsed.cap_notes:
        return LaidOut(source.text, False)
    text = lay_out(piece)
    if "\r\n" in source.text:
        text = text.replace("\r\n", "\n").replace("\n", "\r\n")
    if not same_reading(piece, text):
        return LaidOut(source.text, False)
    return LaidOut(text, True)


class _Neat:
    """Lines of a piece."""

    def __init__(self, piece: Piece, width: int) -> None:
        self.flow = Flow(piece)
        self.typed = TypedMarkup(piece)
        self.width = width
        self.root = piece.parsed.tree.root

    def lines(self) -> Iterator[str]:
        yield from self._children(self.root, 0)

    def _children(self, parent: Element, depth: int) -> Iterator[str]:
        """Yield the lines of an element's children: each block on its own, what stands within a line together."""
        run: list[Node] = []
        blank = started = False
        apart = self.flow.holds_no_text(parent)
        mixed = any(isinstance(child, Text) and child.data.strip(WHITE) for child in parent.children)
        for child in parent.children:
            alone = (
                apart
                or self.flow.is_block(child)
                or (not mixed and (self.flow.has_no_box(child) or _is_comment(child)))
            )
            if alone and not isinstance(child, Text):
                lines = [*self._run(run, depth), *self._block(child, depth)]
                run = []
            elif is_white(child) and not run:
                blank = blank or child.data.count("\n") > 1  # type: ignore[union-attr]
                continue
            else:
                run.append(child)
                continue
            if blank and started and lines:
                yield ""
            yield from lines
            blank, started = False, True
        yield from self._run(run, depth)

    def _block(self, node: Node, depth: int) -> Iterator[str]:
        lead = INDENT * depth
        if not isinstance(node, Element):
            yield lead + self.typed.node(node)
            return
        start, end = self.typed.start(node), self.typed.end(node)
        if not start and not end:  # a tbody that the parser made up
            yield from self._children(node, depth)
            return
        if node.namespace == HTML and node.name in ("style", "script"):
            yield from self._code(node, start, end, depth)
        elif self.flow.keeps_white_space(node) or depth > _DEEPEST:
            yield lead + self.typed.whole(node)
        elif not any(not is_white(child) for child in node.children):
            yield from self._tag(start, depth, end)
        else:
            inner = list(self._children(node, depth + 1))
            line = f"{lead}{start}{inner[0].strip()}{end}" if len(inner) == 1 else ""
            if line and len(line) <= self.width and "\n" not in line and not self._has_block(node):
                yield line
            else:
                yield from self._tag(start, depth, "")
                yield from inner
                yield lead + end

    def _has_block(self, element: Element) -> bool:
        if element.name in ("td", "th", "li", "dt", "dd") or self.flow.holds_no_text(element):
            return any(
                self.flow.is_block(child) and child.children for child in element.children if isinstance(child, Element)
            )
        return any(self.flow.is_block(child) for child in element.children)

    def _tag(self, start: str, depth: int, end: str) -> Iterator[str]:
        """Yield a start tag, its attributes on lines of their own where it would be too long."""
        lead = INDENT * depth
        if len(lead) + len(start) + len(end) <= self.width or start.count("=") < 2 or "\n" in start:
            yield f"{lead}{start}{end}"
            return
        name, *attributes = self.typed.parts(start)
        yield f"{lead}{name}"
        for number, attribute in enumerate(attributes):
            last = number == len(attributes) - 1
            yield f"{lead}{INDENT * 2}{attribute}{(self.typed.closing(start) + end) if last else ''}"

    def _code(self, element: Element, start: str, end: str, depth: int) -> Iterator[str]:
        text = self.typed.inner(element)
        lead = INDENT * depth
        if not text.strip():
            yield f"{lead}{start}{end}"
            return
        if element.name == "style":
            lines = neat_css(text.replace("\r\n", "\n"), width=self.width - len(lead) - 2)
        elif "`" in text or re.search(r"\\[ \t]*\r?\n", text) or not _is_script(element):
            kept = text.rstrip() if _is_script(element) else text  # white space in it may mean something
            yield f"{lead}{start}{kept}{end}"
            return
        else:
            lines = _dedented(text)
        yield f"{lead}{start}"
        for line in lines:
            yield f"{lead}{INDENT}{line}" if line.strip() else ""
        yield f"{lead}{end}"

    def _run(self, run: list[Node], depth: int) -> Iterator[str]:
        """Yield what stands within a line, broken where white space stood; a line break ends a line."""
        lead = INDENT * depth
        words = "".join(self.typed.inline(node, self.flow) for node in run).strip(BREAK)
        line = lead
        for word in re.split(f"{BREAK}+", words) if words else ():
            if line != lead and len(line) + 1 + len(word.partition("\n")[0]) > self.width:
                yield line
                line = lead
            line += ("" if line == lead else " ") + word
            if word.endswith(_BREAKS):
                yield line
                line = lead
        if line != lead:
            yield line


_BREAKS = ("<br>", "<br/>", "<br />")


def _is_comment(node: Node) -> bool:
    return isinstance(node, Comment)


def _is_script(element: Element) -> bool:
    kind = element.attributes.get("type", "").lower()
    return element.name == "style" or not kind or "javascript" in kind or kind == "module" or kind.endswith("json")


def _dedented(text: str) -> list[str]:
    lines = text.replace("\r\n", "\n").strip("\n").rstrip().split("\n")
    rest = [line for line in (lines[1:] if not text.startswith(("\n", "\r")) else lines) if line.strip()]
    margin = min((len(line) - len(line.lstrip()) for line in rest), default=0)
    return [
        line.strip() if number == 0 else _spaced(line[min(margin, len(line) - len(line.lstrip())) :])
        for number, line in enumerate(lines)
    ]


def _spaced(line: str) -> str:
    """Return a line whose tabs in front are written as the indent of the rest; no string goes on there."""
    bare = line.lstrip("\t")
    return INDENT * (len(line) - len(bare)) + bare


class _Compact:
    """A piece in as few signs as white space allows."""

    def __init__(self, piece: Piece) -> None:
        self.flow = Flow(piece)
        self.typed = TypedMarkup(piece)
        self.root = piece.parsed.tree.root

    def text(self) -> str:
        pieces: list[str] = []
        stack: list[tuple[Node | str, Element]] = [(child, self.root) for child in reversed(self.root.children)]
        while stack:
            node, parent = stack.pop()
            if isinstance(node, str):
                pieces.append(node)
            elif isinstance(node, Text):
                if not (is_white(node) and self.flow.holds_no_text(parent)):
                    pieces.append(re.sub(f"[{WHITE}]+", BREAK, self.typed.node(node)))
            elif isinstance(node, Element):
                edge = EDGE if self.flow.is_block(node) else ""
                if node.namespace == HTML and node.name in ("style", "script"):
                    text = self.typed.inner(node)
                    text = compact_css(text) if node.name == "style" else text.strip() if _is_script(node) else text
                    pieces += [edge, self.typed.start(node), text, self.typed.end(node), edge]
                elif self.flow.keeps_white_space(node):
                    pieces += [edge, self.typed.whole(node), edge]
                else:
                    pieces += [edge, self.typed.start(node), edge]
                    stack.append((edge + self.typed.end(node) + edge, parent))
                    stack += [(child, node) for child in reversed(node.children)]
            else:
                pieces.append(self.typed.node(node))
        text = re.sub(f"{BREAK}*{EDGE}[{EDGE}{BREAK}]*", "", "".join(pieces))
        return re.sub(f"{BREAK}+", " ", text.strip(BREAK + EDGE))


EDGE = "\ufdef"
"""Stands where a line begins or ends while a text is put together."""
