"""The command ``verse-tray``, and the one place that turns errors into exit codes."""

from __future__ import annotations

import os
import sys
from enum import IntEnum
from typing import Annotated

import typer

from verse_tray import __version__
from verse_tray.cli import check, demo, editors, preview, trace
from verse_tray.model.errors import VerseTrayError

app = typer.Typer(
    name="verse-tray",
    help="Tells what a rich-text editor leaves of your HTML, why, and what readers will see.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
    context_settings={"help_option_names": ["-h", "--help"]},
)


class ExitCode(IntEnum):
    """What the exit code says."""

    NOTHING_FOUND = 0
    FOUND = 1
    UNUSABLE = 2
    INTERRUPTED = 130


def _version(wanted: bool) -> None:
    if wanted:
        print(f"verse-tray {__version__}")
        raise typer.Exit


@app.callback()
def _root(
    version: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Show the version and exit.")
    ] = False,
) -> None:
    pass


app.command("check")(check.command)
app.command("trace")(trace.command)
app.command("preview")(preview.command)
app.add_typer(editors.app, name="editors")
app.command("demo")(demo.command)


def main() -> None:
    """Run the command."""
    try:
        app(prog_name="verse-tray")
    except VerseTrayError as error:
        print(f"verse-tray: {error}", file=sys.stderr)
        sys.exit(ExitCode.UNUSABLE)
    except BrokenPipeError:  # who read our output has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        sys.exit(ExitCode.NOTHING_FOUND)
    except KeyboardInterrupt:
        sys.exit(ExitCode.INTERRUPTED)
