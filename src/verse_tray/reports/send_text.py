"""What was sent, or would be."""

from __future__ import annotations

from collections.abc import Iterator

import msgspec

from verse_tray.model.phrasing import as_argument
from verse_tray.reports.verify_text import FORMAT, held_record, state_text
from verse_tray.verifying.outcome import Outcome

_DONE = {"created": "Sent", "updated": "Updated", "unchanged": "It is there as it is; nothing was sent"}


def outcome_lines(outcome: Outcome, piece: str) -> Iterator[str]:
    """Yield what came of sending a piece, in lines."""
    what = (
        "published" if outcome.sent.state == "published" else f"a {outcome.sent.state}: readers get nothing of it yet"
    )
    yield f"{_DONE[outcome.done]}. The page is {what}."
    if outcome.held is not None:
        yield f"Stored: {state_text(outcome.held)}."
    if not outcome.is_as_predicted:
        yield f"See what is otherwise: verse-tray verify {as_argument(piece)}"


def outcome_json(outcome: Outcome) -> str:
    """Return the same as JSON."""
    sent = outcome.sent
    record = {
        "format": FORMAT,
        "piece": sent.piece,
        "to": sent.to,
        "editor": sent.editor,
        "done": outcome.done,
        "address": sent.address,
        "state": sent.state,
        "stored": None if outcome.held is None else held_record(outcome.held),
    }
    return msgspec.json.format(msgspec.json.encode(record), indent=2).decode() + "\n"
