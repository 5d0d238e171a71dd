"""White space that is folded."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tree import Text
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

PRESERVING = frozenset(("pre", "textarea", "listing", "xmp"))
"""Elements whose white space readers see."""
_RUN = lazy(r"[ \t\n\f\r]{2,}|[\t\n\f\r]")
_LEADING = lazy(r"[ \t\n\f\r]+")
_WHITE = " \t\n\f\r"


def run(state: State) -> None:
    """Fold white space into single spaces, where the profile says so."""
    record = state.record
    if record.white_space != "fold":
        return
    before = _texts_before(state)
    gaps = state.tree.root.children if record.loose_text == "paragraphs" else []
    rewritten = {id(each) for each in gaps if type(each) is Text and not each.data.strip(_WHITE)}
    ends_white: set[int] = set()
    for text, preserving in state.texts(PRESERVING):
        if preserving or id(text) in rewritten:
            continue
        first = before.get(id(text)) in ends_white and text.data[:1] in _WHITE
        found = _LEADING.match(text.data) if first else _RUN.search(text.data)
        data = _RUN.sub(" ", text.data.lstrip(_WHITE) if first else text.data)
        if data[-1:] == " " or (first and not data):
            ends_white.add(id(text))
        if found is not None:
            message = "White space is folded into single spaces. Readers see the same, except where styles preserve it."
            change = state.edits.text_change("white-space/fold", message, Severity.NOTE, text, Span(*found.span()))
            state.edits.replace(text, [Text(data, text.key, text.means)] if data else [], [change])


def _texts_before(state: State) -> dict[int, int]:
    """Return the text that stands right before a text, each by its ``id``: browsers read both as one."""
    state.settle()
    return {
        id(text): id(before)
        for around in (state.tree.root, *state.elements)
        for before, text in pairwise(around.children)
        if type(text) is Text and type(before) is Text
    }


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.white_space == "fold":
        yield "white space", "Folded into single spaces."


STEP = Step(
    "white-space",
    run,
    keys=("white_space",),
    told=_sentences,
    guide=(
        (
            "`whiteSpace`",
            "`fold`: into single spaces",
            "`keep`",
        ),
    ),
    sample="<p>white\nspace</p>\n",
)
