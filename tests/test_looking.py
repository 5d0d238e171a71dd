"""Looking at pieces in a browser: what is noticed, how alike things look, pictures, comparisons, the sheet itself."""

from __future__ import annotations

import base64
import re
import time
import tomllib
from collections.abc import Iterator
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
from PIL import Image, ImageChops

from support.editors import editor
from verse_tray.editors.load import Editor, load_editor, read_profile
from verse_tray.journeys.journey import journey
from verse_tray.preview.browser import Session
from verse_tray.preview.browser.screenshots import sheet_pdf, sheet_picture, view_pdf, view_picture
from verse_tray.preview.comparing import compare
from verse_tray.preview.measuring.render import render
from verse_tray.preview.measuring.rules.columns import fitting_size
from verse_tray.preview.measuring.show import look
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import journey_page
from verse_tray.preview.pages.window import Window
from verse_tray.preview.sheet import Shown, sheet
from verse_tray.style.conditions import holds
from verse_tray.style.media_queries import PHONE, media_holds

pytestmark = pytest.mark.browser

DATA = Path(__file__).parent / "data"
CASES = {
    name: tomllib.loads((DATA / f"{name}.toml").read_text("utf-8")) for name in ("rendered", "damages", "comparing")
}
WIDTHS = (1280, 375)
FRAME = "<!DOCTYPE html><html><head></head><body>\n<!-- piece -->\n</body></html>"
DAY = (
    "body { margin: 0; background: #fff; color: #222; font: 16px/1.4 'DejaVu Sans' } .verse-tray-piece { "
    "max-width: 640px; margin: 0 auto } @media (max-width: 600px) { .verse-tray-piece { max-width: 340px } } td { "
    "padding: 4px 8px } sup { font-size: 11px }"
)
NIGHT = DAY.replace("#fff", "#111").replace("#222", "#eee")
COLUMN = Editor("column", read_profile({"title": "t", "summary": "s"}, "t"), FRAME, DAY)

OVER = """() => [...document.querySelectorAll('figure')].map(figure => {
  const picture = figure.querySelector('iframe').contentDocument.querySelector('img')?.getBoundingClientRect();
  const mark = figure.querySelector('.mark.gone');
  const scale = figure.querySelector('.view').clientWidth / figure.dataset.width;
  const near = (one, two) => Math.abs(one - two * scale) < 2;
  return [Boolean(picture), mark && near(mark.offsetLeft, picture.x) && near(mark.offsetWidth, picture.width)];
})"""


@pytest.fixture(scope="module")
def session() -> Iterator[Session]:
    with Session() as opened:
        yield opened


@pytest.fixture(scope="module")
def home(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("home")
    Image.new("RGB", (400, 200), "teal").save(folder / "wide.png")
    return folder


def test_a_page_is_there_as_a_whole_when_it_is_looked_at(session: Session) -> None:
    into = load_editor("framed-box")
    for count in (1, 12, 12, 12, 12):
        piece = "<p>low</p><iframe srcdoc=x></iframe><img src=a.png><video controls></video>" * count
        facts = look(session, journey(piece, into), "published", into.theme, 1280, LocalPictures())
        assert sum(each.name == "p" and each.shown for each in facts.elements) == count


def test_the_browser_loads_pages_and_nothing_of_its_own(session: Session) -> None:
    asked = session.tab.context.browser
    assert asked
    found = asked.new_browser_cdp_session().send("Target.getTargets", {"filter": [{}]})["targetInfos"]
    assert {each["type"] for each in found} == {"page", "tab"}


NAMES = (
    "open write close querySelector querySelectorAll fonts images body documentElement defaultView createElement "
    "createTreeWalker createRange getAnimations children childNodes parentElement localName clientWidth clientHeight "
    "clientLeft scrollWidth scrollHeight getBoundingClientRect getClientRects checkVisibility dataset ownerDocument "
    "nextElementSibling getRootNode matches getAttribute attributes style tagName"
).split()


@pytest.mark.parametrize("into", ["code-box", "framed-box"])
def test_names_in_a_piece_hide_nothing_from_what_looks(session: Session, into: str) -> None:
    pages, marks = [], []
    for names in (NAMES, [f"n{number}" for number in range(len(NAMES))]):
        fields = "".join(f"<input name={name}>" for name in names)
        pictures = "".join(f"<img name={name} alt=x width=9 height=9><embed name={name}>" for name in names)
        markup = f"<form name=body><p style='width: 2000px'>low<p onclick='x()'>x</p>{fields}</form>{pictures}"
        made = journey(markup, load_editor(into))
        for _ in range(2):
            pages.append(look(session, made, "published", DAY, 375, LocalPictures()))
        sheet_picture(session, sheet([made], LocalPictures(), Shown(("written", "published"))))
        marks.append(session.evaluate("() => [...document.querySelectorAll('.mark')].map(each => each.style.cssText)"))
        assert view_picture(session, journey_page(made, "published", DAY, LocalPictures()).html, 375, "piece")
    assert pages[0] == pages[1] == pages[2] == pages[3]
    assert marks[0] == marks[1]
    assert any(each.name == "form" and each.width for each in pages[0].elements)


@pytest.mark.parametrize("case", CASES["rendered"]["case"], ids=lambda case: case["name"])
def test_what_a_person_would_notice(session: Session, home: Path, case: dict[str, Any]) -> None:
    themes = {"day": DAY, "night": NIGHT} if case.get("themes") else {"day": DAY}
    seen = render(session, journey(case["markup"], COLUMN), themes, WIDTHS, LocalPictures(home), compare=False)
    told = {f"{each.rule.removeprefix('render/')} {each.line}:{each.column}": each.message for each in seen.findings}
    wanted = [re.match(r"(\S+ \d+:\d+) (.*)", each) for each in case["seen"]]
    assert sorted(told) == sorted(each[1] for each in wanted if each), told
    for each in wanted:
        assert each
        assert each[2] in told[each[1]]


def test_the_text_size_that_is_named_does_fit(session: Session) -> None:
    cells = '<td style="padding: 4px 8px; font-size: {0}px">'
    markup = (
        f"<table><tr>{cells}Saturday the 28th of November</td>{cells}05:00, at the slipway</td>{cells}back by "
        "half past nine</td></tr></table>"
    )
    facts = look(session, journey(markup.format(20), COLUMN), "published", DAY, 375, LocalPictures())
    size = fitting_size(facts.tables[0])
    assert 10 < size < 20
    again = look(session, journey(markup.format(size), COLUMN), "published", DAY, 375, LocalPictures())
    assert all(column.tight > 8 for column in again.tables[0].columns)
    assert all(not each.shown or each.right <= again.piece[0] + again.piece[2] + 1 for each in again.elements)


def test_an_element_is_measured_where_it_stands_also_in_a_frame_of_its_own(session: Session) -> None:
    markup = "<p style='position: absolute; left: 50px; top: 30px; width: 100px; margin: 0'>low</p>"
    boxed = Editor("boxed", read_profile({"title": "t", "summary": "s", "box": {"width": 300, "height": 200}}, "t"),
                   FRAME.replace("<!--", "<div style='height: 70px'></div><!--", 1), "body { margin: 0 }")  # fmt: skip
    facts = look(session, journey(markup, boxed), "published", boxed.theme, 800, LocalPictures())
    (found,) = facts.elements
    assert (found.x, found.y, found.width) == (50, 100, 100)
    assert facts.box is not None
    assert facts.box[1:3] == (300, 200)


def test_damages_score_in_the_order_in_which_a_person_would_rank_them(session: Session, tmp_path: Path) -> None:
    scores = []
    for damage in CASES["damages"]["damage"]:
        made = journey(CASES["damages"]["piece"], editor(damage["save"]))
        seen = render(session, made, {"day": ""}, WIDTHS, LocalPictures(tmp_path), compare=True)
        assert seen.score is not None
        scores.append((damage["rank"], seen.score, damage["name"]))
    assert scores[0][1] == 1
    assert scores[-1][1] == 0
    for rank, score, name in scores:
        assert all(score > other for below, other, _ in scores if below > rank), (name, scores)


def test_each_element_has_a_score_of_its_own(session: Session) -> None:
    made = journey("<p>stays</p><p style='color: red; font-size: 40px'>changes</p><hr>",
                   editor({"removeAttributes": ["style"], "removeElements": ["hr"]}))  # fmt: skip
    (alike,) = render(session, made, {"": ""}, (800,), LocalPictures(), compare=True).likeness.values()
    keys = [element.key for element in made.piece.parsed.tree.elements()]
    assert alike.elements[keys[0]] > 0.99
    assert alike.elements[keys[1]] < 0.7
    assert alike.elements[keys[2]] == 0
    seen = render(session, journey(made.piece.source.text, COLUMN), {"": ""}, (800,), LocalPictures(), compare=True)
    assert seen.score == 1
    assert seen.likeness[Window(800, "")].elements == dict.fromkeys(keys, 1.0)  # as nothing of it has changed


def test_what_is_kept_and_no_longer_seen_is_told(session: Session) -> None:
    icon = (
        '<p>Low <i style="display: inline-block; width: 20px; height: 20px; background: teal"></i></p><p '
        "hidden>never seen</p>"
    )
    for styles, rules in ((["display", "background"], ["render/vanished"]), (["color"], [])):
        made = journey(icon, editor({"styles": {"removeProperties": styles}}))
        seen = render(session, made, {"": ""}, (800,), LocalPictures(), compare=True)
        assert [each.rule for each in seen.findings] == rules
        assert [(each.line, each.column) for each in seen.findings] == [(1, 8)] * len(rules)


def test_one_view_is_the_same_picture_twice_as_wide_as_its_window(session: Session) -> None:
    made = journey(
        "<h2>Pools</h2><progress></progress><marquee>low</marquee><div style='width: 900px; height: 1500px'>x", COLUMN
    )
    page = journey_page(made, "published", DAY, LocalPictures()).html
    first, second = (view_picture(session, page, 375) for _ in range(2))
    assert first == second
    assert Image.open(BytesIO(first)).size[0] == 375
    assert Image.open(BytesIO(first)).size[1] > 1500
    assert Image.open(BytesIO(view_picture(session, page, 375, "window"))).size == (375, 800)
    assert Image.open(BytesIO(view_picture(session, page, 375, "piece"))).size[0] == 340
    assert view_pdf(session, page, 375) == view_pdf(session, page, 375)


def test_what_moves_by_itself_is_the_same_picture_at_any_moment(session: Session, tmp_path: Path) -> None:
    case = tomllib.loads((DATA / "moving.toml").read_text("utf-8"))
    (tmp_path / "crab.svg").write_text(case["drawing"], "utf-8")
    coded = base64.b64encode(case["drawing"].encode()).decode()
    pieces = [each.replace("DRAWING", case["drawing"]).replace("BASE64", coded) for each in case["pieces"]]
    page = journey_page(journey("".join(pieces), COLUMN), "written", DAY, LocalPictures(tmp_path)).html
    pictures = []
    for late in (0, 0.13, 0.31, 0.47):
        session.open(f"{page}<!-- {late} -->", 800)
        time.sleep(late)
        pictures.append(Image.open(BytesIO(session.picture())).convert("RGB"))
    assert [ImageChops.difference(pictures[0], each).getbbox() for each in pictures[1:]] == [None] * 3
    red = sum(count for count, colour in pictures[0].getcolors(1 << 24) or () if colour == (255, 0, 0))
    assert red >= 20 * 20 * sum("red" in each or "crab.svg" in each or coded in each for each in pieces)


def test_a_sheet_is_the_same_picture_twice_and_shows_what_is_lost(session: Session) -> None:
    lost = journey("<p style='color:red;font-size:90px'>Shore</p><img src=x.png width=300 "
                   "height=90><style>p{background:navy}</style>",
                   load_editor("note-field"))  # fmt: skip
    made = sheet([lost], LocalPictures(stored=True), Shown(("written", "published"), (1280,)))
    first, second = (Image.open(BytesIO(sheet_picture(session, made))).convert("RGB") for _ in range(2))
    assert first.size[0] == 1280
    assert ImageChops.difference(first, second).getbbox() is None
    assert sheet_pdf(session, made) == sheet_pdf(session, made)
    # the mark of the picture lies over the picture, in the written view only
    session.open(made.decode(), 1280, policy="")
    session.evaluate("() => window.drawAll()")
    over = session.evaluate(OVER)
    assert over == [[True, True], [False, None]]


def test_a_view_opens_large_by_key_and_a_finding_leads_to_its_element(session: Session) -> None:
    made = sheet([journey("<p onclick=x>low</p>", load_editor("blog-post"))], LocalPictures(stored=True)).decode()
    session.open(made, 1280, policy="")
    session.evaluate("() => window.drawAll()")
    tab = session.tab
    tab.locator(".view button").first.focus()
    tab.keyboard.press("Enter")
    tab.wait_for_selector("dialog[open] .holder iframe")
    assert "onclick" in tab.locator(".details").inner_text()
    tab.locator(".details button.place").first.click()
    assert tab.locator(".mark.asked").count() == 1
    tab.keyboard.press("Escape")
    assert tab.locator("dialog[open]").count() == 0
    assert tab.evaluate("document.activeElement.getAttribute('aria-label')").startswith(
        "Open larger: blog-post, as written"
    )
    tab.keyboard.press("Enter")
    tab.locator("dialog .choices button").first.focus()
    tab.keyboard.press("ArrowRight")
    pressed = tab.locator("dialog [aria-pressed=true]").inner_text()
    assert "375" in pressed


@pytest.mark.parametrize("case", CASES["comparing"]["case"], ids=lambda case: case["name"])
def test_what_differs_between_two_pieces(session: Session, case: dict[str, Any]) -> None:
    pieces = [journey(case[name], editor({})) for name in ("first", "second")]
    made = compare(session, pieces[0], pieces[1], "published", "", (800,), (LocalPictures(), LocalPictures()))
    told = [f"{each.name}, {each.what}: {each.values[0]} | {each.values[1]}" for each in made.found[800]]
    assert told == case["differs"]
    names = [{e.key: e.name for e in piece.piece.parsed.tree.elements()} for piece in pieces]
    alone = [[names[0][key] for key in made.aligned.first_only], [names[1][key] for key in made.aligned.second_only]]
    assert alone == case.get("only", [[], []])
    assert made.same == (not told and alone == [[], []])


@pytest.mark.parametrize("width", WIDTHS)
def test_media_queries_hold_where_the_browser_says_so(session: Session, width: int) -> None:
    asked = tomllib.loads((DATA / "asked.toml").read_text("utf-8"))
    rows = [*asked["never"], *asked["fine"], *asked["also"]]
    if width <= PHONE:  # nobody touches this window
        rows = [row for row in rows if "hover" not in row and "pointer" not in row]
    session.open("<p>x", width, policy="")
    theirs = dict(zip(rows, session.evaluate("rows => rows.map(row => matchMedia(row).matches)", rows), strict=True))
    ours = {row: media_holds(row, width) for row in rows}
    assert {row: holds for row, holds in ours.items() if holds is not None} == {
        row: theirs[row] for row, holds in ours.items() if holds is not None
    }
    unsure = [row for row, holds in ours.items() if holds is None]
    assert all(re.search("height|ratio|resolution|orientation:|device|calc", row) for row in unsure)


def test_what_browsers_support_is_what_the_browser_says(session: Session) -> None:
    rows = tomllib.loads((DATA / "asked.toml").read_text("utf-8"))["supports"]
    session.open("<p>x", 800, policy="")
    theirs = session.evaluate(
        """rows => rows.map(row => {
          const sheet = new CSSStyleSheet();
          sheet.replaceSync(`@supports ${row} { p { --held: 1 } }`);
          document.adoptedStyleSheets = [sheet];
          return getComputedStyle(document.querySelector("p")).getPropertyValue("--held") === "1";
        })""",
        rows,
    )
    assert {row: holds((("supports", row),), 800) for row in rows} == dict(zip(rows, theirs, strict=True))
