"""The practice site, used by hand in a browser: keys, buttons, panes; and what it does not let in."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page

from support.markup import collected
from support.practice import Practice
from verse_tray.editors.adopt import adopt
from verse_tray.journeys.journey import journey, markup_after
from verse_tray.markup.flat import flat
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.practise import channels

pytestmark = pytest.mark.browser

WALK = (Path(channels.__file__).parents[1] / "demo" / "pieces" / "low-water-walk.html").read_text("utf-8")
ODD = '<P CLASS=note>Low &amp; high<br/>tide 🦀 "at" six<script>x()</script><b><i>now</b></i>\n\n<form><input></form>'
CLEANED = "([text, configuration, safe]) => ask({ clean: text, configuration, safe }).then(found => found.html ?? null)"

SELECTED = """text => {
  const box = document.body.appendChild(document.createElement("textarea"));
  box.value = text;
  box.select();
}"""


@pytest.fixture(scope="module")
def site(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Practice]:
    practice = Practice(tmp_path_factory.mktemp("site") / "practice")
    yield practice
    practice.stop()


@pytest.fixture(scope="module")
def tab(browser: Browser, site: Practice) -> Iterator[Page]:
    """The tab of somebody who has signed in, and works at one channel after the other."""
    context = browser.new_context(viewport={"width": 1280, "height": 900})
    yield sign_in(context, site, "author")
    context.close()


def sign_in(context: BrowserContext, site: Practice, role: str) -> Page:
    context.set_default_timeout(25_000)
    tab = context.new_page()
    tab.goto(f"{site.base}/sign-in")
    tab.select_option("select", role)
    tab.fill("input[name=token]", site.token)
    tab.keyboard.press("Enter")
    tab.wait_for_url(f"{site.base}/")
    return tab


def paste(tab: Page, site: Practice, channel: str, text: str) -> None:
    """Copy a text with keys, and paste it with keys into the source pane of an editor."""
    tab.evaluate(SELECTED, text)
    tab.keyboard.press("Control+C")
    tab.goto(f"{site.base}/editors/{channel}")
    tab.focus("#source")
    tab.keyboard.press("Control+V")


def pressed(tab: Page, button: str, says: str) -> str:
    """Press a button, wait for what is said, and return what is stored then."""
    tab.click(f"#{button}")
    tab.wait_for_function("said => document.getElementById('told').textContent.startsWith(said)", arg=says)
    return tab.input_value("#stored")


@pytest.mark.parametrize("channel", [name for name in channels.channels() if name not in channels.BY_BROWSER])
def test_what_is_pasted_by_hand_is_stored_and_published_as_predicted(tab: Page, site: Practice, channel: str) -> None:
    editor = channels.editor_of(channel, "author", channels.CHANGES - timedelta(days=1))
    if editor.profile.paste.pane != "source":
        tab.goto(f"{site.base}/editors/{channel}")
        tab.frame_locator("#pane").locator("#pane").click()
        tab.keyboard.type("Low <b>water</b>")
        typed = Piece(Source("Low &lt;b&gt;water&lt;/b&gt;"))
        assert pressed(tab, "save", "Saved") == markup_after(typed, editor, ("save",))
        return
    text = WALK + ODD
    paste(tab, site, channel, text)
    went = journey(text, editor)
    assert pressed(tab, "save", "Saved") == went.stage("save").markup
    if "reopen" in editor.lists:
        assert pressed(tab, "reopen", "Opened again") == went.stage("reopen").markup
    pressed(tab, "publish", "Published")
    address = tab.evaluate("document.getElementById('shown').src")
    page = site.ask(address.removeprefix(site.base))[2].decode()
    if editor.profile.box is None:
        assert went.stage("publish").markup in page


@pytest.mark.parametrize("channel", channels.BY_BROWSER)
def test_browsers_clean_as_the_adopted_profile_predicts(tab: Page, site: Practice, channel: str) -> None:
    _, configuration, safe = channels.BY_BROWSER[channel]
    editor, pieces = adopt(configuration, safe=safe), collected(150)
    tab.goto(f"{site.base}/editors/{channel}")
    right = 0
    for text in pieces:
        cleaned = tab.evaluate(CLEANED, [text, configuration, safe])
        assert cleaned is not None, "this browser has no Sanitizer API"
        right += flat(cleaned) == flat(markup_after(Piece(Source(text)), editor, ("paste", "save")))
    assert right >= 0.99 * len(pieces)
    paste(tab, site, channel, WALK)
    predicted = markup_after(Piece(Source(WALK)), editor, ("paste", "save"))
    assert flat(pressed(tab, "save", "Saved")) == flat(predicted)


def test_what_was_pasted_runs_nowhere_but_in_its_own_origin(tab: Page, site: Practice) -> None:
    attack = (
        "<p>Low water</p><img src=x onerror=\"parent.document.title='owned'\"><script>"
        "try { top.document.title = 'owned' } catch (error) {}"
        "try { document.title = document.cookie || 'no cookie' } catch (error) { document.title = 'apart' }"
        f"fetch('{site.base}/micropub?q=config').then(() => document.title = 'let in', () => 0)</script>"
        "<form action='/sign-out' method=post><button>x</button></form>"
    )
    paste(tab, site, "sidebar-box", attack)
    pressed(tab, "save", "Saved")
    tab.click("#to-visual")
    tab.wait_for_timeout(200)
    pressed(tab, "reopen", "Opened")
    pressed(tab, "publish", "Published")
    shown = tab.frame_locator("#shown")
    shown.locator("text=Low water").wait_for()
    tab.wait_for_timeout(300)
    titles = [frame.title() for frame in tab.frames]
    assert titles[0] == "Sidebar box · practice site"
    assert "apart" in titles
    assert not {"owned", "let in"} & set(titles)


def test_roles_and_dates_change_what_is_kept(browser: Browser, site: Practice, tmp_path: Path) -> None:
    context = browser.new_context()
    tab = sign_in(context, site, "administrator")
    paste(tab, site, "code-box", "<p>x</p><script>1</script>")
    assert "<script>1</script>" in pressed(tab, "save", "Saved")
    context.close()
    body = json.dumps({"type": ["h-entry"], "properties": {"content": [{"html": "<figure><p>A limpet</p></figure>"}]}})
    kept = []
    for day in ((), ("--date", "2026-12-31"), ("--date", "2027-01-01")):
        later = Practice(tmp_path / "".join(day), *day)
        headers = {"Authorization": f"Bearer {later.token}", "Content-Type": "application/json"}
        address = later.ask("/micropub", "POST", body.encode(), headers)[1]["location"]
        kept.append(b"<figure>" in later.ask(address.removeprefix(later.base))[2])
        later.stop()
    assert kept == [True, True, False]


def test_nobody_else_gets_in(site: Practice) -> None:
    here = f"127.0.0.1:{site.port}"
    form = b"role=author&token=wrong"
    typed = {"Content-Type": "application/x-www-form-urlencoded"}
    refused: tuple[tuple[str, str, bytes | None, dict[str, str], int], ...] = (
        ("/", "GET", None, {"Host": "notes.gannetcove.example"}, 403),
        ("/micropub?q=config", "GET", None, {"Origin": "https://notes.gannetcove.example"}, 403),
        ("/sign-in", "POST", form, {**typed, "Origin": "null"}, 403),
        ("/sign-in", "POST", form, {**typed, "Sec-Fetch-Site": "cross-site"}, 403),
        ("/editors/blog-post/save", "POST", b"{}", {"Content-Type": "application/json"}, 401),
        ("/editors/blog-post", "GET", None, {}, 303),
        ("/editors/attic", "GET", None, {}, 404),
        ("/ours/../serve.py", "GET", None, {}, 404),
        ("/files/none", "GET", None, {}, 404),
        ("/micropub", "POST", b"x", {"Content-Length": "30000000", "Content-Type": "application/json"}, 413),
        ("/micropub", "POST", b"{}", {"Content-Type": "text/plain"}, 400),
        ("/media", "POST", b"--x", {"Content-Type": "multipart/form-data"}, 400),
    )
    for path, method, body, headers, status in refused:
        assert site.ask(path, method, body, headers)[0] == status, (path, headers)
    assert b"not the token" in site.ask("/sign-in", "POST", form, typed)[2]
    assert site.ask("/", headers={"Host": here, "Sec-Fetch-Site": "cross-site"})[0] == 200  # readers' pages are open
    assert (site.folder / "token").stat().st_mode & 0o077 == 0
    assert re.search(r"Sign in with the token \S{20,}", site.told)
