"""A piece taken apart: libraries, styles, markup and scripts, each as it would be pasted by itself."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.markup.names import HTML
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject, WrittenCode
from verse_tray.script.kinds import script_kind
from verse_tray.script.reading import read_script
from verse_tray.script.syntax import ScriptTree

_LATER = """
(function_declaration) @later
(call_expression function: (member_expression property: (property_identifier) @how)
  arguments: (arguments [(arrow_function) (function_expression)] @later))
"""
_MOVABLE = frozenset("type language src async defer crossorigin integrity referrerpolicy charset".split())
_BLANK_BEFORE, _BLANK_AFTER = lazy(r"[ \t]*\Z"), lazy(r"[ \t]*(?:\r\n|\n|\r|\Z)")


class Library(Struct, frozen=True):
    """Something that a piece loads."""

    tag: str
    """The element as typed, its end tag included."""
    address: str
    """Where it is loaded from."""
    is_script: bool
    """Whether it is a script; else it is a style sheet."""


class Script(Struct, frozen=True):
    """A script of a piece."""

    text: str
    """Its text."""
    module: bool
    """Whether it is a module."""

    @property
    def needs_page(self) -> bool:
        """Whether it may look for elements as soon as it runs: not just in functions, or in what waits for an event."""
        sought = read_script(self.text).sought
        if not sought or any(each.at_once for each in sought):
            return bool(sought)
        tree = ScriptTree(self.text)
        later = [tree.span(each["later"][0]) for each in tree.matches(_LATER)
                 if "how" not in each or tree.typed(each["how"][0]) == "addEventListener"]  # fmt: skip
        return any(all(not span.start <= each.span.start < span.end for span in later) for each in sought)


class Parts(Struct, frozen=True):
    """A piece, taken apart."""

    libraries: tuple[Library, ...]
    """What it loads, in order."""
    styles: str
    """Its style sheets behind one another; empty for none."""
    scripts: tuple[Script, ...]
    """Its scripts, in order."""
    markup: str
    """The rest, as typed."""
    without_styles: str
    """The piece as typed, but for its styles and the sheets that it loads."""
    without_scripts: str
    """The piece as typed, but for its scripts and those that it loads."""


def take_apart(piece: Piece) -> Parts:
    """Take a piece apart; what cannot be found in its text stays in the markup."""
    subject, text = Subject(piece), piece.source.text
    sheets = [(code, _cut(piece, code.element)) for code, _ in subject.sheets if _is_plain(code)]
    styles = [(_sheet_text(code), cut) for code, cut in sheets if cut is not None]
    links = [
        (Library(_typed(piece, each), each.attributes.get("href", ""), False), cut)
        for each in subject.each("link")
        if "stylesheet" in each.attributes.get("rel", "").lower().split() and (cut := _cut(piece, each)) is not None
    ]
    scripts: list[tuple[Script, Span]] = []
    loads: list[tuple[Library, Span]] = []
    for each in subject.each("script"):
        kind, cut = script_kind(each.attributes), _cut(piece, each)
        if not kind or cut is None or not _MOVABLE.issuperset(each.attributes):
            continue
        if each.attributes.get("src"):
            loads.append((Library(_typed(piece, each), each.attributes["src"], True), cut))
        else:
            code = next((code for code in subject.scripts if code.element is each), None)
            if code is not None:
                scripts.append((Script(code.text.strip("\r\n"), kind == "module"), cut))
    of_styles = [cut for _, cut in (*styles, *links)]
    of_scripts = [cut for _, cut in (*scripts, *loads)]
    return Parts(
        tuple(library for library, _ in (*links, *loads)),
        "\n".join(css.strip("\r\n") for css, _ in styles if css.strip()),
        tuple(script for script, _ in scripts if script.text.strip()),
        _without(text, [*of_styles, *of_scripts]),
        _without(text, of_styles),
        _without(text, of_scripts),
    )


def _is_plain(code: WrittenCode) -> bool:
    attributes = code.element.attributes
    return code.element.namespace == HTML and attributes.get("type", "text/css").lower() in ("", "text/css")


def _sheet_text(code: WrittenCode) -> str:
    """Return a sheet that says itself which media it is for."""
    media = code.element.attributes.get("media", "").strip()
    if media.lower() in ("", "all"):
        return code.text
    return f"@media {media} {{\n{code.text.strip(chr(10))}\n}}"


def _typed(piece: Piece, element: Element) -> str:
    span = piece.source_map.outer_span(element)
    assert span is not None
    return piece.source.slice(span)


def _cut(piece: Piece, element: Element) -> Span | None:
    """Return the place of an element, with its lines where nothing else stands in them."""
    found = piece.source_map
    span = found.outer_span(element) if found.exact and element.namespace == HTML else None
    if span is None or (element.name != "link" and found.end_span(element) is None):
        return None
    text = piece.source.text
    before = text.rfind("\n", 0, span.start) + 1
    blank, after = _BLANK_BEFORE.match(text[before : span.start]), _BLANK_AFTER.match(text, span.end)
    return Span(before, after.end()) if blank is not None and after is not None else span


def _without(text: str, cuts: list[Span]) -> str:
    return Spliced(text, [Splice(cut, "") for cut in cuts]).text if cuts else text


def style_element(css: str) -> str:
    """Return a style element around CSS."""
    return f"<style>\n{css.strip(chr(10))}\n</style>"


def script_elements(scripts: tuple[Script, ...]) -> str:
    """Return script elements around scripts, each in its own: a fault in one stops no other."""
    kinds = {True: ' type="module"', False: ""}
    return "\n".join(f"<script{kinds[each.module]}>\n{each.text}\n</script>" for each in scripts)


def is_nothing(markup: str) -> bool:
    """Tell whether nothing is left to paste."""
    return not re.sub(r"<!--.*?-->", "", markup, flags=re.DOTALL).strip()
