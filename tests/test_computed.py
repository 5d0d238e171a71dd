"""Computed values, held against a browser's."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest

from support.editors import editor as made_editor
from support.random_pages import page
from verse_tray.fitting.table import STRATEGIES
from verse_tray.fitting.trips import Trips
from verse_tray.markup.parse import parse_document, parse_fragment
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element
from verse_tray.model.decoding import Source
from verse_tray.preview.browser.session import Session
from verse_tray.style.cascade import match, winners_of
from verse_tray.style.colours import Colour, parse_colour
from verse_tray.style.computed import computed, first_style
from verse_tray.style.computed_style import INITIAL, Style
from verse_tray.style.expand import SIDES
from verse_tray.style.page_sheets import sheets_in

PAGES = (Path(__file__).parent / "data" / "computed.txt").read_text("utf-8").splitlines()
USED = frozenset("width height min-width min-height max-width max-height top left right bottom column-width".split())
"""Properties of which browsers tell what comes of the layout."""
AS_TYPED = frozenset("transform box-shadow text-shadow background-image grid-template-columns filter clip".split())
"""Properties that browsers write otherwise: only whether there is any is compared."""
LEFT_OUT = frozenset(("content", "border-spacing", "font-variant-caps", "scale", "rotate", "translate"))
NAMES = [name for name in INITIAL if name not in USED | LEFT_OUT]
READ = """names => JSON.stringify([...document.querySelectorAll('[data-n]')].map(e => {
  const style = getComputedStyle(e); return [+e.dataset.n, names.map(n => style.getPropertyValue(n))]; }))"""
"""Gives a text: what drives the browser takes long over many values."""
UNSEEN = frozenset("dialog style script head meta title svg input textarea select video audio canvas object".split())


def styles_of(markup: str) -> tuple[str, dict[int, tuple[Element, Style]]]:
    """Return the markup with a number on every element, and our style of each."""
    tree = parse_document(markup).take_tree()
    elements = tree.elements()
    for number, element in enumerate(elements, 1):
        element.key = number
    matched = match(tree, elements, sheets_in(tree)).matched
    found: dict[int, tuple[Element, Style]] = {}
    stack = [(tree.root, first_style(1280))]
    while stack:
        parent, around = stack.pop()
        for child in parent.children:
            if type(child) is Element:
                winners = winners_of(matched.get(child.key, ()), child.attributes.get("style", ""), 1280)
                style = computed(child, around, winners)
                found[child.key] = child, style
                stack.append((child, style))
    numbered = tree.clone()
    for element in numbered.elements():
        element.attributes["data-n"] = str(element.key)
    return serialise(numbered).markup, found


def agrees(name: str, ours: Any, theirs: str, style: Style) -> bool:
    if name.endswith("color"):
        ours = style["color"] if ours == "currentcolor" else ours
        colour = parse_colour(theirs)
        assert isinstance(ours, Colour)
        return colour is not None and all(abs(a - b) < 0.01 for a, b in zip(ours, colour, strict=True))
    if name in AS_TYPED:
        return name == "grid-template-columns" or bool((ours in ("none", "auto")) == (theirs in ("none", "auto")))
    if name.startswith("border-") and name.endswith("-width"):
        width = style.border(name.split("-")[1])
        return abs(width - float(theirs[:-2])) < 1
    if name == "line-height" and "normal" not in (ours, theirs):
        pixels = ours * style["font-size"] if isinstance(ours, float) else float(ours[:-2])
        return bool(abs(pixels - float(theirs[:-2])) < 0.1)
    if name == "font-size" and ours < 8:  # browsers draw such letters larger, and compute with the smaller size
        return float(theirs[:-2]) < 8
    if isinstance(ours, float):
        number = "0" if theirs == "normal" else re.sub("px$", "", theirs)
        return re.fullmatch(r"-?[\d.]+", number) is not None and abs(ours - float(number)) < 0.05
    if ours.endswith("%") or ours in ("auto", "serif") or "(" in ours:  # the layout's, or the browser's own
        return True
    return bool(str(ours).replace('"', "'").replace(" ", "") == theirs.replace('"', "'").replace(" ", ""))


def differences(session: Session, markup: str) -> list[str]:
    numbered, ours = styles_of(markup)
    session.open(numbered, 1280)
    rows = []
    for number, values in json.loads(session.evaluate(READ, NAMES)):
        element, style = ours[number]
        if element.name in UNSEEN or element.namespace != "html":
            continue
        rows += [
            f"{element.name} {name}: {style[name]}, and in the browser {theirs}"
            for name, theirs in zip(NAMES, values, strict=True)
            if not agrees(name, style[name], theirs, style)
            and not (element.name in ("img", "iframe") and name.startswith("overflow"))  # their insides are no text
        ]
    return rows


@pytest.fixture(scope="module")
def session() -> Any:
    with Session() as opened:
        yield opened


@pytest.mark.browser
def test_values_are_those_of_a_browser(session: Session) -> None:
    wrong = {markup: rows[:3] for markup in PAGES if (rows := differences(session, f"<!DOCTYPE html>{markup}"))}
    assert wrong == {}


@pytest.mark.browser
def test_values_of_random_pages_are_those_of_a_browser(session: Session) -> None:
    wrong = {seed: rows[:3] for seed in range(60) if (rows := differences(session, page(seed)))}
    assert wrong == {}


def computed_in_browser(session: Session, markup: str) -> dict[int, list[str]]:
    session.open(f"<!DOCTYPE html><body>{markup}", 1280)
    return dict(json.loads(session.evaluate(READ, NAMES)))


@pytest.mark.browser
def test_rules_written_into_elements_give_the_values_that_the_rules_gave(session: Session) -> None:
    editor = made_editor({"styleElements": "drop"})
    rules = next(each for each in STRATEGIES if each.name == "rules-in-elements")
    wrong = {}
    # a rule for * reaches the page as well, and what the piece inherits from it: that is told, and left alone
    for seed in [seed for seed in range(120) if not re.search(r"[{}>]\s*\*", page(seed))][:60]:
        tree = parse_fragment(page(seed).removeprefix("<!DOCTYPE html>")).take_tree()
        for number, element in enumerate(tree.elements()):
            element.attributes["data-n"] = str(number)
        text = serialise(tree).markup
        before = computed_in_browser(session, text)
        after = computed_in_browser(session, Trips(Source(text), editor).applied(text, rules))
        differ = [
            (number, name, was, now)
            for number, values in before.items()
            for name, was, now in zip(NAMES, values, after.get(number, values), strict=True)
            if was != now and not name.startswith("min-")  # what they come to depends on the layout
        ]
        if differ:
            wrong[seed] = differ[:3]
    assert wrong == {}


def test_every_initial_value_is_of_its_kind() -> None:
    style = first_style(375)
    assert all(style[f"border-{side}-width"] == 3.0 and style.border(side) == 0.0 for side in SIDES)
    assert {name for name in NAMES if name.endswith("color") and not isinstance(style.colour(name), Colour)} == set()
