"""The program itself, started as its users start it, in a folder of its own."""

from __future__ import annotations

import json
import os
import re
import shlex
import subprocess
import sys
import xml.etree.ElementTree as ElementTree
from pathlib import Path

import jsonschema
import pytest

from support.program import PIECE, PROGRAM, run, started
from verse_tray.demo import example

THREE = [part for name in ("blog-post", "course-page", "mail-signoff") for part in ("--editor", name)]


def test_check_answers_on_the_first_screen(folder: Path) -> None:
    done = run("check", "piece.html", cwd=folder, COLUMNS="80")
    assert done.returncode == 1
    assert len(done.stdout.splitlines()) <= 30
    three = run("check", "piece.html", *THREE, cwd=folder, COLUMNS="80")
    assert len(three.stdout.splitlines()) <= 24
    assert max(map(len, done.stdout.splitlines())) <= 80
    long_name = run("check", "./" * 40 + "piece.html", cwd=folder, COLUMNS="80").stdout
    assert "/piece.html --editor" in long_name, "a command to copy stands on one line"
    for words in ("blog-post", "damaged", "1:28", "A script goes", "verse-tray trace piece.html --editor"):
        assert words in done.stdout
    assert done.stderr == ""


@pytest.mark.parametrize(
    ("threshold", "code"), [("never", 0), ("broken", 0), ("damaged", 1), ("rewritten", 1), ("intact", 1)]
)
def test_the_threshold_decides_the_exit_code(folder: Path, threshold: str, code: int) -> None:
    done = run("check", "piece.html", "--editor", "course-page", "--fail-on", threshold, cwd=folder)
    assert done.returncode == code


def test_check_as_json(folder: Path) -> None:
    done = run("check", "-", "piece.html", "--editor", "blog-post", "--format", "json", cwd=folder, stdin=b"<p>x</p>")
    report = json.loads(done.stdout)
    assert report["format"] == "verse-tray/1"
    first, second = report["pieces"]
    assert (first["file"], first["mistakes"], first["editors"][0]["verdict"]) == ("-", [], "intact")
    editor = second["editors"][0]
    assert (editor["editor"], editor["verdict"]) == ("blog-post", "damaged")
    assert editor["survival"]["behaviour"] == {"kept": 0, "of": 1, "percent": 0}
    assert editor["survival"]["text"] == {"kept": 8, "of": 8, "percent": 100, "leaked": 0}
    assert editor["limits"][0]["exceeded"] is False
    finding = dict(editor["findings"][0])
    assert finding.pop("message").startswith("A script goes")
    assert finding == {"rule": "scripts/drop", "stage": "save", "line": 1, "column": 28, "severity": "error"}


SARIF = {
    # the parts of the SARIF 2.1.0 schema that a result of ours touches
    "type": "object",
    "required": ["version", "runs"],
    "properties": {
        "version": {"const": "2.1.0"},
        "runs": {
            "type": "array",
            "items": {
                "required": ["tool", "results"],
                "properties": {
                    "tool": {"required": ["driver"], "properties": {"driver": {"required": ["name"]}}},
                    "columnKind": {"enum": ["utf16CodeUnits", "unicodeCodePoints"]},
                    "results": {
                        "type": "array",
                        "items": {
                            "required": ["message"],
                            "properties": {
                                "level": {"enum": ["none", "note", "warning", "error"]},
                                "message": {"required": ["text"]},
                                "locations": {"type": "array"},
                            },
                        },
                    },
                },
            },
        },
    },
}


def test_check_as_sarif(folder: Path) -> None:
    done = run("check", "piece.html", "--editor", "course-page", "--format", "sarif", cwd=folder)
    log = json.loads(done.stdout)
    jsonschema.validate(log, SARIF)
    results = log["runs"][0]["results"]
    place = results[0]["locations"][0]["physicalLocation"]
    assert place == {"artifactLocation": {"uri": "piece.html"}, "region": {"startLine": 1, "startColumn": 28}}
    assert {row["ruleId"] for row in results} == {rule["id"] for rule in log["runs"][0]["tool"]["driver"]["rules"]}


def test_trace_shows_each_change_at_its_place(folder: Path) -> None:
    done = run("trace", "piece.html", "--editor", "course-page", cwd=folder, COLUMNS="80")
    assert done.returncode == 0
    lines = [line.rstrip() for line in done.stdout.splitlines()]
    at = next(number for number, line in enumerate(lines) if line.endswith("scripts/drop") and "1:28" in line)
    assert lines[at + 2].index("^") == lines[at + 1].index("<script>")
    assert "5 publish" in done.stdout


@pytest.mark.parametrize(
    ("stage", "markup"),
    [("written", PIECE), ("save", '<p class="a">Low water<br></p>\n'), (None, '<p class="a">Low water<br></p> ')],
)
def test_markup_is_printed_byte_for_byte(folder: Path, stage: str | None, markup: str) -> None:
    chosen = ["--stage", stage] if stage else []
    done = run("trace", "piece.html", "--editor", "course-page", "--markup", *chosen, cwd=folder)
    assert (done.stdout, done.stderr) == (markup, "")


@pytest.mark.parametrize(
    ("options", "lines"),
    [
        (["--stage", "save", "--show", "unified"], ["-<script>1</script>", '+<p class="a">Low water<br></p>']),
        (["--stage", "save", "--show", "columns"], ["<script>1</script>", "before save", "after save"]),
        (["--stage", "publish", "--show", "unified"], ["The markup is the same"]),
        (["--stage", "reopen", "--typed", "Enter", "--typed", "More"], ["typing/enter", "typing/text"]),
        (["--stage", "reopen", "--reopened", "0"], ["4 reopen", "nothing is changed"]),
    ],
)
def test_trace_opens_one_stage(folder: Path, options: list[str], lines: list[str]) -> None:
    done = run("trace", "piece.html", "--editor", "course-page", *options, cwd=folder, COLUMNS="100")
    for line in lines:
        assert line in done.stdout


def test_an_editor_of_one_s_own_begins_like_another(folder: Path) -> None:
    done = run("editors", "new", "ours", "--like", "shop-description", cwd=folder)
    assert done.returncode == 0
    assert {path.name for path in (folder / "ours").iterdir()} == {"editor.toml", "frame.html", "day.css", "night.css"}
    report = run(
        "check", "piece.html", "--editor", "./ours", "--editor", "shop-description", "--format", "json", cwd=folder
    )
    ours, theirs = json.loads(report.stdout)["pieces"][0]["editors"]
    assert {**ours, "editor": ""} == {**theirs, "editor": ""}
    again = run("editors", "new", "ours", "--like", "blog-post", cwd=folder)
    assert (again.returncode, "cannot be made" in again.stderr) == (2, True)
    shown = run("editors", "show", "./ours", cwd=folder).stdout
    assert "Scripts" not in shown and "script, style, form" in shown and "[[name]] is filled in" in shown


def test_variants_are_named_behind_their_editor(folder: Path) -> None:
    report = run("check", "piece.html", "--editor", "article:all", "--format", "json", cwd=folder)
    names = [each["editor"] for each in json.loads(report.stdout)["pieces"][0]["editors"]]
    assert names[0] == "article" and "article:never-cleans" in names
    wrong = run("check", "piece.html", "--editor", "article:sometimes", cwd=folder)
    assert (wrong.returncode, "has no variant 'sometimes'" in wrong.stderr) == (2, True)


def test_line_ends_and_a_missing_last_one_survive_printing(folder: Path) -> None:
    data = "<p>é😀\r\n</p>".encode()
    done = subprocess.run(
        [*PROGRAM, "trace", "-", "--editor", "blog-post", "--markup"], input=data, capture_output=True, cwd=folder
    )
    assert done.stdout == data


def test_editors_are_listed_shown_and_adopted(folder: Path) -> None:
    assert "mail-signoff" in run("editors", cwd=folder).stdout
    assert "10,000 characters" in run("editors", "show", "mail-signoff", cwd=folder).stdout
    (folder / "config.json").write_text('{"elements": ["p"], "attributes": []}', "utf-8")
    assert run("editors", "adopt", "config.json", "--name", "box", cwd=folder).returncode == 0
    done = run("trace", "piece.html", "--editor", "./box", "--markup", cwd=folder)
    assert done.stdout == "<p>Low water</p>\n"
    again = run("editors", "adopt", "config.json", "--name", "box", cwd=folder)
    assert again.returncode == 2
    assert "box" in again.stderr


def test_a_run_ends_its_process_but_none_that_is_traced_or_goes_on(folder: Path) -> None:
    before = "import atexit, sys; sys.argv[1:] = ['check', 'no.html']; atexit.register(print, 'taken apart')\n"
    within = (
        "import verse_tray.cli.app as app\n"
        "def command(real=app.main): atexit.register(print, 'in order'); real()\n"
        "app.main = command; from verse_tray.start import main, run\n"
    )
    for code, told, left in (
        ("main()", ["in order"], 2),
        ("sys.settrace(lambda *_: None); main()", ["in order", "taken apart"], 2),
        ("try: run()\nexcept SystemExit: sys.exit(5)", ["in order", "taken apart"], 5),
    ):
        done = subprocess.run(
            [sys.executable, "-c", before + within + code], cwd=folder, capture_output=True, text=True
        )
        assert (done.stdout.splitlines(), done.returncode) == (told, left), done.stderr


@pytest.mark.browser
@pytest.mark.parametrize("arguments", ["check piece.html", "chekc", "neaten piece.html -o out.html", "fit no.html"])
def test_a_run_that_is_forked_is_one_that_is_started(folder: Path, arguments: str) -> None:
    (forked, out), (anew, again) = (
        (each(*arguments.split(), cwd=folder), [path.read_bytes() for path in folder.glob("out.html")])
        for each in (run, started)
    )
    assert (forked.returncode, forked.stdout, forked.stderr) == (anew.returncode, anew.stdout, anew.stderr)
    assert out == again


@pytest.mark.long
@pytest.mark.browser
def test_demo_does_what_it_says(folder: Path) -> None:
    done = run("demo", "--into", "demo", cwd=folder, COLUMNS="100")
    assert done.returncode == 0, done.stderr
    assert {path.relative_to(folder / "demo") for path in (folder / "demo").rglob("*.*")} >= set(example())
    assert (folder / "demo" / "low-water-walk.preview.png").read_bytes().startswith(b"\x89PNG")
    for words in (
        "$ verse-tray check",
        "$ verse-tray trace",
        "$ verse-tray preview",
        "9 of 84",
        "Open demo/low-water-walk",
    ):
        assert words in done.stdout
    (folder / "demo" / "sign-off.html").write_text("my own", "utf-8")
    again = run("demo", "--into", "demo", cwd=folder)
    assert again.returncode == 2
    assert (folder / "demo" / "sign-off.html").read_text("utf-8") == "my own"


@pytest.fixture
def bench(tmp_path: Path) -> Path:
    for path, data in example().items():
        if path.parts[0] == "writing":
            (tmp_path / path.name).write_bytes(data)
    return tmp_path


def test_commands_chain_from_values_to_a_check(bench: Path) -> None:
    made = run("make", "table", "tides.csv", "--stripes", cwd=bench)
    assert made.returncode == 0
    assert "aligned to the right: 3 and 4" in made.stderr
    neat = run("neaten", "-", "--compact", cwd=bench, stdin=made.stdout.encode())
    checked = run("check", "-", "--editor", "none", cwd=bench, stdin=neat.stdout.encode())
    assert (checked.returncode, "In the piece itself" in checked.stdout) == (0, False)
    filled = run("fill", "letter.html", "--data", "volunteers.csv", "--record", "first name=Lo", cwd=bench)
    assert filled.stdout.startswith("<p>Dear Lo,</p>")
    joined = run("join", "tide-box.html", "tide-box.scss", "tide-box.js", "--apart", "ebb", cwd=bench)
    assert "compiled from nested-style CSS" in joined.stderr
    adjusted = run("adjust", "-", "--on", "p", "--set", "margin=0", cwd=bench, stdin=joined.stdout.encode())
    assert adjusted.stdout.count('style="margin: 0"') == 1
    mistakes = run("check", "-", "--editor", "none", "--fail-on", "intact", cwd=bench, stdin=adjusted.stdout.encode())
    assert mistakes.returncode == 1
    assert "In the piece itself" not in mistakes.stdout


MADE: dict[str, tuple[list[str], str]] = {
    "picture": (["picture", "https://a.example/x.png", "--alt", "A limpet", "--align", "right"], 'alt="A limpet"'),
    "button": (["button", "Book", "www.a.example", "--for", "course-page"], 'href="https://www.a.example"'),
    "cards": (["cards", "walks.csv", "--styles", "element"], "<h3 class="),
    "slider": (["slider", "pools.csv", "--for", "framed-box"], "<script>"),
    "swap": (["swap", "a.png", "b.png", "--alt", "A", "--second-alt", "B", "--for", "blog-post"], "<details"),
    "video": (["video", "https://v.example/1", "--title", "Tides"], "<iframe"),
    "map": (["map", "https://m.example/1", "--title", "Slipway", "--styles", "none"], 'title="Slipway"'),
    "sign-off": (["sign-off", "Maren", "--contact", "+44 20 1234"], 'href="tel:+44201234"'),
    "list": (["list", "a", "b", "--space", "1em"], "margin-bottom: 1em"),
    "code": (["code", "letter.html", "--styles", "none"], "&lt;p&gt;Dear {{ first name }}"),
    "text": (["text", "field-notes.md"], "<em>strawberry anemones</em>"),
}


@pytest.mark.parametrize("name", MADE)
def test_each_piece_is_made(bench: Path, name: str) -> None:
    arguments, words = MADE[name]
    done = run("make", *arguments, cwd=bench)
    assert done.returncode == 0, done.stderr
    assert words in done.stdout
    checked = run("check", "-", "--editor", "none", "--silence", "pictures/local", "--silence", "markup/mark-left",
                  "--fail-on", "rewritten", cwd=bench, stdin=done.stdout.encode())  # fmt: skip
    assert checked.returncode == 0, checked.stdout


def test_styles_beside_a_piece(bench: Path) -> None:
    done = run("make", "cards", "walks.csv", "--css", "cards.css", "-o", "cards.html", cwd=bench)
    assert (done.returncode, done.stdout) == (0, "")
    assert "style" not in (bench / "cards.html").read_text("utf-8")
    assert (bench / "cards.css").read_text("utf-8").startswith(".cards-")


def test_a_piece_with_many_mistakes_still_fits_a_screen(bench: Path) -> None:
    done = run("check", "in-a-hurry.html", cwd=bench, COLUMNS="80")
    assert len(done.stdout.splitlines()) <= 42
    for words in ("[code/bare-css]", "6 of them can be mended", "What readers still get", "verse-tray trace"):
        assert words in done.stdout


def test_mending_shows_first_and_writes_when_told_to_with_the_old_file_kept(bench: Path) -> None:
    before = (bench / "in-a-hurry.html").read_bytes()
    shown = run("check", "in-a-hurry.html", "--fix", cwd=bench)
    assert shown.returncode == 1
    assert '+<div class="notice">' in shown.stdout
    assert (bench / "in-a-hurry.html").read_bytes() == before
    written = run("check", "in-a-hurry.html", "--fix", "--write", cwd=bench)
    assert written.returncode == 0
    assert "kept in in-a-hurry.html.bak" in written.stderr
    assert (bench / "in-a-hurry.html.bak").read_bytes() == before
    piped = run("check", "-", "--fix", "--write", cwd=bench, stdin=before)
    assert piped.stdout == (bench / "in-a-hurry.html").read_text("utf-8")
    (bench / "in-a-hurry.html").write_bytes(before)
    again = run("check", "in-a-hurry.html", "--fix", "--write", cwd=bench)
    assert "in-a-hurry.html.bak2" in again.stderr
    assert (bench / "in-a-hurry.html.bak").read_bytes() == before


def test_a_piece_keeps_its_encoding_line_ends_and_mark(bench: Path) -> None:
    text = "\ufeff<p style='color: red'>é</p>\r\n"
    (bench / "p.html").write_bytes(text.encode("utf-16-le"))
    done = subprocess.run(
        [*PROGRAM, "adjust", "p.html", "--set", "red=blue"], cwd=bench, capture_output=True, check=True
    )
    assert done.stdout.decode("utf-16-le") == text.replace("red", "blue")
    latin = "<meta charset=windows-1252><p>é</p>".encode("cp1252")
    (bench / "p.html").write_bytes(latin)
    done = subprocess.run(
        [*PROGRAM, "adjust", "p.html", "--set", "p-text=ö ✏"], cwd=bench, capture_output=True, check=True
    )
    assert done.stdout == latin.replace(b"\xe9", b"\xf6 &#9999;")


def test_rules_are_explained_and_silenced(bench: Path) -> None:
    assert "ends where the second begins" in run("check", "--explain", "links/in-link", cwd=bench).stdout
    assert run("check", "--explain", "all", cwd=bench).stdout.count("/") > 40
    unknown = run("check", "--explain", "links/inlink", cwd=bench)
    assert (unknown.returncode, "did you mean links/in-link?" in unknown.stderr) == (2, True)
    silenced = run("check", "in-a-hurry.html", "--editor", "none", "--silence", "all", cwd=bench)
    assert (silenced.returncode, "In the piece itself" in silenced.stdout) == (0, False)


def test_reports_for_build_servers(bench: Path) -> None:
    from pydantic_sarif.model import StaticAnalysisResultsFormatSarifVersion210JsonSchema as Sarif

    done = run("check", "in-a-hurry.html", "--editor", "course-page", "--format", "sarif", cwd=bench)
    log = json.loads(done.stdout)
    Sarif.model_validate(log)  # a binding made from the schema of the standard, which forbids what the schema does
    rules = {rule["id"]: rule for rule in log["runs"][0]["tool"]["driver"]["rules"]}
    assert rules["links/scheme-missing"]["defaultConfiguration"] == {"level": "error"}
    fixed = next(row for row in log["runs"][0]["results"] if row["ruleId"] == "links/scheme-missing")
    (replacement,) = fixed["fixes"][0]["artifactChanges"][0]["replacements"]
    piece = (bench / "in-a-hurry.html").read_text("utf-8")
    at = replacement["deletedRegion"]["charOffset"]
    assert (piece[at : at + 4], replacement["insertedContent"]["text"]) == ("www.", "https://")
    log["runs"][0]["results"][0]["level"] = "dreadful"
    with pytest.raises(ValueError, match="level"):
        Sarif.model_validate(log)
    junit = run("check", "in-a-hurry.html", "--editor", "course-page", "--format", "junit", cwd=bench)
    root = ElementTree.fromstring(junit.stdout)
    assert (root.get("tests"), root.get("failures"), junit.returncode) == ("2", "2", 1)
    failures = [case.find("failure") for case in root.iter("testcase")]
    assert all(failure is not None and "in-a-hurry.html:" in (failure.text or "") for failure in failures)
    never = run("check", "in-a-hurry.html", "--editor", "none", "--format", "junit", "--fail-on", "never", cwd=bench)
    assert (ElementTree.fromstring(never.stdout).get("failures"), never.returncode) == ("0", 0)


def test_pictures_are_listed_and_replaced(bench: Path) -> None:
    listed = run("pictures", "in-a-hurry.html", cwd=bench, COLUMNS="120")
    assert "not there" in listed.stdout
    done = run("pictures", "in-a-hurry.html", "--hosted", "uploaded.csv", cwd=bench)
    assert done.returncode == 0
    assert 'src="https://pictures.gannetcove.example/frame-on-rock.png"' in done.stdout
    (bench / "other.json").write_text('{"limpet.png": "https://h.example/l.png"}')
    left = run("pictures", "in-a-hurry.html", "--hosted", "other.json", cwd=bench)
    assert (left.returncode, "is left" in left.stderr) == (1, True)


def test_slots_and_many_letters_are_files_of_their_own(bench: Path) -> None:
    done = run("join", "tide-box.html", "tide-box.scss", "tide-box.js", "--into", "slots", "-o", "slots", cwd=bench)
    assert done.returncode == 0
    assert sorted(path.name for path in (bench / "slots").iterdir()) == ["2-styles.css", "3-markup.html", "4-script.js"]
    letters = run("fill", "letter.html", "--data", "volunteers.csv", "-o", "letters/{first name}.html", cwd=bench)
    assert letters.returncode == 1, "one of them lacks a value"
    assert (bench / "letters" / "Brónach.html").read_text("utf-8").startswith("<p>Dear Brónach")
    box = run("join", "tide-box.html", "--for", "framed-box", cwd=bench)
    assert box.stdout.startswith("<!DOCTYPE html>")


def test_records_stand_apart_and_what_nobody_asks_for_is_told(bench: Path) -> None:
    filled = run("fill", "letter.html", "--data", "volunteers.csv", "--extremes", cwd=bench)
    assert filled.stdout.count("<!-- Record ") == 3
    assert "<!-- Record 3 of 3: a value missing -->" in filled.stdout
    (bench / "short.html").write_text("<p>{{ name }}", "utf-8")
    short = run("fill", "short.html", "--data", "volunteers.csv", "--record", "1", cwd=bench)
    assert "no mark asks for first name, square, colour, guide and place" in short.stderr
    named = run("fill", "short.html", "--data", "volunteers.csv", "-o", "out/{Square}-{first_name}.html", cwd=bench)
    assert named.returncode == 0, named.stderr
    assert (bench / "out" / "4-Lo.html").read_text("utf-8") == "<p>Lo Sand"


def test_a_mend_tells_the_number_that_the_report_told(bench: Path) -> None:
    told = run("check", "in-a-hurry.html", "--editor", "none", cwd=bench)
    shown = run("check", "in-a-hurry.html", "--fix", cwd=bench)
    assert re.findall(r"(\d+) of them can be mended", told.stdout) == re.findall(r"(\d+) mistakes can be", shown.stdout)
    assert "and 1 more that only then comes to light" in shown.stdout


def test_copies_and_documents_are_what_a_check_accepts(bench: Path) -> None:
    made = run(
        "join", "tide-box.html", "tide-box.scss", "tide-box.js", "--copies", "2", "--for", "framed-box", cwd=bench
    )
    assert made.stdout.count('id="copy-2-tide-box"') == 1
    checked = run("check", "-", "--editor", "framed-box", "--format", "json", cwd=bench, stdin=made.stdout.encode())
    (piece,) = json.loads(checked.stdout)["pieces"]
    assert piece["mistakes"] == []
    assert piece["editors"][0]["verdict"] == "intact"
    (bench / "thirds.scss").write_text('@use "sass:math"; .a { width: math.div(100%, 3) }', "utf-8")
    assert "width: 33.3333%;" in run("join", "thirds.scss", cwd=bench).stdout


def test_a_pipe_that_closes_early_is_met_quietly(folder: Path) -> None:
    (folder / "long.html").write_text(PIECE * 700, "utf-8")
    for arguments, read in (
        ("check long.html --editor article --format json", 100),
        ("check long.html --editor article --every", 0),  # short enough for a pipe that closes later
        ("trace long.html --editor blog-post --every", 100),
    ):
        command = f"{PROGRAM[0]} {arguments} | head -c {read}; exit ${{PIPESTATUS[0]}}"
        done = subprocess.run(["bash", "-c", command], cwd=folder, capture_output=True, text=True)
        assert (len(done.stdout), done.stderr, done.returncode) == (read, "", 0)


@pytest.mark.parametrize("debugging", ["", "1"])
def test_a_fault_of_ours_ends_in_one_line_that_asks_to_report_it(folder: Path, debugging: str) -> None:
    code = (
        "import sys; sys.argv = ['verse-tray', 'check', 'piece.html']\n"
        "import verse_tray.tasks.check as tasks\n"
        "def fail(*_, **__): raise ZeroDivisionError('no tide')\n"
        "tasks.find = fail\n"
        "from verse_tray.cli.app import main; main()"
    )
    environment = {**os.environ, "VERSE_TRAY_DEBUG": debugging}
    done = subprocess.run([sys.executable, "-c", code], cwd=folder, env=environment, capture_output=True, text=True)
    assert done.returncode == 3
    if debugging:
        assert "Traceback" in done.stderr
    else:
        (line,) = done.stderr.splitlines()
        assert "fault of ours" in line
        assert "ZeroDivisionError: no tide" in line
        assert "VERSE_TRAY_DEBUG=1" in line


def test_suggested_commands_work_when_they_are_pasted(folder: Path) -> None:
    home = folder / "our pieces"
    (home / "our blog").mkdir(parents=True)
    (home / "our blog" / "editor.toml").write_text(
        'format = "verse-tray-editor/1"\nextends = "article"\ntitle = "Ours"\nsummary = "Ours."\n', "utf-8"
    )
    (home / "-low water.html").write_text("<style>p{color:red}</style><p style='colour: red'>six</p>", "utf-8")
    said = run("check", "./-low water.html", "--editor", "./our blog", cwd=home).stdout
    commands = [line.split("verse-tray ", 1)[1] for line in said.splitlines() if "   verse-tray " in line]
    assert [command.split(" ")[0] for command in commands] == ["trace", "fit", "preview"]
    for command in commands:
        words = shlex.split(command)
        done = run(*words, *(["-o", "sheet.html"] if words[0] == "preview" else []), cwd=home)
        assert (done.returncode, done.stderr.count("fault")) == (0, 0), (command, done.stderr)
