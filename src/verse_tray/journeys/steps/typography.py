"""Curly quotes and dashes for straight quotes and hyphens."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import CODE
from verse_tray.markup.tree import Node, Text
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_STRAIGHT = lazy(r"[\"']|(?<!-)-{2,3}(?!-)")
_OPENS_BEHIND = lazy(r"[\s(\[{<\u2013\u2014\u201c\u2018/-]?\Z")


def run(state: State) -> None:
    """Write curly quotes and dashes, where the profile says so, and in code only if it says so too."""
    record = state.record
    if record.typography != "curly":
        return
    before = ""  # the last sign in front of a text: whether a quote opens or closes depends on it
    for text, in_code in state.texts(CODE):
        if in_code and not record.typography_in_code:
            before = text.data[-1:] or before
            continue
        found = _STRAIGHT.search(text.data)
        if found is not None:
            message = f"{found[0]} becomes a curly quote or a dash here, as does all of its kind in this text."
            severity = Severity.NOTE
            if in_code:
                message += " This is code: whoever copies it gets something that does not work."
                severity = Severity.ERROR
            change = state.edits.text_change("typography/curly", message, severity, text, Span(*found.span()))
            state.edits.replace(text, _curly(text, before, in_code=in_code), [change])
        before = text.data[-1:] or before
    state.settle()


def _curly(text: Text, before: str, *, in_code: bool) -> list[Node]:
    """Return a text with curly signs; in code each of them stands by itself: it is not what was written."""
    data = text.data
    parts: list[Node] = []
    done = ""
    at = 0
    for found in _STRAIGHT.finditer(data):
        front = data[at : found.start()]
        previous = data[found.start() - 1 : found.start()] or before
        sign = _sign(found[0], previous)
        if in_code:
            parts += [Text(front, text.key)] if front else []
            parts.append(Text(sign))
        done += front + sign
        at = found.end()
    if in_code:
        return [*parts, Text(data[at:], text.key)] if data[at:] else parts
    return [Text(done + data[at:], text.key, data if text.means is None else text.means)]


def _sign(straight: str, previous: str) -> str:
    if straight[0] == "-":
        return "\u2014" if len(straight) == 3 else "\u2013"
    opens = _OPENS_BEHIND.match(previous) is not None
    return ("\u201c" if opens else "\u201d") if straight == '"' else ("\u2018" if opens else "\u2019")


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.typography == "curly":
        code = "in code too" if record.typography_in_code else "but not in code"
        yield "signs", f"Straight quotes become curly and hyphens dashes, {code}."


STEP = Step(
    "typography",
    run,
    keys=(
        "typography",
        "typography_in_code",
    ),
    told=_sentences,
    guide=(
        (
            "`typography`",
            "`curly`: straight quotes become curly, hyphens dashes; `typographyInCode` in code too",
            "`keep`",
        ),
    ),
    sample='<p>He said "yes" -- twice</p>\n',
)
