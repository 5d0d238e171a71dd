"""Signs that are written otherwise: non-breaking spaces and curly quotes."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tree import Text
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_QUOTES = str.maketrans("“”„‟‘’‚‛", "\"\"\"\"''''")
_CURLY = lazy("[“”„‟‘’‚‛]")


def run(state: State) -> None:
    """Write plain spaces for non-breaking ones, and straight quotes for curly ones, where the profile says so."""
    record = state.record
    spaces, quotes = record.non_breaking_spaces == "plain", record.quotes == "straight"
    if not spaces and not quotes:
        return
    for text, _ in state.texts():
        data, changes = text.data, []
        if spaces and (at := data.find("\xa0")) >= 0:
            message = "Non-breaking spaces become plain ones: lines may break there, and two in a row show as one."
            changes.append(state.edits.text_change("signs/space", message, Severity.WARNING, text, Span(at, at + 1)))
            data = data.replace("\xa0", " ")
        if quotes and (found := _CURLY.search(data)):
            message = "Curly quotes become straight ones."
            span = Span(*found.span())
            changes.append(state.edits.text_change("signs/quotes", message, Severity.NOTE, text, span))
            data = data.translate(_QUOTES)
        if changes:
            means = text.data if text.means is None else text.means
            state.edits.replace(text, [Text(data, text.key, means)], changes)


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.non_breaking_spaces == "plain":
        yield "spaces", "Non-breaking spaces become plain ones."
    if record.quotes == "straight":
        yield "quotes", "Curly quotes become straight ones."


STEP = Step(
    "signs",
    run,
    keys=(
        "non_breaking_spaces",
        "quotes",
    ),
    told=_sentences,
    guide=(
        (
            "`nonBreakingSpaces`",
            "`plain`: they become plain spaces",
            "`keep`",
        ),
        (
            "`quotes`",
            "`straight`: curly quotes become straight",
            "`keep`",
        ),
    ),
    sample="<p>“no”, a&nbsp;b \U0001f980</p>\n",
)
