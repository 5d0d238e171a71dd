"""What a piece may be made of: where its look goes, and what an editor takes away of it."""

from __future__ import annotations

from enum import StrEnum
from typing import Literal, NamedTuple

from msgspec import Struct


class Styles(StrEnum):
    """Where the look of a piece goes."""

    INLINE = "inline"
    ELEMENT = "element"
    SEPARATE = "separate"
    NONE = "none"


Kind = Literal["tag", "attribute", "property", "rule", "script", "sign"]


class Loss(NamedTuple):
    """Something of a piece that does not survive."""

    kind: Kind
    """What it is."""
    part: str
    """The part of the piece: its role, or the name of its element; the selector of a rule."""
    name: str
    """The element, the attribute, the property; a sign is any beyond 16 bits."""


class Terms(Struct, frozen=True):
    """What a piece is made under."""

    styles: Styles = Styles.INLINE
    """Where its look goes."""
    without: frozenset[Loss] = frozenset()
    """What is left out, since it would not survive."""

    def lacks(self, kind: Kind, part: str, name: str) -> bool:
        """Tell whether something does not survive."""
        return Loss(kind, part, name) in self.without

    def declarations(self, part: str, look: str) -> str:
        """Return the declarations of a part that survive."""
        if not self.without:
            return look
        kept = (each for each in look.split("; ") if not self.lacks("property", part, each.partition(":")[0].strip()))
        return "; ".join(kept)

    def tag(self, part: str, tag: str) -> str:
        """Return the element of a part: what stands for one that does not survive; empty for its contents alone."""
        known = (tag, *STANDS_FOR.get(tag, ()))
        return next((each for each in known if not self.lacks("tag", part, each)), "")


NEEDED = frozenset(("src", "href", "alt", "title"))
"""Attributes that stay, whatever becomes of them: without them the piece would be wrong."""
STANDS_FOR = {
    "figure": ("div",),
    "figcaption": ("p",),
    "section": ("div",),
    "h2": ("h3", "h4", "p"),
    "h3": ("h4", "h2", "p"),
    "h4": ("h3", "h2", "p"),
    "h5": ("h4", "h3", "p"),
    "h6": ("h5", "h4", "p"),
    "b": ("strong",),
}
"""Elements that can take the place of others."""


def terms_of(styles: Styles | Terms) -> Terms:
    """Return the terms that are meant."""
    return styles if isinstance(styles, Terms) else Terms(styles)
