"""A piece set apart: markup, styles and scripts together."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterable
from functools import partial

from msgspec import structs

from verse_tray.edit.apart.code import renamed_script
from verse_tray.edit.apart.own import Names, own_names
from verse_tray.edit.values import quote_of
from verse_tray.markup.serialise import escape_for_quote
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element
from verse_tray.model.errors import InputError
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject, WrittenCode
from verse_tray.script.reading import read_script
from verse_tray.script.syntax import is_readable
from verse_tray.style.selectors import with_selectors
from verse_tray.style.sheets import parse_sheet

_NAME = re.compile(r"(?<![\w$.])[A-Za-z_$][\w$]*")


def set_apart(piece: Piece, name: str, *, looks: bool = True) -> tuple[str, list[str]]:
    """Put ``name-`` in front of the piece's own names, in markup, styles and scripts.

    They are its identifiers, its classes, animations, groups of radio buttons, image maps and frames. Classes that
    neither a style nor a script of the piece knows are the site's, and stay. What a script declares is shut into a
    function; what handlers or other scripts use of it gets a name of its own.

    Args:
        piece: The piece.
        name: The name.
        looks: Whether classes and animations are set apart as well; else only what there can be just one of.

    Returns:
        The text afterwards, and notes for the author, each with its place.

    Raises:
        InputError: the name is none that identifiers can begin with.
    """
    if not re.fullmatch(r"[A-Za-z][\w-]*", name):
        raise InputError(f"--apart {name}: expected a short name of letters, digits and hyphens, such as tides.")
    names = own_names(Subject(piece), f"{name}-")
    if not looks:
        names = structs.replace(names, classes=frozenset(), frames=frozenset())
    return _Apart(piece, names).done()


def with_prefixes(piece: Piece, each: Iterable[Names]) -> str:
    """Return the text with prefixes in front of names, in markup, styles and scripts.

    Unlike :func:`set_apart`, it shuts nothing into functions.

    Args:
        piece: The piece.
        each: Names, and what is put in front of them.
    """
    for names in each:
        piece = Piece(piece.source.edited(_Apart(piece, names, shut=False).done()[0]))
    return piece.source.text


def copies(piece: Piece, count: int, name: str) -> tuple[str, list[str]]:
    """Return several copies of a piece behind one another, each set apart; what is loaded is loaded once.

    Returns:
        The text, and notes for the author.

    Raises:
        InputError: the name is none that identifiers can begin with.
    """
    texts: list[str] = []
    notes: list[str] = []
    for number in range(1, count + 1):
        text, told = set_apart(piece if number == 1 else _without_loading(piece), f"{name}-{number}")
        texts.append(text.strip("\r\n"))
        notes = notes or told
    return "\n".join(texts) + "\n", notes


def _without_loading(piece: Piece) -> Piece:
    """Return a piece without the scripts and sheets that it loads: the first copy has them."""
    subject = Subject(piece)
    splices = []
    for element in subject.each("script", "link"):
        loads = element.attributes.get("src") if element.name == "script" else element.attributes.get("href")
        outer = piece.source_map.outer_span(element)
        if loads and outer is not None:
            splices.append(Splice(outer, ""))
    return Piece(piece.source.edited(Spliced(piece.source.text, splices).text))


class _Apart:
    """A piece being set apart."""

    def __init__(self, piece: Piece, names: Names, *, shut: bool = True) -> None:
        self._piece = piece
        self._subject = Subject(piece)
        self._names = names
        self._shut = shut
        self._notes: list[str] = []
        self._handlers = " ".join(v for e in self._subject.elements for n, v in e.attributes.items() if n[:2] == "on")
        self._globals = self._shared(re.sub(r"\W", "_", names.prefix)) if shut else {}

    def done(self) -> tuple[str, list[str]]:
        splices = [*self._in_markup(), *self._in_sheets(), *self._in_scripts()]
        return Spliced(self._piece.source.text, splices).text, self._notes

    def _note(self, offset: int, message: str) -> None:
        line, column = self._piece.source.place(offset)
        if all(message not in note for note in self._notes):
            self._notes.append(f"{self._piece.source.name}:{line}:{column}: {message}.")

    def _shared(self, front: str) -> dict[str, str]:
        """Return the names that handlers and scripts share through the page, and what each becomes."""
        found: dict[str, str] = {}
        readings = [(code, read_script(code.text)) for code in self._classic()]
        handlers = _words(self._handlers)
        own = {id(code): _words(code.text) for code, _ in readings}
        everywhere = Counter(handlers)
        for words in own.values():
            everywhere.update(words)
        for code, reading in readings:
            shared = (name for name in reading.declared if everywhere[name] > own[id(code)][name])
            found |= {name: front + name for name in (*shared, *(each for each in reading.made if everywhere[each]))}
        return found

    def _classic(self) -> list[WrittenCode]:
        return [c for c in self._subject.scripts if c.element.attributes.get("type", "").lower() != "module"]

    def _in_markup(self) -> list[Splice]:
        splices = []
        for element in self._subject.elements:
            for attribute, value in element.attributes.items():
                found = self._subject.attribute(element, attribute)
                if found is None or found.value is None:
                    continue
                if attribute.startswith("on"):
                    new = self._code(value, partial(self._place_of, element, attribute), read_script(value).bound)
                else:
                    new = self._names.of_attribute(attribute, value, element.name)
                if new != value:
                    splices.append(Splice(found.value, escape_for_quote(new, quote_of(self._subject, found))))
        return splices

    def _place_of(self, element: Element, attribute: str, offset: int) -> int:
        found = self._subject.value_span(element, attribute, Span(offset, offset + 1))
        return 0 if found is None else found.start

    def _in_sheets(self) -> list[Splice]:
        names, splices = self._names, []
        for code, _ in self._subject.sheets:
            if code.start is not None:
                text = with_selectors(code.text, names.selector)
                splices += _whole(code.start, code.text, names.fragments(_renamed_frames(text, names)))
        return splices

    def _code(self, text: str, place: Callable[[int], int], own: frozenset[str]) -> str:
        """Return code with its names set apart; of what cannot be read nothing is changed, and that is told."""
        if not is_readable(text):
            self._note(place(0), "this script is too long or too deeply nested to be read, so its names were left")
            return text
        told: list[tuple[int, str]] = []
        new = renamed_script(text, self._names, self._globals, told, own=own)
        for offset, message in told:
            self._note(place(offset), message)
        return new

    def _in_scripts(self) -> list[Splice]:
        splices: list[Splice] = []
        classic = {id(code) for code in self._classic()}
        for code in self._subject.scripts:
            if code.start is None or not code.text.strip():
                continue
            reading = read_script(code.text)
            declared = {name for name in reading.declared if name in self._globals}
            text = self._code(code.text, code.start.__add__, reading.bound)
            shuts = self._shut and id(code) in classic
            if shuts and not (text.lstrip().startswith(("(() =>", "(function")) and not reading.declared):
                exports = "".join(self._export(name, code.text) for name in sorted(declared))
                text = f"\n(() => {{\n{exports}{text.strip(chr(10))}\n}})();\n"
            splices += _whole(code.start, code.text, text)
        return splices

    def _export(self, name: str, text: str) -> str:
        """Return what gives a name of the script to handlers and other scripts, which see it as it is then."""
        constant = re.search(rf"\b(?:const|class)\s+{re.escape(name)}\b", text) is not None
        setter = "" if constant else f" set: (value) => {{ {name} = value; }},"
        known = f"{{ get: () => {name},{setter} configurable: true }}"
        return f'Object.defineProperty(window, "{self._globals[name]}", {known});\n'


def _words(code: str) -> Counter[str]:
    """Return the names in code that are no members of something, with how often they stand there."""
    return Counter(_NAME.findall(code))


def _whole(start: int, old: str, new: str) -> list[Splice]:
    return [] if old == new else [Splice(Span(start, start + len(old)), new)]


def _renamed_frames(text: str, names: Names) -> str:
    sheet = parse_sheet(text)
    splices = []
    for rule in sheet.rules:
        for each in rule.declarations:
            if each.name.removeprefix("-webkit-") in ("animation", "animation-name"):
                typed = text[each.span.start : each.span.end]
                front, colon, value = typed.partition(":")
                splices.append(Splice(each.span, front + colon + names.animations(value)))
    text = Spliced(text, splices).text
    return re.sub(
        r"(@(?:-webkit-)?keyframes\s+)([\w-]+)", lambda m: m[1] + (names.animations(m[2])), text, flags=re.IGNORECASE
    )
