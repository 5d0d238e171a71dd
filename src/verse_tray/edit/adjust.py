"""Setting values in a piece, and nothing else of it."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.edit.acceptable import attribute_value, check_value
from verse_tray.edit.values import Place, Value, ValueKind, attribute_splice, find_values
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import counted, spelling
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.style.cascade import Hit, cascade
from verse_tray.style.colours import Form, parse_colour, written
from verse_tray.style.declarations import parse_declarations
from verse_tray.style.properties import PROPERTIES
from verse_tray.style.sheets import parse_sheet


def set_values(piece: Piece, settings: dict[str, str], told: list[str] | None = None) -> str:
    """Return a piece's text with other values, each named by its short name, or by the value it has now.

    Args:
        piece: The piece.
        settings: Values by their names.
        told: Is given what was mended in the values.

    Raises:
        InputError: there is no such value, or the new one cannot stand in its place.
    """
    known = find_values(piece)
    splices: dict[Span, Splice] = {}
    for name, new in settings.items():
        chosen = [value for value in known if value.name == name] or [v for v in known if _is_now(v, name)]
        if not chosen:
            near = spelling(name, [value.name for value in known], 0.6)
            raise InputError(
                f"{piece.source.name}: there is no value {name!r}{near} verse-tray adjust FILE lists them."
            )
        for value in chosen:
            for place in value.places:
                splices[place.span] = Splice(place.span, _written(new, value.kind, value.name, place, told))
    return Spliced(piece.source.text, list(splices.values())).text


def named_in(piece: Piece, given: str) -> str | None:
    """Return the name, or the value of now, that a setting begins with: either can hold an equals sign itself."""
    known = find_values(piece)
    fronts = [given[:at].strip() for at, sign in enumerate(given) if sign == "="]
    named = [front for front in fronts if any(value.name == front or _is_now(value, front) for value in known)]
    return max(named, key=len, default=None)


def _is_now(value: Value, name: str) -> bool:
    if value.value == name:
        return True
    if value.kind is not ValueKind.COLOUR:
        return False
    colour = parse_colour(name)
    return colour is not None and parse_colour(value.value) == colour


def convert_colours(piece: Piece, form: Form) -> str:
    """Return a piece's text with every colour written in one form; what has no name stays in hex."""
    splices = []
    for value in find_values(piece):
        colour = parse_colour(value.value) if value.kind is ValueKind.COLOUR else None
        if colour is not None:
            new = written(colour, form)
            for place in value.places:
                if place.quoted.context is not Context.ATTRIBUTE or not new.endswith(")"):
                    splices.append(Splice(place.span, new))
    return Spliced(piece.source.text, splices).text


def set_on(piece: Piece, selector: str, settings: dict[str, str], told: list[str] | None = None) -> tuple[str, int]:
    """Set style declarations, or attributes (``@name``), on every element that a selector matches.

    Returns:
        The text afterwards, and how many elements were changed.

    Raises:
        InputError: the selector is not understood or matches nothing, a property is unknown, a value cannot stand.
    """
    elements = _matching(piece, selector)
    subject = Subject(piece)
    styles = {name: value for name, value in settings.items() if not name.startswith("@")}
    for name, value in styles.items():
        if name not in PROPERTIES and not name.startswith("-"):
            raise InputError(f"--set {name}: CSS knows no property of that name{spelling(name, PROPERTIES, 0.7)}")
        _check_style(value, name)
        check_value(name, value, name)
    splices: list[Splice] = []
    if len(elements) > 1 and any(name.lower() == "@id" for name in settings):
        raise InputError(f"--set @id: {counted(len(elements), 'element')} would get one identifier. Name one element.")
    for element in elements:
        if styles:
            splices += attribute_splice(subject, element, "style", _styled(element, styles))
        for name, value in settings.items():
            if name.startswith("@"):
                splices += _attribute_splices(subject, element, name[1:], value, told)
    return Spliced(piece.source.text, splices).text, len(elements)


def _matching(piece: Piece, selector: str) -> list[Element]:
    mark = "--verse-tray"
    sheet = parse_sheet(f"{selector} {{ {mark}: 1 }}")
    view = piece.written_view
    if "{" in selector or "}" in selector or len(sheet.rules) != 1:
        raise InputError(f"--on {selector!r}: this is no selector. Write one such as 'li', '.card' or 'ul > li'.")
    answer = cascade(piece.parsed.tree, view.elements, [sheet])
    if answer.skipped:
        raise InputError(
            f"--on {selector!r}: this selector is not understood. Write one such as 'li', '.card' or 'ul > li'."
        )
    found = [element for element in view.elements if _is_marked(answer.matched.get(element.key, ()), mark)]
    if not found:
        raise InputError(f"--on {selector!r}: no element of {piece.source.name} matches.")
    return found


def _is_marked(hits: tuple[Hit, ...], mark: str) -> bool:
    return any(name == mark for hit in hits for name, _ in hit.normal)


def _styled(element: Element, styles: dict[str, str]) -> str:
    """Return an element's style attribute with other declarations, each in its place or at the end."""
    old = element.attributes.get("style", "")
    declarations = {each.name: each for each in parse_declarations(old)}
    new = Spliced(
        old,
        [
            Splice(declarations[name].span, f"{name}: {value}{' !important' if declarations[name].important else ''}")
            for name, value in styles.items()
            if name in declarations
        ],
    ).text.rstrip()
    added = "; ".join(f"{name}: {value}" for name, value in styles.items() if name not in declarations)
    if added:
        new = f"{new}{'' if not new or new.endswith(';') else ';'}{' ' if new else ''}{added}"
    return new


def _attribute_splices(
    subject: Subject, element: Element, name: str, value: str, told: list[str] | None
) -> Iterator[Splice]:
    if not re.fullmatch(r"[A-Za-z][\w:.-]*", name):
        raise InputError(f"--set @{name}: this is no attribute's name.")
    name = name.lower()
    return attribute_splice(subject, element, name, attribute_value(name, value, f"--set @{name}", told))


def _written(new: str, kind: ValueKind, name: str, place: Place, told: list[str] | None) -> str:
    """Return a new value as it has to be typed at a place."""
    in_style = place.quoted.context is Context.STYLE
    if (
        kind is ValueKind.COLOUR
        and parse_colour(new) is None
        and not (in_style and re.fullmatch(r"var\(--[\w-]+\)|currentcolor", new, re.I))
    ):
        raise InputError(f"--set {name}={new}: this is no colour. Write one such as #1d4f53, rgb(29, 79, 83) or teal.")
    if kind is ValueKind.DURATION and not re.fullmatch(r"\d*\.?\d+m?s", new):
        raise InputError(f"--set {name}={new}: this is no duration. Write one such as 300ms or 0.3s.")
    if in_style:
        _check_style(new, name)
        if kind is ValueKind.SIZE and place.declared is not None:
            whole = re.fullmatch(rf".*-{re.escape(place.declared)}(?:-\d+)?", name) is not None
            check_value(place.declared if whole else "border-width", new, name, only_unit=not whole)
    elif place.declared is not None:
        new = attribute_value(place.declared, new, f"--set {name}", told)
    return place.quoted.typed(new)


def _check_style(value: str, name: str) -> None:
    declared = parse_declarations(f"x: {value}")
    if (
        len(declared) != 1
        or not declared[0].name
        or not value.strip()
        or re.search(r"[{}]", value)
        or value.count("(") != value.count(")")
    ):
        raise InputError(
            f"--set {name}={value}: this cannot stand behind a colon in a style. Write one value, without ; or braces."
        )
