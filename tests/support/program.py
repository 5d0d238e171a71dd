"""The program itself, started as its users start it."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

PROGRAM = [str(Path(sys.executable).with_name("verse-tray"))]
PIECE = '<p class="a">Low water<br/><script>1</script></p>\n'


def run(*arguments: str, cwd: Path, stdin: bytes = b"", **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the program; its output is decoded as it stands."""
    done = subprocess.run(
        [*PROGRAM, *arguments],
        cwd=cwd,
        input=stdin,
        capture_output=True,
        timeout=120,
        env={**os.environ, **environment},
    )
    return subprocess.CompletedProcess(
        done.args, done.returncode, done.stdout.decode("utf-8"), done.stderr.decode("utf-8")
    )
