"""Where the program starts: until its own code is there, an interrupt ends it as it ends any process."""

from __future__ import annotations

import signal


def main() -> None:
    """Load and run the command."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)
    from verse_tray.cli.app import main as run

    signal.signal(signal.SIGINT, signal.default_int_handler)
    run()
