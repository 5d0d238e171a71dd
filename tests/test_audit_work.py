"""What an audit's findings are used for: drift, repair, tables, pages; and a cluster that does the work."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import pytest

from support.cluster import Cluster
from support.practice import Practice
from support.program import PROGRAM, run
from verse_tray.audit.answers import Period, Row
from verse_tray.audit.mends import MENDS
from verse_tray.audit.sources.told import posts
from verse_tray.audit.store import Store
from verse_tray.demo.archive import posts as made_posts
from verse_tray.editors.load import load_editor
from verse_tray.exchange import micropub
from verse_tray.exchange.client import Client
from verse_tray.fitting.table import STRATEGIES
from verse_tray.journeys.journey import journey
from verse_tray.model.errors import InputError
from verse_tray.reports.archive.figures import grid_of_periods, grid_of_pieces, heat_map
from verse_tray.tasks import audit_child
from verse_tray.tasks.audit import AuditRequest, Tally, audit
from verse_tray.tasks.audit_child import Child
from verse_tray.tasks.audit_worker import Settings

PROFILE = 'format = "verse-tray-editor/1"\ntitle = "Ours"\nsummary = "Ours."\n[save]\nremoveElements = ["{}"]\n'
ASKED = "SELECT name, editor, verdict, alike, stored FROM results JOIN posts ON posts.id = post ORDER BY name, editor"


def archive(folder: Path, pieces: dict[str, str]) -> None:
    for name, markup in pieces.items():
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        (folder / name).write_text(markup, "utf-8")


def test_an_editor_as_it_was_tells_which_pieces_its_change_hurts(tmp_path: Path) -> None:
    archive(tmp_path / "posts", {"a.html": "<p>a</p>", "b.html": "<p>b<s>c</s></p>", "c.html": "<u>d</u><s>e</s>"})
    archive(tmp_path / "posts", {"d.html": "<p>f<u>g</u></p>"})
    for name, element in (("ours", "s"), ("old", "u")):
        archive(tmp_path / name, {"editor.toml": PROFILE.format(element)})
    told = run("audit", "posts", "--editor", "./ours", "--was", "./old", "--format", "json", cwd=tmp_path)
    drifted = [(row["name"], row["was"], row["now"], row["because"]) for row in json.loads(told.stdout)["drifted"]]
    assert drifted == [
        ("b.html", "intact", "broken", "editor"),
        ("d.html", "broken", "intact", "editor"),
    ]
    assert Store(tmp_path / "audit.was.sqlite", existing=True).rows("SELECT DISTINCT editor FROM results") == [
        ("ours",)
    ]
    archive(tmp_path / "overall", {"editor.toml": PROFILE.format("s")})  # no name of all editors
    assert run("audit", "posts", "--editor", "./overall", "--was", "./old", cwd=tmp_path).returncode == 1
    for wrong in (("--was", "./old"), ("--editor", "all", "--was", "./old"), ("--editor", "./ours", "--was", "./none")):
        assert run("audit", "posts", *wrong, cwd=tmp_path).returncode == 2


def test_what_is_damaged_is_repaired_and_explained(tmp_path: Path) -> None:
    column = '<p align="right">low</p><font color="#a00">water</font>' * 3
    archive(tmp_path / "posts", {"old/a.html": column, "b.html": "<p>b</p>", "c.html": f"<h2>c</h2>{column}"})
    text = "name,body\nhttps://a.example/2026/x,<p onclick=x()>e</p>\nhttps://b.example/2026/x,<script>1</script><p>f\n"
    (tmp_path / "rows.csv").write_text(text)
    made = run("audit", "posts", "rows.csv", "--editor", "course-page", "--editor", "mail-signoff", cwd=tmp_path)
    found = Store(tmp_path / "audit.sqlite", existing=True).rows(ASKED)
    bad = [(name, editor) for name, editor, verdict, *_ in found if verdict in ("damaged", "broken")]
    assert (made.returncode, len(bad) > 3) == (1, True), found
    (tmp_path / "elsewhere").mkdir()
    told = run("fit", "--from", "../audit.sqlite", "-o", "out", "--fail-on", "never", cwd=tmp_path / "elsewhere")
    assert told.returncode == 0, told.stderr
    out = tmp_path / "elsewhere" / "out"
    index = out.joinpath("pieces.csv").read_text().splitlines()[1:]
    assert sorted(tuple(line.split(",")[i] for i in (0, 2)) for line in index) == sorted(bad)
    texts = {post.name: post.markup for each in ("posts", "rows.csv") for post in posts(str(tmp_path / each), None)}
    for line in index:
        name, _, editor, _, verdict, before, after, files, _ = line.split(",")
        assert int(after) >= int(before)
        if files:
            fitted, why = [out / each for each in files.split()]
            assert journey(fitted.read_text(), editor).verdict.value in (verdict, "intact", "rewritten"), line
            assert (fitted.read_text() != texts[name], name in why.read_text()) == (True, True)
    (tmp_path / "posts" / "b.html").write_text("<p>new</p>")
    (tmp_path / "posts" / "c.html").write_text("<p>changed</p>")
    (tmp_path / "posts" / "old" / "a.html").unlink()
    again = run("fit", "--from", "audit.sqlite", "--where", "source=posts", "-o", "elsewhere/out", cwd=tmp_path)
    assert "changed since the audit, and left alone: c.html" in again.stderr
    assert "gone from their source, and left alone: old/a.html" in again.stderr
    assert (
        "nothing to repair"
        in run("fit", "--from", "audit.sqlite", "--where", "name=b.html", "-o", "x", cwd=tmp_path).stderr
    )


def test_a_repair_that_was_ended_can_be_done_again(tmp_path: Path) -> None:
    archive(tmp_path / "posts", {f"{n}.html": f'<font color="#a00">low {n}</font>' for n in range(60)})
    run("audit", "posts", "--editor", "course-page", cwd=tmp_path)
    command = [*PROGRAM, "fit", "--from", "audit.sqlite", "-o", "out"]
    begun = subprocess.Popen(command, cwd=tmp_path, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    deadline = time.monotonic() + 60
    while not list(tmp_path.glob("out/*/*.html")) and time.monotonic() < deadline:
        time.sleep(0.02)
    begun.kill()
    begun.wait()
    again = run(*command[1:], cwd=tmp_path)
    assert (again.returncode, "60 whole again" in again.stderr) == (0, True), again.stderr


def test_repairing_writes_over_nothing_and_tells_what_it_cannot_do(tmp_path: Path) -> None:
    archive(tmp_path / "posts", {"a.html": "<p>a<s>b</s></p>"})
    archive(tmp_path / "ours", {"editor.toml": PROFILE.format("s")})
    run("audit", "posts", "--editor", "./ours", cwd=tmp_path)
    for arguments, expected in (
        (("-o", "posts"), "new, empty, or was written by this command"), ((), "name the folder"),
        (("-o", "x", "--editor", "our"), "did you mean ours?"), (("-o", "x", "--where", "y"), "a comparison such as"),
        (("-o", "x", "--only", "made-text"), "goes without --from"), (("a.html", "-o", "x"), "leave the file out"),
    ):  # fmt: skip
        told = run("fit", "--from", "audit.sqlite", *arguments, cwd=tmp_path)
        assert (told.returncode, expected in told.stderr) == (2, True), (arguments, told.stderr)
    (tmp_path / "ours" / "editor.toml").write_text(PROFILE.format("u"))
    told = run("fit", "--from", "audit.sqlite", "-o", "x", cwd=tmp_path)
    assert (told.returncode, "Audit again first" in told.stderr) == (2, True)
    assert (tmp_path / "posts" / "a.html").read_text() == "<p>a<s>b</s></p>"
    assert run("fit", "x.html", "--where", "name=a", cwd=tmp_path).returncode == 2


def test_a_source_that_is_gone_keeps_nobody_from_the_others(tmp_path: Path) -> None:
    archive(tmp_path / "new", {"a.html": "<p onclick=x>low<u>b</u></p>"})
    archive(tmp_path / "old", {"b.html": "<p onclick=x>high<u>b</u></p>"})
    run("audit", "old", "new", "--editor", "mail-signoff", cwd=tmp_path)
    (tmp_path / "old").rename(tmp_path / "elsewhere")
    told = run("fit", "--from", "audit.sqlite", "-o", "out", cwd=tmp_path)
    assert (told.returncode, "Its pieces were left alone" in told.stderr) == (2, True), told.stderr
    assert "mail-signoff: of 1 piece" in told.stderr and "old: there is no such file or folder" in told.stderr
    tried = run("audit", "--try", "2", cwd=tmp_path)
    assert (tried.returncode, "Pieces of other sources were tried" in tried.stderr) == (1, True), tried.stderr
    assert "Tried on 1 piece" in " ".join(tried.stdout.split())
    (tmp_path / "new").rename(tmp_path / "nowhere")
    none = run("fit", "--from", "audit.sqlite", "-o", "out", cwd=tmp_path)
    assert (none.returncode, "no such file or folder" in none.stderr, "left alone" in none.stderr) == (2, True, False)


def test_tables_and_pages_say_what_the_store_says(tmp_path: Path) -> None:
    import pandas

    pieces = {f"{number:02}.html": markup for number, (_, markup) in enumerate(made_posts(24))}
    archive(tmp_path / "posts", pieces)
    run("audit", "posts", "--editor", "course-page", "--editor", "mail-signoff", cwd=tmp_path)
    told = run("audit", "--export", "out.parquet", "--report", "out.html", cwd=tmp_path)
    assert run("audit", "--export", "out.csv", cwd=tmp_path).returncode == told.returncode == 1, told.stderr
    frame = pandas.read_parquet(tmp_path / "out.parquet")
    assert len(frame) == len(pandas.read_csv(tmp_path / "out.csv")) == 48
    stored = Store(tmp_path / "audit.sqlite", existing=True).rows(ASKED)
    columns = ["name", "editor", "verdict", "alike", "stored"]
    assert sorted(frame[columns].itertuples(index=False, name=None)) == sorted(stored)
    page = (tmp_path / "out.html").read_text()
    for verdict in ("intact", "rewritten", "damaged", "broken"):
        number = sum(row[1] == "mail-signoff" and row[2] == verdict for row in stored)
        assert (f'<b class="{verdict}">{number}</b>' in page) == bool(number)
    assert (
        "Pieces of each" in page
        and page.count("data:image/svg+xml") == 2
        and "http:" not in re.sub(r"https?://[\w.-]*\.example", "", page)
    )
    pandas.DataFrame({"id": list("abc"), "Html": ["<p>a", None, "<b>c"]}).to_parquet(tmp_path / "in.parquet")
    assert [(post.name, post.markup) for post in posts(str(tmp_path / "in.parquet"))] == [
        ("a", "<p>a"),
        ("b", ""),
        ("c", "<b>c"),
    ]
    (tmp_path / "cut.parquet").write_bytes((tmp_path / "in.parquet").read_bytes()[:99])
    with pytest.raises(InputError, match=r"cut\.parquet: this Parquet file cannot be read"):
        list(posts(str(tmp_path / "cut.parquet")))
    with pytest.raises(InputError, match="did you mean Html"):
        list(posts(str(tmp_path / "in.parquet"), "html"))


HOSTILE = (
    "$x_{$", "cost $5 & $6", "\u001b[31mred\u001b]0;x\u0007", "😀 漢字 שלום", "<script>1</script>", "../../x.html",
    "CON.html", "A", "A", "A", "a\u0000b", "%s {{ 7 }}", "x" * 300, "/etc/x.html", "..", "\n",
)  # fmt: skip


def test_names_that_repeat_themselves_or_steer_do_no_harm(tmp_path: Path) -> None:
    markup = '<p align="right">low</p><script>1</script>'
    rows = "\n".join(json.dumps({"id": name, "html": f"{markup}{n}"}) for n, name in enumerate(HOSTILE))
    (tmp_path / "rows.jsonl").write_text(rows, "utf-8")
    told = run("audit", "rows.jsonl", "--editor", "course-page", "--report", "out.html", "--every", cwd=tmp_path)
    assert (told.returncode, f"{len(HOSTILE)} pieces: {len(HOSTILE)} held" in told.stderr) == (1, True), told.stderr
    again = run("audit", "rows.jsonl", "--editor", "course-page", "--where", "name~'A ('", cwd=tmp_path)
    assert f"0 held, {len(HOSTILE)} known" in again.stderr and "A (2)" in again.stdout and "A (3)" in again.stdout
    page = (tmp_path / "out.html").read_text("utf-8")
    assert "\x1b" not in page + told.stdout + told.stderr and "<script>1" not in page and "&lt;script&gt;1" in page
    made = run("fit", "--from", "audit.sqlite", "-o", "out", "--fail-on", "never", cwd=tmp_path)
    assert made.returncode == 0, made.stderr
    for late in (("--where", "x"), ("--against", "rows.jsonl")):  # told before anything is worked out
        told = run("audit", "rows.jsonl", "--editor", "course-page", "--into", "new.sqlite", *late, cwd=tmp_path)
        assert (told.returncode, (tmp_path / "new.sqlite").exists()) == (2, False), told.stderr
    files = [path for path in (tmp_path / "out").rglob("*") if path.is_file()]
    listed = (tmp_path / "out" / "pieces.csv").read_text("utf-8")
    assert len(files) == 1 + 2 * len(HOSTILE) and all(path.suffix in (".html", ".txt", ".csv") for path in files)
    assert all(str(path.relative_to(tmp_path / "out")) in listed for path in files if path.suffix != ".csv")


def test_nothing_is_written_over_a_piece_or_among_the_pieces(tmp_path: Path) -> None:
    archive(tmp_path / "posts", {"a.html": "<p>a<u>b</u></p>"})
    archive(tmp_path, {"b.html": "<p>b</p>", "rows.csv": "id,html\na,<p>c\n", "page.html": "<p>d</p>"})
    sources = ("posts", "b.html", "rows.csv", "pag?.html")
    for out in ("posts/a.html", "posts/new.html", "b.html", "page.html"):
        told = run("audit", *sources, "--editor", "course-page", "--report", out, cwd=tmp_path)
        assert (told.returncode, "among the pieces" in told.stderr) == (2, True), (out, told.stderr)
    assert run("audit", *sources, "--editor", "course-page", cwd=tmp_path).returncode in (0, 1)
    for command in (("audit", "--export", "rows.csv"), ("audit", "--report", "posts/a.html"),
                    ("fit", "--from", "audit.sqlite", "-o", "posts/repaired")):  # fmt: skip
        told = run(*command, cwd=tmp_path)
        assert (told.returncode, "among the pieces" in told.stderr) == (2, True), (command, told.stderr)
    kept = {"posts/a.html": "<p>a<u>b</u></p>", "b.html": "<p>b</p>", "page.html": "<p>d</p>"}
    assert {name: (tmp_path / name).read_text() for name in kept} == kept


def test_columns_of_the_heat_map_are_as_fine_as_can_be_read() -> None:
    months = [f"{year}-{month:02}" for year in range(2012, 2026) for month in range(1, 13)]
    for some, of, first, last in (
        (months[:12], "month", "2012-01", "2012-12"), (months[:40], "quarter", "2012 Q1", "2015 Q2"),
        (months, "year", "2012", "2025"), ([*months, ""], "year", "2012", "no date"),
        ([""], "month", "no date", "no date"),
    ):  # fmt: skip
        grid = grid_of_periods([Period("a", month, 4, 1) for month in some] + [Period("b", some[0], 2, 2)])
        assert (grid.of, grid.columns[0], grid.columns[-1]) == (of, first, last)
        assert set(grid.shares[0][1:]) <= {0.25} and set(grid.shares[1][1:]) <= {None}
        assert grid.shares[1][0] == 1
    rows = [Row("s", f"{n}", "", "", "a", "damaged", 100 - n, 0, 0, 0, 0, "", 0, "", "") for n in range(18)]
    drawn = heat_map(grid_of_periods([Period("a", "2026-03", 4, 1), Period("b", "2026-04", 3, 2)])).decode()
    assert [each for each in re.findall(r"<text[^>]*>([^<]*)<", drawn) if each[:1] in "·0123456789"] == [
        "2026-03", "2026-04", "25", "·", "·", "67", "0 %", "50 %", "100 %",
    ]  # fmt: skip
    grid = grid_of_pieces(rows)
    assert dict(zip(grid.columns, grid.shares[0], strict=True))["17"] == pytest.approx(0.17)


def test_what_mending_saves_is_tried(tmp_path: Path) -> None:
    pieces = {f"{n}.html": f'<font color="#a00">low {n}</font>' for n in range(3)}
    pieces |= {f"s{n}.html": f"<p onclick=x()>{n}</p>" for n in range(2)} | {"w.html": "<p>whole</p>"}
    archive(tmp_path / "posts", pieces)
    told = run("audit", "posts", "--editor", "course-page", "--try", "2", "--format", "json", cwd=tmp_path)
    trials = {each["rule"]: each["trial"] for each in json.loads(told.stdout)["causes"]}
    assert trials.pop("attributes/handler") == {"tried": 2, "saved": 0, "better": 0}
    assert [each["saved"] for each in trials.values() if each["tried"]] == [2], trials
    text = run("audit", "--try", "2", "--report", "out.html", cwd=tmp_path).stdout
    assert "Tried on 2 pieces: fitting saves none." in " ".join(text.split())
    page = (tmp_path / "out.html").read_text()
    assert "fitting saves 2." in page and "How much of each piece looks otherwise" in page  # few pieces: a column each
    (tmp_path / "posts" / "s0.html").unlink()
    assert run("audit", "--try", "2", cwd=tmp_path).returncode == 1


def test_ways_of_mending_are_ways_that_there_are() -> None:
    known = {each.name for each in STRATEGIES}
    assert {name for mend in MENDS.values() for name in mend.strategies} <= known


def test_the_posts_of_a_site_are_a_source(tmp_path: Path) -> None:
    site = Practice(tmp_path / "practice")
    try:
        headers = {"Authorization": f"Bearer {site.token}", "Content-Type": "application/json"}
        for number in range(45):
            content = {"html": f"<p>{number}</p>" + "<script>1</script>" * (number % 9 == 0)}
            body = {"type": ["h-entry"], "properties": {"content": [content], "name": [f"n{number}"]}}
            assert site.ask("/micropub", "POST", json.dumps(body).encode(), headers)[0] == 201
        told = run("audit", "--site", "./practice", "--editor", "code-box", "--format", "json", cwd=tmp_path)
        assert told.returncode in (0, 1), told.stderr
        found = json.loads(told.stdout)["rows"]
        assert {re.sub(r"\D", "", row["name"].rpartition("/")[2]) for row in found} == {str(each) for each in range(45)}
        assert all(row["address"].startswith(site.base) and row["date"] for row in found)
    finally:
        site.stop()
    gone = run("audit", "--site", "./practice", "--editor", "code-box", cwd=tmp_path)
    assert (gone.returncode, "verse-tray: " in gone.stderr) == (2, True)


def test_a_site_that_gives_the_same_posts_again_is_read_once(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[dict[str, str]] = []
    pages = {"": (["a", "b"], "next"), "next": (["c"], "")}

    def page(client: Client, endpoint: micropub.Endpoint, query: dict[str, str]) -> object:
        asked.append(query)
        names, after = pages.get(query.get("after", ""), ([], ""))
        return [(name, micropub.Stored(name, "published", {})) for name in names], after

    monkeypatch.setattr(micropub, "_page", page)
    found = [
        name for name, _ in micropub.every_post(Client("https://a.example"), micropub.Endpoint("https://a.example"))
    ]
    assert (found, asked) == (["a", "b", "c"], [{}, {"after": "next"}, {"offset": "3"}])


@pytest.mark.long
def test_a_process_that_is_lost_is_begun_anew_and_the_piece_set_aside_at_the_second_time(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    serve = (
        "import os, pathlib; from verse_tray.tasks import audit_worker as w; from verse_tray.audit import judged as j\n"
        "def poison(piece, editor, key, real=w.judged):\n"
        "    text = piece.source.text; once = pathlib.Path(os.environ['ONCE'])\n"
        "    if 'once' in text and not once.exists(): once.touch(); os._exit(9)\n"
        "    if 'always' in text: os._exit(9)\n"
        "    if 'fault' in text: raise KeyError('x')\n"
        "    if 'hang' in text: w.signal.pthread_sigmask(w.signal.SIG_BLOCK, [w.signal.SIGALRM]); w.time.sleep(99)\n"
        "    return real(piece, editor, key)\n"
        "w.judged = poison; w.serve()\n"
    )
    monkeypatch.setenv("ONCE", str(tmp_path / "once"))
    monkeypatch.setattr(audit_child, "_SERVE", serve)
    monkeypatch.setattr(audit_child, "_GRACE", 1.0)
    child = Child(Settings((load_editor("blog-post"), load_editor("code-box")), 3.0))
    names = ("blog-post", "code-box")
    texts = ("<p>a", "<p>once", "<p>always", "<p>b", "<p>fault", "<p>hang", "<p>c")
    done = child.hold([(number, "h", text, names) for number, text in enumerate(texts)])
    child.close()
    assert [(number, each.editor) for number, _, each in done] == [(n, name) for n in range(7) for name in names]
    whys = [each.why for _, _, each in done]
    assert whys[:4] == ["", "", "", ""] and whys[6:8] == ["", ""] and whys[12:] == ["", ""]
    assert whys[4:6] == ["the process that held it was ended"] * 2
    assert whys[8:10] == ["a fault of ours: KeyError: 'x'"] * 2
    assert whys[10:12] == ["it takes longer than 3 s"] * 2


def test_a_worker_of_another_version_is_told() -> None:
    from verse_tray.tasks.audit_cluster import hold

    with pytest.raises(InputError, match=r"A worker has version .* and 0\.0 asks"):
        hold(Settings((load_editor("blog-post"),), version="0.0"), [])


def test_how_much_is_done_goes_from_nothing_to_all(tmp_path: Path) -> None:
    rows = "".join(f"{number},<p>{'low water ' * 80}</p>\n" for number in range(300))
    (tmp_path / "a.csv").write_text("id,html\n" + rows)
    seen: list[float] = []

    def going(tally: Tally) -> None:
        seen.append(tally.done)

    audit(AuditRequest((str(tmp_path / "a.csv"),), ("code-box",), str(tmp_path / "a.sqlite"), 2), going)
    assert seen[-1] == 1 and len({round(each, 1) for each in seen}) > 4 and all(0 <= each <= 1 for each in seen)


def test_a_cluster_that_nobody_answers_for_is_told(tmp_path: Path) -> None:
    archive(tmp_path, {"odd.json": "[]"})
    script = (
        "import sys\nfrom verse_tray.model.errors import InputError\nfrom verse_tray.tasks import audit_cluster\n"
        "audit_cluster._REACHED = 0.3\nfor each in sys.argv[1:]:\n    try: audit_cluster.ClusterCrew(None, each)\n"
        "    except InputError as error: print(error)\n"
    )
    named = ("tcp://127.0.0.1:9", "tcp://nobody.invalid:8786", "odd.json")
    told = subprocess.run([sys.executable, "-c", script, *named], cwd=tmp_path, capture_output=True, text=True).stdout
    for each, line in zip(named, told.splitlines(), strict=True):
        assert line.startswith(f"--cluster {each}: this cluster cannot be reached: ")


@pytest.fixture
def cluster(tmp_path: Path) -> Iterator[Cluster]:
    made = Cluster(tmp_path)
    yield made
    made.stop()


@pytest.mark.long
def test_a_cluster_finds_the_same_though_a_worker_is_lost(tmp_path: Path, cluster: Cluster) -> None:
    archive(tmp_path / "own", {"editor.toml": PROFILE.format("table")})  # workers know nothing of it
    (tmp_path / "posts.jsonl").write_text(
        "\n".join(json.dumps({"id": number, "html": markup}) for number, (_, markup) in enumerate(made_posts(80)))
    )
    command = ["audit", "posts.jsonl", "--editor", "course-page", "--editor", "./own"]
    run(*command, "--into", "here.sqlite", cwd=tmp_path)
    begun = subprocess.Popen(
        [*PROGRAM, *command, "--into", "there.sqlite", "--cluster", cluster.file],
        cwd=tmp_path, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline and begun.poll() is None:
        time.sleep(0.1)
        with suppress(InputError):
            if Store(tmp_path / "there.sqlite", existing=True).rows("SELECT 1 FROM results"):
                break
    cluster.lose_worker()
    _, told = begun.communicate(timeout=90)
    assert (begun.returncode, "80 pieces: 160 held" in told) == (1, True), told
    here, there = (Store(tmp_path / name, existing=True).rows(ASKED) for name in ("here.sqlite", "there.sqlite"))
    assert here == there
    again = run(*command, "--into", "there.sqlite", "--cluster", cluster.file, cwd=tmp_path)
    assert "0 held, 160 known already" in again.stderr
    gone = cluster.file
    cluster.stop()
    for named, expected in ((gone, "has ended. Start it again"), ("nobody", "no such file, and it is no address")):
        told = run(*command, "--cluster", named, cwd=tmp_path).stderr
        assert expected in told
