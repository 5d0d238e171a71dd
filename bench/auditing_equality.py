"""An audit's verdicts held against those of single journeys, and against one another.

With 1, 2 and 4 workers, in another order, after being killed again and again, and on a cluster of two workers.
``python bench/auditing_equality.py [--posts N]``
"""

from __future__ import annotations

import argparse
import json
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from support.program import PROGRAM
from verse_tray.audit.store import Store
from verse_tray.demo.archive import posts
from verse_tray.journeys.journey import journey

EDITORS = ("course-page", "mail-signoff", "article")
ASKED = """
    SELECT name, results.editor, verdict, alike, stored, rule, count, line, "column" FROM results
    JOIN posts ON posts.id = results.post
    LEFT JOIN causes ON causes.post = results.post AND causes.editor = results.editor ORDER BY 1, 2, 6"""
NAMED = [each for editor in EDITORS for each in ("--editor", editor)]
Rows = list[tuple[object, ...]]


def audited(folder: Path, name: str, *options: str, kills: int = 0, source: str = "posts.jsonl") -> Rows:
    """Return what an audit finds, after it was killed so many times."""
    command = [*PROGRAM, "audit", source, *NAMED, "--into", f"{name}.sqlite", *options]
    for _ in range(kills):
        begun = subprocess.Popen(command, cwd=folder, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        time.sleep(6)
        begun.kill()
        begun.wait()
    subprocess.run(command, cwd=folder, capture_output=True, check=False)
    return Store(folder / f"{name}.sqlite", existing=True).rows(ASKED)


def on_cluster(folder: Path) -> Rows:
    """Return what an audit finds on a cluster of two workers of this machine."""
    dask = [str(Path(sys.executable).with_name("dask"))]
    file = ["--no-dashboard", "--scheduler-file", str(folder / "scheduler.json")]
    commands = [["scheduler", "--host", "127.0.0.1", "--port", "0"], *[["worker", "--nthreads", "1", "--no-nanny"]] * 2]
    begun = [
        subprocess.Popen([*dask, *each, *file], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        for each in commands
    ]
    try:
        return audited(folder, "cluster", "--cluster", str(folder / "scheduler.json"))
    finally:
        for each in begun:
            each.kill()
            each.wait()


def written(folder: Path, name: str, pieces: list[tuple[int, str]]) -> None:
    """Write pieces as JSON Lines."""
    (folder / name).write_text("\n".join(json.dumps({"id": number, "html": markup}) for number, markup in pieces))


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--posts", type=int, default=500)
    count = parser.parse_args().posts
    pieces = list(enumerate(markup for _, markup in posts(count)))
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        written(folder, "posts.jsonl", pieces)
        first = audited(folder, "one", "--workers", "1")
        verdicts = {(str(row[0]), str(row[1])): row[2:5] for row in first}
        wrong = 0
        for number, markup in pieces:
            for editor in EDITORS:
                went = journey(markup, editor)
                expected = (went.verdict.value, went.survival.alike, len(went.stage("save").markup))
                wrong += verdicts[str(number), editor] != expected
        print(f"{len(verdicts)} verdicts of {count} posts: {wrong} are others than those of single journeys")
        print("two workers: the same", audited(folder, "two", "--workers", "2") == first)
        print("four workers: the same", audited(folder, "four", "--workers", "4") == first)
        print("killed three times: the same", audited(folder, "killed", "--workers", "2", kills=3) == first)
        random.Random(1).shuffle(pieces)
        written(folder, "shuffled.jsonl", pieces)
        print("another order: the same", audited(folder, "order", "--workers", "2", source="shuffled.jsonl") == first)
        print("cluster: the same", on_cluster(folder) == first)
