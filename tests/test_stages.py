"""What holds at every stage of every editor: nothing forbidden passes, all is accounted for, and rest is rest."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from support.editors import editor
from support.markup import fragments
from support.soundness import STRICT, assert_clean_or_told, assert_sound
from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.markup.parse import browser_serialisation
from verse_tray.markup.tree import Element, Text
from verse_tray.model.decoding import Source
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece

HOSTILE = tomllib.loads((Path(__file__).parent / "data" / "hostile.toml").read_text("utf-8"))
REOPENED = {
    "paragraphs": True,
    "whiteSpace": "fold",
    "nonBreakingSpaces": "plain",
    "quotes": "straight",
    "mergeElements": ["b", "i", "div"],
    "nesting": "repair",
    "removeEmptyElements": ["b", "i", "p", "span"],
    "trailingBreaks": "drop",
    "renameElements": {"b": "strong", "font": {"name": "span", "style": "color: red"}},
}
PAGE = {
    "addressLinks": True,
    "typography": "curly",
    "typographyInCode": True,
    "linkRel": ["nofollow"],
    "linkTarget": "_blank",
    "idPrefix": "u-",
    "classPrefix": "k-",
    "stylePrefix": ".post",
    "fill": {"opening": "te", "closing": "t", "values": {"x": "<y>"}, "unknown": "blank"},
    "beyond16Bits": "drop",
}


def all_editors() -> list[Editor]:
    """Return every stand-in with its variants, and editors of the test's own that use every rule."""
    named = [(name, load_editor(name)) for name in known_editors()]
    found = [each for _, each in named]
    found += [load_editor(f"{name}:{variant}") for name, each in named for variant in each.profile.variants]
    for other in ("drop", "unwrap", "escape"):
        strict = {**STRICT, "otherElements": other}
        found.append(editor({**strict, "writes": "as-typed"}, reopen={**strict, **REOPENED}, publish=PAGE))
        found.append(editor({**strict, "writes": "anew", "references": "named"}, paste={"pane": "visual-rich"}))
        found.append(editor({}, paste=strict, publish=strict))
    found.append(editor({"writes": "anew"}, reopen=REOPENED))
    found.append(editor({}, paste={"pane": "visual-text"}, publish=PAGE))
    return found


EDITORS = all_editors()


def assert_nothing_forbidden(made: Journey, reopened: int = 1) -> None:
    rules = made.editor.lists
    for stage in ("paste", "save", "reopen", "publish"):
        if stage in rules and (reopened or stage != "reopen") and not made.editor.profile.publish.fill:
            assert_clean_or_told(made, stage, rules[stage])
    if "save" in rules:  # what is opened is saved again
        assert_clean_or_told(made, "reopen", rules["save"])


@pytest.mark.parametrize("attempts", HOSTILE.values(), ids=list(HOSTILE))
def test_nothing_forbidden_passes_in_hostile_markup(attempts: list[str]) -> None:
    for markup in attempts:
        piece = Piece(Source(markup))
        for each in EDITORS:
            made = journey(piece, each)
            assert_nothing_forbidden(made)
            assert_sound(made)


@settings(max_examples=200, deadline=None)
@given(fragments, st.sampled_from(EDITORS), st.integers(0, 3))
def test_nothing_forbidden_passes_any_stage(markup: str, each: Editor, reopened: int) -> None:
    made = journey(markup, each, reopened=reopened)
    assert_nothing_forbidden(made, reopened)
    assert_sound(made)
    assert_accounted_for(made)


def assert_accounted_for(made: Journey) -> None:
    """Hold that every written text is still there, or stands where something was reported to go or to be rewritten."""
    typed = made.piece.source_map
    whole = any(change.rule == "pane/as-text" for change in made.changes)
    if typed.parsed.places.exactness != "exact" or not made.stages[-1].markup or whole:
        return
    told = [change.span for change in made.changes if change.span is not None]
    dropped = {change.span for change in made.changes if change.span is not None}
    outer = [
        span for e in made.piece.written_view.elements if typed.span(e) in dropped and (span := typed.outer_span(e))
    ]
    cut = min((c.span.start for c in made.changes if c.rule.endswith("/cut") and c.span), default=None)
    unplaced_cut = any(c.rule.endswith("/cut") and c.span is None for c in made.changes)
    published: dict[int, str] = {}
    for node in made.published.nodes():
        if isinstance(node, Text) and node.key:
            published[node.key] = published.get(node.key, "") + (node.data if node.means is None else node.means)
    for node in typed.parsed.tree.nodes():
        span = typed.span(node)
        if not isinstance(node, Text) or span is None or not node.data.strip():
            continue
        if "".join(published.get(node.key, "").split()) == "".join(node.data.split()):
            continue
        inside = any(place.start <= span.start and span.end <= place.end for place in outer)
        named = any(span.start <= place.start <= span.end or place == span for place in told)
        assert inside or named or unplaced_cut or (cut is not None and cut <= span.end), node.data


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.filter_too_much])
@given(fragments, st.sampled_from([each for each in EDITORS if each.profile.paste.pane == "source"]))
def test_a_stage_changes_nothing_in_its_own_result(markup: str, each: Editor) -> None:
    made = journey(markup, each)
    stored = made.stage("save").markup
    assume(stored and browser_serialisation(stored) == stored)
    again = journey(stored, each)
    assert again.stage("save").markup == stored
    rest = made.fixpoint
    if rest is not None and rest.comes:
        rested = journey(markup, each, reopened=rest.after).stage("reopen").markup
        assert journey(markup, each, reopened=rest.after + 2).stage("reopen").markup == rested


SWAPS = {"renameElements": {"div": "p", "p": "div"}}
GROWS = {"renameElements": {"b": {"name": "b2", "style": "top: 0"}, "b2": {"name": "b", "style": "top: 0"}}}


@pytest.mark.parametrize(
    ("reopen", "markup", "comes", "after", "cycle"),
    [
        ({}, "<p>x</p>", True, 0, 0),
        ({"removeEmptyElements": ["i"]}, "<p>x<i></i></p>", True, 1, 0),
        (SWAPS, "<p>x</p>", False, 2, 2),
        (GROWS, "<b>x</b>", False, 10, 0),
    ],
)
def test_rest(reopen: dict[str, object], markup: str, comes: bool, after: int, cycle: int) -> None:
    made = journey(markup, editor({}, reopen=reopen))
    assert made.fixpoint is not None
    assert (made.fixpoint.comes, made.fixpoint.after, made.fixpoint.cycle) == (comes, after, cycle)
    told = [notice.rule for notice in made.stage("reopen").notices]
    assert told == ([] if comes else ["reopen/never-rests"])


def test_a_piece_is_opened_as_often_as_asked_or_until_it_rests() -> None:
    for times, style in ((0, ""), (1, ' style="top: 0"'), (3, ' style="top: 0; top: 0; top: 0"')):
        made = journey("<b>x</b>", editor({}, reopen=GROWS), reopened=times)
        name = "b2" if times % 2 else "b"
        assert made.stage("reopen").markup == f"<{name}{style}>x</{name}>"
    rests = journey("<p>x<i></i></p>", editor({}, reopen={"removeEmptyElements": ["i"]}), reopened=9)
    assert rests.stage("reopen").markup == "<p>x</p>"


def test_a_change_of_a_later_stage_is_told_at_its_place_in_the_file() -> None:
    made = journey('<p>one</p>\n<p onclick="x">see https://a.example</p>', "blog-post")
    (change,) = (each for each in made.stage("publish").changes if each.rule == "address-links/made")
    assert change.span == Span(30, 47)
    assert made.piece.source.slice(change.span) == "https://a.example"
    assert isinstance(made.published.elements()[-1], Element)


@settings(max_examples=150, deadline=None)
@given(st.integers(4, 90), st.sampled_from(["ab & cd", "seven 🦀 pools", "one\n\ntwo three", "<b>six</b> o'clock"]))
def test_a_cut_is_told_where_it_falls(most: int, words: str) -> None:
    markup = f"<p onclick=x>{words}</p><i>{words}</i><p>the {words} of the last tide</p>"
    limit = {"measure": "stored", "unit": "characters", "most": most, "over": "cut"}
    made = journey(markup, editor({"removeAttributes": ["onclick"]}, limits=[limit]))
    for finding in made.findings:
        if finding.rule == "limits/cut":
            assert finding.line is not None
            assert finding.column is not None
            at = sum(len(line) + 1 for line in markup.split("\n")[: finding.line - 1]) + finding.column - 1
            stored, at = markup.replace(" onclick=x", ""), at - 10 * (at >= 13)
            # it is the place itself, or, where that lies in a tag, one that only tags lie between
            between = stored[min(at, most) : max(at, most)]
            assert re.fullmatch(r"(?:[^<>]*>)?(?:<[^>]*>)*(?:<[^>]*)?", between), (at, between)
