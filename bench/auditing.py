"""Auditing a made-up archive: posts a second of processor time, workers, an unchanged archive again.

``python bench/auditing.py [--posts N]``
"""

from __future__ import annotations

import argparse
import subprocess
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from support.program import PROGRAM
from verse_tray.demo.archive import feed, posts
from verse_tray.editors.load import known_editors, load_editor
from verse_tray.tasks.audit_worker import Settings, Worker


def run(folder: Path, *arguments: str) -> float:
    """Return how long an audit takes."""
    begun = time.perf_counter()
    subprocess.run([*PROGRAM, "audit", *arguments], cwd=folder, capture_output=True, check=False)
    return time.perf_counter() - begun


def judging(markup: list[str], names: list[str]) -> float:
    """Return how many characters of posts are held against editors in a second of processor time, in posts of 10 KB."""
    worker = Worker(Settings(tuple(map(load_editor, names)), 60, 0))
    list(worker.work([(0, "", markup[0], tuple(names))]))
    begun = time.process_time()
    list(worker.work([(number, "", text, tuple(names)) for number, text in enumerate(markup)]))
    return sum(map(len, markup)) / 10_000 / (time.process_time() - begun)


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--posts", type=int, default=400)
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        text = "".join(feed(options.posts))
        (folder / "posts.atom").write_text(text, "utf-8")
        count = options.posts
        size = len(text) / count / 1000
        few = [markup for _, markup in posts(100)]
        of = "posts of 10 KB a second of processor time"
        print(f"one editor: {judging(few, ['course-page']):.1f} {of}")
        print(f"{len(known_editors())} editors: {judging(few[::3], known_editors()):.1f} {of}")
        into = ("posts.atom", "--editor", "course-page", "--into")
        times = [run(folder, *into, f"{workers}.sqlite", "--workers", str(workers)) for workers in (1, 2)]
        print(f"{count} posts of {size:.1f} KB: {times[0]:.1f} s; two workers: {times[0] / times[1]:.2f} times one")
        print(f"the same again, unchanged: {run(folder, *into, '1.sqlite'):.1f} s")
        print(f"what the store says: {run(folder, '--into', '1.sqlite'):.1f} s")
