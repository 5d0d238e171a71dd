"""What no general probe can guess: hosts, classes, names and declarations of the author's own pieces.

Pieces come from strangers, and a probe is pasted into a page: nothing of a piece gets into one that could do something
there, break out of its cell, or be taken for a mark of the probe.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from msgspec import Struct

from verse_tray.markup.addresses import host_of, scheme_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.style.declarations import parse_declarations

_MOST = 27
"""How much of each kind is asked."""
_PLAIN_NAME = re.compile(r"[a-z][a-z0-9]*(?:[-_:][a-z0-9]+)*")
_PLAIN_CLASS = re.compile(r"[\w-]+")
_PLAIN_HOST = re.compile(r"[a-z0-9.-]+(?::\d+)?")
_PLAIN_VALUE = re.compile(
    r"[\w\s.,#%!/+*'-]*(?:\b(?:rgba?|hsla?|calc|min|max|clamp|var)\([\w\s.,%/+*-]*\)[\w\s.,#%!-]*)*"
)
"""Values of declarations that load nothing: words, numbers, colours, sums."""
_CARRIERS = frozenset(
    "a article aside b blockquote div em footer h1 h2 h3 h4 h5 h6 header i img li main nav ol p s section span strong "
    "u ul".split()
)
"""Elements that can stand in a cell with a word in them, whatever their attributes."""
_MARK = re.compile(r"\bq\d{3}z\b")
"""What would be taken for a mark of the probe, wherever it stands."""


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
            own = element.namespace == "html" and element.name not in ELEMENTS and _is_plain(_PLAIN_NAME, element.name)
            if own:
                count(2, element.name)
            if (host := host_of(values.get("src", values.get("href", "")))) is not None:
                count(0, host)
            if (
                "?" in (href := values.get("href", ""))
                and scheme_of(href) in ("http", "https")
                and not _MARK.search(href)
            ):
                addresses.setdefault(host_of(href) or "", href)
            for each in values.get("class", "").split():
                count(1, each)
            for declaration in parse_declarations(values.get("style", "")):
                if _is_plain(_PLAIN_NAME, declaration.name.lstrip("-")) and _is_plain(_PLAIN_VALUE, declaration.value):
                    count(3, f"{declaration.name}:{declaration.value}")
            for name, value in values.items() if own or element.name in _CARRIERS else ():
                if name.startswith("data-") and _is_plain(_PLAIN_NAME, name) and not _MARK.search(value):
                    attributes.setdefault((element.name, name), value[:40])
    own_hosts, own_classes, elements, declarations = ([*sorted(each, key=lambda key: -each[key])] for each in counts)
    return Wishes(
        tuple(each for each in dict.fromkeys([*hosts, *own_hosts]) if _is_plain(_PLAIN_HOST, each))[:9],
        tuple(each for each in dict.fromkeys([*classes, *own_classes]) if _is_plain(_PLAIN_CLASS, each))[:_MOST],
        tuple(elements[:9]),
        tuple((name, attribute, value) for (name, attribute), value in list(attributes.items())[:9]),
        tuple(addresses.values())[:9],
        tuple(declarations[:_MOST]),
    )


def _is_plain(form: re.Pattern[str], text: str) -> bool:
    return len(text) < 80 and form.fullmatch(text) is not None and _MARK.search(text) is None
