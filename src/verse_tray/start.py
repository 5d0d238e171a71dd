"""Where the program starts and ends: until its own code is there, a signal ends it as it ends any process."""

from __future__ import annotations

import atexit
import os
import signal
import sys
from types import FrameType

TERMINATED = 128 + signal.SIGTERM
"""Exit code of a run that was told to end, as shells count it."""


def main() -> None:
    """Run the command as a process of its own, which ends with it."""
    ending = _Ending()
    try:
        run()
    except SystemExit as ended:
        ending.code = ended.code
        raise


def run() -> None:
    """Load and run the command; the process may go on when it has exited."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)
    from verse_tray.cli.app import main as command

    signal.signal(signal.SIGINT, signal.default_int_handler)
    signal.signal(signal.SIGTERM, _end)
    command()


def _end(number: int, _: FrameType | None) -> None:
    """End in order, so that nothing stays behind: what is open is closed on the way; a second signal ends at once."""
    signal.signal(number, signal.SIG_DFL)
    sys.exit(TERMINATED)


class _Ending:
    """Ends the process when all that was to be done at its end is done: what is left in memory goes with it.

    To take it apart piece by piece, as the interpreter would, takes longer than many a command. Of what is registered
    to be done at the end, the first comes last.
    """

    code: object = None
    """The exit code; no number where the interpreter has more to say."""

    def __init__(self) -> None:
        self._process = os.getpid()
        atexit.register(self._leave)

    def _leave(self) -> None:
        if not isinstance(self.code, int) or os.getpid() != self._process or sys.gettrace() is not None:
            return  # whoever traces the run wants to see its end
        try:
            for stream in (sys.stdout, sys.stderr):
                if stream is not None:
                    stream.flush()
        except (OSError, ValueError):  # closed: the interpreter has its own way of saying so
            return
        os._exit(self.code)
