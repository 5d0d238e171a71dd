"""Speed as ratios, each measured side by side in one run: ``python bench/ratios.py``.

(a) wall time of ``verse-tray check`` on a 20 KB piece with every editor, and with three, over a bare command made with
    the same Typer;
(b) journeys per second of a 5 KB fragment, over the browser's own native ``setHTML`` calls per second on the same
    fragment with an equal configuration (left out when no browser is there): the same fragment again and again, whose
    parsed form is shared while a journey of it is alive, and another fragment each time;
(c) wall time of ``verse-tray check`` on a 20 KB piece with every rule about mistakes over the same without them, with
    every editor, one and none;
(d) growth of time and peak memory of a check from 20 KB to 200 KB to 2 MB.
"""

from __future__ import annotations

import compileall
import statistics
import subprocess
import sys
import tempfile
import time
from itertools import pairwise
from pathlib import Path

import verse_tray
from verse_tray.demo import example

BARE = """
import typer
app = typer.Typer()
@app.command()
def hello(name: str = "you"): print("hello", name)
@app.command()
def other(): pass
app()
"""
CONFIGURATION = {
    "elements": [
        *("a", "b", "br", "div", "figure", "h2", "img", "li", "ol", "p", "section", "span", "strong"),
        *("table", "tbody", "td", "th", "thead", "tr"),
    ],
    "attributes": ["alt", "class", "height", "href", "id", "scope", "src", "style", "target", "width"],
    "comments": False,
    "dataAttributes": False,
}
CHECK = """
import resource, sys, time
from pathlib import Path
from verse_tray.checks.find import mistakes
from verse_tray.editors.load import known_editors, load_editor
from verse_tray.journeys.journey import journey
from verse_tray.piece.piece import Piece
from verse_tray.model.decoding import decode
editors = [load_editor(name) for name in known_editors()]
data = Path(sys.argv[1]).read_bytes()
start = time.perf_counter()
piece = Piece(decode(data, "piece"))
mistakes(piece)
for editor in editors:
    made = journey(piece, editor)
    made.verdict, made.findings
print(time.perf_counter() - start, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)
"""


def piece(size: int) -> str:
    """Return a piece of about ``size`` characters, made of the demo's."""
    parts = [data.decode() for path, data in example().items() if path.suffix == ".html"]
    # the style element once: nobody repeats it, and its rules would be matched against every copy
    once, body = parts[1].split("</style>")[0] + "</style>", parts[1].split("</style>")[1].replace("</section>", "")
    text = once
    number = 0
    while len(text) < size:
        text += (body, parts[0], parts[2])[number % 3]
        number += 1
    return text


def wall(command: list[str]) -> float:
    start = time.perf_counter()
    subprocess.run(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=False)
    return time.perf_counter() - start


def start_up(folder: Path) -> None:
    compileall.compile_dir(Path(verse_tray.__file__).parent, quiet=1)  # as an installation does
    bare, file = folder / "bare.py", folder / "piece.html"
    bare.write_text(BARE)
    file.write_text(piece(20_000))
    whole = [sys.executable, "-m", "verse_tray", "check", str(file), "--fail-on", "never"]
    for what, most, check in (("every editor", 6, whole), ("one editor", 3, [*whole, "--editor", "course-page"])):
        pairs = [(wall(check), wall([sys.executable, str(bare), "hello"])) for _ in range(16)][1:]
        ratio = statistics.median(ours / theirs for ours, theirs in pairs)
        ours, theirs = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
        print(f"(a) check, 20 KB, {what}: {ours:.0f} ms; bare: {theirs:.0f} ms; ratio {ratio:.2f} (asked: {most})")


NATIVE = """([markup, configuration, count, fresh]) => {
  const element = document.createElement('div'), sanitizer = new Sanitizer(configuration);
  const start = performance.now();
  for (let i = 0; i < count; i++) element.setHTML(fresh ? markup + i : markup, {sanitizer});
  return (performance.now() - start) / count / 1000;
}"""


def against_the_browser() -> None:
    from verse_tray.model.errors import BrowserError
    from verse_tray.preview.browser.find import find_browser

    try:
        from playwright.sync_api import sync_playwright

        program = find_browser()
    except (ImportError, BrowserError) as error:
        print(f"(b) left out: {error}")
        return
    markup = piece(5_000)
    editor = verse_tray.adopt(CONFIGURATION)
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=program)
        tab = browser.new_page()
        for fresh, what, asked in (
            (False, "the same fragment again", 0.55),
            (True, "another fragment each time", 0.45),
        ):
            rounds = []
            for _ in range(13):
                native = tab.evaluate(NATIVE, [markup, CONFIGURATION, 100, fresh])
                start = time.perf_counter()
                for number in range(50):
                    made = verse_tray.journey(f"{markup}{number}" if fresh else markup, editor)
                    assert made.stages[-1].markup
                rounds.append((native, (time.perf_counter() - start) / 50))
            ratio = statistics.median(native / ours for native, ours in rounds[1:])
            native, ours = (statistics.median(column) for column in zip(*rounds[1:], strict=True))
            rates = f"{1 / ours:.0f} journeys, {1 / native:.0f} setHTML calls a second"
            print(f"(b) {what}: {rates}; ratio {ratio:.2f} (asked: at least {asked})")
        browser.close()


def rules(folder: Path) -> None:
    file = folder / "ruled.html"
    file.write_text(piece(20_000))
    program = str(Path(sys.executable).with_name("verse-tray"))
    for editor, what in (("all", "every editor"), ("blog-post", "one editor"), ("none", "no editor")):
        command = [program, "check", str(file), "--editor", editor]
        pairs = [(wall(command), wall([*command, "--silence", "all"])) for _ in range(11)][1:]
        ratio = statistics.median(with_rules / without for with_rules, without in pairs)
        print(f"(c) check, 20 KB, {what}: with all rules over without: {ratio:.2f} (<= 1.8 with editors)")


def growth(folder: Path) -> None:
    figures = []
    for size in (20_000, 200_000, 2_000_000):
        file = folder / "growing.html"
        file.write_text(piece(size))
        runs = []
        for _ in range(3):
            out = subprocess.run(
                [sys.executable, "-c", CHECK, str(file)], capture_output=True, text=True, check=True
            ).stdout.split()
            runs.append((float(out[0]), float(out[1])))
        figures.append((size, min(run[0] for run in runs), max(run[1] for run in runs)))
    for size, seconds, memory in figures:
        print(f"(d) {size // 1000:>5} KB: {seconds * 1000:8.1f} ms, peak {memory:.0f} MB")
    for (_, before, _), (_, after, _) in pairwise(figures):
        print(f"(d) ten times the size: {after / before:.1f} times the time (at most 12)")
    print(f"(d) 2 MB for every editor: {figures[-1][1]:.1f} s (asked: 15)")


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as name:
        start_up(Path(name))
        against_the_browser()
        rules(Path(name))
        growth(Path(name))
