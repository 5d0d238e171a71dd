"""What no general probe can guess: hosts, classes, names and declarations of the author's own pieces."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct

from verse_tray.markup.addresses import host_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.style.declarations import parse_declarations

_MOST = 27
"""How much of each kind is asked."""


class Wishes(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """What somebody wishes to know of an editor."""

    hosts: tuple[str, ...] = ()
    """Hosts of frames and links."""
    classes: tuple[str, ...] = ()
    """Classes."""
    elements: tuple[str, ...] = ()
    """Elements of names that are nobody's."""
    attributes: tuple[tuple[str, str, str], ...] = ()
    """Elements with an attribute of a name that is nobody's, and its value."""
    addresses: tuple[str, ...] = ()
    """Whole addresses of links that ask something of their host, as links to films do."""
    declarations: tuple[str, ...] = ()
    """Declarations."""


def wishes_of(pieces: Iterable[str], hosts: Iterable[str] = (), classes: Iterable[str] = ()) -> Wishes:
    """Return what pieces hold of all this, the most frequent first, behind hosts and classes that are named."""
    counts: list[dict[str, int]] = [{}, {}, {}, {}]
    attributes: dict[tuple[str, str], str] = {}
    addresses: dict[str, str] = {}

    def count(which: int, what: str) -> None:
        counts[which][what] = counts[which].get(what, 0) + 1

    for piece in pieces:
        for element in parse_fragment(piece).tree.elements():
            values = element.attributes
            if element.namespace == "html" and element.name not in ELEMENTS:
                count(2, element.name)
            if (host := host_of(values.get("src", values.get("href", "")))) is not None:
                count(0, host)
            if "?" in values.get("href", "") and host_of(values["href"]) is not None:
                addresses.setdefault(host_of(values["href"]) or "", values["href"])
            for each in values.get("class", "").split():
                count(1, each)
            for declaration in parse_declarations(values.get("style", "")):
                if declaration.name and "url(" not in declaration.value.lower():
                    count(3, f"{declaration.name}:{declaration.value}")
            for name, value in values.items():
                if name.startswith("data-") or "-" in name[5:]:
                    attributes.setdefault((element.name, name), value[:40])
    own_hosts, own_classes, elements, declarations = ([*sorted(each, key=lambda key: -each[key])] for each in counts)
    return Wishes(
        tuple(dict.fromkeys([*hosts, *own_hosts]))[:9],
        tuple(dict.fromkeys([*classes, *own_classes]))[:_MOST],
        tuple(elements[:9]),
        tuple((name, attribute, value) for (name, attribute), value in list(attributes.items())[:9]),
        tuple(addresses.values())[:9],
        tuple(declarations[:_MOST]),
    )
