"""Declarations in the forms that an editor keeps: longhands for shorthands and back, plain colours for others."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.style.colours import COLOUR, parse_colour, written
from verse_tray.style.expand import expand
from verse_tray.style.property_table import longhands

NAME = "kept-forms"
SENTENCE = "Styles were written in the forms that the editor keeps, such as background-color for background."
_PLAIN = frozenset(("initial", "none", "normal", "transparent", "disc", "outside", "auto"))
_LONGER = {
    "text-decoration-line": "text-decoration",
    "background-color": "background",
    "background-image": "background",
    "list-style-type": "list-style",
    "font-variant-caps": "font-variant",
    "overflow-x": "overflow",
    "inline-size": "width",
}
"""Shorthands that mean the same with one part alone."""
_SIDES = ("top", "right", "bottom", "left")
_NO_MARGIN = frozenset("div section article header footer main nav aside span a img td th table button label".split())
_MOST_PARTS = 12


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield style attributes with other forms of the declarations that go."""
    for element in draft.elements():
        if "style" not in element.attributes or draft.kept(element) is None:
            continue
        look = draft.own_look(element)
        lost = [name for name in look if draft.loses(element, name)]
        if not lost:
            continue
        new: dict[str, str] = {}
        for name, value in look.items():
            if name not in lost:
                new[name] = value
            else:
                new.update({each: form for each, form in _forms(name, value) if each not in look})
        for kind in ("padding", "margin"):
            new.update(_together(element, kind, look, lost))
        if new and new != look:
            style = "; ".join(f"{name}: {value}" for name, value in new.items())
            yield from draft.with_attributes(element, style=style)


def _forms(name: str, value: str) -> Iterator[tuple[str, str]]:
    """Yield other declarations that come to the same; the declaration itself in plain colours where it has others."""
    plain = COLOUR.sub(lambda match: _hex(match[0]), value)
    if plain != value:
        yield name, plain
    if name in _LONGER:
        yield _LONGER[name], value
    parts = longhands(name)
    if 1 < len(parts) <= _MOST_PARTS or name in ("border", "background", "font"):
        found = [(each, form) for each, form in expand(name, plain) if form not in _PLAIN]
        if name.startswith("border") and len(found) > 4:
            found = _of_border(found)
        yield from found
    if name == "background" and "gradient" in value and (first := COLOUR.search(value)) is not None:
        yield "background-color", _hex(first[0])
    yield name, plain


def _hex(typed: str) -> str:
    colour = parse_colour(typed)
    return written(colour, "hex") if colour is not None and len(written(colour, "hex")) == 7 else typed


def _of_border(found: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """Return what all four sides have in common as three declarations."""
    made = []
    for part in ("width", "style", "color"):
        values = {value for name, value in found if name.endswith(f"-{part}") and "image" not in name}
        if len(values) == 1:
            made.append((f"border-{part}", values.pop()))
    return made


def _together(element: Element, kind: str, look: dict[str, str], lost: list[str]) -> dict[str, str]:
    """Return one declaration for sides that go one by one; nothing where a side is not known."""
    sides = {side: look[f"{kind}-{side}"] for side in _SIDES if f"{kind}-{side}" in look}
    gone = [side for side in sides if f"{kind}-{side}" in lost]
    if not gone or kind in look or (kind == "margin" and len(sides) < 4 and element.name not in _NO_MARGIN):
        return {}
    return {kind: " ".join(sides.get(side, "0") for side in _SIDES)}
