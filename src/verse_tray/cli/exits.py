"""Exit codes."""

from __future__ import annotations

from enum import IntEnum


class ExitCode(IntEnum):
    """What the exit code says."""

    NOTHING_FOUND = 0
    FOUND = 1
    UNUSABLE = 2
    INTERRUPTED = 130
