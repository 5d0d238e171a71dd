"""Pieces that are too large for an editor, pieces for several editors, and what is shown of a fitted one."""

from __future__ import annotations

import json
import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from PIL import Image

from support.editors import editor as made_editor
from support.pieces import PIECES
from support.program import run
from verse_tray.editors.load import Editor, load_editor
from verse_tray.fitting.fit import Fitted, fit, fit_together
from verse_tray.fitting.shortened import shortened
from verse_tray.fitting.size import over
from verse_tray.fitting.trips import Trips
from verse_tray.journeys.journey import journey
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Text, Tree
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Verdict
from verse_tray.piece.piece import Piece
from verse_tray.reading.read import PHONE
from verse_tray.reports.fit_text import fit_lines
from verse_tray.tasks.live import Live, LiveRequest
from verse_tray.tasks.make import make_piece

pytestmark = pytest.mark.usefixtures("unwatched")


def limited(most: int, over: str = "refuse", *, already: int = 0, **save: object) -> Editor:
    limit = {"measure": "stored", "unit": "characters", "most": most, "over": over, "already": already}
    return made_editor(save, limits=[limit])


def fitted(text: str, editor: Editor) -> Fitted:
    return fit(Piece(Source(text, "piece.html")), editor)


def words(text: str) -> list[str]:
    tree: Tree = parse_fragment(text).tree
    return " ".join(node.data for node in tree.nodes() if isinstance(node, Text)).split()


@pytest.mark.parametrize(
    ("text", "most", "shorter"),
    [
        ("<p>Low water</p><!-- " + "x" * 40 + " -->", 30, "<p>Low water</p>"),
        ("<p style='margin: 0px 0px 0px 0px; color: #FFAA00'>Low</p>", 45, "<p style='margin:0;color:#FA0'>Low</p>"),
        ("<ul>\n      <li>one</li>\n      <li>two</li>\n    </ul>\n", 40, "<ul><li>one</li><li>two</li></ul>\n"),
    ],
)
def test_a_piece_that_is_a_little_too_large_is_made_shorter(text: str, most: int, shorter: str) -> None:
    found = fitted(text, limited(most))
    assert (found.before.journey.refused, found.pastes, found.after.text) == (True, None, shorter)
    assert found.after.share == 1
    assert fitted(shorter, limited(most)).after.text == shorter


def test_a_large_piece_becomes_pastes_that_stand_alone() -> None:
    rows = "".join(f"<tr><td>Pool {n}</td><td>{n * 7}</td></tr>" for n in range(30))
    items = "".join(f"<li>item {n}</li>" for n in range(40))
    text = (
        "<div id=all class=page><h2>Counts</h2><table><thead><tr><th>Place</th><th>Number</th></tr></thead>"
        f"<tbody>{rows}</tbody></table><h2>Steps</h2><ol start=5>{items}</ol><p>The end</p></div>"
    )
    editor = limited(700, already=100)
    found = fitted(text, editor)
    assert found.pastes is not None
    pastes = found.pastes.texts
    assert len(pastes) > 3
    assert found.pastes.too_large == ()
    assert all(over(journey(paste, editor)) is None for paste in pastes)
    heads = [word for paste in pastes for word in words(paste) if word in ("Place", "Number")]
    assert len(heads) >= 4  # the header row stands again where the table goes on
    everything = [word for paste in pastes for word in words(paste)]
    assert [w for w in everything if w not in ("Place", "Number")] == [
        w for w in words(text) if w not in ("Place", "Number")
    ]
    assert "".join(pastes).count("id=all") == 1
    assert all("class=page" in paste for paste in pastes)
    assert not any(re.search(r"<h2>\w+</h2>(?:</div>)?\s*$", paste) for paste in pastes)
    starts = [(int(each), text.count("<li>")) for text in pastes for each in re.findall(r'<ol start="?(\d+)', text)]
    assert all(first + count == second for (first, count), (second, _) in pairwise(starts))
    assert found.pastes.share > 0.9
    for paste in pastes:
        assert fitted(paste, editor).after.text == paste


def test_what_no_paste_can_hold_is_named_with_what_would_help() -> None:
    found = fitted("<p>short</p>\n<p>" + "long " * 100 + "</p>", limited(200))
    assert found.verdict is Verdict.BROKEN
    (told,) = [line for line in fit_lines(found) if "too large" in line]
    assert "one <p> that begins “long long" in told
    assert re.search(r"has 507 signs; a paste holds \d+: shorten it by \d+", told)


def test_a_piece_that_is_taken_stays_one_paste() -> None:
    text = "<style>p{color:#123456;background:#eeeeee;padding:10px}</style>" + "<p>one</p>" * 12
    found = fitted(text, limited(230, styleElements="drop"))
    assert found.pastes is None
    assert over(found.after.journey) is None


def test_text_beside_blocks_and_lines_of_text_stay_whole() -> None:
    part = "Counted <b>twice</b> at low water<br>by two of us <p>and written down here</p>"
    found = fitted(f"<div>{part * 12}</div>", limited(400))
    assert found.pastes is not None
    assert found.pastes.too_large == ()
    for paste in found.pastes.texts:
        assert paste.count("Counted <b>twice</b> at low water<br>by two of us") == paste.count("Counted")


@pytest.mark.parametrize("text", ["<div>" * 3000 + "x", "<div>" * 800 + "words " * 800, "<b>" * 2000 + "x"])
def test_what_is_nested_deep_is_fitted_or_said_to_be_too_large(text: str) -> None:
    found = fitted(f"<style>div {{ color: teal }}</style>{text}", load_editor("note-field"))
    assert found.pastes is None or found.pastes.too_large


@example(["<h3>head</h3>"] * 3 + ["<table><tr><td>m</td><td>n</td></tr></table>"], 60)
@settings(max_examples=40, deadline=None)
@given(
    st.lists(
        st.sampled_from(
            ["<p>one two three</p>", "<h3>head</h3>", "<ul><li>a b</li><li>c</li><li>d e</li></ul>", "loose ", "<hr>",
             "<section><p>x</p><p>y z</p></section>", "<table><tr><td>m</td><td>n</td></tr></table>", "<!-- c -->"]
        ),
        min_size=1,
        max_size=40,
    ),
    st.integers(60, 400),
)  # fmt: skip
def test_every_word_is_in_the_pastes_once_and_in_order(parts: list[str], most: int) -> None:
    editor = limited(most)
    found = fitted("\n".join(parts), editor)
    texts = found.texts
    assert [word for text in texts for word in words(text)] == words("\n".join(parts))
    assert all(over(journey(text, editor)) is None for text in texts)


@pytest.mark.parametrize("name", ["article", "course-page", "shop-description"])
def test_a_large_piece_is_fitted_as_well_by_a_shorter_one(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    part = (
        "<section class=c><h3>Pool {0}</h3><p>Counted <mark>{0}</mark> times</p><ul><li>a{0}<li>b{0}</ul></section>\n"
        "<table border=1><caption>Count {0}</caption><tr><td bgcolor=#eef5f4>x{0}<td>y{0}</table>\n"
    )
    text = "<style>.c{background:#eef5f4;padding:8px}.c:nth-child(2n){background:#fdd}</style>"
    text += "".join(part.format(number) for number in range(40))
    by_a_shorter = fitted(text, load_editor(name))
    assert len(text) > 6_000
    assert len(shortened(Trips(Source(text), load_editor(name)).draft(text))) < 2_000
    assert fitted(by_a_shorter.after.text, load_editor(name)).changed is False
    monkeypatch.setattr("verse_tray.fitting.search._LARGE", 10**9)
    whole = fitted(text, load_editor(name))
    assert by_a_shorter.after.share >= whole.after.share - 0.005


def test_one_text_for_several_editors_does_well_in_the_middle() -> None:
    text = "<style>.n{background:#eef5f4;padding:9px}</style><section class=n><p>Low <mark>water</mark></p></section>"
    editors = [load_editor(name) for name in ("article", "course-page", "mail-signoff", "blog-post")]
    together = fit_together(Piece(Source(text)), editors)
    assert len({each.after.text for each in together}) == 1
    assert all(each.after.share >= each.before.share - 0.03 for each in together)
    assert sum(each.after.share for each in together) > sum(each.before.share for each in together)
    again = fit_together(Piece(Source(together[0].after.text)), editors)
    assert again[0].after.text == together[0].after.text


def test_the_look_of_a_phone_is_kept_where_it_is_asked_for() -> None:
    text = "<style>p{color:teal}@media (max-width: 600px){p{color:maroon}}</style><p>Low water</p>"
    wide, narrow = (fit(Piece(Source(text)), load_editor("article"), width=width) for width in (1280, PHONE))
    assert "color: teal" in wide.after.text
    assert "color: maroon" in narrow.after.text
    assert any("--keep phone" in line for line in fit_lines(wide))
    assert any("--keep desktop" in line for line in fit_lines(narrow))


def test_the_command_writes_numbered_pastes_and_one_text_for_several(folder: Path) -> None:
    (folder / "long.html").write_text("".join(f"<p>Paragraph {n} of the walk</p>\n" for n in range(120)), "utf-8")
    done = run("fit", "long.html", "--editor", "note-field", "-o", "note.html", cwd=folder)
    names = sorted(path.name for path in folder.glob("note-*.html"))
    assert names == [f"note-{number}.html" for number in range(1, len(names) + 1)]
    assert (done.returncode, f"It takes {len(names)} pastes" in done.stderr) == (0, True)
    without = run("fit", "long.html", "--editor", "note-field", cwd=folder)
    assert (without.returncode, "name a file with -o" in without.stderr, without.stdout) == (2, True, "")
    (folder / "short.html").write_text("<section style='background:#eee'>Low water</section>", "utf-8")
    one = run("fit", "short.html", "--editor", "article", "--editor", "mail-signoff", "--one", cwd=folder)
    assert one.stdout == "<div style='background:#eee'>Low water</div>"
    assert "mail-signoff: readers get 100 of 100, and not " in one.stderr
    told = json.loads(
        run("fit", "long.html", "--editor", "note-field", "--format", "json", cwd=folder).stdout
    )["editors"][0]  # fmt: skip
    assert len(told["pastes"]) == len(names)


@pytest.mark.parametrize(
    ("kind", "editor", "words", "note"),
    [
        ("button", "mail-signoff", "padding: 10px 18px", "As usual"),
        ("button", "course-page", "background-color: #a14a12", "Fitted to course-page (kept-forms)"),
        ("button", "note-field", "<b>Book</b>", "it is a bold link"),  # no fitting gives a button there
        ("picture-right", "mail-signoff", 'align="right"', "floats-as-table"),
        ("code", "shop-description", "white-space: pre", "lines-for-code"),
        ("slider", "blog-post", "overflow-x", "scripts"),  # one that is fitted would not slide
    ],
)
def test_what_is_made_for_an_editor_is_fitted_where_that_gives_more(
    kind: str, editor: str, words: str, note: str
) -> None:
    forms, build = PIECES[kind]
    made = make_piece(forms, build, styles=None, editor=editor)
    assert words in made.markup
    assert note in "\n".join(made.notes)


def test_broken_markup_is_said_to_be_mended(folder: Path) -> None:
    (folder / "broken.html").write_text("<p style='background: #eee'>text <!-- never closed <p>more</p>", "utf-8")
    done = run("fit", "broken.html", "--editor", "course-page", cwd=folder)
    assert re.match(r"broken\.html: 1:34 .* It is fitted as browsers read it\.\n", done.stderr)
    (folder / "whole.html").write_text("<p style='background: #eee'>text</p>", "utf-8")
    assert "browsers" not in run("fit", "whole.html", "--editor", "course-page", cwd=folder).stderr


@pytest.mark.browser
def test_icons_are_drawn_for_hosting(folder: Path) -> None:
    (folder / "tide.html").write_text(
        "<style>.i svg { fill: currentColor; width: 30px; height: 20px }</style><p class=i style='color: #ff0000'>"
        "<svg viewBox='0 0 3 2'><rect width=2 height=2 /></svg> Tide</p>",
        "utf-8",
    )
    asked = ("fit", "tide.html", "--editor", "mail-signoff", "--icons", "https://pictures.gannetcove.example/i/")
    done = run(*asked, "-o", "out/tide.html", cwd=folder)
    assert "to be hosted at https://pictures.gannetcove.example/i/: out/tide-icon-1.png." in done.stderr
    with Image.open(folder / "out" / "tide-icon-1.png") as picture:
        drawn = picture.convert("RGBA")
    assert (drawn.size, drawn.getpixel((10, 20)), drawn.getpixel((55, 20))) == (
        (60, 40),
        (255, 0, 0, 255),
        (0, 0, 0, 0),
    )
    text = (folder / "out" / "tide.html").read_text("utf-8")
    assert 'src="https://pictures.gannetcove.example/i/tide-icon-1.png" alt="" width="30" height="20"' in text
    assert run(*asked, cwd=folder).returncode == 2


def test_styles_that_are_kept_stand_in_front_of_each_paste() -> None:
    text = "<style>p { color: teal }</style>" + "".join(f"<p>Paragraph {n}</p>" for n in range(30))
    found = fitted(text, limited(200))
    assert len(found.texts) > 2
    assert all(each.startswith("<style>p { color: teal }</style>") for each in found.texts)


def test_previews_show_the_fitted_side(folder: Path) -> None:
    (folder / "short.html").write_text("<section style='background:#eee'>Low water</section>", "utf-8")
    done = run("preview", "short.html", "--editor", "mail-signoff", "--fit", "-o", "sheet.html", cwd=folder)
    sheet = (folder / "sheet.html").read_text("utf-8")
    assert (done.returncode, "Fitted, as published" in sheet, "100 of 100" in sheet) == (0, True, True)
    text = run("preview", "short.html", "--editor", "mail-signoff", "--only", "fitted", "--text", cwd=folder).stdout
    assert (" Fitted, as published " in text, " As published " in text) == (True, False)
    both = run(
        "preview", "short.html", "--editor", "mail-signoff", "--only", "published", "--fit", "--text", cwd=folder
    )
    assert (" Fitted, as published " in both.stdout, " As published " in both.stdout) == (True, True)
    live = Live(LiveRequest((str(folder / "short.html"),), ("mail-signoff",), fit=True)).make()
    assert (b"Fitted, as published" in live, "Fitted" in sheet) == (True, True)
