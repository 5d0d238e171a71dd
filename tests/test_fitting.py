"""Fitting a piece to an editor: cases from data/fitting.toml, and what holds for any piece."""

from __future__ import annotations

import json
import re
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from support.editors import editor as made_editor
from support.markup import fragments
from support.pieces import PIECES
from support.program import run
from verse_tray.edit.acceptable import new_mistakes
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.fitting.fit import fit
from verse_tray.fitting.icons import Icon
from verse_tray.fitting.judge import Judge
from verse_tray.fitting.table import LAST, STRATEGIES
from verse_tray.fitting.trips import Trips
from verse_tray.make.terms import Styles, Terms
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Severity
from verse_tray.piece.piece import Piece

pytestmark = pytest.mark.usefixtures("unwatched")

TABLES: dict[str, list[Any]] = tomllib.loads((Path(__file__).parent / "data" / "fitting.toml").read_text("utf-8"))
RICH = (
    "<style>.row { display: flex; gap: 16px } .c { flex: 1; background: #eef5f4; padding: 8px } .n::before { content: "
    "'Note: ' } .h { display: none }</style><h2 style='color: #a14a12'>Cards</h2><div class=row><div class=c><h3>Boots"
    "</h3><p>Wear them</p></div><div class=c><h3>Lamp</h3><p>Bring one</p></div></div><p class=n>Ebb is at six.</p><p "
    "class=h>A draft</p><p><mark>marked</mark> <span style='font-weight: bold'>bold</span></p><table bgcolor=#eef5f4>"
    "<tr><th>Day<th>Time<tr><td>Sat<td>06:12</table><iframe src=https://maps.gannetcove.example/1 title=Map></iframe>"
)

ICONS = {"<svg width=9 height=9></svg>": Icon("https://pictures.gannetcove.example/tide.png", 9, 9)}


def named(name: str) -> Editor:
    """Return an editor; ``bare`` keeps old attributes and no styles, ``themed`` has a class, ``prefixing`` prefixes."""
    if name in ("bare", "themed"):
        bare = made_editor({"removeAttributes": ["style"], "styleElements": "drop"})
        theme = ".dated { color: #6b7d77; font-style: italic }" if name == "themed" else ""
        return Editor(name, bare.profile, "<!doctype html><!-- theme --><body><!-- piece --></body>", theme)
    if name == "prefixing":
        return made_editor({"idPrefix": "u-", "classPrefix": "my-"})
    return made_editor({"addresses": {"schemes": ["https"]}}) if name == "secure" else load_editor(name)


@pytest.mark.parametrize("row", TABLES["wins"], ids=lambda row: str(row[0]))
def test_each_strategy_wins_somewhere(row: list[str]) -> None:
    strategy, editor, text, fitted = row
    found = fit(Piece(Source(text)), named(editor), icons=ICONS)
    assert strategy in [used.name for used in found.used]
    assert found.after.text == fitted
    assert found.after.worth > found.before.worth and found.after.share >= found.before.share


@pytest.mark.parametrize("row", TABLES["wins"], ids=lambda row: str(row[0]))
def test_no_strategy_is_used_where_the_editor_keeps_it_all(row: list[str]) -> None:
    found = fit(Piece(Source(row[2])), load_editor("framed-box"), icons=ICONS)
    assert (found.after.text, found.used) == (row[2], ())


def test_every_strategy_has_a_case_and_says_what_it_did() -> None:
    assert {row[0] for row in TABLES["wins"]} == {each.name for each in STRATEGIES}
    assert all(each.sentence.endswith(".") for each in STRATEGIES)
    page = (Path(__file__).parents[1] / "docs" / "fitting.md").read_text("utf-8")
    assert re.findall(r"(?m)^\| `([\w-]+)` \|", page) == [each.name for each in (*STRATEGIES, LAST)]


@pytest.mark.parametrize("row", TABLES["same"], ids=lambda row: str(row[1])[:30])
def test_what_nothing_improves_comes_back_byte_for_byte(row: list[str]) -> None:
    found = fit(Piece(Source(row[1])), named(row[0]))
    assert (found.after.text, found.used) == (row[1], ())


@pytest.mark.parametrize("name", known_editors())
def test_a_fitted_piece_is_never_worse_and_comes_to_rest(name: str) -> None:
    editor = load_editor(name)
    kinds = ("button", "table", "picture-right", "slider", "code")
    pieces = [RICH, *(PIECES[kind][1](PIECES[kind][0][0].name, Terms(Styles.ELEMENT)).markup for kind in kinds)]
    for text in pieces:
        piece = Piece(Source(text))
        found = fit(piece, editor)
        assert found.after.share >= found.before.share
        assert fit(Piece(Source(found.after.text)), editor).after.text == found.after.text
        if found.changed:
            mistakes = new_mistakes(piece, Piece(Source(found.after.text)))
            assert [each for each in mistakes if each.severity is Severity.ERROR] == []


@settings(max_examples=60, deadline=None)
@given(fragments, st.sampled_from(["article", "course-page", "mail-signoff", "note-field", "prefixing"]))
def test_any_piece_is_fitted_without_loss(text: str, name: str) -> None:
    found = fit(Piece(Source(text)), named(name))
    assert found.after.share >= found.before.share
    assert found.changed or found.after.text == text


def test_what_no_strategy_has_to_do_with_stays_as_it_is_typed() -> None:
    kept = "<P  ID=low  TITLE='a &amp b' >One<BR />two &eacute;</P >\r\n<ul><li>a<li>b</UL>\r\n"
    piece = Piece(Source(f"<style>.six{{color:red}}</style>\r\n{kept}<p class=six>six"))
    found = fit(piece, load_editor("article"))
    assert [each.name for each in found.used] == ["rules-in-elements"]
    assert kept in found.after.text


def test_it_is_held_against_the_original() -> None:
    text = "<p style='color: teal'>Low water</p>"
    judge = Judge(Trips(Source(text), load_editor("article")), text)
    assert judge.judge(text).share == 1
    assert judge.judge("<p>Low water</p>").share < 1
    assert judge.judge("").share < 0.5


def test_the_command_fits_for_one_and_for_several(folder: Path) -> None:
    (folder / "rich.html").write_text(RICH, "utf-8")
    one = run("fit", "rich.html", "--editor", "article", cwd=folder)
    assert "<style>" not in one.stdout
    assert "[rules-in-elements]" in one.stderr
    assert "readers get " in one.stderr
    several = run("fit", "rich.html", "--editor", "all", "-o", "fitted", cwd=folder)
    assert several.returncode == 1
    names = sorted(path.stem for path in (folder / "fitted").iterdir())
    assert names == sorted(each.name for each in chosen_editors(None))
    told = run("fit", "rich.html", "--editor", "article", "--format", "json", "--without", "made-text", cwd=folder)
    (found,) = json.loads(told.stdout)["editors"]
    assert found["after"] > found["before"]
    assert "made-text" not in [used["name"] for used in found["strategies"]]
    for wrong, words in (
        (["--editor", "article", "--only", "made-tex"], "did you mean made-text?"),
        (["--editor", "all"], "name a folder for the pieces with -o"),
    ):
        done = run("fit", "rich.html", *wrong, cwd=folder)
        assert (done.returncode, words in done.stderr, done.stdout) == (2, True, "")
