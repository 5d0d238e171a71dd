"""What each rule of a profile does, from cases in data/steps.toml."""

from __future__ import annotations

import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from support.editors import editor, told
from support.markup import fragments
from support.reports import typed
from verse_tray.editors.lists import Lists
from verse_tray.editors.profile import Save
from verse_tray.journeys import pipeline
from verse_tray.journeys.journey import journey
from verse_tray.journeys.state import State
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.decoding import Source
from verse_tray.model.errors import ContractError
from verse_tray.model.findings import Change, Severity
from verse_tray.piece.piece import Piece

STAGES = ("paste", "reopen", "publish", "limits", "box", "view", "regions")
CASES = tomllib.loads((Path(__file__).parent / "data" / "steps.toml").read_text("utf-8"))["case"]


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_step(case: dict[str, Any]) -> None:
    more = {key: case[key] for key in STAGES if key in case}
    made = journey(case["markup"].lstrip("\n"), editor(case.get("save", {}), **more))
    assert [stage.name for stage in made.stages] == ["written", "paste", "save", "reopen", "publish"]
    assert made.stages[-1].markup == case["stored"].lstrip("\n")
    assert told(made) == case["changes"]
    if "verdict" in case:
        assert [notice.rule for stage in made.stages for notice in stage.notices] == case.get("notices", [])
        assert made.verdict == case["verdict"]
    if "places" in case:
        spans = [notice.span for stage in made.stages for notice in stage.notices if notice.span is not None]
        shown = [(made.piece.source.place(span.start), made.piece.source.slice(span)) for span in spans]
        assert [f"{line}:{column} {text}" for (line, column), text in shown] == case["places"]


def state_of(markup: str) -> State:
    piece = Piece(Source(markup))
    return State(piece.parsed.tree.clone(), piece, piece.source_map, Lists(Save()), "save")


def about(state: State, node: Node, rule: str = "step/x") -> Change:
    return state.edits.change(rule, "m", Severity.NOTE, node)


def attribute_behind_its_back(state: State) -> None:
    state.elements[0].attributes["class"] = "x"


def attribute_through_the_tree(state: State) -> None:
    state.tree.set_attribute(state.elements[0], "class", "x")


def name_behind_its_back(state: State) -> None:
    state.elements[0].name = "div"


def text_behind_its_back(state: State) -> None:
    state.texts()[0][0].data = "y"


def children_behind_its_back(state: State) -> None:
    state.elements[0].children.append(Text("y"))


def order_behind_its_back(state: State) -> None:
    state.tree.root.children.reverse()


def fate_behind_its_back(state: State) -> None:
    state.tree.set_fate(state.elements[0], "drop")


def fate_written_by_hand(state: State) -> None:
    state.elements[0].fate = "unwrap"
    state.tree.unsettled = True
    state.settle()


def change_without_edit(state: State) -> None:
    change = about(state, state.elements[0])
    state.edits._changes[id(change)] = change


def no_change(state: State) -> None:
    state.edits.set_attribute(state.elements[0], "class", "x", [])


def same_value(state: State) -> None:
    element = state.elements[0]
    state.edits.set_attribute(element, "id", "a", [about(state, element)])


def same_name(state: State) -> None:
    state.edits.rename(state.elements[0], "p", about(state, state.elements[0]))


def same_children(state: State) -> None:
    root = state.tree.root
    state.edits.rearrange(root, list(root.children), [about(state, state.elements[0])])


def two_fates(state: State) -> None:
    for _ in range(2):
        state.edits.drop(state.elements[0], about(state, state.elements[0]))


def another_element(state: State) -> None:
    state.edits.set_attribute(state.elements[0], "class", "x", [about(state, state.elements[1])])


def unknown_rule(state: State) -> None:
    state.edits.drop(state.elements[0], about(state, state.elements[0], "other/x"))


def unplaced_change(state: State) -> None:
    state.edits.drop(state.elements[0], Change("step/x", "save", "m", Severity.NOTE))


def nothing_to_clear(state: State) -> None:
    state.edits.clear(state.elements[2], about(state, state.elements[2]))


def an_equal_node(state: State) -> None:
    text = state.texts()[0][0]
    state.edits.replace(text, [Text(text.data, text.key)], [about(state, text)])


def an_equal_element(state: State) -> None:
    element = state.elements[0]
    copy = Element(element.name, attributes=dict(element.attributes), key=element.key, children=list(element.children))
    state.edits.replace(element, [copy], [about(state, element)])


def itself(state: State) -> None:
    element = state.elements[0]
    state.edits.replace(element, [element], [about(state, element)])


def itself_inside_another(state: State) -> None:
    element = state.elements[0]
    state.edits.replace(element, [Element("div", children=[element])], [about(state, element)])
    state.settle()


def one_in_two_places(state: State) -> None:
    first, second, third = state.elements[:3]
    state.edits.rearrange(third, [*first.children], [about(state, third)])
    state.edits.rearrange(second, [*first.children], [about(state, second)])


CHEATS = (
    *(attribute_behind_its_back, attribute_through_the_tree, name_behind_its_back, text_behind_its_back),
    *(children_behind_its_back, order_behind_its_back, fate_behind_its_back, fate_written_by_hand),
    *(change_without_edit, no_change, same_value, same_name, same_children, two_fates, another_element),
    *(unknown_rule, unplaced_change, nothing_to_clear, an_equal_node, an_equal_element, itself, itself_inside_another),
    one_in_two_places,
)


@pytest.mark.parametrize("cheat", CHEATS, ids=lambda cheat: cheat.__name__)
def test_the_engine_enforces_its_contract(cheat: Callable[[State], None]) -> None:
    with pytest.raises(ContractError):
        state_of("<p id=a>x</p><b>y</b><i></i>").run("step", cheat)


def test_nothing_is_altered_between_steps() -> None:
    state = state_of("<p id=a>x</p>")
    state.run("step", lambda _: None)
    state.elements[0].attributes["id"] = "b"
    with pytest.raises(ContractError, match="step altered <p> without an edit"):
        state.run("step", lambda _: None)


@settings(max_examples=100, deadline=None)
@example("<a href=x><div>a", ["Enter", "x"])
@example("<li><p>a", ["Enter", "Enter"])
@given(fragments, st.lists(st.sampled_from(("Enter", "Shift+Enter", "x")), max_size=5))
def test_whatever_stands_there_something_can_be_typed_behind_it(markup: str, keys: list[str]) -> None:
    stored = journey(markup, editor({}, reopen={}), typed=tuple(keys)).stage("reopen").markup
    assert stored.count("x") >= keys.count("x")


def test_what_is_typed_is_what_was_held_against_a_browser() -> None:
    assert list(typed()) == (Path(__file__).parent / "data" / "typed.txt").read_text("utf-8").splitlines()


def test_a_drawing_s_style_that_moves_to_the_front_is_told_as_another_one() -> None:
    front = editor({"styleElements": "front"})
    told = {
        name: journey(f"<p>x</p>{markup}", front).findings[0]
        for name, markup in (("page", "<style>b{top:0}</style>"), ("drawing", "<svg><style>b{top:0}</style></svg>"))
    }
    assert told["page"].severity == "note" and "does there what it did here" in told["page"].message
    assert told["drawing"].severity == "warning" and "Browsers read it otherwise" in told["drawing"].message


def test_a_piece_that_never_gets_safe_is_refused_and_told(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(pipeline, "_MOST_ROUNDS", 1)
    strict = editor({"styleElements": "front", "eventHandlers": False, "cleans": "until-safe"})
    made = journey("<p>a</p><svg><style><!--</style><img src=x onerror=go()>--></style></svg>", strict)
    assert "writing/never-safe" in [finding.rule for finding in made.findings]
    assert (made.stages[-1].markup, made.verdict) == ("", "broken")
