"""The part of ``verse-tray demo`` that sends: to a practice site, where a rule changes; what verifying says of that."""

from __future__ import annotations

import shlex
import signal
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.util import find_spec
from pathlib import Path
from typing import TYPE_CHECKING

from verse_tray.model.phrasing import as_argument
from verse_tray.tasks.outputs import write_whole

if TYPE_CHECKING:
    from verse_tray.cli.screen import Screen

_OUR_BLOG = """\
format = "verse-tray-editor/1"
extends = "blog-post"
title = "Our blog"
summary = "The blog since its rule has changed: figures are unwrapped."

[save]
"""


def send_and_verify(into: Path, screen: Screen) -> None:
    """Send the example to a practice site, change a rule there, see what that does, and mend it."""
    if find_spec("starlette") is None or find_spec("uvicorn") is None:
        screen.print("Sending is left out: the practice site needs pip install 'verse-tray[live]'\n")
        return
    walk, later = into / "low-water-walk.html", into / "next-walk.html"
    write_whole(later, walk.read_bytes().replace(b"Low-water walk", b"Next low-water walk"))
    site, practice = into / "practice", as_argument(str(into / "practice"))

    def run(*arguments: str) -> None:
        screen.print(f"$ verse-tray {shlex.join(arguments)}", style="bold", soft_wrap=True)
        command = [sys.executable, "-m", "verse_tray", *arguments]
        done = subprocess.run(command, capture_output=True, text=True, encoding="utf-8", check=False)
        screen.print(f"{done.stderr.rstrip()}\n{done.stdout.rstrip()}".strip(), soft_wrap=True)
        screen.print()

    screen.print(f"$ verse-tray practise --into {practice}    # in another terminal", style="bold", soft_wrap=True)
    with _practice(site):
        run("send", str(walk), "--to", str(site), "--publish")
        run("verify", str(walk))
    screen.print("The site changes a rule: from 2027 on, its blog unwraps figures.", soft_wrap=True)
    screen.print(f"$ verse-tray practise --into {practice} --date 2027-01-01", style="bold", soft_wrap=True)
    with _practice(site, "--date", "2027-01-01"):
        run("send", str(later), "--to", str(site), "--publish")
        run("verify", str(later))
        profile, settings = site / "our-blog" / "editor.toml", site / "site.toml"
        screen.print(f"{profile} says so, and {settings} names it as its editor. What is sent is fitted to it:")
        write_whole(profile, f"{_OUR_BLOG}{_changed_lists()}".encode())
        kept = settings.read_text("utf-8").replace('editor = "blog-post"', 'editor = "./our-blog"', 1)
        settings.write_text(kept, "utf-8")
        run("send", str(later), "--to", str(site))
        run("verify", str(later))


def _changed_lists() -> str:
    """Return the two lists of the blog's profile that have changed, as TOML."""
    from verse_tray.editors.filters import Filter
    from verse_tray.editors.store import record_toml
    from verse_tray.practise import channels

    save = channels.editor_of(channels.CHANGES_IN, "author", channels.CHANGES).profile.save
    lists = Filter(elements=save.elements, replace_with_children_elements=save.replace_with_children_elements)
    return record_toml(lists)


@contextmanager
def _practice(site: Path, *options: str) -> Iterator[None]:
    """Have the practice site of a folder run meanwhile."""
    command = [sys.executable, "-m", "verse_tray", "practise", "--into", str(site), *options]
    process = subprocess.Popen(command, stderr=subprocess.PIPE, text=True, encoding="utf-8")
    try:
        assert process.stderr is not None
        process.stderr.readline()  # it says where it is once it can be asked
        yield
    finally:
        process.send_signal(signal.SIGINT)
        process.communicate(timeout=20)
