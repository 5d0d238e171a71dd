"""How verdicts and severities are coloured in the terminal; their words always stand beside."""

from __future__ import annotations

from verse_tray.model.findings import Severity, Verdict

VERDICT_STYLES = {
    Verdict.INTACT: "bold green",
    Verdict.REWRITTEN: "green",
    Verdict.DAMAGED: "bold yellow",
    Verdict.BROKEN: "bold red",
}
SEVERITY_STYLES = {Severity.ERROR: "red", Severity.WARNING: "yellow", Severity.NOTE: "dim"}
