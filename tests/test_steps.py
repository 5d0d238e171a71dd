"""What each rule of a profile does, from cases in data/steps.toml."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path
from typing import Any

import pytest

from verse_tray.editors.lists import Rules
from verse_tray.editors.load import Editor, read_profile
from verse_tray.editors.profile import Save
from verse_tray.journeys.journey import Journey, journey
from verse_tray.journeys.state import State
from verse_tray.journeys.steps import FILTER, FINISHING, OPENING, PANE
from verse_tray.model.decoding import Source
from verse_tray.model.errors import ContractError
from verse_tray.model.findings import Change, Severity
from verse_tray.piece.piece import Piece

STAGES = ("paste", "reopen", "publish", "limits", "box", "view", "regions")
ROOT = Path(__file__).parent
CASES = tomllib.loads((ROOT / "data" / "steps.toml").read_text("utf-8"))["case"]


def editor(save: dict[str, Any], **more: Any) -> Editor:
    """Make an editor from the tables of a profile."""
    data = {"title": "t", "summary": "s", "save": save, **more}
    return Editor("test", read_profile(data, "test"))


def told(made: Journey) -> list[str]:
    """Return the changes as ``rule line:column what stands there``."""
    source = made.piece.source

    def row(change: Change) -> str:
        if change.span is None:
            return f"{change.rule} - -"
        line, column = source.place(change.span.start)
        return f"{change.rule} {line}:{column} {source.slice(change.span)}"

    return [row(change) for change in made.changes]


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


def state_of(markup: str) -> State:
    piece = Piece(Source(markup))
    return State(piece.parsed.tree.clone(), piece, piece.source_map, Rules(Save()), "save")


def silent_edit(state: State) -> None:
    state.tree.set_attribute(state.elements[0], "class", "x")


def empty_report(state: State) -> None:
    state.pen.set_attribute(state.elements[0], "class", "x", [])


def report_without_edit(state: State) -> None:
    element, pen = state.elements[0], state.pen
    pen.set_attribute(element, "id", "a", [pen.change("r", "m", Severity.NOTE, element)])


def two_fates(state: State) -> None:
    element, pen = state.elements[0], state.pen
    for _ in range(2):
        pen.drop(element, pen.change("r", "m", Severity.NOTE, element))


@pytest.mark.parametrize("step", [silent_edit, empty_report, report_without_edit, two_fates])
def test_the_engine_enforces_its_contract(step: Any) -> None:
    with pytest.raises(ContractError):
        state_of("<p id=a>x</p>").run(step)


def test_the_documented_order_is_the_order() -> None:
    page = (ROOT.parent / "docs" / "architecture.md").read_text("utf-8")
    table = page.split("## The order of the steps")[1].split("## ")[0]
    rows = {row.split("`")[1]: row for row in table.splitlines() if row.startswith("| ") and "`" in row}
    for step in (*PANE, *OPENING, *FILTER, *FINISHING):
        for key in step.keys:
            words = key.split("_")
            assert (
                "".join([words[0], *(word.capitalize() for word in words[1:])]) in rows[step.name] or key == "elements"
            )
    steps = [step.name for step in (*PANE, *OPENING, *FILTER, *FINISHING)]
    assert re.findall(r"^\| \d+ \| `([a-z-]+)`", table, re.MULTILINE) == steps
