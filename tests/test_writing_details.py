"""Details of the writing bench: names of values, contexts of marks, parts of documents, what is told and how wide."""

from __future__ import annotations

import io
import json
import re
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from rich.console import Console

from support.program import run
from verse_tray.checks.find import find
from verse_tray.checks.table import RULES, rule
from verse_tray.demo import example
from verse_tray.edit.hosted import Hosts, local_paths, replace_paths
from verse_tray.edit.mend import mend
from verse_tray.edit.values import find_values
from verse_tray.editors.load import known_editors, load_editor
from verse_tray.fields.marks import find_marks, mark_form
from verse_tray.join.document import take_apart
from verse_tray.join.paste import join, safe_script, safe_style
from verse_tray.make.builder import Styles
from verse_tray.make.measure_text import longest_word, text_width
from verse_tray.make.table import TableLook, make_table
from verse_tray.media.picture_size import Measured, Unreadable, measure
from verse_tray.model.decoding import Source, decode
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import counted, listed, nearest, spelling
from verse_tray.piece.contexts import Context
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.reports.mend_text import mend_text
from verse_tray.reports.picture_text import pictures_text
from verse_tray.reports.rule_text import rule_list, rule_text
from verse_tray.reports.value_text import values_json, values_text
from verse_tray.script.faults import script_fault
from verse_tray.style.cascade import specificities
from verse_tray.tasks.join import JoinRequest, join_parts


@pytest.fixture
def bench(tmp_path: Path) -> Path:
    for path, data in example().items():
        target = tmp_path / (path.name if path.parts[0] == "writing" else path)
        target.parent.mkdir(exist_ok=True)
        target.write_bytes(data)
    return tmp_path


def shown(parts: Any, width: int = 60) -> str:
    screen = Console(file=io.StringIO(), width=width, highlight=False, markup=False, emoji=False)
    for part in parts:
        screen.print(part)
    assert isinstance(screen.file, io.StringIO)
    return screen.file.getvalue()


@pytest.mark.parametrize(
    ("piece", "values"),
    [
        ("<p>Low water</p>", [("p-text", "text", "Low water")]),
        ("<h2 id=tides>a</h2><h2>b</h2>", [("tides-text", "text", "a"), ("h2-text", "text", "b")]),
        ("<p>a</p><p>b</p><p>a</p>", [("p-text", "text", "a"), ("p-text-2", "text", "b")]),
        (
            "<a class='book x' href='/y' title='t'>z</a>",
            [("book-link", "link", "/y"), ("book-title", "text", "t"), ("book-text", "text", "z")],
        ),
        ("<img src=a.png alt='' width=5>", [("img-picture", "picture", "a.png"), ("img-width", "size", "5")]),
        (
            "<style>.a .b:hover, i { border: 2px solid red }</style>",
            [("b-hover-border-size", "size", "2px"), ("b-hover-border", "colour", "red")],
        ),
        (
            "<style>@media (max-width: 9px) { .a { width: 50% } }</style>",
            [("a-narrow-width", "size", "50%")],
        ),
        (
            "<style>:root { --sea: #123 } .a { animation: go 2s ease 100ms }</style>",
            [
                ("--sea", "property", "#123"),
                ("a-animation-time", "duration", "2s"),
                ("a-animation-time-2", "duration", "100ms"),
            ],
        ),
        (
            "<p style='background: url(red.png) #fff'>x</p>",
            [("p-background", "colour", "#fff"), ("p-text", "text", "x")],
        ),
        ("<script>var red = 1</script><style>/* red */</style><!-- red -->", []),
    ],
)
def test_values_have_short_names(piece: str, values: list[tuple[str, str, str]]) -> None:
    assert [(each.name, each.kind.value, each.value) for each in find_values(Piece(Source(piece)))] == values


def test_values_are_shown_in_line_and_as_json() -> None:
    piece = Piece(Source("<p style='color: red'>a</p><p style='color: red'>" + "long " * 40 + "</p>", "p.html"))
    text = shown(values_text(piece.source, find_values(piece)), 80)
    assert "1:18, 1:45" in text
    assert max(map(len, text.splitlines())) <= 80
    record = json.loads(values_json(piece.source, find_values(piece)))
    assert record["values"][0] == {
        "name": "p-color",
        "kind": "colour",
        "value": "red",
        "places": [{"line": 1, "column": 18}, {"line": 1, "column": 45}],
    }
    assert "no value to change" in shown(values_text(Source(""), []))


_CONDITIONAL = ["comment that some programs read as markup"]
_RAW = ["text that knows no references"]
_IN_STYLE = ["part of a word of a style", "address in a style", "style"]


@pytest.mark.parametrize(
    ("piece", "contexts"),
    [
        ("{{a}}", ["text"]),
        ("<p title='{{a}}' {{b}}={{c}}>", ["attribute", "a place for no value", "attribute"]),
        ("<a href='{{a}}/x?{{b}}'><img srcset='{{c}} 2x'>", ["address", "part of an address", "srcset"]),
        ("<p style='{{a}}' onclick='a = {{b}}'>", ["a place for no value", "value in a script"]),
        ("<style>{{a}}</style><script>{{b}}</script>", ["name in a style", "a place for no value"]),
        ("<!-- {{a}} --><title>{{b}}</title><!--[if x]>{{c}}<![endif]-->", ["comment", "text", *_CONDITIONAL]),
        ("<style>a:not(.{{a}}) { @media ({{b}}) { b: url({{c}}) {{d}} } }", ["name in a style", *_IN_STYLE]),
        (
            "<svg><animate to='{{a}}'/></svg><p {{b}}><xmp>{{c}}</xmp>",
            ["address", "tag", "text that knows no references"],
        ),
        ("<p id={{ a }} class=x>", ["attribute"]),
        ("{{ }} {{a b}} {{<i>}} {{a\nb}}", ["text"]),
    ],
)
def test_marks_know_what_they_stand_in(piece: str, contexts: list[str]) -> None:
    marks = find_marks(piece, mark_form("{{NAME}}"))
    assert [mark.context.value for mark in marks] == contexts
    assert all(piece[mark.span.start : mark.span.start + 2] == "{{" for mark in marks)


@pytest.mark.parametrize(
    ("form", "piece", "names"),
    [
        ("%%NAME%%", "%%a b%% 100%% x", ["a b"]),
        ("[NAME]", "[first name] [x]", ["first name", "x"]),
        ("<<NAME>>", "a &lt;&lt;x&gt;&gt;", []),
        ("${NAME}", "${a} {b}", ["a"]),
        ("*|NAME|*", "*|a|* *b*", ["a"]),
    ],
)
def test_marks_of_other_forms(form: str, piece: str, names: list[str]) -> None:
    marks = find_marks(piece, mark_form(form))
    assert [mark.name for mark in marks] == names
    assert {mark.context for mark in marks} <= {Context.TEXT}


@pytest.mark.parametrize("form", ["NAME", "{{}}", "NAME}}", "{{NAME"])
def test_forms_that_are_no_marks(form: str) -> None:
    with pytest.raises(InputError, match="write NAME where"):
        mark_form(form)


def test_a_document_is_taken_apart_with_what_it_needs() -> None:
    apart = take_apart(
        Source(
            "<!DOCTYPE html><html><head><meta charset=utf-8><title>T</title><base href=/x/><link rel=icon "
            "href=i.png><link rel=stylesheet href=s.css><style>p { top: 0 }</style><script>a()</script></head><body "
            "class=wide onload=go()><p>x</p><script>b()</script></body></html>"
        )
    )
    assert [(each.kind, each.tag, each.css) for each in apart.head] == [
        ("sheet", "<link rel=stylesheet href=s.css>", None),
        ("style", "<style>p { top: 0 }</style>", "p { top: 0 }"),
        ("script", "<script>a()</script>", None),
    ]
    assert apart.body == "<p>x</p><script>b()</script>"
    assert [what.split(" ")[-1] for what in apart.left_out] == ["now", "“go()”"]
    assert (apart.title, apart.around) == ("T", {"class": "wide"})
    old = take_apart(Source('<html lang=de><body bgcolor=fffff0 text=navy style="margin: 0" background=a.png>x'))
    assert old.around == {"style": "background-color: #fffff0; color: navy; margin: 0"}
    assert (old.language, old.left_out) == ("de", ("the body's background “a.png”",))
    assert take_apart(Source("<title>T</title><p>only this")).body == "<p>only this</p>"
    joined = join([Source("<?xml version='1.0'?><html><title>T</title><body class=b><p>x</p>", "d.html")], [])
    assert joined.fragment() == '<div class="b">\n<p>x</p>\n</div>\n'
    assert '<title>T</title>\n</head>\n<body class="b">\n<p>x</p>' in joined.document()
    assert [note.split(": ", 1)[1] for note in joined.notes] == [
        "left out the XML declaration, which is no HTML.",
        "a box around its contents stands for its body: class.",
    ]


@pytest.mark.parametrize("text", ["<p>a<!-- b", "<p>a<textarea>b", "<p>a<iframe src=x>", "<p>a<b class=", "a<xmp>"])
def test_a_part_that_swallows_what_follows_is_refused(text: str) -> None:
    assert text in join([Source(text, "a.html")], []).fragment()
    with pytest.raises(InputError, match=r"a\.html:1:\d: nothing ends this"):
        join([Source(text, "a.html"), Source("<p>b", "b.html")], [])


def test_sheets_keep_the_order_of_the_parts() -> None:
    parts = [
        Source("<style>p { top: 1px }</style><p>a</p>", "a.html"),
        Source("p { top: 2px }", "b.css"),
        Source("<html><head><style media=print>p { top: 3px }</style></head><body>c</body></html>", "c.html"),
        Source("p { top: 4px }", "d.css"),
    ]
    made = join(parts, []).fragment()
    assert re.findall(r"top: (\d)", made) == ["1", "2", "3", "4"]
    assert made.endswith("</style>\n<p>a</p>\nc\n")
    assert "a list without tags" in join([Source("- one\n- two\n", "-")], []).notes[0]


def test_documents_get_a_title_and_a_language_that_a_check_accepts(tmp_path: Path) -> None:
    (tmp_path / "a.html").write_text("<h2>Low water</h2>", "utf-8")
    (tmp_path / "b.html").write_text("<html lang=de><title>Ebbe</title><p>x", "utf-8")
    first = join_parts(JoinRequest((str(tmp_path / "a.html"),), editor="framed-box"))
    assert '<html lang="en">' in first.text
    assert "<title>Low water</title>" in first.text
    second = join_parts(JoinRequest((str(tmp_path / "b.html"),), editor="framed-box"))
    assert '<html lang="de">' in second.text
    assert "<title>Ebbe</title>" in second.text
    asked = join_parts(JoinRequest((str(tmp_path / "b.html"),), into="document", title="T & x", language="fr"))
    assert '<html lang="fr">' in asked.text
    assert "<title>T &amp; x</title>" in asked.text


@settings(max_examples=200, deadline=None)
@given(st.text(alphabet="</script>!-styleabc\"' ", max_size=40))
def test_code_never_ends_its_element(text: str) -> None:
    from verse_tray.markup.parse import parse_fragment

    for markup in (f"<script>{safe_script(text)}</script><i>", f"<style>{safe_style(text)}</style><i>"):
        assert [element.name for element in parse_fragment(markup).tree.elements()][1:] == ["i"]


@settings(max_examples=150, deadline=None)
@given(st.text(alphabet="aéß€✏漢 \n;", max_size=60), st.sampled_from(["utf-8", "utf-16-le", "cp1252", "latin-1"]))
def test_an_edited_text_is_written_in_the_encoding_it_was_read_in(text: str, encoding: str) -> None:
    source = Source("x", "p", encoding)
    data = source.encode(text)
    if encoding.startswith("utf"):
        assert data.decode(encoding, "surrogatepass") == text
    else:
        import html

        assert html.unescape(data.decode(encoding)) == text


@pytest.mark.parametrize(
    ("kind", "size"), [("PNG", (40, 30)), ("JPEG", (64, 8)), ("GIF", (3, 5)), ("WEBP", (20, 20)), ("BMP", (9, 9))]
)
def test_pictures_are_measured(kind: str, size: tuple[int, int]) -> None:
    out = io.BytesIO()
    Image.new("RGB", size).save(out, kind)
    assert measure(out.getvalue()) == Measured(*size, len(out.getvalue()), kind)
    if kind in ("PNG", "JPEG"):
        assert isinstance(measure(out.getvalue()[: len(out.getvalue()) // 2]), Unreadable)


@pytest.mark.parametrize(
    ("data", "told"),
    [
        (b"", "is empty"),
        (b"Low water", "is no picture"),
        (b"<svg width='30px' height='20'/>", (30, 20)),
        (b"<?xml version='1.0'?><svg viewBox='0 0 7.6 4'/>", (8, 4)),
        (b"<svg/>", (0, 0)),
        (b"<svg width='99999' height='1'/>", "claims 99,999"),
    ],
)
def test_drawings_and_what_is_none(data: bytes, told: Any) -> None:
    found = measure(data)
    if isinstance(found, Measured):
        assert (found.width, found.height) == told
    else:
        assert told in found.reason


@pytest.mark.parametrize(
    ("look", "words"),
    [
        (TableLook(header=False), "<tbody>"),
        (TableLook(row_headers=True), 'scope="row"'),
        (TableLook(borders="all"), "border: 1px solid #2f6f73"),
        (TableLook(borders="none"), 'style="padding: 6px 8px"'),
        (TableLook(widths="equal"), '<col style="width: 50%">'),
        (TableLook(caption="Tides & times"), "Tides &amp; times</caption>"),
        (TableLook(stripes=True), "background: #f1f7f6"),
    ],
)
def test_a_table_looks_as_it_was_asked_to(look: TableLook, words: str) -> None:
    made = make_table([["Day", "Time"], ["Sat", "6"], ["Sun", "7"]], look, Styles.INLINE)
    assert words in made.markup
    assert ("<thead>" in made.markup) is look.header


def test_texts_are_as_wide_as_their_letters() -> None:
    assert text_width("mmmm") > text_width("iiii") > 0
    assert text_width("ab", 32) == pytest.approx(2 * text_width("ab", 16))
    assert longest_word("a slipway b") == pytest.approx(text_width("slipway"))
    assert longest_word("two\u00a0words") > longest_word("two words")


def test_words_of_messages() -> None:
    assert [listed(names) for names in (["a"], ["a", "b"], ["a", "b", "c"])] == ["a", "a and b", "a, b and c"]
    assert listed(list("abcdefg"), 3) == "a, b and 5 more"
    assert (counted(1, "row"), counted(1200, "row")) == ("1 row", "1,200 rows")
    assert (nearest("clas", ["class", "id"]), nearest("zzz", ["class"])) == ("class", None)
    assert [nearest("scr", known, 0.75) for known in (["srcset", "src"], ["cars"], [])] == ["src", None, None]
    assert (spelling("clas", ["class"]), spelling("zzz", ["class"])) == ("; did you mean class?", ".")


@pytest.mark.parametrize(
    ("selectors", "strengths"),
    [
        ("a", [(0, 0, 1)]),
        (".a b, #c", [(0, 1, 1), (1, 0, 0)]),
        ("a:hover", [(0, 1, 1)]),
        ("::::", []),
        ("*", [(0, 0, 0)]),
    ],
)
def test_specificities(selectors: str, strengths: list[tuple[int, int, int]]) -> None:
    assert [tuple(each) for each in specificities(selectors)] == strengths


def test_local_paths_are_found_wherever_they_stand(tmp_path: Path) -> None:
    Image.new("RGB", (4, 3)).save(tmp_path / "a.png")
    piece = Piece(
        Source(
            '<img src=a.png srcset="b.png 1x, https://x.example/c.png 2x" alt=x><video poster="p/d.jpg"></video>'
            "<style>.a { background: url(e.gif) }</style><script>let f = 'g.webp', h = 'not a file';</script>"
            '<a href="i.pdf">x</a><a href="page.html">y</a><img src="#x" alt=y><img src="/k.png" alt=z>'
        )
    )
    found = local_paths(piece, tmp_path)
    assert [(each.path, each.place.context) for each in found] == [
        ("a.png", Context.ADDRESS),
        ("b.png", Context.SRCSET),
        ("p/d.jpg", Context.ADDRESS),
        ("e.gif", Context.STYLE_ADDRESS),
        ("g.webp", Context.SCRIPT),
        ("i.pdf", Context.ADDRESS),
    ]
    assert (found[0].found, found[1].found) == (True, False)
    assert all(piece.source.slice(each.span) == each.path for each in found)
    text = shown(pictures_text(Subject(piece, folder=tmp_path), piece.source, found), 100)
    assert "4 × 3, 1 KB" in text
    assert "6 local paths to replace" in text
    assert "e.gif  in a style" in text


def test_paths_of_sheets_scripts_and_other_machines(tmp_path: Path) -> None:
    Image.new("RGB", (4, 3)).save(tmp_path / "a.png")
    sheet = Piece(Source(".a { background: url('C:\\\\pools\\\\a.png') } .b { background: url(b.png) }", "x.css"))
    first, second = local_paths(sheet, tmp_path, "style", seek=True)
    assert isinstance(first.file, Measured)
    assert (first.file.width, second.found) == (4, False)
    replaced = replace_paths(sheet, Hosts({"a.png": "/1.png", "c.png": "/2.png"}), "style")
    assert replaced.text == ".a { background: url('/1.png') } .b { background: url(b.png) }"
    assert (replaced.count, len(replaced.left), replaced.unused) == (1, 1, ("c.png",))
    script = Piece(Source("show('C:\\\\pools\\\\a.png');", "x.js"))
    assert replace_paths(script, Hosts({"a.png": "/1.png"}), "script", scripts=True).text == "show('/1.png');"
    text = shown(pictures_text(Subject(Piece(Source(""))), sheet.source, [first, second], seek=True), 100)
    assert "in a style  4 × 3, 1 KB PNG" in text
    assert "in a style  not there" in text


def test_rules_are_told_with_examples_and_within_the_width() -> None:
    for name in RULES:
        text = shown(rule_text(name, rule(name)), 80)
        assert "Wrong" in text
        assert "Right" in text
    listed_ = shown(rule_list(RULES), 80)
    assert max(map(len, listed_.splitlines())) <= 80
    assert all(name in listed_ for name in RULES)


def test_a_mend_is_shown_line_by_line() -> None:
    piece = Piece(Source('<p>\n<a href="www.gannetcove.example">x</a>\n</p>', "p.html"))
    text = shown(mend_text(piece.source, mend(piece)), 120)
    assert '-<a href="www.gannetcove.example">x</a>' in text
    assert '+<a href="https://www.gannetcove.example">x</a>' in text
    assert "verse-tray check p.html --fix --write" in text
    later = Piece(Source('<a href="www.a.example" target="_blank">x</a>', "p.html"))
    assert "  then  links/new-window" in shown(mend_text(later.source, mend(later)), 120)
    assert "nothing that can be mended" in shown(mend_text(piece.source, mend(Piece(Source("<p>x</p>")))))


@pytest.mark.parametrize("editor", known_editors())
def test_a_piece_made_for_an_editor_keeps_its_look_there_as_far_as_it_can(editor: str, bench: Path) -> None:
    made = run("make", "button", "Book", "https://a.example", "--for", editor, cwd=bench)
    assert made.returncode == 0
    checked = run("check", "-", "--editor", editor, "--format", "json", cwd=bench, stdin=made.stdout.encode())
    survived = json.loads(checked.stdout)["pieces"][0]["editors"][0]["survival"]
    assert survived["text"]["kept"] == survived["text"]["of"]
    if "<style>" in made.stdout:
        assert survived["look"]["kept"] == survived["look"]["of"]
    joined = run("join", "tide-box.html", "--for", editor, cwd=bench)
    assert joined.stdout.startswith("<!DOCTYPE html>") is (load_editor(editor).profile.box is not None)


def test_tables_of_the_terminal_keep_to_its_width(bench: Path) -> None:
    for command in (
        ["check", "in-a-hurry.html", "--editor", "none"],
        ["adjust", "in-a-hurry.html"],
        ["check", "--explain", "all"],
    ):
        done = run(*command, cwd=bench, COLUMNS="70")
        to_copy = [line for line in done.stdout.splitlines() if "verse-tray" not in line]
        assert max(map(len, to_copy)) <= 70, command


def test_options_of_filling_and_neatening(bench: Path) -> None:
    blank = run("fill", "letter.html", "--data", "volunteers.csv", "--record", "3", "--blank", cwd=bench)
    assert 'style="color: "' in blank.stdout
    assert blank.returncode == 1
    both = run("fill", "letter.html", "--data", "volunteers.csv", "--record", "3", "--set", "colour=teal", cwd=bench)
    assert (both.returncode, "color: teal" in both.stdout) == (0, True)
    neat = run("neaten", "in-a-hurry.html", "--width", "60", "-o", "neat.html", cwd=bench)
    assert (neat.returncode, neat.stdout) == (0, "")
    assert find(Piece(decode((bench / "neat.html").read_bytes(), "neat.html")))
    kept = run("neaten", "-", cwd=bench, stdin=b"<div>" * 600)
    assert kept.stdout == "<div>" * 600
    assert "passed on as it is" in kept.stderr
    names = run("make", "list", "a", "--name", "1x", cwd=bench)
    assert (names.returncode, "expected a short name" in names.stderr) == (2, True)


@pytest.mark.parametrize(
    ("script", "at"),
    [
        ("let b = ;", 8),
        ('let e = "é"; let b = ;', 21),
        ('let e = "😀"; let b = ;', 21),
        ("\r\nlet a = 1;\r\n  let b = ;", 24),
        ("\u2028let b = ;", 9),
        ("let a = `\n${x y}`", 14),
        ("if (x) {", 8),
        ("let a = 1;", None),
        ("<!-- x\nlet a = 1\n-->", None),
        ("a ??= class { static { } }", None),
    ],
)
def test_faults_of_scripts_have_exact_places(script: str, at: int | None) -> None:
    found = script_fault(script)
    assert (None if found is None else found.offset) == at
    handler = script_fault(f"return f({script.count('x')}); // é", body=True)
    assert handler is None
