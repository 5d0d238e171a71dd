"""Code that stands in the text without its element: what both rules about it begin with."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Text
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

BEFORE = "{};>\n\t "
"""What may stand between the beginning of a match and what it is about."""


def is_shown(text: Text) -> bool:
    """Tell whether a text shows markup on purpose: it holds tags, written as references."""
    return "</" in text.data or "/>" in text.data


class BareCode(Struct, frozen=True):
    """Code that stands in the text without its element."""

    span: Span | None
    """Its place."""
    message: str
    """What readers get, and what to do."""
    mend: tuple[Splice, ...]
    """What puts the element around it; empty where other text stands beside it."""


def bare_code(subject: Subject, text: Text, found: re.Match[str], what: str, wrapper: str, *, whole: bool) -> BareCode:
    """Return what is to be said of code found in a text; with a mend where the ``whole`` text is that code."""
    message = f"This reads like {what}, and readers will see it as text: put it inside <{wrapper}>…</{wrapper}>."
    lead = found.start() + len(found[0]) - len(found[0].lstrip(BEFORE))
    span = subject.text_span(text, Span(lead, found.end()))
    own = subject.span(text)
    mend: tuple[Splice, ...] = ()
    if whole and own is not None and subject.typed(own) == text.data and text.key not in subject.parents:
        start = own.start + len(text.data) - len(text.data.lstrip())
        end = own.start + len(text.data.rstrip())
        mend = (Splice(Span(start, start), f"<{wrapper}>\n"), Splice(Span(end, end), f"\n</{wrapper}>"))
    return BareCode(span, message, mend)
