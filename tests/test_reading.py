"""What readers see of a page without a browser, compared, and held against one."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from support.editors import editor
from support.markup import collected
from verse_tray.editors.load import load_editor
from verse_tray.journeys import outcome
from verse_tray.journeys.journey import journey
from verse_tray.markup.parse import parse_fragment
from verse_tray.model.findings import Severity, Verdict
from verse_tray.piece.view import View
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.render import render
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.reading.compare import compare
from verse_tray.reading.differences import Comparison
from verse_tray.reading.frames import Frame, frame_of, framed
from verse_tray.reading.read import DESKTOP, PHONE, read
from verse_tray.style.cascade import looks_upward_only, match
from verse_tray.style.sheets import parse_sheet

DATA = tomllib.loads((Path(__file__).parent / "data" / "readings.toml").read_text("utf-8"))
CASES = DATA["case"]


def compared(editor: str, one: str, other: str) -> Comparison:
    frame = frame_of(load_editor(editor))
    trees = [parse_fragment(markup).tree for markup in (one, other)]
    before, after = (read(framed(frame, View(tree)), DESKTOP) for tree in trees)
    return compare(before, after, by_text=True)


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_what_readers_see(case: dict[str, Any]) -> None:
    if "instead" in case:
        found = compared(case["editor"], case["markup"], case["instead"])
    else:
        made = journey(case["markup"], case["editor"])
        found = made.comparison
        assert made.verdict == case["verdict"]
    assert sorted({f"{each.kind}/{each.what}" for each in found.differences}) == case.get("differs", [])
    assert (found.alike == 100) is (
        case.get("alike") == 100 or case.get("differs", [""])[0].startswith(("site", "moving"))
    )


def test_styles_that_are_known_from_other_pieces_are_those_that_are_worked_out_anew() -> None:
    pieces = [*(case["markup"] for case in CASES), *SEEN, *collected(60)]
    for name in ("article", "course-page", "mail-signoff", "blog-post"):
        frame = frame_of(load_editor(name))
        fresh = Frame(frame.tree, frame.way)
        for markup in pieces:
            page = framed(frame, View(parse_fragment(markup).tree))
            anew = framed(Frame(fresh.tree, fresh.way), page.piece)
            if frame.ways.is_enough:
                matched = match(page.tree, page.tree.elements(), frame.sheets).matched
                assert frame.ways.match(page.tree) == matched, (name, markup)
            for width in (DESKTOP, PHONE):
                assert read(page, width) == read(anew, width), (name, markup)


def test_what_hurts_is_told_as_among_all_findings() -> None:
    for markup in [*(case["markup"] for case in CASES), *collected(60)]:
        for name in ("article", "course-page", "mail-signoff", "note-field"):
            made = journey(markup, name)
            hurting = made.hurting
            grave = tuple(each for each in made.findings if each.cost or each.severity is not Severity.NOTE)
            assert hurting == made.hurting == grave, (name, markup)


def test_a_button_that_is_disabled_looks_otherwise_beside_one_that_is_not() -> None:
    found = compared("article", "<button>a</button><button disabled>b</button>", "<button>a</button><button>b</button>")
    assert [(each.kind, each.what) for each in found.differences] != []


SEEN = (
    "<p>six</p>",
    "<style>.pool{background:#2f6f73;color:#fff;padding:20px}</style><div class=pool><h2>Low</h2><p>six</p></div>",
    "<div style='display:flex;gap:9px'><div>north pools</div><div>harbour wall</div></div>",
    "<table><tr><td>Sat</td><td>06:12</td></tr><tr><td>Sun</td><td>06:58</td></tr></table>",
    "<p style='display:none'>draft</p><p style='text-align:center'>six</p>",
)


@pytest.mark.long
@pytest.mark.browser
def test_what_is_said_is_what_pictures_show() -> None:
    told: list[str] = []
    with Session() as session:
        for markup in SEEN:
            for name in ("article", "course-page", "mail-signoff", "note-field", "blog-post"):
                made = journey(markup, name)
                pictures = LocalPictures(None, (), stored=True)
                score = render(session, made, {"": made.editor.theme}, (1280,), pictures, compare=True).score
                assert score is not None
                if score < 0.7 and made.verdict in (Verdict.INTACT, Verdict.REWRITTEN):
                    told.append(f"{name}: {markup[:50]} looks {score:.2f} and is {made.verdict}")
                if score > 0.995 and made.verdict is Verdict.DAMAGED:
                    told.append(f"{name}: {markup[:50]} looks the same and is damaged")
    assert told == []


@pytest.mark.parametrize("case", DATA["told"], ids=[case["markup"][:40] for case in DATA["told"]])
def test_what_is_told_of_it(case: dict[str, Any]) -> None:
    found = [each for each in journey(case["markup"], case["editor"]).findings if each.rule.startswith("readers/")]
    rows = [f"{each.rule} {each.line}:{each.column} {each.message}" for each in found]
    wanted = [each.split(" ", 2) for each in case["tells"]]
    assert [row.split(" ", 1)[0] for row in rows] == [each[0] for each in wanted]
    for row, (_, *rest) in zip(rows, wanted, strict=True):
        assert all(part in row for part in rest), row


def test_code_that_names_what_is_called_otherwise_does_nothing() -> None:
    markup = "<p id=low>x</p><p id=high>y</p><script>document.getElementById('low').hidden = 1</script>"
    field = editor({"idPrefix": "own-"})
    made = journey(markup, field)
    assert made.survival.behaviour == (0, 1)
    assert made.verdict is Verdict.DAMAGED
    assert [(each.line, each.column) for each in made.findings if each.rule == "readers/script-astray"] == [(1, 32)]
    assert "verse-tray fit does that" in made.findings[0].message
    other = journey(markup.replace("'low'", "'slow'"), field)
    assert other.survival.behaviour == (1, 1)
    film = "<iframe src='http://films.example.org/1'></iframe>"
    secured = journey(film, editor({"addresses": {"secure": True}}))
    assert "https:" in secured.stages[-1].markup
    assert secured.survival.behaviour == (1, 1)


def test_causes_come_by_what_they_cost() -> None:
    box = "<style>.a{background:#2f6f73;color:#fff}</style><div class=a><p>six</p><p>seven</p></div>"
    made = journey(f"{box}<p onclick=x>eight</p>", "article")
    assert max(made.findings, key=lambda each: each.cost).rule == "style-elements/drop"
    seen = [each for each in made.comparison.differences if each.seen]
    assert sum(each.cost for each in made.findings) == len(seen) > 2


def test_a_piece_too_large_to_be_read_is_counted_and_told(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(outcome, "MOST_READ", 3)
    markup = "<style>p{color:red}</style><p>six</p><p>seven</p><p>eight</p>"
    made = journey(markup, "article")
    assert made.survival.text == (13, 13)
    assert made.verdict is Verdict.DAMAGED
    assert [each.rule for each in made.findings if each.rule.startswith("readers/")] == ["readers/too-large"]
    short = {"limits": [{"measure": "stored", "unit": "characters", "most": 17, "over": "cut"}]}
    assert journey("<p>six</p><p>seven</p><p>eight</p>", editor({}, **short)).survival.text == (7, 13)


def test_sheets_that_look_upward_only_can_be_matched_by_the_way_from_the_root() -> None:
    sheets = ("p a, .x:hover", "a + b", "p:first-child", "@scope (.a) { p", "@media print { p", "@layer z { :is(p)")
    found = [looks_upward_only(parse_sheet(f"{each} {{ top: 0 }}{'}' * each.count('{')}")) for each in sheets]
    assert found == [True, False, False, False, True, True]


FOLLOWED = (
    ("blog-post", "<style>h1, :root{color:red}</style>x", ".my-piece h1, .my-piece",
     "<style>.my-piece h1, .my-piece{color:red}</style><div class=my-piece>x</div>"),
    ("note-field", "<table><tr><td>Sat</td><td>06:12</td></tr></table>", "a space between them",
     "<table><tr><td>Sat </td><td>06:12</td></tr></table>"),
    ("code-box", "<p class='e twelfth'>six</p>", "the classes e and twelfth",
     "<style>.e{top:0}.twelfth{top:0}</style><p class='e twelfth'>six</p>"),
    ("mail-signoff", "<p>six<i style='display:none'>draft</i></p>", "take it out", "<p>six</p>"),
)  # fmt: skip


@pytest.mark.parametrize(("name", "markup", "advice", "followed"), FOLLOWED, ids=[each[2] for each in FOLLOWED])
def test_advice_that_is_followed_lets_the_finding_go(name: str, markup: str, advice: str, followed: str) -> None:
    told = [each for each in journey(markup, name).findings if advice in each.message]
    assert told
    assert told[0].rule not in {each.rule for each in journey(followed, name).findings}
