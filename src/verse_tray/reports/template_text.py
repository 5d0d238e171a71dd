"""What putting a piece into a template changes: the lines around it, those that go and those that come."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.text import Text

from verse_tray.model.findings import Finding
from verse_tray.place.in_templates import InTemplate
from verse_tray.reports.mend_text import LINE_STYLES

_AROUND = 3  # lines


def difference(made: InTemplate) -> Iterator[RenderableType]:
    """Yield the lines that differ, as a unified difference does, with a few around them."""
    lines = made.source.text.splitlines()
    for change in made.changes:
        old, new = change.old.splitlines(), change.new.splitlines()
        first, behind = change.start, change.start + len(old)
        start, end = max(0, first - _AROUND), min(len(lines), behind + _AROUND)
        counts = end - start, end - start - len(old) + len(new)
        yield Text(f"--- {made.source.name}", "bold")
        yield Text(f"+++ {made.source.name}, with the piece", "bold")
        yield Text(f"@@ -{start + 1},{counts[0]} +{start + 1},{counts[1]} @@", LINE_STYLES.get("@", ""))
        for sign, some in ((" ", lines[start:first]), ("-", old), ("+", new), (" ", lines[behind:end])):
            for line in some:
                yield Text(f"{sign}{line}", LINE_STYLES.get(sign, ""))


def finding_line(made: InTemplate, finding: Finding, piece: str) -> str:
    """Return a finding as a line, with its place in the template or in the piece."""
    name = piece if finding.rule == "place/not-well-formed" else made.source.name
    place = f":{finding.line}:{finding.column}" if finding.line is not None else ""
    return f"{name}{place}: {finding.severity.value}: {finding.message}"
