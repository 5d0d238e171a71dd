"""A placement in words: in the terminal, and for its sheets."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

import msgspec

from verse_tray.fit.judge import of_hundred
from verse_tray.model.phrasing import counted, listed
from verse_tray.place.placement import Placed, Placement
from verse_tray.place.steps import Step

_WAYS = {
    "whole": "it is pasted whole",
    "styles apart": "its styles go into a slot, the rest into the field",
    "scripts apart": "its scripts go into a slot, the rest into the field",
    "both apart": "its styles and its scripts go into slots, the markup into the field",
    "code in a holder": "its code goes into a holder, which a reference behind the markup stands for",
    "all in a holder": "all of it goes into a holder, and the field has the reference that stands for it",
}


def summary(placement: Placement, count: int) -> str:
    """Return in a sentence what is placed where."""
    pages = [placement.site.site.pages[name].title for name in placement.pages]
    names = listed(dict.fromkeys(each.name for each in placement.placed))
    title = placement.site.site.title
    return f"{names} on {listed(pages)} of {title}: {counted(count, 'paste')}, in this order."


def outcome_sentence(placed: Placed) -> str:
    """Return in a sentence what becomes of a piece in its place."""
    region, outcome = placed.where.of_region, placed.outcome
    place = f"{placed.where.page}:{placed.where.region}, {region.width:,} pixels wide, place {placed.index + 1}"
    share = of_hundred(outcome.share)
    before = of_hundred(placed.written.share)
    told = f"readers get {share} of 100 of its look"
    if before < share:
        told += f" ({before} if all of it were pasted into the field as it is)"
    way = _WAYS[outcome.way.name]
    if placed.used:
        way += ", rewritten so that more of it survives (see fit)"
    if len(outcome.texts) > 1:
        way += f", in {len(outcome.texts)} pastes, as it is too large for one"
    apart = f" Its names begin with {placed.apart}-." if placed.apart else ""
    return f"{placed.name} ({place}): {told}, {outcome.verdict.value}; {way}.{apart}"


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


def placement_json(placements: Sequence[tuple[Placement, Sequence[Step]]]) -> str:
    """Return placements as JSON; docs/placing.md describes it."""
    return msgspec.json.format(msgspec.json.encode({
        "format": "verse-tray/1",
        "placements": [_placement(placement, steps) for placement, steps in placements],
    }), indent=2).decode() + "\n"  # fmt: skip


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
        "findings": [
            {
                "piece": name,
                "rule": each.rule,
                "stage": each.stage,
                "message": each.message,
                "line": each.line,
                "column": each.column,
                "severity": each.severity.value,
            }
            for name, each in placement.findings
        ],
        "notes": list(placement.notes),
    }
