"""A large piece with parts of one kind left out: what is right for the others is right for them as well."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element

_KEPT = 2  # parts of one kind: enough for columns, and for every second one to differ
_SMALL = 600  # signs of a part that may stand twice
_WHOLE = frozenset(("style", "script"))


def shortened(draft: Draft) -> str:
    """Return a text with at most two parts of each kind, and one in each place where there are some.

    Parts are of one kind whose elements, classes, styles and names of attributes are the same, all the way down.
    """
    return Spliced(draft.subject.source.text, list(_left_out(draft))).text


def _left_out(draft: Draft) -> Iterator[Splice]:
    kinds: dict[int, int] = {}
    known: dict[tuple[object, ...], int] = {}
    for element in reversed(draft.subject.elements):  # what is inside comes before what is around it
        inner = tuple(kinds[c.key] if isinstance(c, Element) else -1 for c in element.children)
        own = tuple((n, v if n in ("class", "style") else "") for n, v in sorted(element.attributes.items()))
        kinds[element.key] = known.setdefault((element.name, own, _folded(inner)), len(known))
    seen: Counter[int] = Counter()
    stack = [draft.trip.piece.parsed.tree.root]
    while stack:
        beside: set[int] = set()
        for each in (child for child in stack.pop().children if isinstance(child, Element)):
            kind = kinds[each.key]
            outer = draft.trip.piece.source_map.outer_span(each)
            seen[kind] += 1
            most = _KEPT if outer is None or outer.end - outer.start <= _SMALL else 1
            if kind in beside and seen[kind] > most and outer is not None and each.name not in _WHOLE:
                yield Splice(outer, "")
            else:
                stack.append(each)
            beside.add(kind)


def _folded(inner: tuple[int, ...]) -> tuple[int, ...]:
    """Return the kinds of children, those that stand there more often than twice as if twice."""
    seen: Counter[int] = Counter()
    folded = []
    for kind in inner:
        seen[kind] += 1
        if seen[kind] <= _KEPT:
            folded.append(kind)
    return tuple(folded)
