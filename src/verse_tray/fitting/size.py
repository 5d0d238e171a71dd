"""The same piece in fewer signs, where it is over a limit: what readers get stays as it is."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from verse_tray.edit.layout import compact
from verse_tray.fitting.draft import Draft
from verse_tray.fitting.judge import Judge, Judged
from verse_tray.fitting.probe import SIZES
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.limits.use import LimitUse
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Comment
from verse_tray.model.patterns import lazy
from verse_tray.style.colours import COLOUR

_SIX = lazy(r"#([0-9a-fA-F])\1([0-9a-fA-F])\2([0-9a-fA-F])\3")
_ZERO = lazy(r"(?<![\w.#%-])0(?:px|em|rem|pt)(?![\w%.])")
_LEADING = lazy(r"(?<![\w.#])0+(\.\d)")
_DROPPED = ("script", "iframe", "object", "embed", "audio", "video", "canvas")
_FOUR = frozenset(("margin", "padding", "border-width", "border-radius"))
_NO_ZERO = ("flex", "line-height", "--", "tab-size", "transition", "animation", "opacity", "z-index", "order")


def over(trip: Journey) -> LimitUse | None:
    """Return the limit of size that a text is furthest above, of those that cost it something; None for one taken."""
    found = [use for use in trip.limits if use.exceeded and use.of == "piece" and use.unit in SIZES]
    return max((use for use in found if use.over != "warn"), key=lambda use: use.used / use.most, default=None)


def shrunk(judge: Judge, best: Judged, is_taken: Callable[[str], bool]) -> Judged:
    """Return a text made shorter, a step at a time, until it is taken; readers lose nothing by any step."""
    shortest = best.text
    for step in _STEPS:
        shortest = step(judge.trips.draft(shortest))
    if not is_taken(shortest):
        return best  # no step would be enough: it is parted as it was typed
    for step in _STEPS:
        if is_taken(best.text):
            break
        text = step(judge.trips.draft(best.text))
        shorter = judge.judge(text) if len(text) < len(best.text) else best
        if shorter.share >= best.share - 1e-9:
            best = shorter
    return best


def _without_lost(draft: Draft) -> str:
    """Return a text without the scripts and frames that the editor takes away in any case."""
    gone = [each for each in draft.subject.each(*_DROPPED) if draft.kept(each) is None]
    spans = [draft.trip.piece.source_map.outer_span(each) for each in gone]
    return Spliced(draft.subject.source.text, [Splice(span, "") for span in spans if span is not None]).text


def _without_comments(draft: Draft) -> str:
    spans = [draft.subject.span(node) for node in draft.trip.piece.parsed.tree.nodes() if isinstance(node, Comment)]
    return Spliced(draft.subject.source.text, [Splice(span, "") for span in spans if span is not None]).text


def _without_white_space(draft: Draft) -> str:
    return compact(draft.subject.source).text


def _in_short_values(draft: Draft) -> str:
    splices: list[Splice] = []
    for element in draft.elements:
        look = draft.own_look(element)
        style = ";".join(f"{name}:{_short(name, value)}" for name, value in look.items())
        if 0 < len(style) < len(element.attributes.get("style", "")):
            splices += draft.with_attributes(element, style=style)
    return Spliced(draft.subject.source.text, splices).text


def _short(name: str, value: str) -> str:
    """Return a value in fewer signs: short colours, no units of nothing, sides that are alike once."""
    if "url(" in value or '"' in value or "'" in value:
        return value
    value = _LEADING.sub(r"\1", COLOUR.sub(lambda match: _SIX.sub(r"#\1\2\3", match[0]), value))
    value = re.sub(r"\s*,\s*", ",", value)
    if not name.startswith(_NO_ZERO) and "(" not in value:
        value = _ZERO.sub("0", value)
    if name in _FOUR and "/" not in value and "(" not in value and "!" not in value:
        value = " ".join(_sides(value.split()))
    return value


def _sides(values: list[str]) -> Iterator[str]:
    if len(values) == 4 and values[1] == values[3]:
        values = values[:3]
    if len(values) == 3 and values[0] == values[2]:
        values = values[:2]
    if len(values) == 2 and values[0] == values[1]:
        values = values[:1]
    yield from values


_STEPS = (_without_lost, _without_comments, _in_short_values, _without_white_space)
