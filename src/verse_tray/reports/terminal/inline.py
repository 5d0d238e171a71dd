"""What stands within a line: text, links with their addresses, pictures and controls as labels."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import PurePosixPath
from urllib.parse import unquote, urlsplit

from rich.style import Style
from rich.text import Text as Line

from verse_tray.markup.addresses import clean, host_of
from verse_tray.markup.names import BLOCKS, INVISIBLE
from verse_tray.markup.tree import Element, Node, Text, own_text
from verse_tray.style.declarations import parse_declarations

_STYLES = {
    "b": Style(bold=True), "strong": Style(bold=True), "th": Style(bold=True), "i": Style(italic=True),
    "em": Style(italic=True), "cite": Style(italic=True), "u": Style(underline=True), "ins": Style(underline=True),
    "s": Style(strike=True), "del": Style(strike=True), "code": Style(dim=True), "kbd": Style(dim=True),
    "mark": Style(reverse=True), "a": Style(underline=True),
}  # fmt: skip
_DEEPEST = 100  # elements inside one another; reading goes to 512
GONE = Style(color="red")
ADDED = Style(color="magenta")


class Losses:
    """What is told in the place where it was: sentences by the key of the node in front of it."""

    def __init__(self, behind: Mapping[int, list[str]], leaked: frozenset[int]) -> None:
        self._behind = dict(behind)
        self.leaked = leaked
        """Keys, or ``id`` of those without, of texts that nobody wrote as text."""

    def take(self, key: int) -> list[str]:
        """Return what went behind a node, once."""
        return self._behind.pop(key, [])


def line_of(nodes: list[Node], losses: Losses) -> Line:
    """Return nodes as one text, white space folded; what blocks are among them stand on lines of their own."""
    line = Line()
    _add(line, nodes, losses, Style(), 0)
    return _trimmed(line)


def _add(line: Line, nodes: list[Node], losses: Losses, style: Style, depth: int) -> None:
    for node in nodes if depth < _DEEPEST else _texts_in(nodes):
        if type(node) is Text:
            _add_text(line, node, losses, style)
        elif type(node) is Element:
            _add_element(line, node, losses, style, depth)
        if node.key:
            mark_gone(line, [*losses.take(node.key), *losses.take(-node.key)])


def _texts_in(nodes: list[Node]) -> Iterator[Text]:
    """Yield the texts that show in nodes: of what lies too deep nothing else is shown."""
    stack = [*reversed(nodes)]
    while stack:
        node = stack.pop()
        if type(node) is Text:
            yield node
        elif type(node) is Element and node.name not in INVISIBLE:
            stack += reversed(node.children)


def typed_line_of(nodes: list[Node], losses: Losses) -> Line:
    """Return nodes as one text with its lines and spaces as they stand, as in a code sample."""
    line = Line()
    stack: list[Node | int] = [*reversed(nodes)]
    while stack:
        node = stack.pop()
        if isinstance(node, int):
            mark_gone(line, losses.take(-node))
            continue
        if type(node) is Text:
            line.append(node.data)
        elif type(node) is Element:
            if node.name == "br":
                line.append("\n")
            elif (label := label_of(node)) is not None:
                line.append(label)
            elif node.name not in INVISIBLE:
                stack += [node.key, *reversed(node.children)]
        if node.key:
            mark_gone(line, losses.take(node.key))
    return line


def mark_gone(line: Line, told: list[str]) -> None:
    """Tell in a line what is gone there."""
    for each in told:
        line.append("" if not line.plain or line.plain[-1].isspace() else " ")
        line.append(f"✗ {each}", GONE)
        line.append(" ")


def _add_text(line: Line, node: Text, losses: Losses, style: Style) -> None:
    words = " ".join(node.data.split())
    before, after = node.data[:1].isspace(), node.data[-1:].isspace()
    text = (" " if before else "") + words + (" " if after and words else "")
    if line.plain.endswith((" ", "\n")) or not line.plain:
        text = text.lstrip(" ")
    if node.key in losses.leaked or (not node.key and id(node) in losses.leaked):
        line.append("✗ leaked: ", ADDED)
        style = style + ADDED
    line.append(text, style)


def _add_element(line: Line, element: Element, losses: Losses, style: Style, depth: int) -> None:
    name = element.name
    if name == "br":
        line.append("\n")
    elif (label := label_of(element)) is not None:
        line.append(label if not line.plain or line.plain[-1].isspace() else f" {label}", style)
    elif name not in INVISIBLE and "hidden" not in element.attributes:
        if name in BLOCKS and line.plain and not line.plain.endswith("\n"):
            line.append("\n")
        mark_gone(line, losses.take(element.key) if element.key else [])
        _add(line, element.children, losses, style + _STYLES.get(name, Style()), depth + 1)
        if name == "a" and (address := element.attributes.get("href")):
            new = ", new window" if element.attributes.get("target", "").lower() == "_blank" else ""
            line.append(f" ‹{address}{new}›", Style(color="cyan"))
        if name == "q":
            line.append("”")


def label_of(element: Element) -> str | None:
    """Return the label that stands for what has no text: pictures, frames, media, controls."""
    attributes, name = element.attributes, element.name
    if name == "img":
        told = attributes.get("alt") or _file_name(attributes.get("src", "")) or "without a text"
        return f"[picture: {told}{_size(element)}]"
    if name == "iframe":
        width, height = _frame_size(element)
        return f"[frame: {host_of(attributes.get('src', '')) or 'of its own'}, {width} × {height}]"
    if name in ("video", "audio", "object", "embed", "canvas", "svg"):
        return f"[{name}{_size(element)}]"
    if name == "input":
        kind = attributes.get("type", "text")
        if kind == "hidden":
            return ""
        if kind in ("checkbox", "radio"):
            return "[x]" if "checked" in attributes else "[ ]"
        if kind in ("submit", "button", "reset"):
            return f"[ {attributes.get('value', kind)} ]"
        return f"[{attributes.get('value') or attributes.get('placeholder') or '_' * 12}]"
    if name == "textarea":
        return f"[{own_text(element).strip() or '_' * 24}]"
    if name == "select":
        options = [" ".join(own_text(child).split()) for child in element.children if type(child) is Element]
        return f"[{options[0] if options else ''} ▾]"
    return None


def _frame_size(element: Element) -> tuple[str, str]:
    """Return width and height of a frame as its style, its attributes or else browsers say."""
    said = {each.name: each.value for each in parse_declarations(element.attributes.get("style", ""))}
    sizes = []
    for name, default in (("width", "300"), ("height", "150")):
        given = said.get(name, "auto").removesuffix("px")
        ratio = said.get("aspect-ratio") if name == "height" else None
        sizes.append(given if given != "auto" else ratio or element.attributes.get(name) or default)
    return sizes[0], sizes[1]


def _file_name(address: str) -> str:
    try:
        return unquote(PurePosixPath(urlsplit(clean(address)).path).name)
    except ValueError:
        return ""


def _size(element: Element) -> str:
    width, height = (element.attributes.get(name) for name in ("width", "height"))
    return f", {width} × {height}" if width and height else ""


def _trimmed(line: Line) -> Line:
    start = len(line.plain) - len(line.plain.lstrip())
    return line[start : len(line.plain.rstrip())] if line.plain.strip() else Line()
