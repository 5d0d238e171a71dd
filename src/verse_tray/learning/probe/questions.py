"""What can be asked of an editor: small pieces of markup, the most telling first (``questions.toml``)."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable, Iterator
from functools import lru_cache
from pathlib import Path
from typing import Any

from msgspec import Struct

from verse_tray.learning.probe.wishes import Wishes
from verse_tray.markup.names import SERIALISED_AS_VOID
from verse_tray.model.patterns import lazy

_NAMES = lazy(r"(?<= )\{([a-z][a-zA-Z:\- 0-9]*)\}")
_WORD = lazy(r"\{([1-9])\}")


class Question(Struct, frozen=True):
    """One cell of a probe."""

    asks: str
    """What it asks about, in words."""
    markup: str
    """What is sent."""
    late: bool = False
    """Whether it may swallow what follows, and so stands at the end."""
    small: bool = False
    """Whether it is of use only where little fits."""


class _Samples:
    """The values that attributes are sent with."""

    def __init__(self, data: dict[str, str]) -> None:
        self._bare = frozenset(data["bare"].split())
        self._values = dict(each.split("=", 1) for each in data["text"].split())
        self._ids = 0

    def attributes(self, names: Iterable[str]) -> str:
        """Return attributes as they are written in a tag; identifiers are never the same."""
        return "".join(f" {name}" if name in self._bare else f' {name}="{self._value(name)}"' for name in names)

    def _value(self, name: str) -> str:
        if name == "id":
            self._ids += 1
            return f"i{self._ids}"
        return self._values[name].replace("-", " ") if name == "viewBox" else self._values[name]


def words_put_in(markup: str) -> str:
    """Put a word into each place for one."""
    return _WORD.sub(lambda place: f"w{place[1]}", markup)


@lru_cache
def _data() -> dict[str, Any]:
    return tomllib.loads((Path(__file__).parent / "questions.toml").read_text("utf-8"))


def attributes_text(names: Iterable[str]) -> str:
    """Return attributes with their samples as they are written in a tag."""
    return _Samples(_data()["samples"]).attributes(names)


def knows(name: str) -> bool:
    """Tell whether there is a sample of an attribute's value."""
    samples = _Samples(_data()["samples"])
    return name in samples._bare or name in samples._values


def element_markup(name: str, attributes: str) -> str:
    """Return an element with a word in it, or a void one."""
    tag = f"<{name}{attributes}>"
    return tag if name in SERIALISED_AS_VOID else f"{tag}w1</{name}>"


@lru_cache(maxsize=8)
def questions(wishes: Wishes | None = None) -> tuple[Question, ...]:
    """Return everything that can be asked, the most telling first; what somebody wishes to know is near the front."""
    data = _data()
    samples = _Samples(data["samples"])
    found: dict[str, Question] = {}
    for number, group in enumerate(data["group"]):
        late, small = group.get("late", False), group.get("small", False)
        for markup in _markups(group, samples):
            found.setdefault(markup, Question(group["asks"], markup, late, small))
        if number == _WISHES_BEHIND:
            found.update((each.markup, each) for each in _wished(wishes or Wishes()))
    return tuple(found.values())


_WISHES_BEHIND = 11
"""The group behind which stands what the author wishes to know: names and addresses are settled by then."""


def _markups(group: dict[str, Any], samples: _Samples) -> Iterator[str]:
    for spec in group.get("elements", "").split(";"):
        if spec.strip():
            name, *names = spec.split()
            yield element_markup(name, samples.attributes(names))
    for markup in group.get("markup", ()):
        yield words_put_in(_NAMES.sub(lambda place: samples.attributes(place[1].split()).strip(), markup))
    for style in group.get("declared", ()):
        yield f'<p style="{style}">w1</p>'
    for key, values in group.get("values", {}).items():
        for first in range(0, len(values), 9):
            element, attribute = key.split()
            yield _row(element, attribute, values[first : first + 9])
    for name, values in group.get("style", {}).items():
        yield _row("i", "style", [f"{name}:{value}" for value in values])


def _row(element: str, attribute: str, values: Iterable[str]) -> str:
    """Return an element for each value, each with a word of its own."""
    alt = ' alt="t"' if element == "img" and attribute == "src" else ""
    void = element in SERIALISED_AS_VOID
    return "".join(
        f'<{element} {attribute}="{value}"{alt}>' + ("" if void else f"w{number}</{element}>")
        for number, value in enumerate(values, 1)
    )


def _wished(wishes: Wishes) -> Iterator[Question]:
    if wishes.hosts:
        hosts = (*wishes.hosts, "frames.example", wishes.hosts[0])  # the first again: a count is no list of hosts
        frames = "".join(f'<iframe src="https://{host}/e" width="9" height="9"></iframe>' for host in hosts)
        yield Question("hosts of frames", frames, late=True)
        yield Question("hosts of links", _row("a", "href", [f"https://{host}/x" for host in wishes.hosts[:9]]))
    for address in wishes.addresses:
        yield Question("links of your own pieces", f'<a href="{_escaped(address)}">w1</a>')
    for number in range(0, len(wishes.classes), 9):
        yield Question("classes", _row("p", "class", wishes.classes[number : number + 9]))
    for name in wishes.elements:
        yield Question("elements of your own pieces", element_markup(name, ' class="c1"'))
    for pair in wishes.attributes:
        name, attribute, value = pair
        yield Question("attributes of your own pieces", element_markup(name, f' {attribute}="{_escaped(value)}"'))
    for number in range(0, len(wishes.declarations), 9):
        row = [_escaped(each) for each in wishes.declarations[number : number + 9]]
        yield Question("declarations of your own pieces", _row("i", "style", row))


def _escaped(value: str) -> str:
    return re.sub('[&"<>]', lambda sign: {"&": "&amp;", '"': "&quot;", "<": "&lt;", ">": "&gt;"}[sign[0]], value)
