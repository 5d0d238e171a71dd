"""What marks stand in: the markup is read with letters in their place, then what it holds, layer by layer."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Iterator

from verse_tray.fields.in_address import in_address
from verse_tray.fields.in_script import ScriptText
from verse_tray.fields.in_style import StyleText
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES
from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.references import decode
from verse_tray.markup.scan import scan
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context, Quoted
from verse_tray.script.kinds import script_kind

_JSON = re.compile(r"(?:application|text)/(?:[\w.-]+\+)?json|importmap|speculationrules", re.IGNORECASE)
_NO_ADDRESS = frozenset(("usemap",))  # its value is compared, not followed
_PICTURES = frozenset(("img", "source", "input", "video", "picture", "image", "body", "table", "td", "th"))
_ANIMATIONS = frozenset(("animate", "set", "animatetransform", "animatemotion"))
_DEEPEST = 4


def places_of(text: str, holes: list[Span], around: tuple[str, ...] = ()) -> list[Quoted]:
    """Return what each mark of a text stands in.

    Args:
        text: The text, with letters in place of its marks.
        holes: Places of the marks, in order.
        around: What lies around the text, see :attr:`Quoted.around`.
    """
    if len(around) > _DEEPEST:
        return [_nowhere("it lies in too many documents within one another") for _ in holes]
    return list(_Places(text, holes, around).found())


def _nowhere(why: str) -> Quoted:
    return Quoted(Context.NOWHERE, None, (), why)


class _Places:
    def __init__(self, text: str, holes: list[Span], around: tuple[str, ...]) -> None:
        self._text = text
        self._holes = holes
        self._starts = [hole.start for hole in holes]
        self._around = around

    def found(self) -> Iterator[Quoted]:
        opened: Token | None = None  # the start tag right before, whose text this is
        for token in scan(self._text):
            first, last = bisect_left(self._starts, token.start), bisect_left(self._starts, token.end)
            holes = self._holes[first:last]
            if holes:
                yield from self._in_token(token, holes, opened)
            if token.kind is Kind.START:
                opened = token
            elif token.kind is Kind.END or opened is None or opened.name not in ("style", "script"):
                opened = None

    def _in_token(self, token: Token, holes: list[Span], opened: Token | None) -> Iterator[Quoted]:
        name = "" if opened is None else opened.name
        if token.kind is Kind.START:
            yield from self._in_tag(token, holes)
        elif token.kind is Kind.END:
            end = token.start + 2 + len(token.name)
            for hole in holes:
                yield self._plain(Context.NAME_OF_TAG) if hole.end <= end else _nowhere("an end tag has a name only")
        elif token.kind is Kind.UNFINISHED:
            yield from (_nowhere("nothing ends this tag") for _ in holes)
        elif token.kind is Kind.TEXT and opened is not None and name in ("style", "script"):
            yield from self._in_code(token, holes, opened)
        elif token.kind is Kind.TEXT:
            yield from (self._plain(Context.RAW if token.raw else Context.TEXT) for _ in holes)
        else:
            typed = self._text[token.start : token.end]
            context = Context.CONDITIONAL if re.match(r"<!--\[if|<!--<!", typed) else Context.COMMENT
            proper = typed.startswith("<!--") and typed.endswith("-->") and "--!>" not in typed
            for _ in holes:
                yield (
                    self._plain(context) if proper else _nowhere("this is no text, and no comment that something ends")
                )

    def _plain(self, context: Context) -> Quoted:
        return Quoted(context, None, self._around)

    def _in_code(self, token: Token, holes: list[Span], opened: Token) -> Iterator[Quoted]:
        """Yield places in a style or a script element."""
        if not token.raw:  # a drawing's own: references are resolved in it
            yield from (_nowhere(f"a {opened.name} element within a drawing is no place for a value") for _ in holes)
            return
        text = self._text[token.start : token.end]
        inner = [Span(hole.start - token.start, hole.end - token.start) for hole in holes]
        if opened.name == "style":
            style = StyleText(text)
            for hole in inner:
                yield self._of(*style.context(hole), None)
            return
        tag = attribute_spans(self._text, Span(opened.start, opened.end))
        attributes = {name: self._value(span) for name, span in tag.items()}
        json = _JSON.fullmatch(attributes.get("type", "").strip()) is not None
        kind = script_kind(attributes)
        if not kind and not json:
            yield from (_nowhere("nobody knows how this kind of script is read") for _ in holes)
            return
        yield from self._in_script(ScriptText(text, module=kind == "module", json=json), inner, None)

    def _value(self, attribute: AttributeSpan) -> str:
        value = attribute.value
        return "" if value is None else decode(self._text[value.start : value.end], attribute=True)[0]

    def _of(self, context: Context, why: str, quote: str | None) -> Quoted:
        return Quoted(context, quote, self._around, why) if context is not Context.NOWHERE else _nowhere(why)

    def _in_script(self, script: ScriptText, holes: list[Span], quote: str | None) -> Iterator[Quoted]:
        for hole in holes:
            context, why = script.context(hole)
            markup = script.markup_around(hole) if context is Context.SCRIPT else None
            if markup is None:
                yield self._of(context, why, quote)
            else:
                around = ("script", *(() if quote is None else (quote,)), *self._around)
                yield from places_of(markup[0], [markup[1]], around)

    def _in_tag(self, token: Token, holes: list[Span]) -> Iterator[Quoted]:
        attributes = attribute_spans(self._text, Span(token.start, token.end))
        rows = sorted((span.value, name, span) for name, span in attributes.items() if span.value is not None)
        starts = [row[0].start for row in rows]
        bare = {span.name for span in attributes.values() if span.value is None}
        held: list[Span] = []  # marks of one value, until the value is over
        row: tuple[Span, str, AttributeSpan] | None = None
        for hole in holes:
            if row is not None and hole.end <= row[0].end:
                held.append(hole)
                continue
            if row is not None:
                yield from self._in_value(token, row[1], row[2], row[0], held)
            at = bisect_right(starts, hole.start) - 1
            row = rows[at] if at >= 0 and hole.end <= rows[at][0].end else None
            held = [hole]
            if row is None:
                yield self._of_tag(token, hole, bare)
        if row is not None:
            yield from self._in_value(token, row[1], row[2], row[0], held)

    def _of_tag(self, token: Token, hole: Span, bare: set[Span]) -> Quoted:
        """Return what a mark outside of every value is."""
        if hole.start < token.start + 1 + len(token.name):
            return self._plain(Context.NAME_OF_TAG)
        return (
            self._plain(Context.BARE_WORD) if hole in bare else _nowhere("a tag's own signs are written in the piece")
        )

    def _in_value(
        self, token: Token, name: str, span: AttributeSpan, value: Span, holes: list[Span]
    ) -> Iterator[Quoted]:
        sign = self._text[span.whole.end - 1]
        quote = sign if value.end < span.whole.end and sign in "\"'" else ""
        text, inner = self._decoded(value, holes)
        if name == "srcdoc":
            yield from places_of(text, inner, (quote, *self._around))
        elif name == "style":
            style = StyleText(text, attribute=True)
            for hole in inner:
                yield self._of(*style.context(hole), quote)
        elif name.startswith("on"):
            yield from self._in_script(ScriptText(text, body=True), inner, quote)
        elif name == "srcset" or (name == "imagesrcset"):
            yield from (self._of(Context.SRCSET, "", quote) for _ in inner)
        elif name in ADDRESS_ATTRIBUTES and name not in _NO_ADDRESS:
            picture = name in ("poster", "background") or (name in ("src", "href") and token.name in _PICTURES)
            for hole in inner:
                yield self._of(*in_address(text, hole, picture=picture), quote)
        elif token.name in _ANIMATIONS and name in ("to", "from", "by", "values", "attributename"):
            yield from (self._of(Context.ADDRESS, "", quote) for _ in inner)
        else:
            yield from (self._of(Context.ATTRIBUTE, "", quote) for _ in inner)

    def _decoded(self, value: Span, holes: list[Span]) -> tuple[str, list[Span]]:
        """Return an attribute's value with its references resolved, and where the marks are in it."""
        text, offsets = decode(self._text[value.start : value.end], attribute=True)
        found = []
        for hole in holes:
            start, end = hole.start - value.start, hole.end - value.start
            if offsets is not None:
                start, end = bisect_left(offsets, start), bisect_left(offsets, end)
            found.append(Span(start, end))
        return text, found
