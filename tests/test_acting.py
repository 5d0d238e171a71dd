"""Pieces that do something, in a browser: what clicks change, what is refused, and that nothing reaches out."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import tomllib
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import msgspec
import pytest
from playwright.sync_api import Page, sync_playwright

from support.editors import editor
from support.surface import PLAIN
from verse_tray.editors.load import Editor, load_editor
from verse_tray.journeys.journey import journey
from verse_tray.model.errors import BrowserError, InputError
from verse_tray.preview.browser import Session, SteadySession, session
from verse_tray.preview.browser.find import find_browser
from verse_tray.preview.browser.screenshots import sheet_picture, view_picture
from verse_tray.preview.browser.stuck import StuckError
from verse_tray.preview.measuring.render import render
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import journey_page
from verse_tray.preview.sheet import Shown, sheet
from verse_tray.preview.trials import Acted, act, trial

pytestmark = pytest.mark.browser

DATA = Path(__file__).parent / "data"
CASES = tomllib.loads((DATA / "acting.toml").read_text("utf-8"))["case"]
REACHING = tomllib.loads((DATA / "reaching.toml").read_text("utf-8"))
KEEPS = editor({})


OPEN: list[Session] = []
THREADS: list[ThreadPoolExecutor] = []


def tried(markup: str, into: Editor, *clicked: str, home: Path | None = None, longest: float | None = 120) -> Acted:
    """Try a piece out, in a browser that was started once; in a thread of its own, as tests drive others beside it."""

    def trial() -> Acted:
        if OPEN:
            OPEN[0].renew()
        else:
            OPEN.append(Session().__enter__())
        made, pictures = journey(markup, into), LocalPictures(home)
        return act(OPEN[0], made, "", pictures, clicked=clicked, width=800, longest=longest)

    return THREADS[-1].submit(trial).result()


@pytest.fixture(scope="module", autouse=True)
def _thread() -> Iterator[None]:
    with ThreadPoolExecutor(1) as thread:
        THREADS.append(thread)
        yield
        while OPEN:
            thread.submit(OPEN.pop().__exit__, None, None, None).result()
        THREADS.remove(thread)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["name"])
def test_what_a_piece_does(case: dict[str, Any]) -> None:
    box = {"box": {"width": 400, "height": 300, "sandbox": case["box"]}} if "box" in case else {}
    acted = tried(case["markup"], editor({}, **box), *case.get("clicked", []))
    clicks = [f"{each.name}: {' | '.join('; '.join(click) for click in each.clicks)}" for each in acted.controls]
    assert clicks == case["clicks"]
    assert list(acted.loading) == case.get("loading", list(acted.loading))
    assert list(acted.by_itself) == case.get("by_itself", [])
    places = [f"{each.rule} {each.line or '-'}:{each.column or ''}".replace("-:", "- ") for each in acted.findings]
    told = [each for each in places if not each.startswith(("act/fetch", "act/console"))]
    assert told == case["findings"], [each.message for each in acted.findings]


def test_links_and_how_they_look_under_the_pointer() -> None:
    markup = (
        "<style>.b { color: #000 } .b:hover { color: #f00; transition: 2s } .b:focus { background: #00f }</style>"
        '<a class="b" href="https://a.example/?a=1&amp;b=2" target="_blank">Go <b>on</b></a><a href="#top" '
        'target="tides">Up</a>'
    )
    acted = tried(markup, KEEPS)
    links = [(each.text, each.address, each.window) for each in acted.links]
    assert links == [("Go on", "https://a.example/?a=1&b=2", "new"), ("Up", "#top", "tides")]
    (control,) = (each for each in acted.controls if each.looks)
    assert [look.state for look in control.looks] == ["at rest", "hover", "focus"]
    assert "color rgb(0, 0, 0) → rgb(255, 0, 0)" in control.looks[1].changes
    assert "background-color rgba(0, 0, 0, 0) → rgb(0, 0, 255)" in control.looks[2].changes
    assert len({look.picture for look in control.looks}) == 3


def test_of_many_controls_it_is_told_how_many_were_not_tried(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(trial, "_MOST", 4)
    acted = tried("<details><summary>x</summary></details>" * 6, KEEPS)
    assert (len(acted.controls), acted.more) == (4, 2)


@pytest.mark.parametrize("selector", ["#none", "p:::x"])
def test_a_selector_that_leads_nowhere_is_said(selector: str) -> None:
    with pytest.raises(InputError, match="--click"):
        tried("<button>x</button>", KEEPS, selector)


@pytest.mark.long
@pytest.mark.parametrize("name", ["loop", "dialogs", "canvas", "windows", "clicked", "growing", "pointed"])
def test_what_never_ends_is_told_and_ended(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    if name in ("loop", "dialogs", "clicked", "pointed"):
        for bound in ("_LONGEST", "_LONGEST_LOOK"):
            monkeypatch.setattr(session, bound, 1.2)  # nothing in them ends, however long that is
    started = time.monotonic()
    rules = {each.rule for each in tried(REACHING["endless"][name], KEEPS, longest=None).findings}
    assert ("act/endless" in rules) == (name in ("loop", "dialogs", "clicked", "pointed")) or name == "canvas"
    assert time.monotonic() - started < 60


def test_a_browser_ended_for_the_call_before_is_told_as_that() -> None:
    with Session() as browser:
        browser.open("<p>low</p>", 600)
        browser._end()  # as the clock of a call does that came back at the same moment
        with pytest.raises(StuckError):
            browser.evaluate("() => 1")


ORDINARY = (
    *("--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-sync"),
    *("--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1", "--window-size=1280,8000"),
    "--virtual-time-budget=4000",
)
"""A browser as authors have it, with its ways of being quick, and no way out of this machine."""


@pytest.mark.long
def test_a_trial_ends_when_its_time_is_up() -> None:
    opens = "<script>setInterval(() => { for (let i = 0; i < 50; i++) open('about:blank') })</script>"
    buttons = "".join(f"<button onclick=\"this.after('{number}')\">x</button>" for number in range(30))
    started = time.monotonic()
    acted = tried(opens + buttons, KEEPS, longest=4)
    assert time.monotonic() - started < 20
    assert "act/time-up" in [each.rule for each in acted.findings]


END = b"nobody knocks any more"


@pytest.fixture
def knocks() -> Iterator[tuple[str, list[bytes]]]:
    """Yield host and port of a server, and who has knocked there, by TCP or by UDP."""
    found: list[bytes] = []
    stream, datagrams = socket.socket(), socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    stream.bind(("127.0.0.1", 0))
    stream.listen(64)
    port = stream.getsockname()[1]
    datagrams.bind(("127.0.0.1", port))

    def accept() -> None:
        while True:
            try:
                connection, _ = stream.accept()
            except OSError:
                return
            with connection:
                connection.settimeout(1)
                try:
                    found.append(connection.recv(200) or b"a connection")
                except OSError:
                    found.append(b"a connection")

    def receive() -> None:
        while (told := datagrams.recv(200)) != END:
            found.append(told or b"a datagram")

    threads = [threading.Thread(target=work, daemon=True) for work in (accept, receive)]
    for each in threads:
        each.start()
    yield f"127.0.0.1:{port}", found
    stream.shutdown(socket.SHUT_RDWR)
    datagrams.sendto(END, ("127.0.0.1", port))
    for each in threads:
        each.join(20)
    stream.close()
    datagrams.close()


def show(tab: Page, html: str) -> None:
    """Show a page as one of this machine: from elsewhere browsers hold back what asks for this machine."""
    tab.unroute_all()
    tab.route("**/shown", lambda route: route.fulfill(body=html, content_type="text/html; charset=utf-8"))
    tab.goto("http://127.0.0.1:40404/shown", wait_until="commit")


def pieces(group: str, host: str) -> dict[str, str]:
    return {name: markup.format(f"http://{host}", host) for name, markup in REACHING[group].items()}


@pytest.mark.long
def test_the_pieces_do_reach_out_where_nothing_holds_them(knocks: tuple[str, list[bytes]]) -> None:
    host, found = knocks
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=find_browser(), args=PLAIN)
        tab = browser.new_page()
        for group, names in (("markup", "pictures imported style-urls refresh"), ("scripts", "requests streams peers")):
            for name in names.split():
                found.clear()
                show(tab, pieces(group, host)[name])
                for _ in range(40):
                    if not found:
                        tab.wait_for_timeout(100)
                assert found, name
        browser.close()


@pytest.mark.long
def test_no_picture_of_a_piece_reaches_out(knocks: tuple[str, list[bytes]]) -> None:
    host, found = knocks
    everything = pieces("markup", host) | pieces("scripts", host)
    with Session() as session:
        for name, markup in everything.items():
            for into in (KEEPS, load_editor("framed-box")):
                made = journey(markup, into)
                view_picture(session, journey_page(made, "published", "", LocalPictures()).html, 600)
            assert not found, name
        sheet_picture(
            session, sheet([journey("".join(everything.values()), "sidebar-box")], LocalPictures(stored=True))
        )
    time.sleep(0.3)
    assert found == []


def together(every: dict[str, str]) -> dict[str, str]:
    """Join pieces by fours, but for those that leave the page, or change where others lead."""
    alone = ("nested", "refresh", "base", "leaving", "submitted", "frames", "windows", "written")
    free = [name for name in every if name not in alone]
    joined = [free[at : at + 4] for at in range(0, len(free), 4)]
    return {", ".join(names): "".join(every[name] for name in names) for names in joined} | {
        name: markup for name, markup in every.items() if name in alone
    }


@pytest.mark.long
@pytest.mark.parametrize("group", ["markup", "scripts"])
def test_no_sheet_reaches_out_in_a_browser_of_the_author_s(knocks: tuple[str, list[bytes]], group: str) -> None:
    host, found = knocks
    site = pieces("sites", host)
    reaching = Editor("reaching", KEEPS.profile, frame=site["frame"], theme=site["theme"])
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=find_browser(), args=PLAIN)
        tab = browser.new_page()
        for name, markup in together(pieces(group, host)).items():
            into = ("sidebar-box", KEEPS) if name != "nested" else (KEEPS, reaching)
            made = sheet(
                [journey(markup, each) for each in into], LocalPictures(stored=True), Shown(widths=(375,))
            ).decode()
            show(tab, made)
            tab.wait_for_load_state("domcontentloaded")
            tab.evaluate("() => window.drawAll()")
            for frame in tab.frames[1:]:
                if frame.is_detached():  # its frame has left, for a box
                    continue
                frame.eval_on_selector_all("a, button, input", "all => all.forEach(each => each.click?.())")
            tab.wait_for_timeout(50)
            assert not found, name
            assert tab.url.endswith("/shown")
            assert len(tab.context.pages) == 1
        tab.wait_for_timeout(400)
        browser.close()
    assert found == []


@pytest.mark.long
def test_no_sheet_opens_connections_ahead(knocks: tuple[str, list[bytes]], tmp_path: Path) -> None:
    host, found = knocks
    site = pieces("sites", host)
    reaching = Editor("reaching", KEEPS.profile, frame=site["frame"], theme=site["theme"])
    everything = "".join(pieces("markup", host).values())
    drawn = sheet([journey(everything, each) for each in (KEEPS, reaching)], LocalPictures(stored=True)).decode()
    ahead = f'<link rel=preconnect href="http://{host}">'
    for name, page in (("ahead", ahead), ("nested", f"<iframe srcdoc='{ahead}'></iframe>"), ("sheet", drawn)):
        file = tmp_path / f"{name}.html"
        file.write_text(page, "utf-8")
        for _ in range(4):  # a busy machine may not have drawn the views yet
            shown = subprocess.run(
                [find_browser(), *ORDINARY, f"--user-data-dir={tmp_path / 'profile'}", "--dump-dom", file.as_uri()],
                capture_output=True,
                timeout=60,
            ).stdout.decode("utf-8", "replace")
            if name != "sheet" or shown.count("<iframe") > 4:
                break
        time.sleep(1.2)
        assert bool(found) == (name != "sheet"), (name, found)
        found.clear()
    assert shown.count("<iframe") > 4, "the views are drawn"


@pytest.mark.long
@pytest.mark.parametrize("into", [KEEPS, load_editor("framed-box")], ids=["page", "box"])
@pytest.mark.parametrize("group", ["markup", "scripts"])
def test_no_trial_of_a_piece_reaches_out(knocks: tuple[str, list[bytes]], group: str, into: Editor) -> None:
    host, found = knocks
    every = pieces(group, host)
    leaving = {name: every.pop(name) for name in ("leaving", "submitted", "frames") if name in every}
    for markup in ("".join(every.values()), *leaving.values()):
        acted = tried(markup, into)
        assert acted.findings or group == "markup"
    time.sleep(0.3)
    assert found == []


def test_no_file_of_this_machine_is_read(tmp_path: Path) -> None:
    (tmp_path / "secret.txt").write_text("the tide is high", "utf-8")
    address = (tmp_path / "secret.txt").as_uri()
    read = "try { o.textContent = f.contentDocument.body.innerText } catch { o.textContent = 'refused' }"
    fetched = f'fetch("{address}").then(r => r.text()).then(t => {{ o.textContent = t }}).catch(() => 0)'
    markup = (
        f'<p id=o>nothing</p><iframe id=f src="{address}"></iframe><object data="{address}"></object>'
        f'<script>{fetched}</script><button onclick="{read}">Read</button>'
    )
    acted = tried(markup, KEEPS, home=tmp_path)
    assert "high" not in str(acted)
    assert acted.controls


@pytest.mark.parametrize("sent", [signal.SIGINT, signal.SIGTERM])
def test_an_interrupted_browser_leaves_nothing_behind(tmp_path: Path, sent: signal.Signals) -> None:
    (tmp_path / "piece.html").write_text(REACHING["endless"]["loop"], "utf-8")
    scratch = Path(tempfile.mkdtemp())  # a short path: the names of sockets may not be long
    command = [sys.executable, "-m", "verse_tray", "preview", "piece.html", "--editor", "sidebar-box", "--act"]
    environment = {**os.environ, "TMPDIR": str(scratch)}
    running = subprocess.Popen(
        command, cwd=tmp_path, env=environment, start_new_session=True, stdout=subprocess.PIPE, stderr=subprocess.PIPE
    )
    until = time.monotonic() + 20
    while not list(scratch.iterdir()) and time.monotonic() < until:
        time.sleep(0.05)
    time.sleep(1)
    os.kill(running.pid, sent)
    _, told = running.communicate(timeout=20)
    assert running.returncode == 128 + sent
    assert b"Traceback" not in told
    while time.monotonic() < until + 20 and (list(scratch.iterdir()) or _alive(running.pid)):
        time.sleep(0.1)
    assert list(scratch.iterdir()) == []
    scratch.rmdir()
    assert _alive(running.pid) == []


def _alive(group: int) -> list[str]:
    """Return the processes of a session that still run."""
    rows = subprocess.run(["ps", "-eo", "sid=,stat=,args="], capture_output=True, text=True, check=True).stdout.split(
        "\n"
    )
    return [row for row in rows if row.split()[:1] == [str(group)] and "Z" not in row.split()[1]]


MOVING = (
    "<style>@keyframes wave { from { width: 9px } to { width: 990px } } .w { animation: wave 2s infinite; "
    "background: #2f6f73; height: 20px } .b:hover { color: #f00; transition: 3s }</style><div class=w></div>"
    "<button class=b onclick=\"document.getElementById('c').hidden = true\">Hide</button><p id=c>-</p>"
    "<script>setInterval(() => { document.getElementById('c').textContent = Date().toString() }, 90)</script>"
)


def test_what_moves_and_ticks_gives_the_same_trial_each_time() -> None:
    assert msgspec.json.encode(tried(MOVING, KEEPS)) == msgspec.json.encode(tried(MOVING, KEEPS))


def test_what_moves_looks_the_same_each_time() -> None:
    seen = set()
    for _ in range(2):
        with Session() as session:
            found = render(session, journey(MOVING, KEEPS), {"": ""}, (1280, 375), LocalPictures(None), compare=True)
            seen.add((tuple(found.findings), found.score, session.picture()))
    assert len(seen) == 1


@pytest.mark.long
def test_a_browser_that_dies_is_started_anew_once() -> None:
    begun: list[Session] = []

    def work(each: Session, dies: int) -> str:
        begun.append(each)
        each.open("<p>Low water</p>", 800)
        if len(begun) <= dies:
            os.kill(each._process, signal.SIGKILL)
        return str(each.evaluate("() => document.body.innerText"))

    with SteadySession() as browser:
        assert browser.do(lambda session: work(session, 1)) == "Low water"
        assert len(begun) == 2
        begun.clear()
        with pytest.raises(BrowserError, match="the browser failed"):
            browser.do(lambda session: work(session, 2))


@pytest.mark.long
def test_a_browser_that_hangs_is_ended_and_started_anew(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(session, "_LONGEST_STILL", 6)
    begun: list[Session] = []

    def work(each: Session) -> str:
        begun.append(each)
        each.open("<p>Low water</p>", 800)
        if len(begun) == 1:
            os.kill(each._process, signal.SIGSTOP)
        return str(each.evaluate("() => document.body.innerText"))

    with SteadySession() as browser:
        assert browser.do(work) == "Low water"
    assert len(begun) == 2


def test_a_page_that_is_never_complete_is_no_endless_script(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(session, "_PATIENCE", 1)
    with Session() as browser, pytest.raises(BrowserError, match="not complete in time, as one that holds hundreds"):
        browser.open("<p>Low water</p>", 800)


def test_copies_of_libraries_answer_and_nothing_else_does(knocks: tuple[str, list[bytes]], tmp_path: Path) -> None:
    host, found = knocks
    (tmp_path / "tidemap.js").write_text(
        "window.Tidemap = { draw(id) { document.getElementById(id).textContent = 'é' } }"
    )
    (tmp_path.parent / "outside.js").write_text("document.title = 'outside'")
    loads = "".join(
        f"<script src='http://{host}/{name}'></script>" for name in ("tidemap.js", "%2e%2e%2foutside.js", "x.js")
    )
    loads += f"<link rel=stylesheet href='http://{host}/x.css'>"
    markup = f"<p id=m>-</p>{loads}<script>Tidemap.draw('m'); Other()</script>"
    with Session() as browser:
        acted = act(browser, journey(markup, KEEPS), "", LocalPictures(None), libraries=tmp_path, longest=60)
        assert browser.tab.title() != "outside"
    assert acted.loading == ("“-” becomes “é” in <p> of 1:1",)
    assert [each.rule for each in acted.findings if each.rule != "act/fetch"] == ["act/library"]
    assert found == []
