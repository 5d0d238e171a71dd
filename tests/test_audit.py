"""Audits: every kind of source, verdicts as check's, runs that end in the middle, filters, what changed since."""

from __future__ import annotations

import contextlib
import csv
import json
import os
import random
import signal
import sqlite3
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Barrier

import pytest

from support.markup import collected
from support.program import PROGRAM, run
from verse_tray.audit.sources.told import posts
from verse_tray.audit.store import Store
from verse_tray.audit.where import where
from verse_tray.editors.load import load_editor
from verse_tray.journeys.journey import journey
from verse_tray.model.errors import InputError
from verse_tray.tasks import audit_worker
from verse_tray.tasks.audit import AuditRequest, audit
from verse_tray.tasks.audit_answers import see_ready

LOW = "<p>Low &amp; <b>high</b> water</p><script>1</script>"
TEXTS = [LOW, "a <b>c</b> d<br>", "2 &lt; 3"]
ESCAPED = LOW.replace("&", "&amp;").replace("<", "&lt;")
SOURCES = {
    "feed.atom": f"""<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom"><title>t</title>
<entry><id>urn:1</id><link href="https://a.example/1"/><published>2026-03-01T00:00:00Z</published>
<content type="html">{ESCAPED}</content></entry>
<entry><id>urn:2</id>
<content type="xhtml"><div xmlns="http://www.w3.org/1999/xhtml">a <b>c</b> d<br/></div></content></entry>
<entry><id>urn:3</id><content>2 &lt; 3</content></entry></feed>""",
    "feed.rss": f"""<rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/"><channel><title>t</title>
<item><guid>urn:1</guid><link>https://a.example/1</link><pubDate>Sun, 01 Mar 2026 00:00:00 +0000</pubDate>
<description>short</description><content:encoded><![CDATA[{LOW}]]></content:encoded></item>
<item><title>two</title><description>a &lt;b&gt;c&lt;/b&gt; d&lt;br&gt;</description></item>
<item><description>2 &amp;lt; 3</description></item></channel></rss>""",
    "feed.json": json.dumps(
        {"version": "https://jsonfeed.org/version/1.1", "items": [
            {"id": "1", "url": "https://a.example/1", "date_published": "2026-03-01T00:00:00Z", "content_html": LOW},
            {"id": 2, "content_html": "a <b>c</b> d<br>"}, {"content_text": "2 < 3"},
        ]}
    ),
    "rows.csv": f'id;url;date;Body\n1;https://a.example/1;2026-03-01;"{LOW}"\n2;;;a <b>c</b> d<br>\n3;;;"2 &lt; 3"\n',
    "rows.jsonl": "\n".join(json.dumps({"slug": f"p{len(text)}", "html": text}) for text in TEXTS),
}  # fmt: skip


@pytest.mark.parametrize("name", SOURCES)
def test_every_kind_of_source_gives_the_same_pieces(tmp_path: Path, name: str) -> None:
    (tmp_path / name).write_text(SOURCES[name], "utf-8")
    found = list(posts(str(tmp_path / name)))
    assert [each.markup for each in found] == TEXTS
    assert len({each.name for each in found}) == 3
    if name != "rows.jsonl":
        assert (found[0].address, found[0].date[:10]) == ("https://a.example/1", "2026-03-01")


def test_folders_patterns_and_databases_are_sources_too(tmp_path: Path) -> None:
    (tmp_path / "posts" / "old").mkdir(parents=True)
    (tmp_path / "posts" / "b.HTM").write_bytes(b"\xef\xbb\xbf<p>b")
    (tmp_path / "posts" / "old" / "a.html").write_text("<p>a")
    (tmp_path / "posts" / "note.txt").write_text("no")
    assert [(each.name, each.markup) for each in posts(str(tmp_path / "posts"))] == [
        ("b.HTM", "<p>b"),
        ("old/a.html", "<p>a"),
    ]
    assert [each.markup for each in posts(str(tmp_path / "posts" / "**" / "*.html"))] == ["<p>a"]
    database = tmp_path / "blog.db"
    with sqlite3.connect(database) as connection:
        connection.execute('CREATE TABLE "my posts" (title TEXT, content TEXT, created TEXT)')
        connection.execute("CREATE TABLE users (name TEXT)")
        connection.execute('INSERT INTO "my posts" VALUES (?, ?, ?)', ("Low", LOW, "2026-03-01"))
    connection.close()
    (post,) = posts(str(database))
    assert (post.name, post.markup, post.date) == ("Low", LOW, "2026-03-01")


@pytest.mark.parametrize(
    ("name", "text", "expected"),
    [
        ("a.atom", "<feed xmlns='http://www.w3.org/2005/Atom'>\n<entry></feed>", "2:10: this feed is no"),
        ("a.xml", "<?xml version='1.0'?><shelf/>", "neither Atom nor RSS"),
        ("a.rss", "<?xml version='1.0'?><!DOCTYPE r [<!ENTITY a 'b'>]><rss>&a;</rss>", "defines entities"),
        ("a.json", '{"items": 1\n', "this is no JSON"), ("b.json", '{"items":\n1}', "a list named items"),
        ("a.jsonl", '{"html": "x"}\n[1]\n', "a.jsonl:2: this line is no JSON object"),
        ("a.csv", "name,text\na,b\n", "no column is named like one of markup"),
        ("b.csv", "name,content\na,b,c\n", "more cells than there are columns"),
        ("c.csv", b"content\n\xff\n", "is not UTF-8"),
    ],
)  # fmt: skip
def test_a_source_that_cannot_be_used_is_told(tmp_path: Path, name: str, text: str | bytes, expected: str) -> None:
    (tmp_path / name).write_bytes(text if isinstance(text, bytes) else text.encode())
    told = run("audit", name, "--editor", "blog-post", cwd=tmp_path)
    assert (told.returncode, expected in told.stderr) == (2, True), told.stderr


def test_options_and_stores_that_cannot_be_used_are_told(tmp_path: Path) -> None:
    (tmp_path / "a.csv").write_text("name,body\na,<p>x\n")
    (tmp_path / "foreign.sqlite").write_bytes(b"")
    with sqlite3.connect(tmp_path / "foreign.sqlite") as connection:
        connection.execute("CREATE TABLE x (y)")
    connection.close()
    (tmp_path / "empty.csv").touch()
    (tmp_path / "text.sqlite").write_text("no database at all, but text")
    for arguments, expected in (
        ((), "no such store"), (("a.csv", "--column", "boddy"), "did you mean body?"),
        (("none",), "no such file or folder"), (("a.csv", "--into", "foreign.sqlite"), "none of an audit's"),
        (("a.csv", "--into", "text.sqlite"), "not a database"), (("a.csv", "--into", "no/a.sqlite"), "no folder no"),
        (("a.csv", "--into", "."), "this is a folder"), (("empty.csv",), "this file is empty"),
        (("a.csv", "--editor", "nobody"), "no editor named"), (("a.csv", "--export", "out.txt"), "ends in .csv"),
        (("a.csv", "--editor", "blog-post", "--where", "verdct=broken"), "did you mean verdict?"),
        (("a.csv", "--editor", "blog-post", "--where", "verdict="), "a comparison such as"),
        (("a.csv", "--editor", "blog-post", "--where", "size>many"), "size is a number"),
        (("a.csv", "--editor", "blog-post", "--where", "size>1 and"), "ends with and"),
    ):  # fmt: skip
        told = run("audit", *arguments, cwd=tmp_path)
        assert (told.returncode, expected in told.stderr) == (2, True), (arguments, told.stderr)


def archive(folder: Path, pieces: list[str]) -> None:
    folder.mkdir()
    for number, piece in enumerate(pieces):
        (folder / f"{number:03}.html").write_bytes(piece.replace("\r", "").encode("utf-8", "replace"))


def rows(store: Path) -> list[tuple[object, ...]]:
    asked = (
        "SELECT name, editor, verdict, alike, stored FROM results JOIN posts ON posts.id = post ORDER BY name, editor"
    )
    return Store(store, existing=True).rows(asked)


def test_verdicts_are_those_of_check_for_any_workers_and_order(tmp_path: Path) -> None:
    pieces = [each for each in collected(60) if each.strip()]
    archive(tmp_path / "posts", pieces)
    editors = ("course-page", "mail-signoff")
    found = []
    for workers in (1, 2, 4):
        into = tmp_path / f"{workers}.sqlite"
        tally = audit(AuditRequest((str(tmp_path / "posts"),), editors, str(into), workers))
        assert (tally.pieces, tally.held) == (len(pieces), 2 * len(pieces))
        found.append(rows(into))
    shuffled = sorted(str(path) for path in (tmp_path / "posts").iterdir())
    random.Random(1).shuffle(shuffled)
    audit(AuditRequest(tuple(shuffled), editors, str(tmp_path / "order.sqlite"), 2))
    assert found[0] == found[1] == found[2] == rows(tmp_path / "order.sqlite")
    texts = {path.name: path.read_bytes().decode() for path in (tmp_path / "posts").iterdir()}
    for name, editor, verdict, alike, stored in found[0]:
        went = journey(texts[str(name)], str(editor))
        expected = (went.verdict.value, went.survival.alike, len(went.stage("save").markup))
        assert (verdict, alike, stored) == expected, (name, editor)


def test_a_run_that_was_killed_goes_on_and_nothing_is_worked_out_twice(tmp_path: Path) -> None:
    archive(tmp_path / "posts", [f"<p>{'low water ' * 60}{each}</p><script>{each}</script>" for each in range(260)])
    command = [*PROGRAM, "audit", "posts", "--editor", "course-page", "--workers", "2"]
    begun = subprocess.Popen(command, cwd=tmp_path, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                             start_new_session=True)  # fmt: skip
    deadline = time.monotonic() + 30
    while time.monotonic() < deadline:
        time.sleep(0.1)
        if (tmp_path / "audit.sqlite").exists() and len(_results(tmp_path / "audit.sqlite")) > 0:
            break
    os.kill(begun.pid, signal.SIGKILL)
    begun.wait()
    deadline = time.monotonic() + 15
    while _of(begun.pid) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert not _of(begun.pid), "workers go on without the run that has begun them"
    kept = len(_results(tmp_path / "audit.sqlite"))
    again = run(*command[1:], cwd=tmp_path)
    assert (again.returncode, f"{kept:,} known already" in again.stderr or kept == 260) == (1, True), again.stderr
    assert len(_results(tmp_path / "audit.sqlite")) == 260
    assert "0 held, 260 known already" in run(*command[1:], cwd=tmp_path).stderr
    (tmp_path / "posts" / "000.html").write_text("<p>new</p>")
    (tmp_path / "posts" / "001.html").unlink()
    changed = run(*command[1:], cwd=tmp_path)
    assert "259 pieces: 1 held, 258 known already; 1 piece gone" in changed.stderr


def _of(session: int) -> list[str]:
    """Return the processes of a session that are left, on systems that tell."""
    found = []
    for path in Path("/proc").glob("[0-9]*/stat"):
        with contextlib.suppress(OSError):  # it has ended meanwhile
            state, _, _, of, *_ = path.read_text().rpartition(")")[2].split()
            found += [path.parent.name] if of == str(session) and state != "Z" else []
    return found


def test_two_runs_share_a_store(tmp_path: Path) -> None:
    archive(tmp_path / "posts", [f"<p>{'low water ' * 40}{each}</p>" for each in range(150)])
    command = [*PROGRAM, "audit", "posts", "--workers", "1", "--editor"]
    runs = [
        subprocess.Popen([*command, name], cwd=tmp_path, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True)
        for name in ("course-page", "blog-post", "course-page")
    ]
    for each in runs:
        _, told = each.communicate(timeout=90)
        assert (each.returncode, "gone" in told) == (0, False), told
    assert len(_results(tmp_path / "audit.sqlite")) == 300


def test_runs_begin_a_store_at_the_same_moment(tmp_path: Path) -> None:
    def begun(of: tuple[Path, Barrier]) -> int:
        path, together = of
        together.wait(timeout=30)
        see_ready(path, [], "", None, None, None)
        store = Store(path)
        try:
            return store.next_run()
        finally:
            store.close()

    with ThreadPoolExecutor(8) as threads:
        for each in range(60):
            both = (tmp_path / f"{each}.sqlite", Barrier(8))
            assert sorted(threads.map(begun, [both] * 8)) == list(range(1, 9))


def _results(path: Path) -> list[tuple[object, ...]]:
    connection = sqlite3.connect(path, timeout=20)
    try:
        return connection.execute("SELECT post FROM results").fetchall()
    except sqlite3.Error:  # it is being made
        return []
    finally:
        connection.close()


def test_what_takes_too_long_or_ends_its_process_is_set_aside(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    settings = audit_worker.Settings((load_editor("blog-post"),), 0.2, 0)
    monkeypatch.setattr(audit_worker, "judged", lambda piece, editor, key: time.sleep(5))
    ((_, _, slow),) = audit_worker.Worker(settings).work([(1, "h", "<p>x", ("blog-post",))])
    assert (slow.verdict, slow.why, slow.seconds < 2) == ("set-aside", "it takes longer than 0.2 s", True)

    def hungry(piece: object, editor: object, key: str) -> None:
        raise MemoryError

    monkeypatch.setattr(audit_worker, "judged", hungry)
    ((_, _, large),) = audit_worker.Worker(settings).work([(1, "h", "<p>x", ("blog-post",))])
    assert (large.verdict, large.why) == ("set-aside", "it takes too much memory")
    archive(tmp_path / "posts", ["<p>low water</p>", f"<div>{'<b>x</b>' * 400_000}</div>", "<p>high water</p>"])
    request = AuditRequest((str(tmp_path / "posts"),), ("blog-post",), str(tmp_path / "a.sqlite"), 2, longest=2.5)
    audit(request)
    assert [row[2] for row in rows(tmp_path / "a.sqlite")] == ["intact", "set-aside", "intact"]


def test_names_and_texts_with_halves_of_signs_are_kept(tmp_path: Path) -> None:
    folder = tmp_path / "posts"
    folder.mkdir()
    with open(os.fsencode(folder) + b"/\xff\xfe.html", "wb") as file:
        file.write(b"<p>low <x-\xff>water</x-\xff></p>")
    (tmp_path / "a.jsonl").write_text('{"id": "\\ud800", "html": "<p>\\ud83d <blink\\udc00>x</blink\\udc00></p>"}\n')
    request = AuditRequest((str(folder), str(tmp_path / "a.jsonl")), ("course-page",), str(tmp_path / "a.sqlite"))
    assert audit(request).held == 2
    assert audit(request).known == 2


def test_answers_filters_exports_and_what_changed_since(tmp_path: Path) -> None:
    archive(tmp_path / "posts", ["<p>low</p>", "<p>a<script>1</script></p>", "<p onclick=x>b</p>", "<p>=SUM(1)</p>"])
    (tmp_path / "ours").mkdir()
    profile = 'format = "verse-tray-editor/1"\ntitle = "Ours"\nsummary = "Ours."\n[save]\nremoveElements = ["script"]\n'
    (tmp_path / "ours" / "editor.toml").write_text(profile)
    first = run("audit", "posts", "--editor", "./ours", "--into", "old.sqlite", cwd=tmp_path)
    assert (first.returncode, "elements/drop" in first.stdout) == (1, True), first.stdout
    few = json.loads(
        run(
            "audit",
            "--into",
            "old.sqlite",
            "--where",
            "verdict=damaged and rule~drop",
            "--format",
            "json",
            cwd=tmp_path,
        ).stdout
    )
    assert [row["name"] for row in few["rows"]] == ["001.html"]
    assert run("audit", "--into", "old.sqlite", "--where", "name=000.html", cwd=tmp_path).returncode == 0
    (tmp_path / "ours" / "editor.toml").write_text(profile + "eventHandlers = false\n")
    (tmp_path / "posts" / "000.html").write_text("<p>low<script>1</script></p>")
    now = run(
        "audit",
        "posts",
        "--editor",
        "./ours",
        "--against",
        "old.sqlite",
        "--format",
        "json",
        "--export",
        "out.csv",
        cwd=tmp_path,
    )
    drifted = {row["name"]: (row["was"], row["now"], row["because"]) for row in json.loads(now.stdout)["drifted"]}
    assert drifted == {"000.html": ("intact", "damaged", "piece"), "002.html": ("intact", "damaged", "editor")}
    with (tmp_path / "out.csv").open(newline="") as file:
        exported = list(csv.DictReader(file))
    assert [row["verdict"] for row in exported].count("damaged") == 3
    assert "2 verdicts changed since" in run("audit", "--against", "old.sqlite", cwd=tmp_path).stdout


def test_filters_ask_with_values_and_never_with_text_of_ours() -> None:
    found = where("name~'50%' or alike<=90 and rule!=scripts/drop")
    assert found.values == ("%50!%%", 90.0, "scripts/drop")
    assert "50" not in found.sql
    for wrong in ("name", "name = ", "= x", "and name=x", "name=x name=y", "name=x; DROP TABLE posts", "alike=x"):
        with pytest.raises(InputError, match="--where"):
            where(wrong)
