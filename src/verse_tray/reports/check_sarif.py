"""A check as SARIF 2.1.0 (OASIS), for code-scanning views and build servers."""

from __future__ import annotations

import os
from collections.abc import Iterable
from typing import Any
from urllib.parse import quote

import msgspec

from verse_tray import __version__
from verse_tray.checks.find import Found
from verse_tray.checks.table import RULES, rule
from verse_tray.model.findings import Finding
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult


def report(results: Iterable[PieceResult], _wanted: Wanted) -> str:
    """Return the report as SARIF text, ending in a line end."""
    rows: list[dict[str, Any]] = []
    for result in results:
        name = result.piece.source.name
        rows += [_mended(_row(found.finding, name, None), found, name) for found in result.found]
        rows += [_row(finding, name, None) for finding in result.noticed("")]
        for journey in result.journeys:
            rows += [_row(finding, name, journey.editor.name) for finding in result.findings(journey)]
    rules = [_rule(rule) for rule in sorted({row["ruleId"] for row in rows})]
    log = {
        "$schema": "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
        "version": "2.1.0",
        "runs": [
            {
                "tool": {"driver": {"name": "verse-tray", "version": __version__, "rules": rules}},
                "columnKind": "unicodeCodePoints",
                "results": rows,
            }
        ],
    }
    return msgspec.json.format(msgspec.json.encode(log), indent=2).decode() + "\n"


def _rule(name: str) -> dict[str, Any]:
    """Return what is known of a rule; of one of an editor's, that is its name."""
    if name not in RULES:
        return {"id": name}
    known = rule(name)
    return {
        "id": name,
        "shortDescription": {"text": known.readers},
        "help": {"text": known.advice},
        "defaultConfiguration": {"level": known.severity.value},
    }


def _location(file: str) -> dict[str, str]:
    return {"uri": "stdin" if file == "-" else quote(os.fsencode(file.replace("\\", "/")))}


def _mended(row: dict[str, Any], found: Found, file: str) -> dict[str, Any]:
    """Add what mends a mistake to its row, as SARIF's ``fixes``."""
    if found.mend:
        replacements = [
            {
                "deletedRegion": {"charOffset": span.start, "charLength": span.end - span.start},
                "insertedContent": {"text": text},
            }
            for span, text in found.mend
        ]
        row["fixes"] = [
            {"artifactChanges": [{"artifactLocation": _location(file), "replacements": replacements}]},
        ]
    return row


def _row(finding: Finding, file: str, editor: str | None) -> dict[str, Any]:
    location: dict[str, Any] = {"artifactLocation": _location(file)}
    if finding.line is not None:
        location["region"] = {"startLine": finding.line, "startColumn": finding.column}
    where = f"{editor}, {finding.stage}: " if editor else ""
    row: dict[str, Any] = {
        "ruleId": finding.rule,
        "level": finding.severity.value,
        "message": {"text": where + finding.message},
        "locations": [{"physicalLocation": location}],
    }
    if editor:
        row["properties"] = {"editor": editor, "stage": finding.stage}
    return row
