"""Declarations in the forms that an editor keeps: longhands for shorthands and back, plain colours for others."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.style.colours import COLOUR, Colour, parse_colour, written
from verse_tray.style.defaults import own_style
from verse_tray.style.expand import expand
from verse_tray.style.property_table import longhands
from verse_tray.style.variables import summed

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
_MOST_PARTS = 12


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield style attributes with other forms of the declarations that go, of those that the editor keeps."""
    for element in draft.elements:
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
                continue
            forms = [(each, form) for each, form in _forms(name, value) if _is_kept(draft, element, each, form)]
            new.update(forms or [(name, value)])
        for kind in ("padding", "margin"):
            new.update(_together(element, kind, look, lost))
        if new != look:
            style = "; ".join(f"{name}: {value}" for name, value in new.items())
            yield from draft.with_attributes(element, style=style)


def _is_kept(draft: Draft, element: Element, name: str, value: str) -> bool:
    return draft.probe.keeps(element.name, f"{name}: {value}")


def _forms(name: str, value: str) -> Iterator[tuple[str, str]]:
    """Yield other declarations that come to the same, one in plain colours first."""
    marked = value.endswith(" !important")
    value = value.removesuffix(" !important")
    for each, form in _unmarked(name, value):
        yield each, f"{form} !important" if marked else form


def _unmarked(name: str, value: str) -> Iterator[tuple[str, str]]:
    plain = COLOUR.sub(lambda match: _hex(match[0]), summed(value))
    if plain != value:
        yield name, plain
    if name in _LONGER:
        yield _LONGER[name], plain
    parts = longhands(name)
    if 1 < len(parts) <= _MOST_PARTS or name in ("border", "background", "font"):
        kept = "list-style-type" if name == "list-style" else ""  # there, none is what is meant
        found = [(each, form) for each, form in expand(name, plain) if form not in _PLAIN or each == kept]
        if name.startswith("border") and len(found) > 4:
            found = _of_border(found)
        yield from found
    if name in ("background", "background-image") and "gradient" in value and (mean := _mean(value)):
        yield "background-color", mean


def _mean(gradient: str) -> str:
    """Return the mean of the colours of a gradient: the plain ground that is nearest to it."""
    found = [colour for each in COLOUR.findall(gradient) if (colour := parse_colour(each)) is not None]
    if not found:
        return ""
    parts = [sum(part) / len(found) for part in zip(*((c.red, c.green, c.blue) for c in found), strict=True)]
    return written(Colour(*parts), "hex")


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
    """Return one declaration for sides that go one by one; those not said are as browsers have them."""
    sides = {side: look[f"{kind}-{side}"] for side in _SIDES if f"{kind}-{side}" in look}
    if kind in look or not any(f"{kind}-{side}" in lost for side in sides):
        return {}
    usual = dict(own_style(element))
    values = [sides.get(side, usual.get(f"{kind}-{side}", "0")) for side in _SIDES]
    return {kind: " ".join(values)} if not any("!" in value or "internal" in value for value in values) else {}
