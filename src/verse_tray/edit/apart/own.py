"""The names that are a piece's own, and what each becomes."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection

from msgspec import Struct

from verse_tray.piece.subject import Subject
from verse_tray.script.reading import read_script
from verse_tray.style.names import names_in

_WRITTEN_ID = re.compile(r"<[a-z][^<>]*?\sid=\\?([\"'])([\w-]+)\\?\1", re.IGNORECASE)
_ATTRIBUTE_TEST = re.compile(r"\[\s*([\w-]+)\s*([~|^$*]?=)\s*(\"[^\"]*\"|'[^']*'|[\w-]+)")


class Names(Struct, frozen=True):
    """Names of a piece, by what they name."""

    prefix: str
    """What is put in front of each."""
    ids: frozenset[str] = frozenset()
    """Identifiers, and names of places that links lead to."""
    classes: frozenset[str] = frozenset()
    """Classes that its styles or its scripts know, and its markup or its scripts hold."""
    frames: frozenset[str] = frozenset()
    """Animations."""
    groups: frozenset[str] = frozenset()
    """Names of groups of radio buttons outside of forms, and of sections of which one is open."""
    maps: frozenset[str] = frozenset()
    """Names of image maps."""
    windows: frozenset[str] = frozenset()
    """Names of frames."""

    def id(self, name: str, *, partial: bool = False) -> str:
        """Return what an identifier becomes; ``partial``: whether a script goes on with it."""
        return self._own(name, self.ids, partial=partial)

    def classes_in(self, value: str, *, partial: bool = False) -> str:
        """Return what a list of classes becomes; ``partial``: whether a script goes on with the last one."""
        return each_word(value, lambda word, last: self._own(word, self.classes, partial=partial and last))

    def ids_in(self, value: str) -> str:
        """Return what a list of identifiers becomes."""
        return each_word(value, lambda word, _: self.id(word))

    def selector(self, selectors: str, *, partial: bool = False) -> str:
        """Return what a selector list becomes; ``partial``: whether a script goes on with its last name."""
        pieces: list[str] = []
        at = 0
        for name in names_in(selectors):
            ends = partial and name.span.end == len(selectors)
            known = self.classes if name.mark == "." else self.ids
            pieces += [selectors[at : name.span.start], self._own(name.name, known, partial=ends)]
            at = name.span.end
        return _ATTRIBUTE_TEST.sub(self._tested, "".join([*pieces, selectors[at:]]))

    def animations(self, value: str) -> str:
        """Return what an animation's value becomes."""
        return re.sub(r"[\w-]+", lambda match: self._own(match[0], self.frames), value)

    def fragments(self, value: str) -> str:
        """Return what a value with addresses such as ``url(#wave)`` becomes."""
        return re.sub(r"url\((\s*['\"]?)#([^'\")\s]+)", lambda m: f"url({m[1]}#{self.id(m[2])}", value)

    def of_attribute(self, name: str, value: str, element: str = "") -> str:
        """Return what an attribute's value becomes."""
        if name == "class":
            return self.classes_in(value)
        if name in NAMES_ELEMENTS:
            return self.ids_in(value)
        if name in ("href", "xlink:href") and value.startswith("#"):
            return f"#{self.id(value[1:])}"
        if name == "usemap" and value.startswith("#"):
            return f"#{self._own(value[1:], self.maps)}"
        if name == "name":
            known = {"map": self.maps, "iframe": self.windows, "a": self.ids}.get(element, self.groups)
            return self._own(value, known)
        if name in ("target", "formtarget"):
            return self._own(value, self.windows)
        if name in ("begin", "end"):
            return re.sub(r"([\w-]+)(?=\.\w)", lambda match: self.id(match[0]), value)
        if name == "style":
            value = re.sub(
                r"(animation(?:-name)?\s*:)([^;]*)", lambda m: m[1] + self.animations(m[2]), value, flags=re.IGNORECASE
            )
        return self.fragments(value) if "url(" in value else value

    def known(self, text: str) -> bool:
        """Tell whether a text is one of the names, or some of the classes."""
        return text in self.ids or (bool(text.split()) and all(word in self.classes for word in text.split()))

    def _own(self, name: str, known: Collection[str], *, partial: bool = False) -> str:
        if name in known or (partial and name and any(each.startswith(name) for each in known)):
            return self.prefix + name
        return name

    def _tested(self, match: re.Match[str]) -> str:
        typed = match[3]
        quote = typed[0] if typed[0] in "\"'" else ""
        value = typed.strip("\"'")
        name = match[1].lower()
        if match[2] == "^=" and name in ("id", "class"):
            new = self._own(value, self.ids if name == "id" else self.classes, partial=True)
        elif match[2] in ("=", "~="):
            new = self.of_attribute(name, value)
        else:
            new = value
        return match[0] if new == value else f"{match[0][: -len(typed)]}{quote}{new}{quote}"


NAMES_ELEMENTS = frozenset(
    "id for headers list form anchor itemref aria-labelledby aria-describedby aria-controls aria-owns aria-flowto "
    "aria-activedescendant aria-details aria-errormessage popovertarget commandfor interestfor".split()
)
"""Attributes whose value is an identifier, or several (HTML standard; WAI-ARIA 1.2)."""


def each_word(value: str, change: Callable[[str, bool], str]) -> str:
    """Return a text with each of its words changed; blanks stay. Told besides: whether the word ends the text."""
    return re.sub(r"\S+", lambda match: change(match[0], match.end() == len(value)), value)


def own_names(subject: Subject, prefix: str) -> Names:
    """Return the names that are a piece's own."""
    ids = set(subject.identifiers)
    groups, maps, windows = set(), set(), set()
    for element in subject.elements:
        name = element.attributes.get("name", "")
        radio = element.name == "input" and element.attributes.get("type", "").lower() == "radio"
        if not name:
            continue
        if element.name == "details" or (radio and all(each.name != "form" for each in subject.around(element))):
            groups.add(name)
        elif element.name == "map":
            maps.add(name)
        elif element.name == "iframe":
            windows.add(name)
        elif element.name == "a":
            ids.add(name)
    for code in subject.scripts:  # what a script writes into the page
        ids |= {match[2] for match in _WRITTEN_ID.finditer(code.text)}
    frames = {
        named.name.split(" ")[1]
        for _, sheet in subject.sheets
        for named in sheet.named
        if named.name.startswith(("@keyframes ", "@-webkit-keyframes "))
    }
    return Names(
        prefix,
        frozenset(ids),
        frozenset(_own_classes(subject)),
        frozenset(frames),
        frozenset(groups),
        frozenset(maps),
        frozenset(windows),
    )


def _own_classes(subject: Subject) -> set[str]:
    """Return classes that its styles or scripts know and its markup or scripts hold: the others are the site's."""
    held = set(subject.classes) | {name for name in subject.styled_classes if name in subject.script_words}
    sought: set[str] = set()
    for code in subject.scripts:
        for each in read_script(code.text).sought:
            if each.how == "class":
                sought |= set(each.name.split())
            elif each.how != "id":
                sought |= {name.name for name in names_in(each.name) if name.mark == "."}
    return held & (set(subject.styled_classes) | sought)
