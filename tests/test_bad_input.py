"""What the program says of files and arguments that it cannot use, and of hostile ones."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from support.program import PIECE, run

BAD_INPUT: dict[str, tuple[list[str], str]] = {
    "missing file": (["check", "no.html"], "no.html: there is no such file"),
    "folder": (["check", "."], ".: this is a folder"),
    "empty": (["check", "empty.html"], "empty.html: there is nothing in it"),
    "binary": (["check", "binary.html"], "binary file"),
    "wrong encoding": (["trace", "latin.html", "--editor", "blog-post"], "latin.html:1:4: byte 0xe9 is not UTF-8"),
    "unknown editor": (["check", "piece.html", "--editor", "blogpost"], "Did you mean blog-post?"),
    "broken profile": (["check", "piece.html", "--editor", "broken.toml"], "broken.toml:1:1: titel: unknown key"),
    "unwritable output": (
        ["preview", "piece.html", "-o", "piece.html/x.html"],
        "piece.html/x.html: it cannot be written",
    ),
    "output is a folder": (["preview", "piece.html", "-o", "."], ".: it cannot be written"),
    "no JSON": (["editors", "adopt", "piece.html", "--name", "n"], "this is not JSON"),
    "no piece": (["check"], "give at least one file"),
    "no piece to fit": (["fit"], "there is no tray.toml in this one"),
    "an option for a site with a template": (
        ["place", "piece.html", "--in", "piece.html", "--after", "<p>", "--region", "body"],
        "--region: goes without --in",
    ),
    "an option that a template has no use for": (
        ["place", "piece.html", "--in", "piece.html", "--after", "<p>", "--format", "json"],
        "--format: goes without --in",
    ),
    "a paste of an earlier placement, placed anew": (
        ["place", "--copy", "1", "-o", "x", "--as-given"],
        "--as-given: is for a file",
    ),
    "ragged rows": (["make", "table", "ragged.csv"], "ragged.csv:3: this row has 1 value"),
    "a quote that is never closed": (["fill", "piece.html", "--data", "quote.csv"], "quote.csv:2: this row cannot be"),
    "records in another encoding": (["make", "table", "latin.csv"], "latin.csv:1:2: byte 0xe9 is not UTF-8"),
    "JSON of another shape": (["make", "cards", "shape.json"], "entry 1 is a number; expected an object"),
    "a column that nobody reads": (
        ["make", "cards", "column.csv"],
        "nobody reads the column 'txt'; did you mean text?",
    ),
    "a sheet with a missing brace": (["join", "brace.css"], "brace.css:2:4: this { is never closed"),
    "a language that is refused": (["join", "typed.js"], "typed.js:1:5: this is TypeScript"),
    "a header without records": (
        ["fill", "piece.html", "--data", "head.csv", "-o", "x/{}.html"],
        "a header row in it and no",
    ),
    "a value that no mark asks for": (["fill", "mark.html", "--set", "aa=1"], "no mark of that name; did you mean a?"),
    "names that differ in capitals": (
        ["fill", "mark.html", "--data", "capitals.csv", "-o", "x/{A}.html"],
        "x/Lo.html and x/lo.html, which many systems take for one",
    ),
    "a path that could be two files": (
        ["pictures", "two.html", "--hosted", "map.csv"],
        "a.png could be 1/a.png or 2/a.png",
    ),
    "words of a language that has none": (
        ["make", "slider", "pools.csv", "--language", "xx"],
        "there are words in en, de",
    ),
    "a part that swallows the next": (["join", "open.html", "piece.html"], "open.html:1:4: nothing ends this comment"),
    "a value that a property does not take": (["adjust", "piece.html", "--on", "p", "--set", "margin=8"], "Write 8px"),
    "several records": (["fill", "piece.html", "--data", "two.csv"], "two.csv has 2 records"),
    "no number of a record": (
        ["fill", "piece.html", "--data", "two.csv", "--record", "9" * 5_000],
        "expected a number from 1 on",
    ),
    "no such record": (["fill", "piece.html", "--data", "two.csv", "--record", "3"], "the records 1 to 2"),
    "no such value": (["adjust", "piece.html", "--set", "p-txt=x"], "there is no value 'p-txt'; did you mean a-text?"),
    "no such selector": (["adjust", "piece.html", "--on", "p:[", "--set", "top=0"], "this is no selector"),
    "a picture without words": (["make", "picture", "a.png"], "what does this picture show?"),
    "separate styles without a file": (["make", "list", "a", "--styles", "separate"], "with --css"),
    "a file for several fitted pieces": (["fit", "piece.html", "--editor", "all", "-o", "two.csv"], "name a folder"),
    "a mark without NAME": (["fill", "piece.html", "--mark", "{{x}}"], "write NAME where"),
    "unknown command": (["chekc"], "check"),
    "unknown option": (["check", "piece.html", "--editr", "x"], "--editr"),
}


@pytest.mark.parametrize("name", BAD_INPUT)
def test_bad_input_gets_one_clear_message(folder: Path, name: str) -> None:
    (folder / "empty.html").write_text("")
    (folder / "binary.html").write_bytes(b"\x7fELF\0\0")
    (folder / "latin.html").write_bytes(b"<p>\xe9")
    (folder / "broken.toml").write_text('titel = "x"\n')
    (folder / "ragged.csv").write_text("a,b\n1,2\n3\n")
    (folder / "quote.csv").write_text('a\n"1\n2\n')
    (folder / "latin.csv").write_bytes(b"h\xe9,b\n1,2\n")
    (folder / "shape.json").write_text("[1]")
    (folder / "column.csv").write_text("title,txt\nx,y\n")
    (folder / "brace.css").write_text("p { top: 0 }\n.a {\n")
    (folder / "typed.js").write_text("let x: number = 1;")
    (folder / "two.csv").write_text("a\n1\n2\n")
    (folder / "head.csv").write_text("a,b\n")
    (folder / "mark.html").write_text("<p>{{a}}")
    (folder / "capitals.csv").write_text("a\nLo\nlo\n")
    (folder / "two.html").write_text("<img src=1/a.png alt=x><img src=2/a.png alt=y>")
    (folder / "map.csv").write_text("file,address\na.png,https://h.example/a.png\n")
    (folder / "open.html").write_text("<p><!-- a")
    (folder / "pools.csv").write_text("picture,alt\na.png,x\nb.png,y\n")
    before = sorted(path.name for path in folder.iterdir())
    arguments, words = BAD_INPUT[name]
    done = run(*arguments, cwd=folder)
    assert done.returncode == 2
    assert words in done.stderr
    assert "Traceback" not in done.stderr
    assert done.stdout == ""
    assert sorted(path.name for path in folder.iterdir()) == before
    assert (folder / "piece.html").read_text("utf-8") == PIECE


HOSTILE: dict[str, Any] = {
    "deep": "<div>" * 100_000,
    "attributes": "<p " + " ".join(f"a{number}=1" for number in range(20_000)) + ">x</p>",
    "signs": "<" * 1_000_000,
    "huge": "<p>x</p>\n" * 2_200_000,
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_input_gets_an_answer(folder: Path, name: str) -> None:
    (folder / "hostile.html").write_text(HOSTILE[name], "utf-8")
    done = run("check", "hostile.html", cwd=folder)
    assert done.returncode in (1, 2)
    assert "Traceback" not in done.stderr
    assert done.stdout or done.stderr
