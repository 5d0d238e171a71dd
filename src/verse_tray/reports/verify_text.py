"""A piece verified: sent, predicted, stored and live, beside one another; in the terminal, as JSON and as JUnit XML."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import msgspec
from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Column, Table
from rich.text import Text

from verse_tray.model.findings import Finding
from verse_tray.model.phrasing import counted, listed
from verse_tray.model.xml_text import xml_text
from verse_tray.reports.finding_json import finding_record
from verse_tray.reports.styles import SEVERITY_STYLES
from verse_tray.verifying.verified import GOOD, Held, Verified

FORMAT = "verse-tray/1"
_MOST = 12  # differences that are shown of each text
_STAGE_WORDS = {"save": "saving it", "reopen": "opening it again", "publish": "publishing it"}


def state_text(held: Held) -> str:
    """Return what a text turned out to be, in words."""
    live = held.name == "live"
    count = counted(len(held.told), "difference")
    where = f", in {held.within[0]}" if held.within else ""
    return {
        "to-the-letter": "as predicted, to the letter",
        "as-predicted": f"as predicted{where}" if live else "as predicted, written otherwise",
        "otherwise": f"not as predicted: {count}{where}",
        "old-version": f"still the old version{where}",
        "absent": "not there: not published, or another page" if live else "nothing is stored",
        "several": f"there {len(held.within)} times, in {listed(list(dict.fromkeys(held.within)) or [''])}",
        "hidden": f"there, and hidden: {held.why}",
        "as-code": "readers see its tags: it went into a visual pane, or was escaped",
    }[held.state]


def verified_text(verified: Verified, *, every: bool = False) -> Iterator[RenderableType]:
    """Yield what a terminal shows."""
    name = verified.piece.source.name
    good = verified.is_as_predicted
    verdict = Text("as predicted", "bold green") if good else Text("not as predicted", "bold yellow")
    if verified.is_unasked:
        verdict = Text("not known", "bold red")
    yield Text.assemble((name, "bold"), f" in {verified.editor.name}: ", verdict)
    yield Padding(_table(verified), (1, 0, 1, 2))
    before: list[str] = []
    for held in verified.held:
        sentences = [each.finding.message for each in held.told]
        if sentences and sentences == before:
            yield Text.assemble((held.name, "bold"), ": the same differences\n")
        else:
            yield from _differences(held, every=every)
        before = sentences
    for note in verified.notes:
        yield Text(note)


def _folding(columns: int) -> Table:
    return Table(*(Column(overflow="fold") for _ in range(columns)), box=None, show_header=False, padding=(0, 2, 0, 0))


def _table(verified: Verified) -> Table:
    table = _folding(2)
    first, *others = verified.journeys
    table.add_row("sent", counted(len(verified.piece.source.text), "character"))
    stored = counted(len(first.stage("save").markup), "character")
    again = f", {len(others[0].stage('reopen').markup):,} once it was opened again" if others else ""
    live = counted(len(first.stage("publish").markup), "character")
    table.add_row("predicted", f"{stored} stored{again}; {live} live")
    for held in verified.held:
        style = "green" if held.state in GOOD else "yellow"
        stage = f" (after {_STAGE_WORDS[held.predicted_by]})" if held.name == "stored" and held.predicted_by else ""
        table.add_row(held.name, Text(state_text(held) + stage, style))
    return table


def _differences(held: Held, *, every: bool) -> Iterator[RenderableType]:
    shown = held.told if every else held.told[:_MOST]
    if held.state in GOOD or not held.told:
        return
    yield Text(held.name, "bold")
    table = _folding(3)
    for each in shown:
        finding = each.finding
        place = "" if finding.line is None else f"{finding.line}:{finding.column}"
        kind = finding.rule.removeprefix("verify/")
        table.add_row(place, Text(kind, SEVERITY_STYLES[finding.severity]), finding.message)
    yield Padding(table, (0, 0, 0, 2))
    if len(shown) < len(held.told):
        yield Text(f"  {len(held.told) - len(shown)} more: --every shows them.", "dim")
    if held.explained is not None:
        share = "all of it" if held.explained.explains == held.explained.of else "most of it"
        yield Text(f"  One change of the profile would explain {share}: {held.explained.key}")
    yield Text("")


def held_record(held: Held) -> dict[str, Any]:
    """Return a text that was held as the JSON object that docs/json.md describes."""
    explained = held.explained
    return {
        "text": held.name,
        "state": held.state,
        "predictedBy": held.predicted_by,
        "within": list(held.within),
        "why": held.why,
        "findings": [finding_record(each.finding) for each in held.told],
        "explainedBy": None
        if explained is None
        else {"change": explained.key, "explains": explained.explains, "of": explained.of},
    }


def _record(verified: Verified) -> dict[str, Any]:
    return {
        "file": verified.piece.source.name,
        "editor": verified.editor.name,
        "asPredicted": verified.is_as_predicted,
        "held": [held_record(each) for each in verified.held],
        "notes": list(verified.notes),
    }


def verified_json(found: Sequence[Verified]) -> str:
    """Return the report as JSON."""
    record = {"format": FORMAT, "verified": [_record(each) for each in found]}
    return msgspec.json.format(msgspec.json.encode(record), indent=2).decode() + "\n"


def verified_junit(found: Sequence[Verified]) -> str:
    """Return the report as JUnit XML: a suite for each piece, a case for each text."""
    import xml.etree.ElementTree as ElementTree

    root = ElementTree.Element("testsuites", name="verse-tray")
    cases = failures = 0
    for verified in found:
        name = xml_text(verified.piece.source.name)
        failed = sum(each.state not in GOOD for each in verified.held)
        suite = ElementTree.SubElement(
            root, "testsuite", name=name, tests=str(len(verified.held)), failures=str(failed), errors="0", skipped="0"
        )
        cases, failures = cases + len(verified.held), failures + failed
        for held in verified.held:
            case = ElementTree.SubElement(
                suite, "testcase", classname=name, name=f"{verified.editor.name}: {held.name}"
            )
            if held.state not in GOOD:
                lines = [_line(name, each.finding) for each in held.told]
                told = ElementTree.SubElement(case, "failure", type=held.state, message=xml_text(state_text(held)))
                told.text = xml_text("\n".join(lines))
    root.attrib.update(tests=str(cases), failures=str(failures), errors="0")
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="utf-8"?>\n' + ElementTree.tostring(root, "unicode") + "\n"


def _line(file: str, finding: Finding) -> str:
    place = file if finding.line is None else f"{file}:{finding.line}:{finding.column}"
    return f"{place}: {finding.message}"
