"""How the program ends."""

from __future__ import annotations

from enum import IntEnum


class ExitCode(IntEnum):
    """What the exit code says."""

    NOTHING_FOUND = 0
    FOUND = 1
    UNUSABLE = 2
    FAULT = 3
    INTERRUPTED = 130


class PipeClosed(Exception):
    """Who read our output has seen enough. (The library below would take a BrokenPipeError for a failure.)"""


class OutputClosed(Exception):
    """What we print cannot be written: a full disk, a stream that was closed."""
