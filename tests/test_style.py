"""Declarations, sheets and the cascade, from cases in data/styles.toml."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from verse_tray.markup.parse import parse_fragment
from verse_tray.piece.view import View
from verse_tray.style.declarations import DEEPEST_BRACKETS, parse_declarations
from verse_tray.style.sheets import parse_sheet

CASES = tomllib.loads((Path(__file__).parent / "data" / "styles.toml").read_text("utf-8"))


@pytest.mark.parametrize("case", CASES["declarations"], ids=lambda case: case["text"][:30])
def test_declarations(case: dict[str, Any]) -> None:
    text = case["text"]
    rows = [
        f"{name} | {value} | {'!' if important else ''} | {text[span.start : span.end]}"
        for name, value, important, span in parse_declarations(text)
    ]
    assert rows == case["found"]


@pytest.mark.parametrize("case", CASES["sheets"], ids=lambda case: case["text"][:30])
def test_sheets(case: dict[str, Any]) -> None:
    text = case["text"]
    sheet = parse_sheet(text)
    rows = []
    for rule in sheet.rules:
        typed = "; ".join(text[d.span.start : d.span.end] for d in rule.declarations)
        rows.append(f"{rule.selectors} | {rule.condition} | {typed}")
    assert rows + [named.name for named in sheet.named] == case["found"]


@pytest.mark.parametrize("case", CASES["cascade"], ids=lambda case: case["name"])
def test_cascade(case: dict[str, Any]) -> None:
    view = View(parse_fragment(case["markup"]).tree)
    rows = []
    for element in view.elements:
        won = view.cascade.winners.get(element.key, {})
        rows += sorted(f"{element.name}: {place} {value}" for place, (value, _) in won.items())
    assert rows == case["winners"]
    assert not view.cascade.skipped


_css = st.lists(
    st.sampled_from(
        ["color:red", ";", "a", ":", "{", "}", "(", ")", "'", '"', "/*", "*/", "!important", " ", "url(", "\\", "\n"]
    ),
    max_size=14,
).map("".join)


@settings(deadline=None)
@given(_css)
def test_any_text_is_read_and_every_place_is_inside(text: str) -> None:
    end = 0
    for name, _, _, span in parse_declarations(text):
        assert end <= span.start < span.end <= len(text)
        assert not name or "\\" in text or text[span.start :].lower().startswith(name.lower())
        end = span.end
    parse_sheet(text)


def test_brackets_beyond_reason_are_not_followed() -> None:
    deep = "a:" + "(" * (DEEPEST_BRACKETS + 10_000)
    assert [declaration.name for declaration in parse_declarations(deep)] == [""]
    assert parse_sheet("p{" * 50_000).rules == []


@pytest.mark.parametrize(
    "sheet",
    ["a>" * 300 + "a{x:y}", "a " * 3_000 + "{x:y}", "".join(f"p:not(.c{n}){{x:{n}}}" for n in range(1_500))],
    ids=["nested", "long", "many"],
)
def test_hostile_selectors_are_left_out_and_told(sheet: str) -> None:
    view = View(parse_fragment(f"<style>{sheet}</style>" + "<p>x</p>" * 2_000).tree)
    assert view.cascade.winners == {}
    assert len(view.cascade.skipped) == sheet.count("{")


def test_a_selector_that_would_take_too_long_is_left_out_and_told() -> None:
    view = View(parse_fragment("<style>p ~ p{a:b} p{c:d}</style>" + "<p>x</p>" * 2_000).tree)
    assert [rule.selectors for rule in view.cascade.skipped] == ["p ~ p"]
    assert all(set(won) == {"c"} for won in view.cascade.winners.values())
