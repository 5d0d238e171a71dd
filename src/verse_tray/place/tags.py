"""One quick pass over a template of any size: its tags and comments, with their places."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Literal, NamedTuple

from verse_tray.markup.names import fold_name
from verse_tray.markup.references import decode
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_ATTRIBUTES = r"(?:[\s/]++|[^\s/>][^\s/>=]*+(?:\s*+=\s*+(?:\"[^\"]*+\"|'[^']*+'|(?![\"'])[^\s>]*+))?+)*+"
_COMMENT = r"(!--(?:-?>|.*?(?:--!?>|\Z)))"
OF_TEXT = ("script", "style", "textarea", "title", "xmp", "iframe", "noembed", "noframes")
"""Elements whose contents are text: the next end tag of that name ends them."""
_RAW = f"(?i:{'|'.join(OF_TEXT)})"
# groups: a comment; slash, name and attributes of a tag; name, attributes and contents of one whose contents are text
_TAG = rf"(/?)((?!{_RAW}[\s/>])[A-Za-z][^\s/>]*+|(?<=/){_RAW}(?=[\s/>]))({_ATTRIBUTES})>"
_WITH_TEXT = rf"({_RAW})(?=[\s/>])({_ATTRIBUTES})>(.*?)(?=</(?i:\5)[\s/>]|\Z)"
_OTHER = r"(?:[!?]|/(?![A-Za-z]))[^>]*+>?"
_SECTIONS = r"!\[CDATA\[.*?(?:\]\]>|\Z)|\?.*?(?:\?>|\Z)|![^>\[]*+(?:\[[^\]]*+\][^>]*+)?>"
_HTML = lazy(rf"<(?:{_COMMENT}|{_TAG}|{_WITH_TEXT}|{_OTHER})", re.DOTALL)
_XML = lazy(rf"<(?:{_COMMENT}|{_TAG}|{_WITH_TEXT}|{_SECTIONS})", re.DOTALL)
_ATTRIBUTE = lazy(r"([^\s/>][^\s/>=]*+)(?:\s*+=\s*+(?:\"([^\"]*+)\"|'([^']*+)'|([^\s>]*+)))?+")
_IS_XML = lazy(r"\s*<\?xml\b|<html\b[^>]*\sxmlns:|<[A-Za-z][\w-]*:[A-Za-z]", re.IGNORECASE)


_FRONT = 60_000  # signs of a template that tell how it is written


class Tag(NamedTuple):
    """A tag, or a comment."""

    kind: Literal["start", "end", "comment"]
    span: Span
    """Its place."""
    name: str
    """Its name, in HTML folded to small letters; empty for a comment."""
    attributes: str
    """Its attributes as typed, a slash at the end included."""
    until: int
    """Where what cannot be parted from it ends: of a script and the like, the contents."""

    @property
    def closes_itself(self) -> bool:
        """Whether a slash ends it."""
        return self.attributes.rstrip().endswith("/")

    def attribute(self, name: str) -> str | None:
        """Return the value of an attribute; None where it has none of that name."""
        for found in _ATTRIBUTE.finditer(self.attributes):
            if fold_name(found[1]) == name:
                typed = found[2] or found[3] or found[4] or ""
                return decode(typed, attribute=True)[0]
        return None


def is_xml_flavoured(text: str) -> bool:
    """Tell whether a template is written in the manner of XML: a declaration, prefixes before names of tags."""
    return _IS_XML.search(text, 0, _FRONT) is not None


def tags_of(
    text: str, *, xml: bool, start: int = 0, name: str = "", holding: str = "", beyond: int = 0
) -> Iterator[Tag]:
    """Yield the tags and comments of a template; what stands in scripts and styles is none.

    Args:
        text: The template.
        xml: Whether it is written in the manner of XML: folded sections (``<![CDATA[``) are skipped, names keep their
            case.
        start: Where to begin.
        name: Name of the tags that are wanted, folded where it is HTML; empty for all, and comments.
        holding: What has to stand in the attributes of the tags that are wanted; empty for anything.
        beyond: What ends there or before is left out.
    """
    for found in (_XML if xml else _HTML).finditer(text, start):
        if found.end() <= beyond or (holding and holding not in found[0]):
            continue
        comment, slash, typed, attributes, raw, of_raw, _ = found.groups()
        if comment is not None:
            if not name and not holding:
                yield Tag("comment", Span(found.start(), found.end()), "", "", found.end())
            continue
        if raw is not None:
            typed, attributes, slash = raw, of_raw, ""
        if typed is None or (holding and holding not in attributes):
            continue
        folded = typed if xml else fold_name(typed)
        if not name or folded == name:
            end = found.end(6) + 1 if raw is not None else found.end()
            yield Tag("end" if slash else "start", Span(found.start(), end), folded, attributes, found.end())
