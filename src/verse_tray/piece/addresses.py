"""The addresses of a piece, for the rules about them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.piece.subject import Subject

_FILLED = lazy(r"[{\[%<$]")


def may_be_filled(value: str) -> bool:
    """Tell whether a value may hold something that a platform, or a template, fills in."""
    return _FILLED.search(value) is not None


_ONE = ADDRESS_ATTRIBUTES - {"srcset", "ping", "usemap", "manifest", "longdesc"}
_DATA = frozenset(("object",))


def addresses(subject: Subject) -> Iterator[tuple[Element, str, str]]:
    """Yield element, attribute and value of each attribute that holds one address."""
    for element in subject.elements:
        for name, value in element.attributes.items():
            if name in _ONE and value and (name != "data" or element.name in _DATA) and element.namespace == HTML:
                yield element, name, value
