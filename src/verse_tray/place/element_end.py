"""Where an element of a template ends: as browsers find it, or, in the manner of XML, by its tags alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice
from secrets import token_hex

from selectolax.lexbor import LexborHTMLParser

from verse_tray.markup.names import VOID
from verse_tray.place.tags import OF_TEXT, Tag, tags_of

_FIRST, _TIMES = 200, 8
"""How many tags behind the element are looked at first, and how many times as many are after each failure."""


def element_end(text: str, tag: Tag, *, xml: bool) -> tuple[int, bool] | None:
    """Return where the element that a start tag opens ends, and whether by an end tag of its own.

    None is an element that never ends, or one that browsers let end only with what is around it or with the text,
    although its end tag may not be left out.

    Args:
        text: The template.
        tag: The start tag.
        xml: Whether the template is written in the manner of XML.
    """
    if xml:
        return _by_tags(text, tag)
    from_it = tags_of(text, xml=False, start=tag.span.start, name=tag.name)
    if tag.name in OF_TEXT:
        ended = next(islice(from_it, 1, None), None)
        return (ended.span.end, True) if ended is not None and ended.kind == "end" else None
    found = _by_parser(text, tag, from_it)
    if found is None and tag.name in _END_TAG_LEFT_OUT:
        return _by_parser(text, tag, tags_of(text, xml=False, start=tag.span.start), left_out=True)
    return found


def _by_tags(text: str, tag: Tag) -> tuple[int, bool] | None:
    if tag.closes_itself or tag.name in VOID:
        return tag.span.end, True
    depth = 0
    for each in tags_of(text, xml=True, start=tag.span.start, name=tag.name):
        if each.kind == "end" or not each.closes_itself:
            depth += 1 if each.kind == "start" else -1
            if not depth:
                return each.span.end, True
    return None


def _by_parser(text: str, tag: Tag, from_it: Iterator[Tag], *, left_out: bool = False) -> tuple[int, bool] | None:
    """Ask the parser: numbered comments stand before and behind the tags, and the first that is outside tells.

    What comes later changes nothing about what was read before, so only as much is parsed as is needed.

    Args:
        text: The template.
        tag: The start tag.
        from_it: It, and tags behind it where it may end.
        left_out: Whether it may end without an end tag of its own.
    """
    nonce = f"verse-tray-{token_hex(8)}"
    next(from_it)
    later = (each for each in from_it if left_out or each.kind == "end")
    tags, count = list[Tag](), _FIRST
    while True:
        tags += islice(later, count - len(tags))
        whole = len(tags) < count
        last = _last_inside(text[: len(text) if whole else tags[-1].until], tag, tags, nonce)
        if last is None:
            return None
        if last < 0:
            return tag.span.end, True  # nothing is in it
        number, behind = divmod(last, 2)
        if number < len(tags):
            ended = tags[number]
            own = ended.kind == "end" and ended.name == tag.name and behind == 1
            return (ended.span.end, True) if own else (ended.span.start, False) if left_out else None
        if whole:
            return (len(text), False) if left_out else None
        count *= _TIMES


_END_TAG_LEFT_OUT = frozenset(
    "html head body li dt dd p rt rp optgroup option colgroup caption thead tbody tfoot tr td th".split()
)
"""Elements whose end tag may be left out (HTML standard, 13.1.2.4)."""


def _last_inside(text: str, tag: Tag, tags: list[Tag], nonce: str) -> int | None:
    """Return the number of the last comment in the element, -1 for none of them.

    Comment 0 stands behind its start tag, 2n-1 before the tag number n, and 2n behind it, counted from 1. None is an
    element that browsers do not make.
    """
    name_end = tag.span.start + 1 + len(tag.name)
    pieces = [text[:name_end], f' {nonce}=""', text[name_end : tag.span.end], f"<!--{nonce}:0-->"]
    at = tag.span.end
    for number, each in enumerate(tags, 1):
        before, behind = f"<!--{nonce}:{2 * number - 1}-->", f"<!--{nonce}:{2 * number}-->"
        pieces += [text[at : each.span.start], before, text[each.span.start : each.until], behind]
        at = each.until
    pieces.append(text[at:])
    element = LexborHTMLParser("".join(pieces)).css_first(f"[{nonce}]")
    if element is None:
        return None
    found = re.findall(rf"<!--{nonce}:(\d+)-->", element.html or "")
    inside = {int(each) for each in found}
    return next(number for number in range(2 * len(tags) + 2) if number not in inside) - 1
