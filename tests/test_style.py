"""Declarations, sheets and the cascade, from cases in data/styles.toml."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from verse_tray.markup.parse import parse_fragment
from verse_tray.piece.view import View
from verse_tray.style.colours import FORMS, Colour, contrast, over, parse_colour, written
from verse_tray.style.declarations import parse_declarations
from verse_tray.style.selectors import as_seen_within, rename_in_selectors, under_prefix
from verse_tray.style.sheets import parse_sheet
from verse_tray.style.source import DEEPEST_BRACKETS
from verse_tray.style.syntax import holds
from verse_tray.style.tokens import CssToken, css_tokens, style_addresses
from verse_tray.style.values import pixels, without_strings, words

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
        if not rule.nested:
            assert text[rule.span.start : rule.span.end] == rule.selectors
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


@pytest.mark.parametrize(("parts", "is_read"), [(200, True), (201, False)])
def test_so_many_selectors_are_tried_in_one(parts: int, is_read: bool) -> None:
    view = View(parse_fragment(f"<style>:is({','.join(['p'] * parts)}){{color:red}}</style><p>x</p>").tree)
    assert (len(view.cascade.winners), len(view.cascade.skipped)) == (is_read, not is_read)


def test_a_selector_that_would_take_too_long_is_left_out_and_told() -> None:
    view = View(parse_fragment("<style>p ~ p{a:b} p{c:d}</style>" + "<p>x</p>" * 2_000).tree)
    assert [rule.selectors for rule in view.cascade.skipped] == ["p ~ p"]
    assert all(set(won) == {"c"} for won in view.cascade.winners.values())


@pytest.mark.parametrize("case", CASES["colours"], ids=lambda case: case["text"])
def test_colours_are_written_in_every_form(case: dict[str, Any]) -> None:
    colour = parse_colour(case["text"])
    assert colour is not None
    assert [written(colour, form) for form in FORMS] == case["forms"]
    assert parse_colour(f" {case['forms'][1]} ") == pytest.approx(colour, abs=0.002)


@pytest.mark.parametrize(("text", "seen"), CASES["spaces"].items())
def test_colours_of_other_spaces_are_those_that_a_browser_draws(text: str, seen: list[int]) -> None:
    colour = parse_colour(text)
    assert colour is not None
    assert [part * 255 for part in colour[:3]] == pytest.approx(seen, abs=0.6)


@pytest.mark.parametrize("case", CASES["contrast"], ids=lambda case: " on ".join(case["colours"]))
def test_contrast_is_that_of_wcag(case: dict[str, Any]) -> None:
    one, other = (parse_colour(text) for text in case["colours"])
    assert one is not None
    assert other is not None
    assert round(contrast(one, other), 3) == round(contrast(other, one), 3) == case["ratio"]


def test_what_is_seen_of_a_colour_on_a_ground() -> None:
    assert over(Colour(1, 0, 0, 0.5), Colour(0, 0, 1)) == (0.5, 0, 0.5, 1)
    assert over(Colour(0, 0.5, 0, 0.25), Colour(1, 1, 1)) == (0.75, 0.875, 0.75, 1)


@pytest.mark.parametrize("case", CASES["places"], ids=lambda case: case["text"][:30])
def test_every_place_of_a_sheet(case: dict[str, Any]) -> None:
    text, sheet = case["text"], parse_sheet(case["text"])
    assert [f"{named.name} | {text[named.span.start : named.span.end]}" for named in sheet.named] == case["named"]
    broken = [text[span.start : span.end] for span in sheet.broken]
    declared = [each for rule in sheet.rules for each in rule.declarations]
    broken += [text[each.span.start : each.span.end] for each in declared if not each.name]
    assert sorted(broken) == sorted(case["broken"])
    assert [text[each.span.start : each.span.end] for each in declared if each.name] == case["declared"]


@pytest.mark.parametrize("case", CASES["rewritten"], ids=lambda case: case["text"][:30])
def test_selectors_are_rewritten_and_nothing_else(case: dict[str, Any]) -> None:
    assert under_prefix(case["text"], ".post") == case["under"]
    assert rename_in_selectors(case["text"], class_prefix="k-", id_prefix="u-") == case["renamed"]


def test_a_sheet_as_what_stands_inside_sees_it() -> None:
    sheet = parse_sheet(".post p, .post html b, i { x: y }")
    assert [rule.selectors for rule in as_seen_within(sheet, ".post").rules] == ["p,  .post html b, i"]


def test_values_in_words_and_in_pixels() -> None:
    lengths = ("1px", "3pt", "1in", "2.54cm", "25.4mm", "1pc", "+2px", " 5PX ", "1em", "x", "-1px")
    assert [pixels(each) for each in lengths] == [1, 4, 96, 96, 96, 16, 2, 5, None, None, None]
    value = "1px solid rgba(1, 2, 3) url('a b') var(--x, calc(1px + 2px))"
    assert words(value) == ["1px", "solid", "rgba(1, 2, 3)", "url('a b')", "var(--x, calc(1px + 2px))"]
    assert words("rgba(1, 2, 3) x") == ["rgba(1, 2, 3)", "x"]
    assert (words("a" * 4000), words("a" * 4001)) == (["a" * 4000], [])
    blanked = without_strings('a: \'x;y\' /* c; */ URL(d;e) "f\\"g";')
    assert blanked == "a:" + " " * 31 + ";"


def test_numbers_of_more_digits_than_python_converts() -> None:
    number = "9" * 5_000
    for text in (f"top:{number}", f"top:-{number}px", f"top:1.{number}", f"a{number}:b"):
        (declaration,) = parse_declarations(text)
        assert declaration.name == text.partition(":")[0]
        assert text[declaration.span.start : declaration.span.end] == text
    assert [token.end - token.start for token in css_tokens(f"{number} x")][-1] == 1
    view = View(parse_fragment(f"<style>p:nth-child(n-{number}) {{ --a: b }} p {{ --c: {number} }}</style><p>x").tree)
    assert [rule.selectors for rule in view.cascade.skipped] == [f"p:nth-child(n-{number})"]
    assert [list(won) for won in view.cascade.winners.values()] == [["--c"]]


def test_brackets_are_read_to_their_depth() -> None:
    for depth, name in ((DEEPEST_BRACKETS, "a"), (DEEPEST_BRACKETS + 1, "")):
        (declaration,) = parse_declarations("a:" + "(" * depth + "x" + ")" * depth)
        assert declaration.name == name
    assert css_tokens(deep := "(" * 3_000) == [CssToken("other", 0, len(deep))]


@pytest.mark.parametrize("case", CASES["tokens"], ids=lambda case: case["text"][:30])
def test_tokens_and_addresses(case: dict[str, Any]) -> None:
    text = case["text"]
    kinds = [
        f"{kind} {text[start:end]}" for kind, start, end in css_tokens(text) if kind not in ("whitespace", "other")
    ]
    assert kinds == case["told"]
    found = list(style_addresses(text))
    assert [each.address for each in found] == [text[each.span.start : each.span.end] for each in found]
    assert [each.address for each in found] == case["addresses"]
    assert all(each.whole.start < each.span.start <= each.span.end <= each.whole.end for each in found)
    wholes = [text[each.whole.start : each.whole.end] for each in found]
    assert wholes == case.get("wholes", wholes)


@settings(max_examples=300, deadline=None)
@given(_css)
@example("{{(}}")  # the bracket in front of the end is not the one that it would have to be
@example("{(()}")
def test_tokens_cover_a_text_whole(text: str) -> None:
    tokens = css_tokens(text)
    assert "".join(text[token.start : token.end] for token in tokens) == text
    assert all(token.start < token.end for token in tokens)
    assert len(without_strings(text)) == len(text)


@pytest.mark.parametrize(("value", "syntax", "is_one"), CASES["syntax"]["rows"])
def test_values_are_held_against_syntax_strings(value: str, syntax: str, is_one: bool) -> None:
    assert holds(value, syntax) is is_one or (value, syntax) == ("AUTO", "<length> | auto")  # properties fold words


@pytest.mark.parametrize(
    "signs", ['{"}"', "(]", "{\\}", "{/*}*/", "p{(}", 'url(")((', "éurl(({", "\\)url(", "x(url(])"]
)
def test_brackets_that_only_seem_to_close_are_counted(signs: str) -> None:
    for text in (signs * 2000, f"p {{ color: {signs * 2000} }}"):
        assert parse_sheet(text) is not None  # and not a fault of ours
        assert "".join(text[token.start : token.end] for token in css_tokens(text)) == text
