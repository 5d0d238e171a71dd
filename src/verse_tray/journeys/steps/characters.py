"""Characters beyond 16 bits: emoji, and the letters of some scripts."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import RAW_TEXT
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.spans import Span


@lru_cache
def beyond_16_bits() -> re.Pattern[str]:
    """Return the pattern of such characters; it is rarely needed, and slow to make."""
    return re.compile("[\U00010000-\U0010ffff]+")


def run(state: State) -> None:
    """Drop them where the profile says so. (Where they end the text, it is cut once it is written.)"""
    if state.record.beyond16_bits != "drop":
        return
    edits, beyond = state.edits, beyond_16_bits()
    raw = {id(child) for element in state.elements if element.name in RAW_TEXT for child in element.children}
    for node in state.nodes:
        if type(node) is Text and (found := list(beyond.finditer(node.data))):
            changes = [_told_of(state, node, each) for each in found]
            parts: list[Node] = [Text(part, node.key) for part in beyond.split(node.data) if part]
            edits.replace(node, parts, changes, raw=id(node) in raw)
        elif type(node) is Element:
            for name, value in list(node.attributes.items()):
                if beyond.search(value):
                    message = f"Characters beyond 16 bits in {name} on <{node.name}> go: this editor drops them."
                    change = edits.attribute_change("characters/drop", message, Severity.WARNING, node, name)
                    edits.set_attribute(node, name, beyond.sub("", value), [change])


def _told_of(state: State, text: Text, found: re.Match[str]) -> Change:
    message = f"“{found[0]}” goes: this editor's storage drops characters beyond 16 bits, such as emoji."
    return state.edits.text_change("characters/drop", message, Severity.ERROR, text, Span(*found.span()))


_ENDS = {"drop": "They are dropped.", "cut": "The text ends at the first one."}


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.beyond16_bits != "keep":
        yield "emoji", f"{_ENDS[record.beyond16_bits]} (All characters beyond 16 bits.)"


STEP = Step(
    "characters",
    run,
    keys=("beyond16_bits",),
    told=_sentences,
    guide=(
        (
            "`beyond16Bits`",
            "what becomes of emoji and the like: `keep`, `drop`, or `cut`: the text ends there",
            "`keep`",
        ),
    ),
)
