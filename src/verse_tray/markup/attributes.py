"""Attributes of one start tag with their places (HTML standard, 13.2.5.32 to 13.2.5.39), worked out when asked for."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.markup.names import fold_name
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_SPACE = r"[\t\n\f\r ]"
_ATTRIBUTE = lazy(
    rf"(=[^\t\n\f\r />=]*+|[^\t\n\f\r />=]++)"
    rf"(?:{_SPACE}*+={_SPACE}*+(?:\"([^\"]*+)\"|'([^']*+)'|([^\t\n\f\r >\"'][^\t\n\f\r >]*+)|(?=>)))?"
)
_SKIP = lazy(r"[\t\n\f\r /]*+")


class AttributeSpan(Struct, frozen=True):
    """Where one attribute of a start tag stands; offsets in the text that holds the tag."""

    whole: Span
    """From the first sign of the name to behind the value and its closing quote."""
    name: Span
    """The name."""
    value: Span | None
    """The value without its quotes, as typed (references unresolved); None when there is none."""


def attribute_spans(text: str, tag: Span) -> dict[str, AttributeSpan]:
    """Return the attributes of the start tag at ``tag`` by folded name; of two alike the first counts."""
    found: dict[str, AttributeSpan] = {}
    at = tag.start + 1
    while at < tag.end and text[at] not in "\t\n\f\r />":
        at += 1
    while True:
        skipped = _SKIP.match(text, at, tag.end)
        assert skipped is not None
        match = _ATTRIBUTE.match(text, skipped.end(), tag.end)
        if match is None:
            return found
        value = None
        for group in (2, 3, 4):
            if match[group] is not None:
                value = Span(*match.span(group))
        span = AttributeSpan(Span(*match.span()), Span(*match.span(1)), value)
        found.setdefault(fold_name(match[1]), span)
        at = match.end()
