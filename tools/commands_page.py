"""The command reference, for ``tools/write_pages.py``."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import typer.main
from typer.testing import CliRunner

from verse_tray.cli.app import COMMANDS, build

HEAD = """# Commands

What each command says of itself; this page is written by `python tools/write_pages.py`.

Exit codes: 0 nothing at or above the threshold, 1 something was found, 2 input, options or a profile cannot be used,
3 a fault of ours, 130 interrupted, 143 ended by SIGTERM.
"""


def commands(command: Any, names: tuple[str, ...] = ()) -> Iterator[tuple[tuple[str, ...], Any]]:
    """Yield every command with its names, the groups before what is in them."""
    yield names, command
    for name, inner in getattr(command, "commands", {}).items():
        yield from commands(inner, (*names, name))


def reference() -> str:
    """Return the page."""
    runner = CliRunner()
    parts = [HEAD]
    for names, _ in commands(typer.main.get_command(build())):
        app = build(names[:1] or COMMANDS)
        shown = runner.invoke(app, [*names, "--help"], prog_name="verse-tray", env={"COLUMNS": "100", "TERM": "dumb"})
        help_text = "\n".join(line.rstrip() for line in shown.output.rstrip().splitlines())
        parts.append(f"## {' '.join(('verse-tray', *names))}\n\n```text\n{help_text}\n```\n")
    return "\n".join(parts)
