"""Previews, comparisons and trials as the program makes them."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING

import pytest
from PIL import Image

from support.program import PIECE, run

if TYPE_CHECKING:
    from playwright.sync_api import Browser


def test_preview_writes_one_file(folder: Path) -> None:
    done = run("preview", "piece.html", "--editor", "course-page", cwd=folder)
    assert done.returncode == 0
    assert done.stdout == ""
    assert "piece.preview.html" in done.stderr
    made = (folder / "piece.preview.html").read_text("utf-8")
    assert "default-src 'none'" in made
    assert made.count("<figure ") == 6


def test_preview_in_the_terminal_puts_editors_together(folder: Path) -> None:
    done = run("preview", "piece.html", "--text", cwd=folder, COLUMNS="70")
    assert done.returncode == 0
    assert done.stdout.count("Low water") == 3  # nothing lost, the script lost, and its style as well
    assert "intact in" in done.stdout
    assert max(map(len, done.stdout.split("\n"))) <= 70
    assert not (folder / "piece.preview.html").exists()


def test_each_record_has_views_of_its_own(folder: Path) -> None:
    (folder / "letter.html").write_text("<p>Dear {{name}}, {{day}}</p>", "utf-8")
    (folder / "people.csv").write_text("name,day\nLo,1\nBrónach O'Tide,2\nAnn,\n", "utf-8")
    asked = ("preview", "letter.html", "--data", "people.csv", "--editor", "article")
    done = run(*asked, "--extremes", "-o", "sheet.html", cwd=folder)
    assert done.returncode == 0, done.stderr
    made = (folder / "sheet.html").read_text("utf-8")
    assert re.findall(r'id="(row-[^"]+)"', made) == ["row-article-1", "row-article-2", "row-article-3"]
    assert "Record 3 of 3: a value missing" in made
    assert "record 3 of 3: a value missing:1:19: The record has no value for day" in done.stderr
    done = run(*asked, "--text", "--record", "name=Ann", cwd=folder)
    assert "Dear Ann, {{day}}" in done.stdout
    assert run("preview", "letter.html", "--extremes", cwd=folder).returncode == 2


@pytest.mark.browser
def test_a_single_view_is_a_picture_of_its_own_size(folder: Path) -> None:
    view = ("--editor", "blog-post", "--only", "published", "--width", "400")
    done = run("preview", "piece.html", *view, "--png", "a.png", "--pdf", "a.pdf", cwd=folder)
    assert done.returncode == 0, done.stderr
    first = Image.open(BytesIO((folder / "a.png").read_bytes()))
    assert first.size[0] == 400
    assert (folder / "a.pdf").read_bytes().startswith(b"%PDF")
    again = run("preview", "piece.html", *view, "--png", "b.png", "--part", "piece", cwd=folder)
    assert again.returncode == 0, again.stderr
    assert Image.open(BytesIO((folder / "b.png").read_bytes())).size < first.size


@pytest.mark.browser
def test_what_a_browser_sees_counts_in_a_check(folder: Path) -> None:
    (folder / "wide.html").write_text('<p style="width: 900px; color: #fff; background: #fff">Low water</p>', "utf-8")
    done = run("check", "wide.html", "--editor", "sidebar-box", "--render", "--format", "json", cwd=folder)
    assert done.returncode == 1
    (found,) = json.loads(done.stdout)["pieces"][0]["editors"]
    assert {"render/sticks-out", "render/same-colour"} <= {each["rule"] for each in found["findings"]}
    assert found["looksAlike"] == 1
    assert found["verdict"] == "intact"
    alone = run("check", "wide.html", "--editor", "none", "--render", "--silence", "all", cwd=folder)
    assert alone.returncode == 1
    assert "render/same-colour" in alone.stdout


@pytest.mark.browser
def test_two_pieces_are_compared(folder: Path) -> None:
    other = os.fsdecode(b"other\xff.html")  # a name that no sheet can hold
    (folder / other).write_text(PIECE.replace('class="a"', 'style="margin: 40px 0"'), "utf-8")
    done = run("compare", "piece.html", other, "--width", "500", "-o", "both.html", cwd=folder)
    assert done.returncode == 1, done.stderr
    assert re.search(r"distance from the top +16 px +40 px", done.stdout)
    assert (folder / "both.html").read_text("utf-8").count("<figure ") == 2
    assert run("compare", "piece.html", "piece.html", "--width", "500", cwd=folder).returncode == 0


@pytest.mark.browser
def test_a_trial_is_told_and_drawn(folder: Path) -> None:
    (folder / "acts.html").write_text("<button onclick=\"this.textContent = 'Ebb'\">Flood</button>", "utf-8")
    done = run("preview", "acts.html", "--editor", "sidebar-box", "--act", "-o", "acted.html", cwd=folder)
    assert done.returncode == 0, done.stderr
    assert "“Flood” becomes “Ebb”" in done.stdout
    assert "What a click does" in (folder / "acted.html").read_text("utf-8")
    (folder / "acts.html").write_text("<p>x</p><script>\nvar heights = [1;\n</script>", "utf-8")
    done = run("preview", "acts.html", "--editor", "sidebar-box", "--act", "--longest", "30", cwd=folder)
    assert done.returncode == 1, done.stderr
    assert "2:17  error" in done.stdout
    done = run("preview", "acts.html", "--longest", "30", cwd=folder)
    assert (done.returncode, "goes with --act" in done.stderr) == (2, True)


def test_a_preview_without_a_browser_says_so_in_one_line(folder: Path) -> None:
    done = run("preview", "piece.html", "--png", "x.png", cwd=folder, VERSE_TRAY_BROWSER="/nowhere/browser")
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1
    assert "VERSE_TRAY_BROWSER" in done.stderr
    assert not (folder / "x.png").exists()


MISSING = {
    "numpy": (["check", "piece.html", "--editor", "blog-post", "--render"], "verse-tray[browser]"),
    "playwright.sync_api": (["compare", "piece.html", "piece.html"], "verse-tray[browser]"),
    "uvicorn": (["live", "piece.html"], "verse-tray[live]"),
}


@pytest.mark.parametrize("package", MISSING)
def test_without_an_extra_it_is_said_what_to_install(folder: Path, package: str) -> None:
    arguments, extra = MISSING[package]
    code = f"import sys; sys.modules['{package}'] = None; from verse_tray.cli.app import main; main()"
    command = [sys.executable, "-c", code, *arguments]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, timeout=60)
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1
    assert extra in done.stderr


@pytest.mark.browser
def test_a_paste_sheet_copies_byte_for_byte_and_keeps_its_ticks(folder: Path, browser: Browser) -> None:
    text = "<p>Low\twater  &amp;\u2028 </script> “6:12”</p>\n\n"
    (folder / "piece.html").write_text(text, "utf-8")
    run("place", "piece.html", "--on", "field-blog:post", "--region", "sidebar", "-o", "out", cwd=folder)
    sheet = (folder / "out" / "paste-sheet.html").read_text("utf-8")
    taken = "addEventListener('copy', event => { window.taken = event.clipboardData.getData('text/plain'); })"
    with browser.new_page(viewport={"width": 375, "height": 700}) as tab:
        tab.route("**/*", lambda route: route.fulfill(body=sheet, content_type="text/html"))
        tab.goto("https://sheet.example.org/")
        assert tab.evaluate("document.documentElement.scrollWidth") <= 375
        tab.evaluate(taken)
        tab.get_by_role("button", name="Copy").click()
        assert tab.get_by_role("button", name="Copied").count() == 1
        assert tab.evaluate("window.taken") == text
        tab.get_by_role("checkbox").check()
        assert tab.locator(".done").text_content() == "1 of 1 done."
        tab.reload()
        assert tab.get_by_role("checkbox").is_checked()
