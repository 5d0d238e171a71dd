"""Names of a piece made its own, so that several copies, or other pieces, on one page do not clash with it."""

from __future__ import annotations

import re
from collections.abc import Callable

from verse_tray.edit.values import quote_of
from verse_tray.markup.serialise import escape_for_quote
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.style.selectors import rename_in_selectors
from verse_tray.style.sheets import parse_sheet

_NAMES_ELEMENTS = frozenset(
    "id for headers list form aria-labelledby aria-describedby aria-controls aria-owns aria-activedescendant "
    "aria-details popovertarget commandfor".split()
)
_STRING = lazy(r"\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|`(?:\\.|[^`\\$])*`")


def set_apart(piece: Piece, name: str) -> tuple[str, list[str]]:
    """Put ``name-`` in front of the piece's own identifiers, classes and animations, in markup, styles and scripts.

    Classes that no style of the piece knows are the site's, and stay. A script's own variables are shut into a
    function, unless a handler in the markup calls one.

    Returns:
        The text afterwards, and notes for the author.

    Raises:
        InputError: the name is none that identifiers can begin with.
    """
    if not re.fullmatch(r"[A-Za-z][\w-]*", name):
        raise InputError(f"--apart {name}: expected a short name of letters, digits and hyphens, such as tides.")
    subject = Subject(piece)
    prefix = f"{name}-"
    ids, classes = set(subject.identifiers), set(subject.styled_classes)
    frames = {
        named.name.split(" ")[1]
        for _, sheet in subject.sheets
        for named in sheet.named
        if named.name.startswith(("@keyframes ", "@-webkit-keyframes "))
    }
    splices: list[Splice] = []
    for element in subject.elements:
        for attribute, value in element.attributes.items():
            new = _renamed_value(attribute, value, prefix, ids, classes)
            found = subject.attribute(element, attribute)
            if new == value or found is None or found.value is None:
                continue
            splices.append(Splice(found.value, escape_for_quote(new, quote_of(subject, found))))
    for code, _ in subject.sheets:
        if code.start is not None:
            text = rename_in_selectors(code.text, class_prefix=prefix, id_prefix=prefix)
            splices += _whole(code.start, code.text, _renamed_frames(text, frames, prefix))
    notes = []
    handlers = " ".join(v for e in subject.elements for n, v in e.attributes.items() if n.startswith("on"))
    for code in subject.scripts:
        if code.start is None or not code.text.strip():
            continue
        text = _STRING.sub(lambda match: _renamed_string(match[0], prefix, ids, classes), code.text)
        called = [f for f in re.findall(r"function\s+(\w+)", text) if re.search(rf"\b{f}\s*\(", handlers)]
        if called:
            notes.append(f"{called[0]}() stays a name of the whole page, because a handler in the markup calls it.")
        elif code.element.attributes.get("type") != "module" and not text.lstrip().startswith(("(() =>", "(function")):
            text = f"\n(() => {{\n{text.strip(chr(10))}\n}})();\n"
        splices += _whole(code.start, code.text, text)
    return Spliced(piece.source.text, splices).text, notes


def _whole(start: int, old: str, new: str) -> list[Splice]:
    return [] if old == new else [Splice(Span(start, start + len(old)), new)]


def _renamed_value(attribute: str, value: str, prefix: str, ids: set[str], classes: set[str]) -> str:
    if attribute == "class":
        return _each_word(value, lambda word: prefix + word if word in classes else word)
    if attribute in _NAMES_ELEMENTS:
        return _each_word(value, lambda word: prefix + word if word in ids else word)
    if attribute in ("href", "xlink:href", "usemap") and value.startswith("#") and value[1:] in ids:
        return f"#{prefix}{value[1:]}"
    if attribute == "style" or attribute in ("fill", "stroke", "clip-path", "mask", "filter"):
        return re.sub(r"url\((['\"]?)#([\w-]+)\1\)", lambda m: f"url(#{prefix}{m[2]})" if m[2] in ids else m[0], value)
    return value


def _each_word(value: str, change: Callable[[str], str]) -> str:
    return re.sub(r"\S+", lambda match: change(match[0]), value)


def _renamed_frames(text: str, frames: set[str], prefix: str) -> str:
    sheet = parse_sheet(text)
    splices = []
    for rule in sheet.rules:
        for each in rule.declarations:
            if each.name.removeprefix("-webkit-") in ("animation", "animation-name"):
                typed = text[each.span.start : each.span.end]
                new = re.sub(r"[\w-]+", lambda m: prefix + m[0] if m[0] in frames else m[0], typed)
                splices.append(Splice(each.span, new))
    text = Spliced(text, splices).text
    return re.sub(
        r"(@(?:-webkit-)?keyframes\s+)([\w-]+)", lambda m: m[1] + prefix + m[2] if m[2] in frames else m[0], text
    )


def _renamed_string(string: str, prefix: str, ids: set[str], classes: set[str]) -> str:
    """Rename what a string of a script names: an identifier or a class by itself, or in a selector."""
    inner = string[1:-1]
    if inner in ids or inner in classes:
        return f"{string[0]}{prefix}{inner}{string[-1]}"

    def renamed(match: re.Match[str]) -> str:
        known = ids if match[1] == "#" else classes
        return f"{match[1]}{prefix}{match[2]}" if match[2] in known else match[0]

    return string[0] + re.sub(r"([.#])(-?[A-Za-z_][\w-]*)", renamed, inner) + string[-1]
