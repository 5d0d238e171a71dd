"""Speed of previews, each figure measured side by side with what it is held against: ``python bench/previews.py``.

(a) wall time of ``verse-tray preview`` for the HTML sheet of every editor, without a browser, over a bare command made
    with the same Typer, and the size of the sheet;
(b) wall time to the picture of one view, over the browser's own command line taking a picture of the same page;
(c) time of each further view on the same page, in one session;
(d) ``verse-tray live``: from saving the file to the new page shown, in a real browser;
(e) wall time of ``verse-tray check --render`` for one editor, over that of the browser's own picture, and that of each
    further editor.
"""

from __future__ import annotations

import compileall
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from playwright.sync_api import sync_playwright
from ratios import BARE, wall

import verse_tray
from verse_tray.demo import example
from verse_tray.preview.browser import Session
from verse_tray.preview.browser.find import find_browser
from verse_tray.preview.browser.screenshots import view_picture
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import journey_page

ROUNDS = 9
FURTHER = 8
PROGRAM = [sys.executable, "-m", "verse_tray"]


def told(name: str, ratios: list[float], unit: str = "") -> None:
    print(
        f"{name}: {statistics.median(ratios):.2f}{unit} (median of {len(ratios)}; {min(ratios):.2f}–{max(ratios):.2f})"
    )


def sheets(folder: Path) -> None:
    bare = folder / "bare.py"
    bare.write_text(BARE, "utf-8")
    command = [*PROGRAM, "preview", str(folder / "piece.html"), "-o", str(folder / "sheet.html")]
    pairs = [(wall(command), wall([sys.executable, str(bare), "hello"])) for _ in range(ROUNDS)]
    told("(a) sheet of every editor over a bare command", [ours / other for ours, other in pairs])
    print(f"    the sheet has {(folder / 'sheet.html').stat().st_size / 1000:.0f} KB")


def own_picture(folder: Path, page: str) -> list[str]:
    """Return the browser's own command for a picture of a page."""
    (folder / "page.html").write_text(page, "utf-8")
    command = [str(find_browser()), "--headless", "--no-sandbox", "--disable-gpu", "--hide-scrollbars"]
    return [
        *command,
        "--window-size=1280,800",
        f"--screenshot={folder / 'theirs.png'}",
        (folder / "page.html").as_uri(),
    ]


def first_picture(folder: Path) -> None:
    editor = verse_tray.load_editor("blog-post")
    made = verse_tray.journey((folder / "piece.html").read_text("utf-8"), editor)
    page = journey_page(made, "published", editor.theme, LocalPictures(folder)).html
    ours = [*PROGRAM, "preview", str(folder / "piece.html"), "--editor", "blog-post", "--only", "published"]
    ours += ["--width", "1280", "--png", str(folder / "view.png")]
    theirs = own_picture(folder, page)
    pairs = [(wall(ours), wall(theirs)) for _ in range(ROUNDS)]
    told("(b) first picture over the browser's own", [one / other for one, other in pairs])
    with Session() as session:
        view_picture(session, page, 1280)
        times = []
        for at in range(2 * ROUNDS):
            start = time.perf_counter()
            view_picture(session, page, (375, 1280)[at % 2])
            times.append(1000 * (time.perf_counter() - start))
    told("(c) each further view", times, " ms")


def looked_at(folder: Path) -> None:
    made = verse_tray.journey((folder / "piece.html").read_text("utf-8"), "blog-post")
    theirs = own_picture(folder, journey_page(made, "published", made.editor.theme, LocalPictures(folder)).html)
    one = [*PROGRAM, "check", str(folder / "piece.html"), "--render", "--editor", "blog-post"]
    many = [*one, *further_editors(folder)]
    ours, further = [], []
    before = wall(theirs)
    for _ in range(ROUNDS):
        single, several, behind = wall(one), wall(many), wall(theirs)
        other, before = (before + behind) / 2, behind  # the machine's speed changes within a round
        ours.append(single / other)
        further.append((several - single) / FURTHER / other)
    told("(e) check --render of one editor", ours)
    told("(e) each further editor", further)


def further_editors(folder: Path) -> list[str]:
    """Return options for more editors: with two of them, the difference is as small as what two runs differ by."""
    options = []
    for number in range(FURTHER):
        name = ("article", "course-page")[number % 2]
        copied = folder / "editors" / f"{name}-{number}"
        shutil.copytree(Path(verse_tray.__file__).parent / "editors" / "stand_ins" / name, copied)
        options += ["--editor", str(copied)]
    return options


def live(folder: Path, *editors: str) -> None:
    file = folder / "piece.html"
    text = file.read_text("utf-8")
    options = [word for name in editors for word in ("--editor", name)]
    served = subprocess.Popen([*PROGRAM, "live", str(file), *options], stderr=subprocess.PIPE, text=True)
    assert served.stderr
    found = re.search(r"http://\S+", served.stderr.readline())
    assert found
    times = []
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=find_browser())
        tab = browser.new_page(viewport={"width": 1280, "height": 800})
        tab.goto(found[0])
        tab.wait_for_function("() => document.documentElement.dataset.revision")
        tab.wait_for_timeout(1500)
        for number in range(2 * ROUNDS):
            before = int(tab.evaluate("document.documentElement.dataset.revision"))
            start = time.perf_counter()
            file.write_text(text.replace("Wear boots", f"Wear {number} boots"), "utf-8")
            tab.wait_for_function("before => document.documentElement.dataset.revision > before", arg=before)
            times.append(1000 * (time.perf_counter() - start))
            tab.wait_for_timeout(700)
        browser.close()
    file.write_text(text, "utf-8")
    served.terminate()
    served.wait()
    told(f"(d) live, {len(editors) or 'all'} editor(s)", times, " ms")


def main() -> None:
    compileall.compile_dir(str(Path(verse_tray.__file__).parent), quiet=1)  # else a start compiles what was edited
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for path, data in example().items():
            (folder / path).parent.mkdir(parents=True, exist_ok=True)
            (folder / path).write_bytes(data)
        (folder / "low-water-walk.html").rename(folder / "piece.html")
        sheets(folder)
        first_picture(folder)
        looked_at(folder)
        live(folder, "blog-post")
        live(folder, "course-page", "mail-signoff")
        live(folder)


if __name__ == "__main__":
    main()
