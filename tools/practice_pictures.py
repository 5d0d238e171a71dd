"""Take the pictures of the practice site: python tools/practice_pictures.py PIECE FOLDER."""

from __future__ import annotations

import re
import signal
import subprocess
import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

from verse_tray.preview.browser.find import find_browser


def main(piece: Path, folder: Path) -> None:
    """Paste a piece into the blog's editor, save and publish it, and take pictures of that page, wide and narrow."""
    command = [sys.executable, "-m", "verse_tray", "practise", "--into", str(folder / "practice")]
    process = subprocess.Popen(command, stderr=subprocess.PIPE, text=True)
    assert process.stderr is not None
    address = re.findall(r"http://\S+/", process.stderr.readline())[0]
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=find_browser())
        tab = browser.new_page(viewport={"width": 1280, "height": 800})
        tab.goto(f"{address}sign-in")
        tab.fill("input[name=token]", (folder / "practice" / "token").read_text().strip())
        tab.keyboard.press("Enter")
        tab.wait_for_url(address)
        tab.goto(f"{address}editors/blog-post")
        tab.fill("#title", "Low-water walk")
        tab.fill("#source", piece.read_text("utf-8"))
        for button, says in (("save", "Saved"), ("publish", "Published")):
            tab.click(f"#{button}")
            tab.wait_for_function("said => document.getElementById('told').textContent.startsWith(said)", arg=says)
        tab.frame_locator("#shown").locator("table").wait_for()
        for width in (1280, 375):
            tab.set_viewport_size({"width": width, "height": 800})
            tab.wait_for_timeout(300)
            tab.screenshot(path=folder / f"practice-{width}.png")
        browser.close()
    process.send_signal(signal.SIGINT)
    process.communicate(timeout=20)


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
