"""Elements with looks. A look travels in the element, in a style element, beside the piece, or not at all."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from itertools import groupby
from typing import NamedTuple

from msgspec import Struct

from verse_tray.edit.css_layout import neat_css
from verse_tray.edit.layout import INDENT, neaten
from verse_tray.make.terms import NEEDED, Styles, Terms, terms_of
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.piece.meant_address import meant_address

Child = Node | str
_NO_TEXT = lazy("[\0\ud800-\udfff]")

__all__ = ["Builder", "Child", "Made", "Part", "Styles", "Terms", "link_target"]


class Part(NamedTuple):
    """One element of a piece that was made."""

    name: str
    """Its part of the piece: its role, or the name of the element."""
    tag: str
    """The element."""
    attributes: dict[str, str]
    """Its attributes."""


class Made(Struct, frozen=True):
    """A piece that was made."""

    markup: str
    """Its markup, with its styles and its script unless they are separate."""
    css: str
    """Its styles, where they are separate; else empty."""
    notes: tuple[str, ...]
    """What the author should know of it."""
    parts: tuple[Part, ...] = ()
    """Its elements in the order in which they stand, styles and scripts left out."""


class Builder:
    """Puts a piece together."""

    def __init__(self, kind: str, styles: Styles | Terms, values: object, *, name: str | None = None) -> None:
        """Begin a piece.

        Args:
            kind: What it is, such as ``table``: its classes begin with that.
            styles: Where its look goes, and what is left out.
            values: What it is made of: two pieces made of other values get other classes, so that they do not clash.
            name: What its classes and identifiers begin with, in place of that.

        Raises:
            InputError: the name is none that identifiers can begin with.
        """
        if name is not None and not re.fullmatch(r"[A-Za-z][\w-]*", name):
            raise InputError(f"--name {name}: expected a short name of letters, digits and hyphens, such as tides.")
        digest = hashlib.blake2b(repr((kind, values)).encode("utf-8", "surrogatepass"), digest_size=2).hexdigest()
        self.name = name or f"{kind}-{digest}"
        self.terms = terms_of(styles)
        self.styles = self.terms.styles
        self._names: dict[int, str] = {}
        self._looks: dict[str, str] = {}
        self._rules: list[tuple[str, str]] = []
        self._script = ""
        self.notes: list[str] = []

    def element(
        self, tag: str, /, *children: Child, look: str = "", role: str = "", **attributes: str | None
    ) -> Element:
        """Return an element.

        Args:
            tag: Its name.
            children: Its contents; a string is text.
            look: Its declarations.
            role: What it is in the piece: elements of one role share a class; needed where it has a look.
            attributes: Its attributes; one that is None is left out, an underscore at the end of a name is dropped, and
                one inside becomes a hyphen.
        """
        part = role or tag
        names = {name: name.rstrip("_").replace("_", "-") for name in attributes}
        given = {
            names[name]: value
            for name, value in attributes.items()
            if value is not None and (names[name] in NEEDED or not self.terms.lacks("attribute", part, names[name]))
        }
        look = self.terms.declarations(part, look)
        if look or role:
            if self.styles is Styles.INLINE and look:
                given["style"] = look
            elif self.styles in (Styles.ELEMENT, Styles.SEPARATE):
                if look:
                    self._looks.setdefault(role, look)
                given = {"class": self.class_of(role), **given}
        nodes: list[Node] = [Text(child) if isinstance(child, str) else child for child in children]
        made = Element(self.terms.tag(part, tag), attributes=given, children=nodes)
        self._names[id(made)] = part
        return made

    def add(self, element: Element, **attributes: str) -> None:
        """Give an element attributes that do not come from its values, those left out that do not survive."""
        part = self._names[id(element)]
        for name, value in attributes.items():
            written = name.rstrip("_").replace("_", "-")
            if not self.terms.lacks("attribute", part, written):
                element.attributes[written] = value

    def class_of(self, role: str) -> str:
        """Return the class of a role."""
        return self.name if role == "" or role == "whole" else f"{self.name}-{role}"

    def rule(self, selector: str, declarations: str, condition: str = "") -> None:
        """Add a rule that no style attribute can hold, for a state or narrow screens; ``&role`` is a role's class."""
        chosen = re.sub(r"&([a-z]+)", lambda match: f".{self.class_of(match[1])}", selector)
        if self.terms.lacks("rule", chosen, condition):
            return
        self._rules.append((condition, f"{chosen} {{ {declarations} }}"))

    def script(self, text: str) -> None:
        """Give the piece a script; it is shut into a function, so that it leaves no names on the page."""
        self._script = text

    @property
    def has_rules(self) -> bool:
        """Whether the look can have states and conditions: a style attribute has none."""
        return self.styles in (Styles.ELEMENT, Styles.SEPARATE)

    def made(self, *nodes: Node, width: int = 120) -> Made:
        """Return the piece."""
        css = ""
        root = Element("", children=_without_empty(list(nodes)))
        if self.has_rules:
            looks = [f".{self.class_of(role)} {{ {look} }}" for role, look in self._looks.items()]
            css = "\n".join([*looks, *self._conditioned()])
        parts = tuple(self._parts(root))
        if not css:  # nothing knows the classes
            for part in parts:
                part.attributes.pop("class", None)
        typed = serialise(Tree(root)).markup
        if (odd := _NO_TEXT.search(f"{typed}{css}{self._script}")) is not None:
            what = "a NUL" if odd[0] == "\0" else "bytes that are no UTF-8"
            raise InputError(f"one of the values holds {what}. Give it in UTF-8, without.")
        markup = neaten(Source(typed), width=width).text
        lines = neat_css(css, width=width - len(INDENT)) if css else []
        if lines:
            css = "\n".join(["<style>", *(f"{INDENT}{line}" for line in lines), "</style>", ""])
        script = f"<script>\n(() => {{\n{self._script}\n}})();\n</script>\n" if self._script else ""
        if self.styles is Styles.SEPARATE:
            return Made(markup + script, "\n".join(lines) + "\n", tuple(self.notes), parts)
        return Made(css + markup + script, "", tuple(self.notes), parts)

    def _conditioned(self) -> Iterator[str]:
        """Yield the rules, those of one condition behind one another together."""
        for condition, rules in groupby(self._rules, key=lambda rule: rule[0]):
            text = "\n".join(rule for _, rule in rules)
            yield f"{condition} {{\n{text}\n}}" if condition else text

    def _parts(self, root: Element) -> Iterator[Part]:
        stack: list[Node] = root.children[::-1]
        while stack:
            node = stack.pop()
            if isinstance(node, Element):
                yield Part(self._names.get(id(node), node.name), node.name, node.attributes)
                stack += node.children[::-1]

    def address(self, typed: str, what: str, *, picture: bool = False) -> str:
        """Return the address that was meant; what was done to it is told.

        Raises:
            InputError: it is empty, would run code, or is none.
        """
        meant = meant_address(typed, what, picture=picture)
        if meant.note:
            self.notes.append(meant.note)
        return meant.address


def _without_empty(nodes: list[Node]) -> list[Node]:
    """Return nodes with the contents of elements that are left out in their place."""
    found: list[Node] = []
    for node in nodes:
        if isinstance(node, Element):
            node.children = _without_empty(node.children)
            if not node.name:
                found += [each for each in node.children if not (isinstance(each, Element) and each.name == "col")]
                continue
        found.append(node)
    return found


def link_target(new_window: bool) -> dict[str, str]:
    """Return the attributes of a link that opens a new window, or none."""
    return {"target": "_blank", "rel": "noopener"} if new_window else {}
