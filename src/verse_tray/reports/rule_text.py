"""What a rule about mistakes looks for, in the terminal and on the page of all rules."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.checks.rule import Rule
from verse_tray.checks.table import RULES, rule
from verse_tray.markup.serialise import escape_text
from verse_tray.reports.styles import SEVERITY_STYLES

_LONGEST = 300
"""Characters of an example that are shown; some examples are long on purpose."""


def rule_text(name: str, record: Rule) -> Iterator[RenderableType]:
    """Yield what to print about a rule."""
    yield Text.assemble((name, "bold"), "  ", (record.severity.value, SEVERITY_STYLES[record.severity]), "\n")
    yield Text("What readers get", "bold")
    yield Padding(record.readers, (0, 0, 1, 2))
    yield Text("What to do", "bold")
    certain = " verse-tray check FILE --fix does it where that is certain." if record.mends else ""
    yield Padding(record.advice + certain, (0, 0, 1, 2))
    for heading, example in (("Wrong", record.bad), ("Right", record.good)):
        yield Text(heading, "bold")
        yield Padding(Text(_short(example)), (0, 0, 1, 2))
    yield Text(f"A piece silences it with <!-- verse-tray silence: {name} -->, a check with --silence {name}.")


def rule_list(names: tuple[str, ...]) -> Iterator[RenderableType]:
    """Yield a table of all rules."""
    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    for heading in ("rule", "severity", "what readers get"):
        table.add_column(heading, header_style="bold", no_wrap=heading != "what readers get", overflow="fold")
    for name in sorted(names):
        record = rule(name)
        table.add_row(name, Text(record.severity.value, SEVERITY_STYLES[record.severity]), record.readers)
    yield table
    yield Text("\nverse-tray check --explain RULE shows one with examples.")


def rules_page() -> str:
    """Return the page of all rules as Markdown."""
    parts = [
        "# Mistakes that `check` finds\n",
        "Every rule, with a piece in which it finds something and the same piece as it should be; the examples are "
        "also its tests. This page is written by `python tools/write_pages.py`.\n",
        "An **error** breaks the piece for readers, a **warning** harms it, a **note** is worth knowing. `--fix` "
        "mends what is marked so, where that is certain. `<!-- verse-tray silence: RULE -->` in a piece, or "
        "`--silence RULE`, silences a rule.\n",
    ]
    group = ""
    for name in sorted(RULES):
        if name.partition("/")[0] != group:
            group = name.partition("/")[0]
            parts.append(f"## {group.capitalize()}\n")
        record = rule(name)
        mends = ", `--fix`" if record.mends else ""
        parts.append(
            f"### `{name}` ({record.severity.value}{mends})\n\n{escape_text(f'{record.readers} {record.advice}')}\n"
        )
        parts.append(f"Wrong:\n\n```html\n{_short(record.bad)}\n```\n\nRight:\n\n```html\n{_short(record.good)}\n```\n")
    return "\n".join(parts)


def _short(example: str) -> str:
    return example if len(example) <= _LONGEST else f"{example[:_LONGEST]} … ({len(example):,} characters)"
