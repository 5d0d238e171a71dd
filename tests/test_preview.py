"""Previews without a browser: pages, marks, sheets, themes, the terminal, and the judgements on what was measured."""

from __future__ import annotations

import base64
import hashlib
import json
import re
import tomllib
from io import StringIO
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from PIL import Image
from rich.console import Console

from support.editors import editor
from support.markup import fragments
from verse_tray.demo import example
from verse_tray.editors.load import known_editors, load_editor
from verse_tray.editors.themes import UnknownThemeError, chosen_looks, themes
from verse_tray.journeys.highlights import published_highlights, written_highlights
from verse_tray.journeys.journey import journey
from verse_tray.preview.comparing.align import aligned
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.moving_pictures import held_address
from verse_tray.preview.pages.page import Page, journey_page
from verse_tray.preview.sheet import Shown, sheet
from verse_tray.preview.trials.changes import described
from verse_tray.preview.trials.trial_page import ActingPage
from verse_tray.reports.terminal import piece_views

DATA = Path(__file__).parent / "data"
CASES = {name: tomllib.loads((DATA / f"{name}.toml").read_text("utf-8")) for name in ("piece_views", "marks")}
KEEPS = editor({})


def data_of(made: str) -> Any:
    found = re.search(r'<script type="application/json" id="data">(.*?)</script>', made, re.S)
    assert found
    return json.loads(found[1])


@pytest.mark.parametrize("case", CASES["piece_views"]["case"], ids=lambda case: case["name"])
def test_a_piece_in_the_terminal(case: dict[str, Any]) -> None:
    made = journey(case["markup"], editor(case.get("save", {})))
    screen = Console(file=StringIO(), width=60, color_system=None)
    with screen.capture() as shown:
        for part in piece_views([made], ("published",), 60):
            screen.print(part)
    lines = [line.strip() for line in shown.get().split("\n") if line.strip()]
    body = [line for line in lines[1:] if not re.match(r"(\d+:\d+ )?(error|warning|note) ", line)]
    wanted = case["shown"].strip().split("\n")
    assert body[: len(wanted)] == wanted
    assert all(len(line) <= 60 for line in shown.get().split("\n"))


@settings(max_examples=60, deadline=None)
@given(fragments)
def test_any_piece_can_be_read_and_drawn(text: str) -> None:
    journeys = [journey(text, name) for name in ("note-field", "framed-box")]
    screen = Console(file=StringIO(), width=50, color_system=None)
    for part in piece_views(journeys, ("written", "editor", "published"), 50):
        screen.print(part)
    made = sheet(journeys, LocalPictures(stored=True)).decode()
    assert set(data_of(made)["rows"]) == {"note-field", "framed-box"}


@pytest.mark.parametrize(("start", "shown"), [("4", "4."), ("-2", "-2."), ("--5", "1."), ("²", "1."), ("", "1.")])
def test_a_list_counts_from_where_it_says(start: str, shown: str) -> None:
    screen = Console(file=(out := StringIO()), width=50, color_system=None)
    made = journey(f"<ol start='{start}'><li>x</ol>", "framed-box")
    for part in piece_views([made], ("written",), 50):
        screen.print(part)
    assert f"{shown} x" in out.getvalue()


@pytest.mark.parametrize("case", CASES["marks"]["case"], ids=lambda case: case["name"])
def test_marks_stand_where_something_was_lost_or_added(case: dict[str, Any]) -> None:
    made = journey(case["markup"], editor(case["save"], **case.get("more", {})))
    names = {element.key: element.name for element in made.piece.parsed.tree.elements()} | {0: ""}

    def told(mark: Any) -> str:
        run = "" if mark.run is None else f" {mark.run}"
        return f"{mark.kind} {names.get(mark.key, 'added')}{run}"

    assert [told(mark) for mark in written_highlights(made)] == case["written"]
    look = [mark.said[-1].rpartition(": ")[2].rstrip(".") for mark in written_highlights(made) if mark.kind == "look"]
    assert look == case.get("lost", look)
    assert [told(mark) for mark in published_highlights(made)] == case["published"]


REACHING = {
    "<link rel=preconnect href=//a.example>": 'href="//a',
    "<meta http-equiv=refresh content=0;url=//a.example>": "http-equiv",
    "<base href=//a.example/>": "base href",
    "<a ping=//a.example href=#>x</a>": "ping",
    "<script>alert(1)</script>": "alert",
    "<input autofocus>": "autofocus",
    "<img src=//a.example/x.png srcset='//a.example/y 2x'>": "srcset",
    "<iframe src=//a.example></iframe>": 'src="//a',
}


@pytest.mark.parametrize("markup", REACHING)
def test_a_page_reaches_for_nothing(markup: str) -> None:
    page = journey_page(journey(markup, KEEPS), "published", "", LocalPictures())
    assert REACHING[markup] not in page.piece
    assert "default-src 'none'" in page.frame


def test_pictures_come_from_the_folders_given_and_from_nowhere_else(tmp_path: Path) -> None:
    home, other = tmp_path / "home", tmp_path / "other"
    for folder in (home / "in", other):
        folder.mkdir(parents=True)
        Image.new("RGB", (4, 4), "red").save(folder / f"{folder.name}.png")
    (home / "secret.png").symlink_to(other / "other.png")
    found = LocalPictures(home, (other,), stored=True)
    shown = ["in/in.png", "./in/in.png?1", "https://a.example/deep/other.png"]
    hidden = ["../other/../outside.png", "secret.png", "/in/in.png", "in/in.html", "http://[", "in/none.png", ""]
    assert [found.address(each) for each in shown] == [f"tray-picture:{at}:" for at in range(3)]
    assert [found.address(each) for each in hidden] == [None] * len(hidden)
    style = "<style>p{background:url('in/in.png')}</style><p style='background:url(in/in.png)'>x"
    page = journey_page(journey(style, KEEPS), "written", "", LocalPictures(home)).piece
    assert page.count("data:image/png;base64,") == 2


def test_the_demo_fits_into_one_sheet_for_all_editors_whose_scripts_are_named_by_their_hash() -> None:
    files = {str(name): data for name, data in example().items()}
    piece = files["low-water-walk.html"].decode()
    journeys = [journey(piece, load_editor(name)) for name in known_editors()]
    made = sheet(journeys, LocalPictures(stored=True)).decode()
    assert len(made.encode()) < 1_500_000
    assert made == sheet(journeys, LocalPictures(stored=True)).decode()
    data = data_of(made)
    assert len(data["rows"]) == len(known_editors())
    assert len(re.findall(r"<figure ", made)) == 6 * len(known_editors())
    for script in re.findall(r"<script>(.*?)</script>", made, re.S):
        assert base64.b64encode(hashlib.sha256(script.encode()).digest()).decode() in made.split("<style>")[0]
    assert len({tuple(page) for page in data["pages"]}) == len(data["pages"])


def test_a_sheet_shows_what_was_asked_for_and_nothing_for_a_refused_piece() -> None:
    refused = editor({}, limits=[{"measure": "pasted", "unit": "characters", "most": 3, "over": "refuse"}])
    made = sheet([journey("<p>low water</p>", refused)], LocalPictures(stored=True)).decode()
    assert made.count("<figure ") == 2
    assert "the piece is refused" in made
    shown = Shown(("written", "published"), (500,), {"test": {"day": "p{}", "night": "b{}"}})
    made = sheet([journey("<p>low water</p>", KEEPS)], LocalPictures(stored=True), shown).decode()
    figures = re.findall(r'data-width="(\d+)" data-side="(\w+)" data-theme="(\w+)"', made)
    assert figures == [("500", side, theme) for theme in ("day", "night") for side in ("written", "published")]
    assert any("b{}" in frame for frame in data_of(made)["frames"])
    shown = Shown(("published",), themes={"test": {"day": "@media (hover) { p {} }"}})
    made = sheet([journey("<p>low water</p>", KEEPS)], LocalPictures(stored=True), shown).decode()
    data, numbers = data_of(made), map(int, re.findall(r'data-page="(\d+)', made))
    frames = [data["frames"][data["pages"][number][0]] for number in numbers]
    assert ["@media (hover)" in frame for frame in frames] == [True, False]


@pytest.mark.parametrize(
    ("asked", "read"),
    [
        ("(hover: hover)", "(width < 0px)"),
        ("(HOVER:none) and ( any-pointer : coarse )", "(width >= 0px) and (width >= 0px)"),
        ("(hover), not (any-pointer: fine), (pointer)", "(width < 0px), not (width < 0px), (width >= 0px)"),
        (
            "(hover: odd) or (hover-width: 1) or (max-width: 9px)",
            "(hover: odd) or (hover-width: 1) or (max-width: 9px)",
        ),
    ],
)
def test_a_phone_s_window_is_touched_in_its_style_sheets_alone(asked: str, read: str) -> None:
    markup = "<p>@media {0}</p><style media='{0}'>@media {0} {{ p {{ color: red }} }}</STYLE ><p title='{0}'>{0}"
    before = Page(markup.format(asked), markup.format(asked))
    after = markup.format(asked).replace(asked, read, 3).replace(read, asked, 1)
    assert before.in_window(375) == Page(after, after)
    assert before.in_window(601) is before


def test_every_stand_in_has_two_themes_and_names_are_looked_up() -> None:
    editors = [load_editor(name) for name in known_editors()]
    assert all(len(themes(each)) >= 2 and all(css.strip() for css in themes(each).values()) for each in editors)
    blog, framed = (next(each for each in editors if each.name == name) for name in ("blog-post", "framed-box"))
    usual = {"blog-post": {"day": blog.theme}, "framed-box": {"day": framed.theme}}
    assert chosen_looks([blog, framed]) == usual
    assert chosen_looks([blog, framed], ["night"]) == {**usual, "blog-post": {"night": themes(blog)["night"]}}
    assert list(chosen_looks([blog], ["all"])["blog-post"]) == ["day", "large-print", "night"]
    with pytest.raises(UnknownThemeError, match="Did you mean night"):
        chosen_looks([blog], ["nigth"])


STILL = {"name": "p", "shown": True, "text": "a", "source": None, "place": [0, 0, 9, 9], "scrolled": [0, 0], "on": None,
         "value": None, "look": {"color": "red", "outline-style": "none"}}  # fmt: skip
CHANGES: dict[str, tuple[dict[str, Any], list[str]]] = {
    "nothing": ({}, []),
    "a focus ring alone": ({"look": {"color": "red", "outline-style": "solid"}}, []),
    "text": ({"text": "b"}, ["“a” becomes “b” in <p>"]),
    "colour": ({"look": {"color": "blue", "outline-style": "none"}}, ["<p> “a”: color red → blue"]),
    "gone": ({"shown": False}, ["<p> “a” disappears"]),
    "moved": ({"place": [5, 0, 9, 9]}, ["<p> “a” moves or changes its size"]),
    "moved and changed": ({"place": [5, 0, 9, 9], "text": "b"}, ["“a” becomes “b” in <p>"]),
    "scrolled": ({"scrolled": [40, 0]}, ["<p> “a” scrolls by 40 px"]),
}


@pytest.mark.parametrize("name", CHANGES)
def test_what_a_click_changes_is_told_in_words(name: str) -> None:
    change, told = CHANGES[name]
    assert list(described({"1": STILL}, {"1": STILL | change})) == told


def test_what_comes_and_goes_is_told_by_its_outermost_element() -> None:
    inner = STILL | {"text": "b", "place": [2, 2, 4, 4]}
    hidden = {key: each | {"shown": False} for key, each in (("1", STILL), ("2", inner))}
    assert described(hidden, {"1": STILL, "2": inner}) == ("<p> “a” appears",)
    assert described({}, {"new0": STILL}) == ("<p> “a” is new",)
    assert described({"1": STILL}, {}) == ("<p> “a” is taken away",)


def test_elements_of_two_pieces_are_found_again() -> None:
    trees = [
        journey(text, KEEPS).piece.parsed.tree
        for text in ("<p>a</p><p>b</p><ul><li>c</ul>", "<h2>new</h2><p>a</p><p>other</p><ul><li>c</ul>")
    ]
    keys = [[element.key for element in tree.elements()] for tree in trees]
    both = aligned(*trees)
    assert both.pairs == dict(zip(keys[0], keys[1][1:], strict=True))
    assert both.second_only == (keys[1][0],)


@pytest.mark.parametrize("boxed", [False, True])
def test_a_place_in_the_page_leads_back_to_the_author_s_file(boxed: bool) -> None:
    more = {"box": {"width": 9, "height": 9, "sandbox": ["allow-scripts"]}} if boxed else {}
    piece = "<p>low</p>\n<script>\n  one();\n  two();\n</script>"
    page = ActingPage(journey(piece, editor({}, **more)), "", LocalPictures())
    document = page._document
    at = document.index("two()")
    line, column = document.count("\n", 0, at) + 1, at - document.rfind("\n", 0, at)
    where = "about:srcdoc" if boxed else "http://tray.invalid/"
    assert page.place(f"Error: x\n at f ({where}:{line}:{column})") == (4, 3)
    assert page.place("at f (https://elsewhere.example/:1:1)") == (None, None)
    assert page.place(f"at {where}:9999:1") == (None, None)


def test_an_address_of_a_held_drawing_ends_no_quotes() -> None:
    drawing = "<svg xmlns='http://www.w3.org/2000/svg'><style>a{animation:b 1s}</style></svg>"
    for head, behind in (("", ""), (';a=");x:url(', ""), (";charset=utf-8", '#a");x:url("b'), ("", "#layer=2")):
        found = held_address(f"data:image/svg+xml{head},{drawing}{behind}")
        assert found is not None
        assert not set("\"'()\\") & set(found)
        assert found.endswith("#layer=2") == (behind == "#layer=2")
    assert held_address(f"data:image/svg+xml,{drawing.replace('animation', 'color')}") is None
