"""The clipboard, through what the system has."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Sequence

from verse_tray.model.errors import OutputError

_PROGRAMS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("WAYLAND_DISPLAY", ("wl-copy",)),
    ("DISPLAY", ("xclip", "-selection", "clipboard")),
    ("DISPLAY", ("xsel", "--clipboard", "--input")),
    ("", ("pbcopy",)),
    ("", ("clip.exe",)),
)
"""Programs that take a text for the clipboard, each with the variable without which it has none."""
_LONGEST = 10.0  # seconds


def copy_text(text: str) -> str:
    """Put a text on the clipboard, and return the name of the program that did so.

    Raises:
        OutputError: there is no such program, or it failed.
    """
    for variable, program in _PROGRAMS:
        if (variable and not os.environ.get(variable)) or shutil.which(program[0]) is None:
            continue
        _hand_over(program, text)
        return program[0]
    names = ", ".join(program[0] for _, program in _PROGRAMS)
    raise OutputError(
        f"--copy: no program of this system takes a text for the clipboard ({names}). Open the paste sheet in a "
        "browser, which copies, or open the file."
    )


def _hand_over(program: Sequence[str], text: str) -> None:
    data = text.encode("utf-16-le" if program[0] == "clip.exe" else "utf-8", "surrogatepass")
    try:
        done = subprocess.run(program, input=data, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                              timeout=_LONGEST, check=False)  # fmt: skip
    except (OSError, subprocess.TimeoutExpired) as error:
        raise OutputError(f"--copy: {program[0]} did not take the text: {error}") from None
    if done.returncode:
        raise OutputError(f"--copy: {program[0]} did not take the text (exit code {done.returncode}).")
