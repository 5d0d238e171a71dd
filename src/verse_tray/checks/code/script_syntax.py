"""A script that browsers cannot read."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.script.faults import script_fault
from verse_tray.script.kinds import script_kind

RULE = Rule(
    Severity.ERROR,
    readers="Nothing of the script runs, not even what stands before the fault.",
    advice="Mend the script at the place that is named, or just before it.",
    bad="<script>\nvar heights = [0.4, 0.5;\n</script>",
    good="<script>\nvar heights = [0.4, 0.5];\n</script>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first fault of each script and of each event handler."""
    for code in subject.scripts:
        if code.text.strip():
            module = script_kind(code.element.attributes) == "module"
            if (fault := script_fault(code.text, module=module)) is not None:
                yield _told(code.at(Span(fault.offset, fault.offset + 1)), fault.reason, "this script")
    for element in subject.elements:
        for name, value in element.attributes.items():
            if name.startswith("on") and value.strip() and "{{" not in value and "<%" not in value:
                fault = script_fault(value, body=True)
                if fault is not None:
                    at = min(fault.offset, max(len(value) - 1, 0))
                    yield _told(subject.value_span(element, name, Span(at, at + 1)), fault.reason, f"this {name}")


def _told(span: Span | None, reason: str, what: str) -> Mistake:
    return Mistake(
        span,
        f"Browsers cannot read {what}, so nothing of it runs: {reason}. Look here and just before this place: a "
        "bracket, a quote or a comma is missing or too many.",
    )
