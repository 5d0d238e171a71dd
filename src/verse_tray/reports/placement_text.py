"""A placement in words: in the terminal, and for its sheets."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

import msgspec

from verse_tray.fitting.judge import of_hundred
from verse_tray.place.placement import Placement
from verse_tray.place.steps import Step
from verse_tray.place.words import outcome_sentence, summary
from verse_tray.reports.finding_json import finding_record


def placement_lines(placement: Placement, steps: Sequence[Step], folder: Path | None) -> Iterator[str]:
    """Yield what a terminal shows of a placement."""
    yield summary(placement, len(steps))
    yield ""
    for each in placement.placed:
        yield f"  {outcome_sentence(each)}"
    for name, finding in placement.findings:
        place = f"{name}:{finding.line}:{finding.column}" if finding.line is not None else name
        yield f"  {finding.severity.value}  {place}: {finding.message}"
    for note in placement.notes:
        yield f"  {note}"
    for step in steps:
        yield ""
        yield f"  {step.number}  {step.title} ({step.scope})"
        yield f"     {step.where}"
        file = step.file if folder is None else str(folder / step.file)
        yield f"     {file}, {len(step.paste.text):,} characters"
        yield " ".join(each for each in ("    ", step.how, _between(step), step.publishing) if each)


def _between(step: Step) -> str:
    """Return in a sentence what stands around a paste; nothing where nothing does."""
    if step.before.startswith("nothing"):
        return f"It comes first, before {step.after}." if step.after else ""
    return f"It comes behind {step.before}{f', before {step.after}' if step.after else ''}."


def placement_record(placements: Sequence[tuple[Placement, Sequence[Step]]]) -> dict[str, object]:
    """Return placements as a JSON object; docs/placing.md describes it."""
    return {
        "format": "verse-tray/1",
        "placements": [_placement(placement, steps) for placement, steps in placements],
    }


def as_json(record: dict[str, object]) -> str:
    """Return a record as the text of a JSON file."""
    return msgspec.json.format(msgspec.json.encode(record), indent=2).decode() + "\n"


def _placement(placement: Placement, steps: Sequence[Step]) -> dict[str, object]:
    return {
        "site": placement.site.name,
        "pieces": [
            {
                "file": each.name,
                "page": each.where.page,
                "region": each.where.region,
                "place": each.index + 1,
                "way": each.outcome.way.name,
                "verdict": each.verdict.value,
                "alike": of_hundred(each.outcome.share),
                "alikeWhole": of_hundred(each.written.share),
                "doing": round(each.outcome.doing * 100),
                "apart": each.apart or None,
                "strategies": list(each.used),
            }
            for each in placement.placed
        ],
        "pastes": [
            {
                "number": step.number,
                "file": step.file,
                "kind": step.paste.kind,
                "target": {
                    "kind": step.paste.target.kind,
                    "name": step.paste.target.name,
                    "page": step.paste.target.page or None,
                    "region": step.paste.target.region or None,
                },
                "place": step.paste.index + 1 if step.paste.index >= 0 else None,
                "pieces": list(step.paste.pieces),
                "where": step.where,
                "how": step.how,
                "before": step.before,
                "behind": step.after or None,
                "text": step.paste.text,
            }
            for step in steps
        ],
        "findings": [{"piece": name, **finding_record(each)} for name, each in placement.findings],
        "notes": list(placement.notes),
    }
