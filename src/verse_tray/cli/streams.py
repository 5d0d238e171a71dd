"""The standard streams as this program needs them, whatever it was started with."""

from __future__ import annotations

import contextlib
import io
import os
import sys


def prepare() -> None:
    """Make the streams fit: signs that the terminal's encoding lacks are escaped, and writing to a closed one fails.

    Python leaves None where a stream is closed; what is printed to it would vanish, or end up in another one. A size
    of the terminal that is no number is nobody's.
    """
    for name in ("COLUMNS", "LINES"):  # some of what reads them takes ² for one, and fails
        if not os.environ.get(name, "0").isdecimal():
            del os.environ[name]
    if sys.stdout is None:
        sys.stdout = io.TextIOWrapper(
            os.fdopen(os.open(os.devnull, os.O_RDONLY), "wb", buffering=0), write_through=True
        )
    if sys.stderr is None:
        sys.stderr = open(os.devnull, "w")  # noqa: SIM115 (for the rest of the run)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")


def give_up_output() -> None:
    """Send what is still buffered for standard output nowhere: it cannot be written, and that has been told."""
    with contextlib.suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
