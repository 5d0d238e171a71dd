"""Sending: the statements of Micropub, what goes wrong on the way, and what is remembered."""

from __future__ import annotations

import contextlib
import json
import re
import shutil
import time
import tomllib
import xml.etree.ElementTree as ElementTree
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlencode

import pytest

from support.practice import Between, Practice
from support.program import run
from verse_tray.exchange import client, micropub, tokens
from verse_tray.exchange.client import Answer, Client, ExchangeError, checked
from verse_tray.exchange.tokens import Token, read_token
from verse_tray.model.errors import InputError
from verse_tray.trays.sent import load_memory

STATEMENTS = tomllib.loads((Path(__file__).parent / "data" / "micropub.toml").read_text("utf-8"))["statement"]
PICTURE = Path(client.__file__).parents[1] / "demo" / "pieces" / "pictures" / "gannet.png"
WALK = """<h2>Low water</h2>
<p onclick="x()">Meet at the <b>slipway</b>.</p>
<img src="pictures/gannet.png" alt="A gannet">
"""


@pytest.fixture
def site(tmp_path: Path) -> Iterator[Practice]:
    practice = Practice(tmp_path / "practice")
    yield practice
    practice.stop()


@pytest.fixture
def walk(tmp_path: Path) -> Path:
    (tmp_path / "walk.html").write_text(WALK, "utf-8")
    (tmp_path / "pictures").mkdir()
    shutil.copy(PICTURE, tmp_path / "pictures")
    return tmp_path


def test_the_statements_of_the_standard_hold(site: Practice) -> None:
    address = ""
    for each in STATEMENTS:
        says = each["says"]
        headers = {"Authorization": each.get("header", f"Bearer {site.token}")} if each.get("token", True) else {}
        path, method, body = "/micropub", "POST", None
        if "get" in each:
            path, method = f"/micropub?{each['get'].replace('ADDRESS', address)}", "GET"
        elif "form" in each:
            pairs = [
                (name, value.replace("TOKEN", site.token).replace("ADDRESS", address)) for name, value in each["form"]
            ]
            body = urlencode(pairs).encode()
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        else:
            body = each["body"].replace("ADDRESS", address).encode()
            headers["Content-Type"] = "application/json"
        status, found, text = site.ask(path, method, body, headers)
        assert status == each["status"], (says, text)
        assert all(part in text.decode() for part in each.get("has", [])), (says, text)
        assert not any(part in text.decode() for part in each.get("lacks", [])), (says, text)
        if status >= 400:
            assert set(json.loads(text)) == {"error", "error_description"}, says
        if each.get("location") or "ends" in each:
            address = found["location"]
            assert address.startswith(f"{site.base}/entries/"), says
            assert address.endswith(each.get("ends", "")), says
        if "page" in each:
            assert site.ask(address.removeprefix(site.base))[0] == each["page"], says


def test_files_go_to_the_media_endpoint_and_into_posts(site: Practice) -> None:
    def form(name: str) -> tuple[bytes, dict[str, str]]:
        data = PICTURE.read_bytes()
        head = f'--x\r\nContent-Disposition: form-data; name="{name}"; filename="../a b.png"\r\n'
        head += "Content-Type: image/png\r\n\r\n"
        headers = {"Content-Type": "multipart/form-data; boundary=x", "Authorization": f"Bearer {site.token}"}
        return head.encode() + data + b"\r\n--x--\r\n", headers

    status, headers, _ = site.ask("/media", "POST", *form("file"))
    assert (status, headers["location"].startswith(f"{site.base}/files/")) == (201, True)
    assert headers["location"].endswith("-a-b.png")
    served = site.ask(headers["location"].removeprefix(site.base))
    assert (served[0], served[1]["content-type"], served[2]) == (200, "image/png", PICTURE.read_bytes())
    assert site.ask("/media", "POST", *form("picture"))[0] == 400
    status, headers, _ = site.ask("/micropub", "POST", *form("photo"))
    assert status == 201
    assert b"-a-b.png" in site.ask(headers["location"].removeprefix(site.base))[2]
    body, without = form("file")
    del without["Authorization"]
    assert site.ask("/media", "POST", body, without)[0] == 401
    last = site.ask("/media?q=last", headers={"Authorization": f"Bearer {site.token}"})[2]
    assert json.loads(last)["url"].endswith("-a-b.png")


def test_a_token_does_what_its_scopes_say(tmp_path: Path) -> None:
    for scope, statuses in (("draft", (201, 401, 401)), ("create", (201, 201, 401)), ("update", (401, 401, 400))):
        site = Practice(tmp_path / scope, "--scope", scope)
        draft = b'{"type": ["h-entry"], "properties": {"content": ["x"], "post-status": ["draft"]}}'
        update = b'{"action": "update", "url": "x", "replace": {}}'
        headers = {"Authorization": f"Bearer {site.token}", "Content-Type": "application/json"}
        bodies = (draft, draft.replace(b"draft", b"published"), update)
        found = tuple(site.ask("/micropub", "POST", body, headers)[0] for body in bodies)
        assert found == statuses, scope
        site.stop()


def test_feeds_hold_what_is_published(site: Practice) -> None:
    headers = {"Authorization": f"Bearer {site.token}", "Content-Type": "application/json"}
    for state in ("published", "draft"):
        post = {"name": [f"{state} & more"], "content": [{"html": "<p>a\x0bb</p>"}], "post-status": [state]}
        body = json.dumps({"type": ["h-entry"], "properties": post}).encode()
        assert site.ask("/micropub", "POST", body, headers)[0] == 201
    status, found, data = site.ask("/feed.atom")
    assert (status, found["content-type"]) == (200, "application/atom+xml")
    feed, atom = ElementTree.fromstring(data), "{http://www.w3.org/2005/Atom}"
    assert [each.findtext(f"{atom}title") for each in feed.iter(f"{atom}entry")] == ["published & more"]
    assert all(feed.find(f"{atom}{name}") is not None for name in ("id", "title", "updated", "author", "link"))
    entry = feed.find(f"{atom}entry")
    assert entry is not None
    assert entry.findtext(f"{atom}content") == "<p>a\ufffdb</p>"
    feed_json = json.loads(site.ask("/feed.json")[2])
    assert feed_json["version"] == "https://jsonfeed.org/version/1.1"
    assert [(each["title"], "content_html" in each) for each in feed_json["items"]] == [("published & more", True)]


def test_a_piece_is_sent_once_changed_and_verified(site: Practice, walk: Path) -> None:
    dry = run("send", "walk.html", "--to", "practice", "--dry-run", cwd=walk)
    assert (dry.returncode, "gannet.png" in dry.stdout, site.token in dry.stdout) == (0, True, False)
    assert not (walk / "tray.sent.json").exists()
    first = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert (first.returncode, "a draft" in first.stderr) == (0, True), first.stderr
    memory = load_memory(walk)
    assert [each.piece for each in memory.sent] == ["walk.html"]
    assert first.stdout.strip() == memory.sent[0].address
    assert f"{site.base}/files/" in memory.sent[0].now.text
    assert "pictures/gannet.png" not in memory.sent[0].now.text
    assert "nothing was sent" in run("send", "walk.html", "--to", "practice", cwd=walk).stderr
    second = run("send", "walk.html", "--to", "practice", "--publish", "--format", "json", cwd=walk)
    assert json.loads(second.stdout)["stored"]["state"] == "to-the-letter"
    assert "Uploaded" not in second.stderr
    good = run("verify", cwd=walk)
    assert (good.returncode, "live" in good.stdout) == (0, True), good.stdout
    (walk / "walk.html").write_text(WALK.replace("slipway", "lighthouse"), "utf-8")
    assert "has changed since" in run("verify", "walk.html", cwd=walk).stdout
    assert run("send", "walk.html", "--to", "practice", cwd=walk).returncode == 0
    assert b"lighthouse" in site.ask(memory.sent[0].address.removeprefix(site.base))[2]
    posts = json.loads(site.ask("/micropub?q=source", headers={"Authorization": f"Bearer {site.token}"})[2])
    assert len(posts["items"]) == 1


def test_what_somebody_else_changed_is_not_taken_away(site: Practice, walk: Path) -> None:
    assert run("send", "walk.html", "--to", "practice", "--publish", cwd=walk).returncode == 0
    address = load_memory(walk).sent[0].address
    headers = {"Authorization": f"Bearer {site.token}", "Content-Type": "application/json"}
    change = {"action": "update", "url": address, "replace": {"content": [{"html": "<p>Theirs</p>"}]}}
    assert site.ask("/micropub", "POST", json.dumps(change).encode(), headers)[0] == 204
    (walk / "walk.html").write_text(WALK.replace("slipway", "lighthouse"), "utf-8")
    refused = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert (refused.returncode, "somebody has changed it" in refused.stderr) == (1, True)
    drifted = run("verify", "--format", "junit", cwd=walk)
    assert drifted.returncode == 1
    assert 'failures="2"' in drifted.stdout
    assert run("send", "walk.html", "--to", "practice", "--anyway", cwd=walk).returncode == 0
    assert site.ask("/micropub", "POST", json.dumps({"action": "delete", "url": address}).encode(), headers)[0] == 204
    gone = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert (gone.returncode, "not there any more" in gone.stderr) == (1, True)
    assert run("send", "walk.html", "--to", "practice", "--anyway", cwd=walk).returncode == 0
    assert load_memory(walk).sent[0].address != address


FAULTS = {
    "cut-before": ("cut-before", 2), "cut-after": ("cut-after", 0), "half": ("half", 0), "502": ("502", 0),
    "503": ("503", 0),
}  # fmt: skip


@pytest.mark.parametrize("name", FAULTS)
def test_whatever_breaks_nothing_is_sent_twice_or_lost(site: Practice, walk: Path, name: str) -> None:
    what, code = FAULTS[name]
    broken = True

    def fault(method: str, path: str) -> str:
        return what if broken and method == "POST" and path == "/micropub" else ""

    between = Between(site.port, fault)
    settings = site.folder / "site.toml"
    settings.write_text(settings.read_text().replace(f":{site.port}", f":{between.port}"))
    first = run("send", "walk.html", "--to", "practice", "--publish", cwd=walk)
    assert first.returncode == code, first.stderr
    broken = False
    again = run("send", "walk.html", "--to", "practice", "--publish", cwd=walk)
    assert again.returncode == 0, again.stderr
    posts = json.loads(site.ask("/micropub?q=source", headers={"Authorization": f"Bearer {site.token}"})[2])
    assert len(posts["items"]) == 1
    assert len(load_memory(walk).sent) == 1
    assert not load_memory(walk).pending
    assert sum(path == "/media" for _, path, _ in between.seen) == 1
    (walk / "walk.html").write_text(WALK.replace("slipway", "lighthouse"), "utf-8")
    broken = True
    lost = 0 if what == "half" else 2  # the answer to an update has no body that could break off
    assert run("send", "walk.html", "--to", "practice", cwd=walk).returncode == lost
    broken = False
    (walk / "walk.html").write_text(WALK.replace("slipway", "pier"), "utf-8")  # what arrived is known for ours
    later = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert later.returncode == 0, later.stderr
    address = load_memory(walk).sent[0].address
    assert b"pier" in site.ask(address.removeprefix(f"http://127.0.0.1:{between.port}"))[2]
    between.stop()


def test_a_practice_site_keeps_its_port_and_its_folder_to_itself(tmp_path: Path) -> None:
    site = Practice(tmp_path / "practice")
    second = run("practise", "--into", "practice", cwd=tmp_path)
    assert (second.returncode, "serves this folder already" in second.stderr) == (2, True)
    site.stop()
    settings = site.folder / "site.toml"
    settings.write_text(settings.read_text().replace('title = "Post"', 'title = "Note"'))
    again = Practice(tmp_path / "practice")
    assert (again.port, again.token, 'title = "Note"' in settings.read_text()) == (site.port, site.token, True)
    again.stop()
    anew = Practice(tmp_path / "practice", "--new-token")
    assert anew.token != site.token
    assert anew.ask("/micropub?q=config", headers={"Authorization": f"Bearer {site.token}"})[0] == 401
    anew.stop()


def test_hosts_are_asked_only_when_that_is_asked_for(site: Practice, tmp_path: Path) -> None:
    for path, code, expected in (("/feed.json", 0, "answers: the script"), ("/none.js", 1, "answers with 404")):
        piece = f'<div id="tides"></div><script src="{site.base}{path}"></script>'
        (tmp_path / "piece.html").write_text(piece)
        (tmp_path / "stored.html").write_text(piece)
        asked = ("verify", "piece.html", "--editor", "sidebar-box", "--stored", "stored.html")
        assert run(*asked, cwd=tmp_path).returncode == 0
        told = run(*asked, "--ask-hosts", cwd=tmp_path)
        assert (told.returncode, expected in told.stdout) == (code, True), told.stdout


def test_a_token_never_goes_to_another_host(site: Practice, walk: Path) -> None:
    elsewhere = Between(site.port, lambda method, path: "")
    for sent_away in (("GET", "/"), ("GET", "/micropub?q=config"), ("POST", "/media"), ("POST", "/micropub")):

        def away(method: str, path: str, wanted: tuple[str, str] = sent_away) -> str:
            return f"away:http://localhost:{elsewhere.port}{path}" if (method, path) == wanted else ""

        between = Between(site.port, away)
        settings = site.folder / "site.toml"
        text = re.sub(r'address = ".*"', f'address = "http://127.0.0.1:{between.port}/"', settings.read_text())
        settings.write_text(text)
        (walk / "tray.sent.json").unlink(missing_ok=True)
        done = run("send", "walk.html", "--to", "practice", cwd=walk)
        assert done.returncode == 2, (sent_away, done.stderr)
        assert site.token not in done.stderr + done.stdout
        between.stop()
    assert not any("authorization" in headers for _, _, headers in elsewhere.seen)
    elsewhere.stop()


def test_a_wrong_token_and_a_site_that_is_none_are_told(site: Practice, walk: Path) -> None:
    wrong = "nobody-knows-this-token"
    (site.folder / "token").write_text(wrong)
    told = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert (told.returncode, "wrong or expired" in told.stderr, wrong in told.stderr) == (2, True, False)
    (site.folder / "token").chmod(0o644)
    assert "chmod 600" in run("send", "walk.html", "--to", "practice", cwd=walk).stderr
    settings = site.folder / "site.toml"
    for address, expected in (
        (f"{site.base}/feed.atom", "names no Micropub endpoint"), ("http://127.0.0.1:9/", "nobody answers"),
        ("http://notes.gannetcove.example/", "Use https:"), ("https://a:b@notes.gannetcove.example/", "Leave them out"),
    ):  # fmt: skip
        settings.write_text(re.sub(r'address = ".*"', f'address = "{address}"', settings.read_text()))
        (site.folder / "token").chmod(0o600)
        told = run("send", "walk.html", "--to", "practice", cwd=walk)
        assert (told.returncode, expected in told.stderr) == (2, True), (address, told.stderr)
    (walk / "walk.html").write_text('<img src="pictures/whelk.png" alt="">', "utf-8")
    missing = run("send", "walk.html", "--to", "practice", cwd=walk)
    assert (missing.returncode, "no file pictures/whelk.png" in missing.stderr) == (1, True)
    assert "[sending]" in run("send", "walk.html", "--to", "field-blog", cwd=walk).stderr


def test_answers_are_bounded(site: Practice, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(client, "MOST_BYTES", 500)
    with Client() as asked, pytest.raises(ExchangeError, match="larger than"):
        asked.get(f"{site.base}/")
    for address in ("https://", "ftp://a.example/", "https://[", "https://a.example:99999/", "file:///etc/passwd"):
        with pytest.raises(ExchangeError):
            checked(address)
    round_and_round = Between(site.port, lambda method, path: f"away:{path}x")
    with Client() as asked, pytest.raises(ExchangeError, match="on and on"):
        asked.get(f"http://127.0.0.1:{round_and_round.port}/")
    round_and_round.stop()
    slow = Between(site.port, lambda method, path: time.sleep(1.5) or "")  # type: ignore[func-returns-value]
    with Client(longest=0.4) as asked, pytest.raises(ExchangeError, match="no answer within") as told:
        asked.post_json(f"http://127.0.0.1:{slow.port}/micropub", {})
    assert told.value.may_have_arrived
    slow.stop()


ODD_ANSWERS = (
    ("text/html", b'<link rel="micropub" href="http://[">'), ("text/html", b"\xff<link rel=micropub>"),
    ("application/json", b"[" * 100_000), ("application/json", b'{"properties": 1}'), ("image/png", b"\x89PNG"),
    ("application/json", b'{"error": ["x"], "error_description": {}}'),
    ("application/json", b'{"items": [{"properties": {}}]}'),
)  # fmt: skip


@pytest.mark.parametrize("status", [200, 201, 204, 400, 401, 500])
def test_odd_answers_are_told_and_nothing_falls(monkeypatch: pytest.MonkeyPatch, status: int) -> None:
    endpoint = micropub.Endpoint("https://a.example/m", "https://a.example/media")
    for kind, body in ODD_ANSWERS:
        for location in ("", "http://[", "/entries/a", "javascript:x"):
            headers = {"content-type": kind, "location": location}
            answer = Answer(status, "https://a.example/", headers, ('<http://[>; rel="micropub"',), body)
            monkeypatch.setattr(Client, "_follow", lambda self, *rest, answer=answer, **more: answer)
            asked = Client("https://a.example/")
            for call in (
                lambda asked=asked: micropub.discover(asked, "https://a.example/"),
                lambda asked=asked: micropub.source(asked, endpoint, "https://a.example/1"),
                lambda asked=asked: micropub.listing(asked, endpoint),
                lambda asked=asked: micropub.create(asked, endpoint, {}),
                lambda asked=asked: micropub.update(asked, endpoint, "https://a.example/1", {}),
                lambda asked=asked: micropub.upload(asked, endpoint, "a.png", b"", "image/png"),
            ):
                with contextlib.suppress(ExchangeError):
                    call()


def test_what_cannot_be_remembered_is_not_sent(site: Practice, walk: Path) -> None:
    memory = walk / "tray.sent.json"
    for text, rights, expected in (("{}", 0o400, "write-protected"), ('{"sent": 1}', 0o600, "cannot be read")):
        memory.unlink(missing_ok=True)
        memory.write_text(text)
        memory.chmod(rights)
        told = run("send", "walk.html", "--to", "practice", cwd=walk)
        assert (told.returncode, expected in told.stderr) == (2, True), told.stderr
    posts = json.loads(site.ask("/micropub?q=source", headers={"Authorization": f"Bearer {site.token}"})[2])
    assert posts["items"] == []


def test_a_tray_names_its_pieces_and_sites(site: Practice, walk: Path) -> None:
    (walk / "tray.toml").write_text(
        f'format = "verse-tray-tray/1"\n[sites.notes]\naddress = "{site.base}/"\neditor = "course-page"\n'
        'channel = "course-page"\ntoken = "env:NOTES_TOKEN"\n[pieces.walk]\nparts = ["walk.html"]\n'
    )
    sent = run("send", "walk", "--to", "notes", "--publish", cwd=walk, NOTES_TOKEN=site.token)
    assert sent.returncode == 0, sent.stderr
    assert [(each.piece, each.to, each.editor) for each in load_memory(walk).sent] == [("walk", "notes", "course-page")]
    good = run("verify", cwd=walk, NOTES_TOKEN=site.token)
    assert (good.returncode, "walk, sent" in good.stdout) == (0, True), good.stdout
    without = run("verify", "walk", cwd=walk)
    assert (without.returncode, "no variable NOTES_TOKEN" in without.stdout) == (
        0,
        True,
    )  # the page is held all the same
    (walk / "two.html").write_text("<p>Two of them, at the slipway.</p>")
    assert run("send", "two.html", "--to", "practice", "--publish", cwd=walk).returncode == 0
    site.stop()
    silent = run("verify", cwd=walk, NOTES_TOKEN=site.token)
    assert (silent.returncode, silent.stdout.count("not known"), silent.stdout.count("nobody answers")) == (2, 2, 2)
    wrong = run("send", "walk", "--to", "nots", cwd=walk)
    assert (wrong.returncode, "did you mean notes?" in wrong.stderr) == (2, True)


def test_tokens_are_read_from_safe_places_and_never_shown(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("SHORE_TOKEN", "low-water-7")
    token = read_token("env:SHORE_TOKEN", tmp_path)
    assert (token.header, repr(token), str(token)) == ("Bearer low-water-7", "…", "…")
    for where in ("low-water-7", "env:", "env:NO_SUCH", "file:none", "keyring:", "mail:x"):
        with pytest.raises(InputError):
            read_token(where, tmp_path)
    (tmp_path / "token").write_text("two words")
    (tmp_path / "token").chmod(0o600)
    with pytest.raises(InputError, match="no token"):
        read_token("file:token", tmp_path)
    assert isinstance(tokens.Token("x"), Token)


def test_only_one_part_talks_to_other_machines() -> None:
    package = Path(client.__file__).parents[1]
    talking = r"^\s*(?:import|from) (?:httpx|urllib\.request|http\.client|requests|aiohttp|smtplib|ftplib)\b"
    found = {
        path.relative_to(package).parts[0]
        for path in package.rglob("*.py")
        if re.search(talking, path.read_text("utf-8"), re.M)
    }
    assert found == {"exchange"}
