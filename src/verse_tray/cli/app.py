"""The command ``verse-tray``, and the one place that turns errors into exit codes."""

import errno
import os
import sys
from importlib import import_module
from typing import Annotated

import typer

from verse_tray import __version__
from verse_tray.cli.exits import ExitCode, OutputClosed, PipeClosed
from verse_tray.cli.screen import flush, note
from verse_tray.cli.streams import give_up_output, prepare
from verse_tray.model.errors import VerseTrayError
from verse_tray.tasks.outputs import run_begins

COMMANDS = (
    "new",
    "make",
    "join",
    "fill",
    "adjust",
    "neaten",
    "pictures",
    "check",
    "fit",
    "place",
    "trace",
    "preview",
    "live",
    "compare",
    "editors",
    "learn",
    "practise",
    "send",
    "verify",
    "audit",
    "sites",
    "demo",
)
"""Commands in the order of the help; each is a module of this package with a ``command`` or an ``app``."""


def build(names: tuple[str, ...] = COMMANDS) -> typer.Typer:
    """Return the application with these commands."""
    app = typer.Typer(
        name="verse-tray",
        help="Tells what a rich-text editor leaves of your HTML, why, and what readers will see.",
        no_args_is_help=True,
        add_completion=False,
        pretty_exceptions_enable=False,
        rich_markup_mode=None,
        context_settings={"help_option_names": ["-h", "--help"]},
    )
    app.callback()(_root)
    for name in names:
        module = import_module(f"verse_tray.cli.{name}")
        if hasattr(module, "app"):
            app.add_typer(module.app, name=name)
        else:
            app.command(name)(module.command)
    return app


def _version(wanted: bool) -> None:
    if wanted:
        print(f"verse-tray {__version__}")
        raise typer.Exit


def _root(
    version: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Show the version and exit.")
    ] = False,
) -> None:
    pass


def _debugging() -> bool:
    return os.environ.get("VERSE_TRAY_DEBUG", "") not in ("", "0")


def _tell_fault(error: Exception) -> None:
    """Say in one line that something is wrong with the program itself."""
    told = " ".join(f"{type(error).__name__}: {error}".split())[:200]
    note(
        f"verse-tray: this is a fault of ours, not of your piece: {told}. Please report it, with the command and the "
        "piece; VERSE_TRAY_DEBUG=1 in the environment shows where it happened."
    )


_UNWRITABLE = ("ENOSPC", "EBADF", "EIO", "EFBIG", "EDQUOT")  # by name: not every system has all of them


def _is_of_output(error: Exception) -> bool:
    """Tell whether printing a help text failed, which the library below does without us."""
    return (
        isinstance(error, OSError) and error.filename is None and errno.errorcode.get(error.errno or 0) in _UNWRITABLE
    )


def _told_closed(why: str) -> ExitCode:
    give_up_output()
    note(f"verse-tray: standard output: it cannot be written: {why}.")
    return ExitCode.UNUSABLE


def main() -> None:
    """Run the command."""
    prepare()
    if _debugging():
        from verse_tray.journeys.contract import Watch

        Watch.on = True
    run_begins()
    sys.exit(_run())


def _run() -> ExitCode | int:
    """Run what was asked for, and return the exit code."""
    asked = tuple(sys.argv[1:2])
    needed = COMMANDS[:1] if asked == ("--version",) else asked if asked and asked[0] in COMMANDS else COMMANDS
    try:
        app = build(needed)  # loading the others takes time
        try:
            app(prog_name="verse-tray")
        finally:
            flush()
    except SystemExit as ended:
        return ended.code if isinstance(ended.code, int) else ExitCode.NOTHING_FOUND
    except VerseTrayError as error:
        note(f"verse-tray: {error}")
        return ExitCode.UNUSABLE
    except PipeClosed:
        give_up_output()
        return ExitCode.NOTHING_FOUND
    except OutputClosed as error:
        return _told_closed(str(error))
    except KeyboardInterrupt:
        return ExitCode.INTERRUPTED
    except Exception as error:
        if _is_of_output(error):
            return _told_closed(getattr(error, "strerror", None) or str(error))
        if _debugging():
            import traceback

            traceback.print_exc()
        else:
            _tell_fault(error)
        return ExitCode.FAULT
    return ExitCode.NOTHING_FOUND
