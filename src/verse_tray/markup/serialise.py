"""Trees to text by the standard's algorithm (13.3, "Serializing HTML fragments"), keeping where each node went."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from functools import cached_property, lru_cache
from itertools import accumulate
from typing import Literal

from msgspec import Struct

from verse_tray.markup.names import HTML, RAW_TEXT, SERIALISED_AS_VOID
from verse_tray.markup.tree import Element, Node, Text, Tree

References = Literal["plain", "named", "numeric"]
"""How signs beyond ASCII are written: as they are, or as references."""
Slash = Literal["", " /", "/"]
Signs = tuple[tuple[str, str], ...]


class Form(Struct, frozen=True):
    """How markup is written anew."""

    references: References = "plain"
    """How signs beyond ASCII are written."""
    slash: Slash = ""
    """What closes the tags of elements that never have an end tag, before the angle bracket."""
    text_signs: tuple[tuple[str, str], ...] = ()
    """Signs of texts, and how each is written, where the standard's way is not taken."""
    value_signs: tuple[tuple[str, str], ...] = ()
    """Signs of attributes' values, and how each is written."""
    is_sorted: bool = False
    """Whether attributes stand in the order of their names."""
    order: tuple[str, ...] = ()
    """Attributes in the order in which they stand, others behind; none at all for that in which they were typed."""
    is_bare: bool = False
    """Whether attributes without a value are written without one."""


PLAIN = Form()
"""As the standard's algorithm writes it."""
_SPECIAL_IN_TEXT = re.compile("[&<>\xa0]").search
_SPECIAL_IN_ATTRIBUTE = re.compile('[&<>"\xa0]').search


def escape_text(data: str, references: References = "plain", signs: Signs = ()) -> str:
    """Escape a text's data (13.3, "escaping a string"), and write signs beyond ASCII as ``references``.

    ``signs`` that are written otherwise come first.
    """
    if signs:
        return _signed(data, signs, lambda part: escape_text(part, references))
    if references != "plain" and not data.isascii():
        return _referenced(escape_text(data), references)
    if not _SPECIAL_IN_TEXT(data):
        return data
    return data.replace("&", "&amp;").replace("\xa0", "&nbsp;").replace("<", "&lt;").replace(">", "&gt;")


def escape_attribute(value: str, references: References = "plain", signs: Signs = ()) -> str:
    """Escape an attribute's value (13.3, "escaping a string" in the attribute mode)."""
    if signs:
        return _signed(value, signs, lambda part: escape_attribute(part, references))
    if references != "plain" and not value.isascii():
        return _referenced(escape_attribute(value), references)
    if not _SPECIAL_IN_ATTRIBUTE(value):
        return value
    return escape_text(value).replace('"', "&quot;")


def _signed(text: str, signs: Signs, rest: Callable[[str], str]) -> str:
    """Write some signs as told, and what stands between them as ever."""
    written = dict(signs)
    parts = re.split(f"([{re.escape(''.join(written))}])", text)
    return "".join(written[part] if part in written else rest(part) for part in parts if part)


def escape_for_quote(value: str, quote: str) -> str:
    """Escape an attribute's value for the quote that encloses it; for none, every sign that would end it (13.1.2.3)."""
    value = escape_attribute(value)
    if quote == '"':
        return value
    return re.sub("'" if quote else "[\\s'=`]", lambda sign: f"&#{ord(sign[0])};", value)


def _referenced(text: str, references: References) -> str:
    """Write every sign beyond ASCII as a reference, except what no reference stands for."""
    from html.entities import codepoint2name  # few pieces need it

    def reference(sign: re.Match[str]) -> str:
        number = ord(sign[0])
        # numeric references to surrogates and noncharacters mean something else or nothing
        if 0xD800 <= number <= 0xDFFF or 0xFDD0 <= number <= 0xFDEF or number & 0xFFFE == 0xFFFE or number > 0x1FFFD:
            return sign[0]
        name = codepoint2name.get(number) if references == "named" else None
        return f"&{name};" if name else f"&#{number};"

    return _beyond_ascii().sub(reference, text)


@lru_cache
def _beyond_ascii() -> re.Pattern[str]:
    return re.compile("[^\x00-\x9f]")  # references to controls (U+0080 to U+009F) mean other signs


def start_tag(element: Element, form: Form = PLAIN) -> str:
    """Return the start tag of an element."""
    ending = f"{form.slash}>" if element.namespace == HTML and element.name in SERIALISED_AS_VOID else ">"
    if not element.attributes:
        return f"<{element.name}{ending}"
    items = element.attributes.items()
    written = "".join(
        [
            f" {name}"
            if form.is_bare and not value
            else f' {name}="{escape_attribute(value, form.references, form.value_signs)}"'
            for name, value in (sorted(items) if form.is_sorted else _ordered(items, form.order))
        ]
    )
    return f"<{element.name}{written}{ending}"


def _ordered(items: Iterable[tuple[str, str]], order: tuple[str, ...]) -> Iterable[tuple[str, str]]:
    if not order:
        return items
    return sorted(items, key=lambda item: order.index(item[0]) if item[0] in order else len(order))


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

    def __init__(self, pieces: list[str], owners: list[Node | None]) -> None:
        self._pieces = pieces
        self._owners = owners

    @cached_property
    def markup(self) -> str:
        """The text."""
        return "".join(self._pieces)

    def starts(self) -> dict[int, Node]:
        """Return the node whose start tag, text or comment begins at an offset of the text (0-based)."""
        offsets = accumulate(map(len, self._pieces), initial=0)
        pairs = zip(offsets, self._owners, strict=False)  # one offset more than pieces: the end of the text
        return {at: node for at, node in pairs if node is not None}


def serialise(tree: Tree, form: Form = PLAIN) -> Written:
    """Serialise a tree in a form."""
    references, signs = form.references, form.text_signs
    pieces: list[str] = []
    owners: list[Node | None] = []
    add, own = pieces.append, owners.append
    stack: list[Node | str] = tree.root.children[::-1]  # type: ignore[assignment]
    pop, plain, special = stack.pop, references == "plain" and not signs, _SPECIAL_IN_TEXT
    raw = False
    tags: dict[str, tuple[str, str]] = {}  # each is there once, however often it is written
    while stack:
        node = pop()
        kind = type(node)
        if kind is Text:
            data = node.data  # type: ignore[union-attr]
            add(data if raw or (plain and not special(data)) else escape_text(data, references, signs))
            own(node)  # type: ignore[arg-type]
        elif kind is Element:
            name, children = node.name, node.children  # type: ignore[union-attr]
            bare = not node.attributes and not form.slash  # type: ignore[union-attr]
            start, end = tags.get(name) or tags.setdefault(name, (f"<{name}>", f"</{name}>"))
            add(start if bare else start_tag(node, form))  # type: ignore[arg-type]
            own(node)  # type: ignore[arg-type]
            if name in SERIALISED_AS_VOID and node.namespace == HTML:  # type: ignore[union-attr]
                continue
            if len(children) == 1 and plain and type(children[0]) is Text and name not in RAW_TEXT:  # most of all
                data = children[0].data
                add(escape_text(data) if special(data) else data)
                own(children[0])
                add(end)
                own(None)
            elif children:
                stack.append(end)
                stack += children[::-1]
                raw = name in RAW_TEXT and node.namespace == HTML  # type: ignore[union-attr]
            else:
                add(end)
                own(None)
        elif kind is str:  # the end tag of an element whose children have been written
            add(node)  # type: ignore[arg-type]
            own(None)
            raw = False
        else:
            add(node.markup)  # type: ignore[union-attr]
            own(node)  # type: ignore[arg-type]
    return Written(pieces, owners)
