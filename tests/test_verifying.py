"""Verifying: what became of a piece in a page, in what is stored, and which rule would explain it."""

from __future__ import annotations

import html
import json
import random
import re
import tomllib
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings

from support.markup import fragments
from support.program import run
from verse_tray.editors.load import load_editor
from verse_tray.journeys.journey import journey
from verse_tray.markup.parse import browser_serialisation
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.verifying.leaves import Leaves
from verse_tray.verifying.pairing import paired
from verse_tray.verifying.verified import GOOD, Verified

CASES = tomllib.loads((Path(__file__).parent / "data" / "live_pages.toml").read_text("utf-8"))["case"]
PIECE = """<h2>Low water</h2>
<p style="color: #1d4f53">Meet at the <b>slipway</b>, not at the kiosk; <a href="https://notes.example.org/tides">tides</a>.</p>
<p>Bring:</p>
<ul><li>boots, and a lamp</li>
<li>a slate and a pencil</li></ul>
<p><img src="https://pictures.example.org/gannet.png" alt="A gannet" width="300" height="200"></p>
"""
OLD = PIECE.replace("slipway", "lighthouse").replace("a pencil", "two pencils")
FRAMES = {
    "a plain page": "<main><div class=\"entry\">{}</div></main>",
    "among other items": "<main><article><h2>Neap tide</h2><p>Meet at the kiosk.</p></article>"
    "<div class=\"entry\">{}</div><article><h2>Spring tide</h2><ul><li>boots</li><li>a lamp</li></ul></article></main>",
    "beside others in one element": "<div class=\"entry\"><h2>Neap tide</h2><p>Meet at noon.</p>{}"
    "<p>Posted by Maren.</p></div>",
}  # fmt: skip


def page_with(published: str, frame: str, change: list[str] | None = None) -> str:
    body = FRAMES[frame].format(f"<!-- here -->{published}<!-- end -->")
    head = "<head><title>t</title><style>p { margin: 0 }</style></head>"
    page = f"<!DOCTYPE html><html>{head}<body><header>Notes</header>{body}</body></html>"
    if change is None:
        return page
    old = journey(OLD, "blog-post", reopened=0).stage("publish").markup
    stands_for = {
        "ESCAPED": f"<p>{html.escape(PIECE)}</p>",
        "OLD": old,
        "FRAMED": f'<iframe srcdoc="{html.escape(published)}"></iframe>',
    }
    new = re.sub(change[0], lambda found: stands_for.get(change[1]) or found.expand(change[1]), page)
    assert new != page
    return new


@pytest.mark.parametrize("frame", FRAMES)
@pytest.mark.parametrize("case", CASES, ids=lambda case: case["name"])
def test_a_live_page_is_judged_right(case: dict[str, Any], frame: str) -> None:
    verified = Verified(Piece(Source(PIECE)), load_editor("blog-post"), [Piece(Source(OLD))])
    published = verified.journeys[0].stage("publish").markup
    if (change := case.get("change")) is not None:
        changed = re.sub(str(change[0]), str(change[1]), published)
        assert changed != published
        published = changed
    held = verified.hold_page(page_with(published, frame, case.get("page")))
    sentences = [each.finding.message for each in held.told]
    assert held.state == case["is"], (sentences, held.within)
    if held.state == "otherwise":
        expected: list[str] = case.get("told", [])
        assert all(any(part in each for each in sentences) for part in expected), sentences
        assert len(sentences) <= len(expected) + 1, sentences


@settings(max_examples=120, deadline=None)
@given(fragments)
def test_what_is_published_is_found_as_predicted(markup: str) -> None:
    for name in ("sidebar-box", "article", "course-page"):
        verified = Verified(Piece(Source(markup)), load_editor(name))
        assert verified.hold_stored(verified.journeys[0].stage("save").markup).state in GOOD or not markup.strip()
        published = verified.journeys[0].stage("publish")
        closed = browser_serialisation(published.markup) == published.markup  # else it goes on into the page
        if closed and len(set(Leaves(published.tree.root.children).tokens)) > 5:
            page = f"<!DOCTYPE html><html><body><header>Notes</header><main>{published.markup}</main></body></html>"
            assert verified.hold_page(page).state in ("as-predicted", "several", "hidden"), page


def test_pairing_is_right_and_ascending() -> None:
    rng = random.Random(3)
    for _ in range(60):
        one = rng.choices("abcdefgh", k=rng.randint(0, 60))
        other = [each for each in one if rng.random() > 0.2]
        other.insert(rng.randint(0, len(other)), "z")
        pairs = paired(one, other)
        assert all(one[i] == other[j] for i, j in pairs)
        assert all(a < c and b < d for (a, b), (c, d) in pairwise(pairs))
        assert len(pairs) >= 0.7 * (len(other) - 1)


def test_what_repeats_itself_is_found_too() -> None:
    rows = "".join(f"<tr><td>{each % 3}</td><td>{each % 5}</td></tr>" for each in range(400))
    many = "".join(f"<p>Pool {each} had {each % 7} limpets.</p>" for each in range(2000))
    for piece in (f"<table>{rows}</table>", "<p>low</p>", "<hr>", f"<p>{'low ' * 900}</p>", many):
        verified = Verified(Piece(Source(piece)), load_editor("blog-post"))
        published = verified.journeys[0].stage("publish").markup
        page = f"<!DOCTYPE html><html><body><p>Notes of the shore</p><main>{published}</main></body></html>"
        assert verified.hold_page(page).state == "as-predicted", piece[:40]
        assert verified.hold_page(page.replace(published, "")).state == "absent", piece[:40]
        assert verified.hold_page(page.replace("<main>", f"<main>{published}<p>x</p>")).state == "several", piece[:40]


def test_the_rule_that_explains_is_named() -> None:
    text = PIECE * 3
    for pattern, new, key in (
        ("</?b>", "", "save.replaceWithChildrenElements + b"),
        (r'(?<=<p) style="[^"]*"', "", "save.removeAttributes + style"),
        ("<img[^>]*>", "", "save.removeElements + img"), (r"<(/?)b>", r"<\1strong>", "save.renameElements"),
    ):  # fmt: skip
        verified = Verified(Piece(Source(text)), load_editor("sidebar-box"))
        stored = re.sub(pattern, new, verified.journeys[0].stage("save").markup)
        held = verified.hold_stored(stored)
        assert held.state == "otherwise"
        assert held.explained is not None, pattern
        assert key in held.explained.key
        assert held.explained.explains == held.explained.of
    assert {each.finding.line for each in held.told if each.finding.line} == {2, 8, 14}


def test_the_command_tells_all_of_it(tmp_path: Path) -> None:
    (tmp_path / "piece.html").write_text(PIECE, "utf-8")
    (tmp_path / "old.html").write_text(OLD, "utf-8")
    went = journey(PIECE, "course-page", reopened=0)
    (tmp_path / "stored.html").write_text(went.stage("save").markup, "utf-8")
    (tmp_path / "page.html").write_text(page_with(went.stage("publish").markup, "a plain page"), "utf-8")
    asked = ("verify", "piece.html", "--editor", "course-page")
    good = run(*asked, "--stored", "stored.html", "--page", "page.html", cwd=tmp_path)
    assert (good.returncode, "as predicted, to the letter" in good.stdout) == (0, True), good.stdout
    from_pipe = run(*asked, "--stored", "-", "--format", "json", cwd=tmp_path, stdin=b"<p>Other things</p>")
    (record,) = json.loads(from_pipe.stdout)["verified"]
    assert (from_pipe.returncode, record["asPredicted"], record["held"][0]["state"]) == (1, False, "otherwise")
    old = journey(OLD, "course-page", reopened=0).stage("publish").markup
    (tmp_path / "page.html").write_text(page_with(old, "among other items"), "utf-8")
    told = run(*asked, "--page", "page.html", "--before", "old.html", cwd=tmp_path)
    assert (told.returncode, "still the old version" in told.stdout) == (1, True), told.stdout
    junit = run(*asked, "--page", "page.html", "--format", "junit", cwd=tmp_path)
    assert 'type="otherwise"' in junit.stdout
    for wrong, expected in (
        ((), "name the editor"), (("--editor", "blog-post"), "say what to hold"),
        (("--editor", "blog-post", "--stored", "-", "--page", "-"), "only one"),
        (("--editor", "blog-post", "--page", "none.html"), "no such file"),
        (("--editor", "blog-post", "--page", "http://notes.example.org/"), "Use https:"),
    ):  # fmt: skip
        failed = run("verify", "piece.html", *wrong, *(("--stored", "stored.html") if not wrong else ()), cwd=tmp_path)
        assert (failed.returncode, expected in failed.stderr) == (2, True), failed.stderr
    assert "was sent anywhere" in run("verify", cwd=tmp_path).stderr
