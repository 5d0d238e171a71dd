"""A piece made ready for the rules: what several of them look at is worked out once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from functools import cached_property, lru_cache
from pathlib import Path

from msgspec import Struct

from verse_tray.markup.attributes import AttributeSpan
from verse_tray.markup.end_tags import ReadingNote
from verse_tray.markup.names import CODE, HTML, INVISIBLE, fold_name
from verse_tray.markup.parse import parse_document
from verse_tray.markup.references import decode
from verse_tray.markup.tokens import Token
from verse_tray.markup.tree import Comment, Element, Node, Text, own_text
from verse_tray.model.decoding import Source
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece
from verse_tray.script.kinds import script_kind
from verse_tray.script.reading import ScriptReading, Sought, read_script, selector_of
from verse_tray.style.cascade import Winners
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.names import names_in
from verse_tray.style.selecting import selected
from verse_tray.style.sheets import Sheet, StyleRule, parse_sheet


class Site(Struct, frozen=True):
    """What the rules know of a site that a piece may stand on."""

    editor: str
    """Name of the editor."""
    frame: str = ""
    """The page around the piece, as markup with a mark where the piece goes."""
    css: str = ""
    """The style sheet of that page."""
    boxed: bool = False
    """Whether the piece stands in a box of its own there, as a whole document if it is one, and no look reaches it."""
    opening: str = ""
    """What begins a reference that the site fills in; empty where it fills none."""
    closing: str = ""
    """What ends one."""
    fills: frozenset[str] = frozenset()
    """Names of what it can fill in."""

    def names(self, name: str) -> bool:
        """Tell whether an element of the page around the piece has an identifier, an anchor or a class of that name."""
        return name in _names_in(self.frame)

    def fills_in(self, mark: str) -> bool:
        """Tell whether a mark is a reference that the site fills in."""
        if not self.opening or not mark.startswith(self.opening) or not mark.endswith(self.closing):
            return False
        return mark[len(self.opening) : len(mark) - len(self.closing)].strip() in self.fills


@lru_cache(maxsize=64)
def _names_in(frame: str) -> frozenset[str]:
    elements = parse_document(frame).tree.elements()
    given = (each.attributes.get(name, "") for each in elements for name in ("id", "name", "class"))
    return frozenset(word for value in given for word in value.split())


class WrittenCode(Struct, frozen=True):
    """The text of a style element or a script, as it stands in the file."""

    element: Element
    """The element."""
    text: str
    """Its text, line ends as typed."""
    start: int | None
    """KnownLocation of the text in the file; None when it cannot be known."""

    def at(self, span: Span) -> Span | None:
        """Return the place in the file of a place in the text."""
        return None if self.start is None else Span(self.start + span.start, self.start + span.end)


class Declared(Struct, frozen=True):
    """One declaration of the piece with its surroundings."""

    declaration: Declaration
    """The declaration; its span is in the text it stands in."""
    span: Span | None
    """Its place in the file."""
    rule: StyleRule | None
    """The rule it stands in; None in a style attribute."""
    element: Element | None
    """The element whose style attribute it stands in; None in a rule."""
    typed: str
    """The declaration as typed; in an attribute, references resolved."""


def _declared_in(rule: StyleRule, code: WrittenCode) -> Iterator[Declared]:
    for each in rule.declarations:
        yield Declared(each, code.at(each.span), rule, None, code.text[each.span.start : each.span.end])


class Subject:
    """A piece, looked at by all rules."""

    def __init__(
        self,
        piece: Piece,
        *,
        sites: tuple[Site, ...] = (),
        region: int | None = None,
        folder: Path | None = None,
        rules: tuple[str, ...] = (),
    ) -> None:
        """Make a piece ready.

        Args:
            piece: The piece.
            sites: The sites on which it will stand.
            region: Width in CSS pixels of the region that will hold it, if that is known.
            folder: Folder that local addresses of its pictures start from; None when no file is to be looked at.
            rules: Names of all rules, for those who name one.
        """
        self.piece = piece
        self.sites = sites
        self.region = region
        self.folder = folder
        self.rules = rules
        self.parents: dict[int, Element] = {}
        """The parent of each node, by the node's key; nodes at the top are missing."""
        self.texts: list[Text] = []
        """Texts that readers see."""
        self.prose: list[Text] = []
        """Texts that readers see and that are no code samples."""
        self.comments: list[Comment] = []
        self._walk()

    def _walk(self) -> None:
        stack: list[tuple[Node, Element | None, bool, bool]] = [
            (node, None, True, True) for node in reversed(self.piece.parsed.tree.root.children)
        ]
        while stack:
            node, parent, visible, prose = stack.pop()
            if parent is not None:
                self.parents[node.key] = parent
            if type(node) is Text:
                if visible:
                    self.texts.append(node)
                    if prose:
                        self.prose.append(node)
            elif type(node) is Element:
                if node.children:
                    visible = visible and node.name not in INVISIBLE
                    prose = prose and node.name not in CODE and node.name != "textarea"
                    stack += [(child, node, visible, prose) for child in reversed(node.children)]
            elif type(node) is Comment:
                self.comments.append(node)

    @property
    def themes(self) -> tuple[Site, ...]:
        """The sites whose look reaches it."""
        return tuple(site for site in self.sites if not site.boxed)

    @property
    def takes_documents(self) -> bool:
        """Whether all sites that it is for take a whole document."""
        return bool(self.sites) and all(site.boxed for site in self.sites)

    @property
    def source(self) -> Source:
        """Its text."""
        return self.piece.source

    @property
    def elements(self) -> list[Element]:
        """Its elements in tree order."""
        return self.piece.written_view.elements

    @property
    def tokens(self) -> list[Token]:
        """The tokens of its text."""
        return self.piece.parsed.tokens

    @cached_property
    def named(self) -> dict[str, list[Element]]:
        """Its HTML elements by name."""
        found: dict[str, list[Element]] = {}
        for element in self.elements:
            found.setdefault(element.name, []).append(element)
        return found

    def each(self, *names: str) -> Iterator[Element]:
        """Yield the elements of these names, in tree order within each name."""
        for name in names:
            yield from self.named.get(name, ())

    def notes(self, kind: str) -> Iterator[ReadingNote]:
        """Yield what reading left out or could not tell, by the kind of the note."""
        return (note for note in self.piece.parsed.notes if note.kind == kind)

    def span(self, node: Node) -> Span | None:
        """Return the place of a start tag, a text or a comment."""
        return self.piece.parsed.places.span(node.key)

    def name_span(self, element: Element) -> Span | None:
        """Return the place of a start tag as far as its name: what a message about the element marks."""
        span = self.span(element)
        return None if span is None else Span(span.start, min(span.end, span.start + 1 + len(element.name)))

    def typed(self, span: Span | None) -> str:
        """Return what stands at a place; nothing for no place."""
        return "" if span is None else self.source.slice(span)

    def attribute(self, element: Element, name: str) -> AttributeSpan | None:
        """Return where an attribute stands."""
        return self.piece.source_map.attributes(element.key).get(fold_name(name))

    def attribute_span(self, element: Element, name: str) -> Span | None:
        """Return the place of an attribute, or of the tag when it has none."""
        found = self.attribute(element, name)
        return found.whole if found is not None else self.span(element)

    def value_span(self, element: Element, name: str, part: Span) -> Span | None:
        """Return the place of a part of an attribute's value; offsets in the value with its references resolved."""
        found = self.attribute(element, name)
        if found is None or found.value is None:
            return self.span(element)
        value, offsets = decode(self.source.slice(found.value), attribute=True)
        if value != element.attributes.get(name) or part.end > len(value):
            return found.whole
        start, end = part if offsets is None else (offsets[part.start], offsets[part.end])
        return Span(found.value.start + start, found.value.start + end)

    def text_span(self, text: Text, part: Span) -> Span | None:
        """Return the place of a part of a text; offsets in its data."""
        whole = self.span(text)
        if whole is None:
            return None
        data, offsets = decode(self.source.slice(whole), attribute=False)
        if data != text.data:
            return whole
        start, end = part if offsets is None else (offsets[part.start], offsets[part.end])
        return Span(whole.start + start, whole.start + end)

    def own_span(self, text: Text) -> Span | None:
        """Return the place of a text that stands in the file in one stretch; None for one that flowed around tags."""
        whole = self.span(text)
        if whole is None or decode(self.source.slice(whole), attribute=False)[0] != text.data:
            return None
        return whole

    def around(self, node: Node) -> Iterator[Element]:
        """Yield the elements around a node, the innermost first."""
        parent = self.parents.get(node.key)
        while parent is not None:
            yield parent
            parent = self.parents.get(parent.key)

    @cached_property
    def sheets(self) -> list[tuple[WrittenCode, Sheet]]:
        """Its style elements, each with its text as typed, parsed."""
        return [(code, parse_sheet(code.text)) for code in map(self._code, self.each("style"))]

    @cached_property
    def scripts(self) -> list[WrittenCode]:
        """Its scripts that hold code that browsers run."""
        return [self._code(element) for element in self.each("script") if runs(element)]

    def _code(self, element: Element) -> WrittenCode:
        text = element.children[0] if len(element.children) == 1 else None
        span = self.span(text) if type(text) is Text else None
        if type(text) is Text and span is not None:
            typed = self.source.slice(span)
            if element.namespace == HTML or typed == text.data:  # in SVG there can be references and elements in it
                return WrittenCode(element, typed, span.start)
        return WrittenCode(element, own_text(element), None)

    @cached_property
    def declared(self) -> list[Declared]:
        """Its declarations: those of style elements first, then those of style attributes."""
        found = [each for code, sheet in self.sheets for rule in sheet.rules for each in _declared_in(rule, code)]
        for element in self.elements:
            style = element.attributes.get("style")
            if style:
                for each in parse_declarations(style):
                    span = self.value_span(element, "style", each.span)
                    found.append(Declared(each, span, None, element, style[each.span.start : each.span.end]))
        return found

    @cached_property
    def declared_anywhere(self) -> list[Declared]:
        """The same, and those in the steps of animations, which are no element's own."""
        steps = [each for code, sheet in self.sheets for step in sheet.steps for each in _declared_in(step, code)]
        return [*self.declared, *steps]

    @cached_property
    def classes(self) -> dict[str, Element]:
        """The classes that its markup names, each with the first element that has it."""
        found: dict[str, Element] = {}
        for element in self.elements:
            for name in element.attributes.get("class", "").split():
                found.setdefault(name, element)
        return found

    @cached_property
    def identifiers(self) -> dict[str, list[Element]]:
        """The identifiers of its elements."""
        found: dict[str, list[Element]] = {}
        for element in self.elements:
            if name := element.attributes.get("id"):
                found.setdefault(name, []).append(element)
        return found

    def is_place(self, name: str) -> bool:
        """Tell whether an element has an identifier, or an anchor that name."""
        return name in self.identifiers or name in self._anchors

    @cached_property
    def _anchors(self) -> frozenset[str]:
        return frozenset(name for element in self.each("a", "map") if (name := element.attributes.get("name")))

    @cached_property
    def styled_classes(self) -> dict[str, tuple[StyleRule, Span | None]]:
        """The classes that its style sheets name, each with the first rule that does and its place there."""
        found: dict[str, tuple[StyleRule, Span | None]] = {}
        for code, sheet in self.sheets:
            for rule in sheet.rules:
                typed = code.text[rule.span.start : rule.span.end]
                for each in names_in(typed):
                    if each.mark == ".":
                        at = rule.span.start + each.span.start - 1
                        found.setdefault(each.name, (rule, code.at(Span(at, at + 1 + len(each.name)))))
        return found

    @cached_property
    def script_words(self) -> Counter[str]:
        """The words of its scripts and handlers, names that they may use, and how often each stands there."""
        handlers = [v for e in self.elements for name, v in e.attributes.items() if name.startswith("on")]
        return Counter(_WORD.findall("\n".join([*(code.text for code in self.scripts), *handlers])))

    @cached_property
    def script_readings(self) -> list[tuple[WrittenCode, ScriptReading]]:
        """Its scripts, each with what it asks of the page; of those that cannot be read, nothing is known."""
        return [(code, read_script(code.text)) for code in self.scripts]

    @cached_property
    def handlers(self) -> list[tuple[Element, str, ScriptReading]]:
        """Its event handlers: element, attribute, and what the code asks of the page."""
        return [
            (element, name, read_script(value))
            for element in self.elements
            for name, value in element.attributes.items()
            if name.startswith("on") and value
        ]

    @cached_property
    def sought(self) -> list[tuple[Sought, Span | None]]:
        """What its scripts and handlers look for in the page, with the places of the names."""
        found = [(each, code.at(each.span)) for code, reading in self.script_readings for each in reading.sought]
        for element, name, reading in self.handlers:
            found += [(each, self.value_span(element, name, each.span)) for each in reading.sought]
        return found

    @cached_property
    def targets(self) -> dict[str, list[Element]]:
        """The elements that each selector matches that a script asks for; those not understood are missing."""
        return selected(self.piece.parsed.tree, (selector_of(each) for each, _ in self.sought))

    def winners(self, element: Element) -> Winners:
        """Return the winning declarations of an element, among the piece's own."""
        return self.piece.written_view.cascade.winners.get(element.key, {})


_WORD = lazy(r"[\w-]+")


def runs(element: Element) -> bool:
    """Tell whether browsers run the text of a script (HTML standard, "prepare the script element")."""
    return bool(script_kind(element.attributes)) and "src" not in element.attributes
