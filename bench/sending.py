"""Verifying against a large page, saving on the practice site, uploading side by side: as ratios and counts.

``python bench/sending.py``
"""

from __future__ import annotations

import json
import random
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from support.practice import Between, Practice
from support.program import PROGRAM
from verse_tray.demo import example
from verse_tray.journeys.journey import journey

_WORDS = "rock pool shore tide count limpet barnacle weed crab star slope ledge gull north south lamp boots".split()


def seconds(command: list[str], folder: Path) -> float:
    """Return how long a command takes."""
    begun = time.perf_counter()
    subprocess.run(command, cwd=folder, capture_output=True, check=False)
    return time.perf_counter() - begun


def verifying(folder: Path) -> None:
    """Print how much longer verifying 20 KB against a page of 500 KB takes than a command that does nothing."""
    rng = random.Random(1)
    piece = example()[Path("low-water-walk.html")].decode()
    piece += "".join(f"<p>Pool {each} had {each % 13} anemones, seen by hand lens.</p>\n" for each in range(280))
    published = journey(piece, "blog-post", reopened=0).stage("publish").markup
    items = ""
    while len(items) < 480_000:
        items += "<article>" + "".join(f"<p>{' '.join(rng.choices(_WORDS, k=40))}</p>" for _ in range(4)) + "</article>"
    (folder / "piece.html").write_text(piece, "utf-8")
    (folder / "page.html").write_text(f"<!DOCTYPE html><body><main>{items}{published}{items[:9000]}</main>", "utf-8")
    bare = [sys.executable, "-c", "import typer; app = typer.Typer(); app.command()(lambda: None); app()"]
    asked = [*PROGRAM, "verify", "piece.html", "--editor", "blog-post", "--page", "page.html"]
    ratios = [seconds(asked, folder) / seconds(bare, folder) for _ in range(9)]
    print(f"verify, {len(piece):,} in {500_000:,}: {statistics.median(ratios):.1f} times a bare command")


def saving(site: Practice) -> None:
    """Print how long 200 saves of 5 KB take, and what memory the site needs then."""
    text = "<p>" + "low water " * 500 + "</p>"
    headers = {"Authorization": f"Bearer {site.token}", "Content-Type": "application/json"}
    begun = time.perf_counter()
    for number in range(200):
        post = {"content": [{"html": f"{text}{number}"}], "post-status": ["draft"]}
        body = json.dumps({"type": ["h-entry"], "properties": post}).encode()
        assert site.ask("/micropub", "POST", body, headers)[0] == 201
    took = time.perf_counter() - begun
    status = Path(f"/proc/{site.pid}/status").read_text()
    most = next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmHWM"))
    print(f"200 saves of 5 KB: {took:.1f} s, at most {most / 1024:.0f} MB, with every command loaded")


def uploading(site: Practice, folder: Path) -> None:
    """Print how many of ten pictures are on their way at once, where each takes a while."""
    going, most, lock = 0, 0, threading.Lock()

    def slow(method: str, path: str) -> str:
        nonlocal going, most
        if path == "/media":
            with lock:
                going += 1
                most = max(most, going)
            time.sleep(0.3)
            with lock:
                going -= 1
        return ""

    between = Between(site.port, slow)
    settings = site.folder / "site.toml"
    settings.write_text(settings.read_text().replace(f":{site.port}/", f":{between.port}/"))
    picture = example()[Path("pictures/gannet.png")]
    for number in range(10):
        (folder / f"{number}.png").write_bytes(picture + bytes([number]))
    (folder / "ten.html").write_text("".join(f'<img src="{each}.png" alt="x">' for each in range(10)))
    seconds([*PROGRAM, "send", "ten.html", "--to", "practice"], folder)
    print(f"ten pictures: {most} at once")
    between.stop()


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        verifying(folder)
        site = Practice(folder / "practice")
        try:
            saving(site)
            uploading(site, folder)
        finally:
            site.stop()
