"""What mending changes in a piece: the lines before and after, and why."""

from __future__ import annotations

import difflib
from collections.abc import Iterator

from rich.console import RenderableType
from rich.text import Text

from verse_tray.edit.mend import Mended
from verse_tray.model.decoding import Source
from verse_tray.model.phrasing import as_argument, counted

LINE_STYLES = {"+": "green", "-": "red", "@": "cyan"}
"""How the lines of a unified comparison look."""


def mend_text(source: Source, mended: Mended) -> Iterator[RenderableType]:
    """Yield what to print."""
    if not mended.mended:
        yield Text.assemble((source.name, "bold"), ": there is nothing that can be mended with certainty.")
        return
    later = sum(finding.line is None for finding in mended.mended)
    then = f", and {later} more that only then {'comes' if later == 1 else 'come'} to light" if later else ""
    yield Text.assemble(
        (source.name, "bold"), f": {counted(len(mended.mended) - later, 'mistake')} can be mended{then}.\n"
    )
    placed = sorted(mended.mended, key=lambda each: (each.line is None, each.line or 0, each.column or 0))
    for finding in placed:
        place = "then" if finding.line is None else f"{finding.line}:{finding.column}"
        yield Text.assemble((f"  {place}", "bold"), f"  {finding.rule}  {finding.message}")
    yield Text("")
    names = (source.name, f"{source.name}, mended")
    lines = (source.text.splitlines(), mended.text.splitlines())
    for line in difflib.unified_diff(*lines, *names, lineterm="", n=1):
        yield Text(line, LINE_STYLES.get(line[:1], ""))
    again = "" if source.name == "-" else f" {as_argument(source.name)}"
    yield Text.assemble("\nNothing is written yet:  ", (f"verse-tray check{again} --fix --write", "bold"))
