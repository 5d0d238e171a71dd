"""Where the program starts: until its own code is there, a signal ends it as it ends any process."""

from __future__ import annotations

import signal
import sys
from types import FrameType

TERMINATED = 128 + signal.SIGTERM
"""Exit code of a run that was told to end, as shells count it."""


def main() -> None:
    """Load and run the command."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)
    from verse_tray.cli.app import main as run

    signal.signal(signal.SIGINT, signal.default_int_handler)
    signal.signal(signal.SIGTERM, _end)
    run()


def _end(number: int, _: FrameType | None) -> None:
    """End in order, so that nothing stays behind: what is open is closed on the way; a second signal ends at once."""
    signal.signal(number, signal.SIG_DFL)
    sys.exit(TERMINATED)
