"""A finding as JSON."""

from __future__ import annotations

from typing import Any

from verse_tray.model.findings import Finding


def finding_record(finding: Finding) -> dict[str, Any]:
    """Return a finding as the JSON object of the contract."""
    return {
        "rule": finding.rule,
        "stage": finding.stage,
        "message": finding.message,
        "line": finding.line,
        "column": finding.column,
        "severity": finding.severity.value,
    }
