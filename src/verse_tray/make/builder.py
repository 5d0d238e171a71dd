"""Elements with looks. A look travels in the element, in a style element, beside the piece, or not at all."""

from __future__ import annotations

import hashlib
import re
from enum import StrEnum

from msgspec import Struct

from verse_tray.edit.css_layout import neat_css
from verse_tray.edit.layout import INDENT, neaten
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError

Child = Node | str


class Styles(StrEnum):
    """Where the look of a piece goes."""

    INLINE = "inline"
    ELEMENT = "element"
    SEPARATE = "separate"
    NONE = "none"


class Made(Struct, frozen=True):
    """A piece that was made."""

    markup: str
    """Its markup, with its styles and its script unless they are separate."""
    css: str
    """Its styles, where they are separate; else empty."""
    notes: tuple[str, ...]
    """What the author should know of it."""


class Builder:
    """Puts a piece together."""

    def __init__(self, kind: str, styles: Styles, values: object, *, name: str | None = None) -> None:
        """Begin a piece.

        Args:
            kind: What it is, such as ``table``: its classes begin with that.
            styles: Where its look goes.
            values: What it is made of: two pieces made of other values get other classes, so that they do not clash.
            name: What its classes and identifiers begin with, in place of that.

        Raises:
            InputError: the name is none that identifiers can begin with.
        """
        if name is not None and not re.fullmatch(r"[A-Za-z][\w-]*", name):
            raise InputError(f"--name {name}: expected a short name of letters, digits and hyphens, such as tides.")
        digest = hashlib.blake2b(repr((kind, values)).encode("utf-8", "surrogatepass"), digest_size=2).hexdigest()
        self.name = name or f"{kind}-{digest}"
        self.styles = styles
        self._looks: dict[str, str] = {}
        self._rules: list[str] = []
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
        given = {name.rstrip("_").replace("_", "-"): value for name, value in attributes.items() if value is not None}
        if look or role:
            if self.styles is Styles.INLINE and look:
                given["style"] = look
            elif self.styles in (Styles.ELEMENT, Styles.SEPARATE):
                if look:
                    self._looks.setdefault(role, look)
                given = {"class": self.class_of(role), **given}
        nodes: list[Node] = [Text(child) if isinstance(child, str) else child for child in children]
        return Element(tag, attributes=given, children=nodes)

    def class_of(self, role: str) -> str:
        """Return the class of a role."""
        return self.name if role == "" or role == "whole" else f"{self.name}-{role}"

    def rule(self, selector: str, declarations: str, condition: str = "") -> None:
        """Add a rule that no style attribute can hold, for a state or narrow screens; ``&role`` is a role's class."""
        chosen = re.sub(r"&([a-z]+)", lambda match: f".{self.class_of(match[1])}", selector)
        rule = f"{chosen} {{ {declarations} }}"
        self._rules.append(f"{condition} {{ {rule} }}" if condition else rule)

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
        if self.has_rules:
            looks = [f".{self.class_of(role)} {{ {look} }}" for role, look in self._looks.items()]
            css = "\n".join([*looks, *self._rules])
        markup = neaten(Source(serialise(Tree(Element("", children=list(nodes)))).markup), width=width).text
        lines = neat_css(css, width=width - len(INDENT)) if css else []
        if lines:
            css = "\n".join(["<style>", *(f"{INDENT}{line}" for line in lines), "</style>", ""])
        script = f"<script>\n(() => {{\n{self._script}\n}})();\n</script>\n" if self._script else ""
        if self.styles is Styles.SEPARATE:
            return Made(markup + script, "\n".join(lines) + "\n", tuple(self.notes))
        return Made(css + markup + script, "", tuple(self.notes))


def checked_address(address: str, what: str) -> str:
    """Return an address that a link or a picture can have.

    Raises:
        InputError: it is empty, or would run code.
    """
    address = address.strip()
    if not address:
        raise InputError(f"{what}: an address is missing.")
    if scheme_of(address) in ("javascript", "vbscript") or (
        scheme_of(address) == "data" and not address.startswith("data:image/")
    ):
        raise InputError(
            f"{what}: {address[:60]} would run code. Give an address that begins with https:// or mailto:."
        )
    if re.match(r"www\.", address, re.IGNORECASE):
        address = f"https://{address}"
    return address.replace(" ", "%20")


def link_target(new_window: bool) -> dict[str, str]:
    """Return the attributes of a link that opens a new window, or none."""
    return {"target": "_blank", "rel": "noopener"} if new_window else {}
