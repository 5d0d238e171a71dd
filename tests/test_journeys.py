"""Whole journeys: limits, survival and verdicts from cases in data/journeys.toml, and what always holds."""

from __future__ import annotations

import pickle
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

import verse_tray
from support.editors import editor
from support.markup import NAMES, fragments
from support.soundness import KEPT, STRICT, assert_sound
from verse_tray.journeys import pipeline
from verse_tray.journeys.journey import Journey, journey
from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES, scheme_of
from verse_tray.markup.parse import browser_serialisation, parse_fragment
from verse_tray.markup.serialise import serialise
from verse_tray.piece import identity
from verse_tray.style.declarations import parse_declarations

CASES = tomllib.loads((Path(__file__).parent / "data" / "journeys.toml").read_text("utf-8"))["case"]


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_journey(case: dict[str, Any]) -> None:
    more = {key: case[key] for key in ("limits", "box", "reopen", "publish") if key in case}
    made = journey(case["markup"], editor(case.get("save", {}), **more))
    text, leaked, structure, look, behaviour, links, _ = made.survival
    counts = " ".join(f"{count.kept}/{count.of}" for count in (text, structure, look, behaviour, links))
    assert made.stages[-1].markup == case["published"]
    assert f"{counts} +{leaked}" == case["survival"]
    assert made.verdict == case["verdict"]
    if "uses" in case:
        assert [f"{use.measure} {use.unit} {use.used}/{use.most}" for use in made.limits] == case["uses"]
    if "findings" in case:
        assert [finding.rule for finding in made.findings] == case["findings"]
    if "changes" in case:
        assert [finding.rule for stage in made.stages for finding in (*stage.changes, *stage.notices)] == case[
            "changes"
        ]


def test_of_long_texts_the_same_is_told_though_less_is_kept(monkeypatch: pytest.MonkeyPatch) -> None:
    def told() -> list[object]:
        made = [journey(case["markup"], each) for case in CASES for each in ("article", "course-page", "note-field")]
        return [(each.verdict, each.findings, [stage.markup for stage in each.stages]) for each in made]

    of_short = told()
    for module in (pipeline, identity):
        monkeypatch.setattr(module, "_LONG", 0)
    assert told() == of_short


@settings(max_examples=150, deadline=None)
@given(fragments)
def test_an_editor_that_allows_everything_changes_nothing(markup: str) -> None:
    made = journey(markup, editor({}))
    assert made.stages[-1].markup == markup
    assert made.changes == ()
    assert made.verdict == "intact"


@settings(max_examples=250, deadline=None)
@given(fragments, st.sampled_from(["as-typed", "anew"]), st.sampled_from(["drop", "unwrap", "escape"]))
def test_nothing_forbidden_is_left_also_after_parsing_again(markup: str, writes: str, other: str) -> None:
    strict = editor({**STRICT, "writes": writes, "otherElements": other})
    made = journey(markup, strict)
    assert_sound(made)
    stored = made.stages[-1].markup
    for element in parse_fragment(stored).tree.elements():
        assert element.name in KEPT
        for name, value in element.attributes.items():
            assert name in STRICT["attributes"]
            assert name not in ADDRESS_ATTRIBUTES or scheme_of(value) in (None, "https")
            if name == "style":
                assert {declaration.name for declaration in parse_declarations(value)} <= {"color"}
    again = journey(stored, strict)
    assert browser_serialisation(again.stages[-1].markup) == browser_serialisation(stored)


@settings(max_examples=150, deadline=None)
@given(fragments, st.lists(st.sampled_from(NAMES), max_size=4), st.lists(st.sampled_from(NAMES), max_size=3))
def test_both_ways_of_writing_mean_the_same(markup: str, removed: list[str], unwrapped: list[str]) -> None:
    lists = {
        "removeElements": removed,
        "replaceWithChildrenElements": unwrapped,
        "removeAttributes": ["class", "style"],
    }
    typed, anew = (journey(markup, editor({**lists, "writes": writes})) for writes in ("as-typed", "anew"))
    written = anew.stages[-1].markup
    assume(browser_serialisation(written) == written)  # some trees cannot be written: browsers read another back
    assert browser_serialisation(typed.stages[-1].markup) == written
    assert typed.survival == anew.survival
    assert_sound(typed)
    assert_sound(anew)


@settings(max_examples=150, deadline=None)
@given(fragments, st.integers(1, 60), st.sampled_from(["characters", "utf-16", "bytes"]), st.booleans())
def test_a_cut_leaves_a_front_part(markup: str, most: int, unit: str, anew: bool) -> None:
    limit = {"measure": "stored", "unit": unit, "most": most, "over": "cut"}
    save = {"writes": "anew" if anew else "as-typed", "comments": False}
    made, whole = (journey(markup, editor(save, limits=limits)) for limits in ([limit], []))
    assert_sound(made)
    left = made.stages[-1].markup
    assert whole.stages[-1].markup.startswith(left.rstrip("\ufffd"))
    assert made.limits[0].exceeded == (left != whole.stages[-1].markup) == (len(made.changes) > len(whole.changes))


def test_of_a_learned_editor_it_is_told_what_is_a_guess() -> None:
    known = {"confidence": 90, "elements": ["p"], "attributes": ["style"], "properties": ["color"]}
    made = journey("<p title=t style='color:red;top:0'><x-y>a</x-y></p>", editor({}, learned=known))
    told = [f"{each.rule} {each.column} {each.message[:44]}" for each in made.findings]
    assert [row.removeprefix("learned/guess ") for row in told] == [
        "4 What becomes of the attribute title is a gue", "29 What becomes of the property top is a guess:",
        "36 What becomes of the element x-y is a guess: ",
    ]  # fmt: skip


def test_the_python_interface() -> None:
    made = verse_tray.journey("<p onclick=a>x</p>", verse_tray.load_editor("blog-post"))
    assert [stage.name for stage in made.stages] == ["written", "paste", "save", "reopen", "publish"]
    assert made.verdict == "damaged"
    assert made.findings[0].rule == "attributes/handler"
    assert (made.findings[0].line, made.findings[0].column) == (1, 4)
    assert verse_tray.journey("<p>x</p>", "mail-signoff").verdict == "intact"


@pytest.mark.parametrize("name", ["blog-post", "shop-description", "article", "framed-box"])
def test_a_journey_can_be_pickled_and_its_trees_are_made_anew(name: str) -> None:
    markup = "<p onclick=a>one 🦀 two 🐼</p>\n\n<b>x</b><b>y</b><script>z()</script>\n"
    made = journey(markup, name)
    again: Journey = pickle.loads(pickle.dumps(made))
    assert len(pickle.dumps(made)) < 40_000
    assert again.findings == made.findings
    assert again.survival == made.survival
    assert [(each.name, each.markup) for each in again.stages] == [(each.name, each.markup) for each in made.stages]
    assert [change.span for change in again.changes] == [change.span for change in made.changes]
    assert serialise(again.published).markup == serialise(made.published).markup
    assert [node.key for node in again.published.nodes()] == [node.key for node in made.published.nodes()]


def test_a_stage_keeps_its_tree_also_when_the_next_one_has_edited_it() -> None:
    made = journey(
        "<p onclick=a>one</p><font color=red>two</font>",
        editor(
            {"eventHandlers": False, "writes": "anew"},
            publish={"renameElements": {"font": "span"}, "removeElements": ["p"]},
        ),
    )
    saved = made.stage("save")
    assert serialise(saved.tree).markup == saved.markup == '<p>one</p><font color="red">two</font>'
    assert [node.key for node in saved.tree.nodes()] == [1, 2, 3, 4]
    assert made.stages[-1].markup == '<span color="red">two</span>'


def test_percentages_are_rounded_down_so_that_100_means_all() -> None:
    assert [Count(kept, of).percent for kept, of in ((0, 0), (0, 3), (2, 3), (999, 1000), (7, 7))] == [
        100,
        0,
        66,
        99,
        100,
    ]
