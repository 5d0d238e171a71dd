"""Text in the colour of its background, or nearly so."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML, INVISIBLE
from verse_tray.markup.tree import Element, Text
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject
from verse_tray.style.cascade import Winners
from verse_tray.style.colours import COLOUR, Colour, contrast, over, parse_colour, written

RULE = Rule(
    Severity.WARNING,
    readers="Readers cannot see the text, and screen readers read it aloud all the same.",
    advice="Give the text another colour; make space with a margin.",
    bad='<p style="background: #fff; color: white">Wear boots.</p>',
    good='<p style="background: #fff; color: #1d4f53">Wear boots.</p>',
)
_LEAST = 1.3  # contrast below which text cannot be seen at all; what is merely hard to read is another matter
_HIDDEN = (
    "opacity",
    "filter",
    "mix-blend-mode",
    "text-shadow",
    "background-clip",
    "-webkit-text-fill-color",
    "-webkit-background-clip",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each element whose text has the colour of its background, both told by the piece."""
    known: dict[int, tuple[Colour | None, Colour | None]] = {}
    for element in subject.elements:
        parent = subject.parents.get(element.key)
        colour, ground = known.get(parent.key, (None, None)) if parent is not None else (None, None)
        winners = subject.winners(element)
        if "color" in winners:
            colour = _parsed(winners["color"][0], colour)
        elif element.name in ("a", "button", "mark", "input", "select", "textarea"):
            colour = None
        ground = _ground(element, winners, ground)
        if any(name in winners for name in _HIDDEN):
            ground = None
        known[element.key] = (colour, ground)
        own = winners.keys() & {"color", "background", "background-color"} or "bgcolor" in element.attributes
        if colour is None or ground is None or not own or element.namespace != HTML or element.name in INVISIBLE:
            continue
        if colour.alpha > 0 and contrast(over(colour, ground), ground) < _LEAST and _own_text(element):
            same = colour[:3] == ground[:3]
            yield Mistake(
                subject.name_span(element),
                f"The text of this <{element.name}> has {'the' if same else 'nearly the'} colour of its background "
                f"({written(colour, 'hex')}), so readers cannot see it. Give it another colour; make space with a "
                "margin.",
            )


def _parsed(value: str, otherwise: Colour | None) -> Colour | None:
    return otherwise if value.lower() in ("inherit", "currentcolor", "unset") else parse_colour(value)


def _ground(element: Element, winners: Winners, around: Colour | None) -> Colour | None:
    """Return the opaque colour behind an element's text; None where it cannot be known."""
    if winners.get("position", ("",))[0] in ("absolute", "fixed"):
        around = None
    if "background-image" in winners and winners["background-image"][0] != "none":
        return None
    value = element.attributes.get("bgcolor")
    if value is not None and value.startswith("#"):
        around = parse_colour(value) or around
    for name in ("background", "background-color"):
        if name not in winners:
            continue
        given = winners[name][0]
        if name == "background" and ("url(" in given or "gradient(" in given or "var(" in given):
            return None
        colours = [colour for match in COLOUR.finditer(given) if (colour := parse_colour(match[0])) is not None]
        if not colours:
            if given.lower() in ("none", "0", "transparent", "inherit", "initial", "unset", "0 0"):
                continue
            return None
        if colours[-1].alpha == 1:
            around = colours[-1]
        elif around is None and colours[-1].alpha > 0:
            return None
        elif around is not None:
            around = over(colours[-1], around)
    return around


def _own_text(element: Element) -> bool:
    return any(type(child) is Text and child.data.strip() for child in element.children)
