"""A check as JUnit XML, for build servers: a suite for each piece, a case for its mistakes and for each editor."""

from __future__ import annotations

import xml.etree.ElementTree as ElementTree
from collections.abc import Iterable

from verse_tray.model.findings import Finding, Verdict
from verse_tray.model.xml_text import xml_text
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult


def report(results: Iterable[PieceResult], wanted: Wanted) -> str:
    """Return the report as XML text.

    Args:
        results: The results.
        wanted: The verdict from which on a case fails.
    """
    threshold = wanted.threshold
    root = ElementTree.Element("testsuites", name="verse-tray")
    cases = failures = 0
    for result in results:
        name = result.piece.source.name
        suite = ElementTree.SubElement(root, "testsuite", name=name)
        failed = 0
        failed += _case(suite, name, "the piece itself", result.verdict(None), threshold, result.mistakes)
        for journey in result.journeys:
            told = result.findings(journey)
            failed += _case(suite, name, journey.editor.name, result.verdict(journey), threshold, told)
        count = 1 + len(result.journeys)
        suite.attrib.update(tests=str(count), failures=str(failed), errors="0", skipped="0")
        cases += count
        failures += failed
    root.attrib.update(tests=str(cases), failures=str(failures), errors="0")
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="utf-8"?>\n' + ElementTree.tostring(root, "unicode") + "\n"


def _case(
    suite: ElementTree.Element,
    file: str,
    name: str,
    verdict: Verdict,
    threshold: Verdict | None,
    findings: tuple[Finding, ...],
) -> int:
    case = ElementTree.SubElement(suite, "testcase", classname=xml_text(file), name=name, file=xml_text(file))
    text = xml_text("\n".join(_line(file, finding) for finding in findings))
    if threshold is not None and verdict.rank >= threshold.rank:
        gravest = min(findings, key=lambda finding: finding.severity.rank, default=None)
        message = f"{verdict.value}: {gravest.message}" if gravest else verdict.value
        ElementTree.SubElement(case, "failure", type=verdict.value, message=xml_text(message)).text = text
        return 1
    if text:
        ElementTree.SubElement(case, "system-out").text = text
    return 0


def _line(file: str, finding: Finding) -> str:
    place = file if finding.line is None else f"{file}:{finding.line}:{finding.column}"
    return f"{place}: {finding.severity.value}: {finding.message} [{finding.rule}]"
