"""The live preview: the page keeps up with its files, and nobody else gets it."""

from __future__ import annotations

import asyncio
import http.client
import re
import signal
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from support.program import Running
from verse_tray.preview.live.application import MOST_STREAMS
from verse_tray.preview.live.board import Board

pytestmark = pytest.mark.browser

PROGRAM = str(Path(sys.executable).with_name("verse-tray"))


class Live:
    """A running ``verse-tray live``."""

    def __init__(self, folder: Path, *arguments: str) -> None:
        self._running = Running("live", *arguments, cwd=folder)
        self.told = self._running.told(lines=1)
        found = re.search(r"http://127\.0\.0\.1:(\d+)/", self.told)
        assert found, self.told
        self.port = int(found[1])

    def ask(self, path: str = "/", method: str = "GET", **headers: str) -> tuple[int, str]:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=10)
        connection.request(method, path, headers={name.replace("_", "-"): value for name, value in headers.items()})
        answer = connection.getresponse()
        body = answer.read().decode()
        connection.close()
        return answer.status, body

    def stop(self) -> tuple[int, str]:
        self._running.send(signal.SIGINT)
        ended = self._running.ended(10)
        return ended.returncode, ended.stderr.removeprefix(self.told)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "piece.html").write_text("<h2>Low water</h2>" + "<p>x</p>" * 60, "utf-8")
    (tmp_path / "secret.txt").write_text("high water", "utf-8")
    return tmp_path


@pytest.fixture
def tab(browser: Browser) -> Iterator[Page]:
    opened = browser.new_page(viewport={"width": 1000, "height": 600})
    yield opened
    opened.close()


def test_only_pages_of_this_machine_get_anything(folder: Path) -> None:
    live = Live(folder, "piece.html", "--editor", "blog-post")
    here = f"127.0.0.1:{live.port}"
    assert live.ask()[0] == live.ask(Host=f"localhost:{live.port}")[0] == 200
    assert live.ask(Origin=f"http://{here}", Sec_Fetch_Site="same-origin")[0] == 200
    refused = [
        {"Host": "gannetcove.example"}, {"Host": f"gannetcove.example:{live.port}"}, {"Host": "127.0.0.1"},
        {"Host": ""}, {"Origin": "https://gannetcove.example"}, {"Origin": "null"}, {"Sec_Fetch_Site": "cross-site"},
        {"Origin": "http://["}, {"Origin": "http://[::1"},
    ]  # fmt: skip
    for headers in refused:
        status, body = live.ask(**headers)
        assert status == 403, headers
        assert "Low water" not in body
    for path in ("/secret.txt", "/../secret.txt", "/piece.html", "/%2e%2e/secret.txt", "//etc/hostname", "/sheet"):
        assert live.ask(path)[0] == 404, path
    assert live.ask(method="POST")[0] == 405
    connection = http.client.HTTPConnection("127.0.0.1", live.port, timeout=10)
    connection.request("GET", "/changes")
    assert b'"revision":1' in connection.getresponse().readline()
    assert live.stop() == (0, "Stopped.\n")  # also while somebody listens
    connection.close()


def test_many_streams_are_too_many_and_the_log_stays_quiet(folder: Path) -> None:
    live = Live(folder, "piece.html", "--editor", "blog-post")
    opened = []
    for _ in range(MOST_STREAMS):
        connection = http.client.HTTPConnection("127.0.0.1", live.port, timeout=10)
        connection.request("GET", "/changes")
        opened.append((connection, connection.getresponse()))
        assert opened[-1][1].read1(5) == b"data:"
    assert live.ask("/changes")[0] == 503
    for connection, answer in opened:
        answer.close()
        connection.close()
    assert live.ask()[0] == 200
    assert live.stop() == (0, "Stopped.\n")


def test_whatever_goes_wrong_is_told_and_the_next_change_is_shown() -> None:
    faults = iter([RuntimeError("an odd one"), ValueError("Exceeds the limit"), OSError(5, "Input/output error"), None])

    def make() -> bytes:
        fault = next(faults)
        if fault is not None:
            raise fault
        return b"the sheet"

    async def story() -> list[tuple[bytes, str]]:
        board = Board(make, lambda: b"empty")
        told = []
        for _ in range(4):
            await board.make()
            told.append((board.sheet, board.error))
        return told

    first, second, third, last = asyncio.run(story())
    assert "fault of verse-tray" in first[1] and "an odd one" in first[1]
    assert "Exceeds" in second[1] and third[1] == "a file: Input/output error"
    assert last == (b"the sheet", "")


@pytest.mark.long
def test_the_page_keeps_up_with_piece_parts_data_and_profile(folder: Path, tab: Page) -> None:
    (folder / "look.css").write_text("h2 { color: rgb(1, 2, 3) }", "utf-8")
    (folder / "tides.csv").write_text("time\n06:12\n", "utf-8")
    (folder / "piece.html").write_text("<h2>Low water {{time}}</h2><img src=pool.png>" + "<p>x</p>" * 60, "utf-8")
    subprocess.run(
        [PROGRAM, "editors", "new", "ours", "--like", "blog-post"], cwd=folder, check=True, capture_output=True
    )
    live = Live(
        folder, "piece.html", "look.css", "--data", "tides.csv", "--editor", "./ours", "--editor", "sidebar-box"
    )
    tab.goto(f"http://127.0.0.1:{live.port}/")
    tab.evaluate("() => window.drawAll()")

    def saved(name: str, text: str) -> None:
        before = tab.evaluate("document.documentElement.dataset.revision")
        (folder / name).write_text(text, "utf-8")
        tab.wait_for_function("before => document.documentElement.dataset.revision > before", arg=before, timeout=8000)
        tab.wait_for_timeout(400)

    def shown(script: str) -> object:
        return tab.evaluate(
            f"() => {{ const page = document.querySelector('iframe').contentDocument; return {script}; }}"
        )

    assert shown("page.querySelector('h2').innerText") == "Low water 06:12"
    tab.evaluate("() => { scrollTo(0, 300); window.kept = document.querySelector('iframe'); }")
    saved("tides.csv", "time\n06:58\n")
    assert shown("page.querySelector('h2').innerText") == "Low water 06:58"
    saved("look.css", "h2 { color: rgb(9, 8, 7) }")
    assert shown("getComputedStyle(page.querySelector('h2')).color") == "rgb(9, 8, 7)"
    assert tab.evaluate("() => scrollY") == 300
    assert tab.evaluate("() => window.kept.isConnected")  # what was drawn stays, only the piece in it is another
    profile = (folder / "ours" / "editor.toml").read_text("utf-8")
    saved("ours/editor.toml", profile + "\nnonsense = 1\n")
    assert "nonsense" in tab.locator(".banner").inner_text()
    assert "Low water" in str(shown("page.querySelector('h2').innerText"))
    saved("ours/editor.toml", profile)
    assert tab.locator(".banner").count() == 0
    (folder / "pool.png").write_bytes(PNG)
    tab.wait_for_function(
        "() => document.querySelector('iframe').contentDocument.querySelector('img').src.includes('/png;')"
    )
    (folder / "piece.html").rename(folder / "other.html")
    tab.wait_for_selector(".banner")
    (folder / "other.html").rename(folder / "piece.html")
    tab.wait_for_selector(".banner", state="detached")
    assert live.stop()[0] == 0
    tab.wait_for_selector(".banner")
    assert "stopped" in tab.locator(".banner").inner_text()


PNG = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c4944415408d763f8cfc000000301010018dd8db0000000"
    "0049454e44ae426082"
)


def test_a_profile_that_is_wrong_from_the_start_is_told_in_the_page(folder: Path, tab: Page) -> None:
    (folder / "wrong.toml").write_text("format = 1", "utf-8")
    live = Live(folder, "piece.html", "--editor", "wrong.toml")
    tab.goto(f"http://127.0.0.1:{live.port}/")
    tab.wait_for_selector(".banner")
    assert "format" in tab.locator(".banner").inner_text()
    live.stop()


@pytest.mark.parametrize(
    ("arguments", "told"), [(["none.html"], "no such file"), (["piece.html", "--port", "PORT"], "port")]
)
def test_what_cannot_be_served_is_said_at_once(folder: Path, arguments: list[str], told: str) -> None:
    live = Live(folder, "piece.html", "--editor", "blog-post")
    given = [each.replace("PORT", str(live.port)) for each in arguments]
    done = subprocess.run([PROGRAM, "live", *given], cwd=folder, capture_output=True, text=True, timeout=20)
    live.stop()
    assert done.returncode == 2
    assert told in done.stderr
    assert done.stderr.count("\n") == 1


def test_a_tray_is_shown_where_its_pieces_are_to_stand(folder: Path, tab: Page) -> None:
    tray = 'format = "verse-tray-tray/1"\n[pieces.low]\nparts = ["piece.html"]\n'
    places = (
        'on = [{ page = "field-blog:post", region = "sidebar" }, { page = "field-shop:guide", region = "delivery" }]\n'
    )
    (folder / "tray.toml").write_text(tray + places, "utf-8")
    live = Live(folder)
    tab.goto(f"http://127.0.0.1:{live.port}/")
    assert tab.locator("article h2").all_text_contents() == ["A post: Sidebar", "Page of an article: Delivery"]
    assert tab.get_by_text("Placed, as published").count() == 2
    (folder / "piece.html").write_text("<p onclick=x()>High water</p>", "utf-8")
    tab.get_by_text("onclick on <p> goes").wait_for()
    assert live.stop()[0] == 0
