"""What was learned of an editor, in words: how far to trust it, what is known, guessed and not known."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import msgspec
from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Column, Table
from rich.text import Text

from verse_tray.learning.drift import Difference
from verse_tray.learning.evidence import Evidence, Seen
from verse_tray.learning.session import Folder
from verse_tray.model.phrasing import counted, first_difference
from verse_tray.reports.signs import visible

_MOST_SEEN = 6
_LONG = 300
_STAGES = {"save": "stored", "reopen": "opened again", "publish": "published"}


def confidence_text(evidence: Evidence) -> str:
    """Return one sentence on how far a profile is to be trusted."""
    left = len(evidence.unexplained)
    unexplained = "every cell is explained" if not left else f"{counted(left, 'cell')} not explained"
    return f"Of 100 pieces, about {evidence.confidence} are predicted to the letter; {unexplained}."


def advice_text(evidence: Evidence, folder: str, telling: int) -> str:
    """Return what to do next."""
    if telling:
        return f"One more paste would ask {counted(telling, 'cell')} more: verse-tray learn next {folder}"
    if evidence.unexplained:
        return (
            "More pastes will not help: this editor does what a profile cannot say. An example: "
            f"verse-tray learn show {folder}"
        )
    return "Nothing more is to be asked."


def learned_text(folder: Folder, evidence: Evidence, telling: int, *, every: bool = False) -> Iterator[RenderableType]:
    """Yield what to print about a learned editor."""
    session = folder.session
    yield Text.assemble((session.name, "bold"), f"  learned from {counted(len(session.probes), 'probe')}")
    yield Text(confidence_text(evidence))
    yield Text(advice_text(evidence, str(folder.path), telling) + "\n")
    yield Text("Known", "bold")
    table = Table(box=None, show_header=True, padding=(0, 2, 0, 2))
    table.add_column("rule", no_wrap=True)
    table.add_column("cells", justify="right", no_wrap=True)
    table.add_column("the shortest of them", overflow="fold")
    for rule in evidence.rules:
        example = "" if rule.example is None else f"{_one_line(rule.example.sent)} → {_one_line(rule.example.returned)}"
        table.add_row(rule.key, str(rule.cells) if rule.cells else "", example)
    if evidence.rules:
        yield table
    else:
        yield Text("  It keeps what it is given, as it is typed.")
    if evidence.unexplained:
        yield Text("\nNot explained", "bold")
        shown = evidence.unexplained if every else evidence.unexplained[:_MOST_SEEN]
        for seen in shown:
            yield Padding(_seen(seen), (0, 0, 0, 2))
        if len(shown) < len(evidence.unexplained):
            yield Text(f"  {len(evidence.unexplained) - len(shown)} more: --every shows them.")
    if evidence.guesses:
        yield Text("\nGuessed", "bold")
        yield from (Text(f"  {guess}") for guess in evidence.guesses)
    if evidence.unasked:
        yield Text("\nNot known", "bold")
        rows = Table(
            Column(overflow="fold"), Column(overflow="fold"), box=None, show_header=False, padding=(0, 2, 0, 2)
        )
        for asks, count in evidence.unasked.items():
            rows.add_row(asks, f"{counted(count, 'cell')} would tell")
        yield rows


def _seen(seen: Seen) -> RenderableType:
    """Return a cell as it was sent, came back and was predicted, with a mark where the two differ."""
    table = Table(box=None, show_header=False, padding=(0, 1, 0, 0), title_justify="left")
    table.add_column(no_wrap=True)
    table.add_column(overflow="fold")
    returned, predicted = seen.returned or "", seen.predicted or ""
    at = first_difference(returned, predicted)
    table.add_row("sent", _cut(seen.sent, 0))
    table.add_row(_STAGES[seen.stage], _marked(returned, at, "green"))
    table.add_row("predicted", _marked(predicted, at, "red"))
    return table


def _cut(text: str, at: int) -> str:
    first = max(0, at - 60)
    part = text[first : first + _LONG]
    return visible(f"{'…' if first else ''}{part}{'…' if first + _LONG < len(text) else ''}".replace("\n", "⏎"))


def _marked(text: str, at: int, colour: str) -> Text:
    """Return a text with the part from where it differs in brackets of its own and in a colour."""
    first = max(0, at - 60)
    before, rest = text[first:at], text[at : first + _LONG]
    shown = Text(("…" if first else "") + visible(before.replace("\n", "⏎")))
    shown.append("▸" + visible(rest.replace("\n", "⏎")), f"bold {colour}")
    return shown


def _one_line(text: str | None) -> str:
    told = visible(" ".join((text or "").split()))
    return (told[:57] + "…" if len(told) > 58 else told) or "nothing"


def drift_text(before: str, found: tuple[Difference, ...]) -> Iterator[str]:
    """Yield the lines that tell which rules changed."""
    if not found:
        yield f"Nothing changed since {before}."
        return
    yield f"{counted(len(found), 'rule')} changed since {before}:"
    for each in found:
        if each.before and each.now:
            yield f"  {each.key}: {each.before} → {each.now}"
        elif each.now:
            yield f"  {each.key}: now also {each.now}"
        else:
            yield f"  {each.key}: no longer {each.before}"


def learned_json(folder: Folder, evidence: Evidence, telling: int) -> str:
    """Return the same as JSON."""
    record: dict[str, Any] = {
        "format": "verse-tray/1",
        "editor": folder.session.name,
        "probes": len(folder.session.probes),
        "telling": telling,
        **msgspec.to_builtins(evidence),
    }
    return msgspec.json.format(msgspec.json.encode(record), indent=2).decode()
