"""The JSON form of a check, ``verse-tray/1``; docs/json.md describes it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import msgspec

from verse_tray.journeys.journey import Journey
from verse_tray.journeys.survival.counts import Count
from verse_tray.reports.finding_json import finding_record
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult
from verse_tray.reports.signs import name_as_text

FORMAT = "verse-tray/1"


def report(results: Iterable[PieceResult], _wanted: Wanted) -> str:
    """Return the report as JSON text, ending in a line end."""
    pieces = [
        {
            "file": name_as_text(result.piece.source.name),
            "mistakes": [finding_record(finding) for finding in result.mistakes],
            "editors": [_editor(result, journey) for journey in result.journeys],
        }
        for result in results
    ]
    packed = msgspec.json.encode({"format": FORMAT, "pieces": pieces})
    return msgspec.json.format(packed, indent=2).decode() + "\n"


def _editor(result: PieceResult, journey: Journey) -> dict[str, Any]:
    survived, rest = journey.survival, journey.fixpoint
    rendered = result.rendered.get(journey.editor.name)
    return {
        "editor": journey.editor.name,
        "verdict": journey.verdict.value,
        "survival": {
            "text": {**_count(survived.text), "leaked": survived.leaked},
            "structure": _count(survived.structure),
            "look": _count(survived.look),
            "behaviour": _count(survived.behaviour),
            "links": _count(survived.links),
            "alike": survived.alike,
        },
        "looksAlike": None if rendered is None or rendered.score is None else round(rendered.score, 3),
        "limits": [
            {
                "measure": use.measure,
                "of": use.of,
                "unit": use.unit,
                "used": use.used,
                "most": use.most,
                "over": use.over,
                "exceeded": use.exceeded,
            }
            for use in journey.limits
        ],
        "rest": None if rest is None else {"comes": rest.comes, "after": rest.after, "cycle": rest.cycle},
        "findings": [finding_record(finding) for finding in result.findings(journey)],
    }


def _count(count: Count) -> dict[str, int]:
    return {"kept": count.kept, "of": count.of, "percent": count.percent}
