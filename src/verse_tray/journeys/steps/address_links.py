"""Addresses in text that become links."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import CODE
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_ADDRESS = lazy(r"(?:https?://|\bwww\.)[^\s<>\"'“”‘’]*[^\s<>\"'“”‘’.,;:!?)\]]")
_NOT_IN = CODE | {"a", "button", "textarea"}


def run(state: State) -> None:
    """Make links of the addresses that stand in text outside links and code, where the profile says so."""
    record = state.record
    if not record.address_links:
        return
    for text, kept in state.texts(_NOT_IN):
        if kept or text.means is not None:
            continue
        nodes: list[Node] = []
        changes: list[Change] = []
        at = 0
        for found in _ADDRESS.finditer(text.data):
            message = f"{found[0]} becomes a link."
            change = state.edits.text_change("address-links/made", message, Severity.NOTE, text, Span(*found.span()))
            changes.append(change)
            if found.start() > at:
                nodes.append(Text(text.data[at : found.start()], text.key))
            address = found[0] if found[0].startswith("http") else f"https://{found[0]}"
            link = Element("a", attributes={"href": address})
            link.children = [Text(found[0], text.key)]
            nodes.append(link)
            at = found.end()
        if changes:
            if at < len(text.data):
                nodes.append(Text(text.data[at:], text.key))
            state.edits.replace(text, nodes, changes)
    state.settle()


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.address_links:
        yield "addresses", "Those that stand in text become links."


STEP = Step(
    "address-links",
    run,
    keys=("address_links",),
    told=_sentences,
    guide=(
        (
            "`addressLinks`",
            "addresses in text become links",
            "`false`",
        ),
    ),
    sample="<p>see https://pools.example/x there</p>\n",
)
