"""Preformatted text that an editor does not keep, as lines with breaks and blanks that stay."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.scan import scan
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.markup.tokens import Kind
from verse_tray.model.spans import Span

NAME = "lines-for-code"
_PLAIN = "white-space: pre; font-family: monospace; font-size: 13px; margin: 13px 0"
SENTENCE = "Preformatted text became a block that keeps its lines, or lines with breaks and blanks that stay."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a paragraph in place of each preformatted element, breaks and non-breaking spaces in its text."""
    text = draft.subject.source.text
    for element in draft.subject.each("pre", "listing"):
        inner = draft.inner(element)
        if inner is None or not draft.is_lost(element):
            continue
        if draft.probe.keeps("div", "white-space: pre"):
            own = element.attributes.get("style", "").strip("; ")
            style = f"{_PLAIN}; {own}" if own else _PLAIN
            yield from draft.with_tags(element, f'<div style="{escape_attribute(style)}">', "</div>")
            if text.startswith("\n", inner.start):  # browsers leave out one in front of preformatted text
                yield Splice(Span(inner.start, inner.start + 1), "")
            continue
        yield from draft.with_tags(element, "<p>", "</p>")
        first = True
        for token in scan(text[inner.start : inner.end]):
            if token.kind is not Kind.TEXT:
                continue
            typed = text[inner.start + token.start : inner.start + token.end]
            lines = re.sub(r"\r\n?", "\n", typed)
            lines = lines[1:] if first and lines.startswith("\n") else lines
            new = re.sub(r"(?m)^[ \t]+|[ \t]{2,}", lambda blanks: "&nbsp;" * len(blanks[0].expandtabs(4)), lines)
            new = (new.rstrip("\n") if token.end == inner.end - inner.start else new).replace("\n", "<br>")
            first = False
            if new != typed:
                yield Splice(Span(inner.start + token.start, inner.start + token.end), new)
