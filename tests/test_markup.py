"""Trees as browsers build them, and the place of everything in them."""

from __future__ import annotations

import gc
import html
import tomllib
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from support.markup import fragments
from verse_tray.markup.attributes import attribute_spans
from verse_tray.markup.names import fold_name
from verse_tray.markup.parse import Parsed, browser_serialisation, parse_document, parse_fragment
from verse_tray.markup.parser_limits import DEEPEST, MOST_ATTRIBUTES
from verse_tray.markup.references import decode
from verse_tray.markup.round_trip import reads_back
from verse_tray.markup.serialise import holds_raw_text, serialise
from verse_tray.markup.tree import Comment, Element, Text, Tree
from verse_tray.model import gc_pause
from verse_tray.model.decoding import Source

CASES = tomllib.loads((Path(__file__).parent / "data" / "places.toml").read_text("utf-8"))["case"]


def described(parsed: Parsed) -> list[str]:
    """Describe every node with its place as line:column and with what stands there."""
    source = Source(parsed.text)

    def at(span: tuple[int, int] | None) -> str:
        if span is None:
            return "-"
        typed = parsed.text[span[0] : span[1]].translate({10: "\\n", 13: "\\r", 9: "\\t"})
        return "{}:{} ".format(*source.place(span[0])) + typed

    rows = []
    for node in parsed.tree.nodes():
        span = parsed.places.span(node.key)
        name = node.name if isinstance(node, Element) else type(node).__name__.lower()
        rows.append(f"{name} {at(span)}")
        if isinstance(node, Element):
            if span is not None:
                for key, place in attribute_spans(parsed.text, span).items():
                    rows.append(f"  {key} {at(place.whole)}")
            if node.key in parsed.end_spans:
                rows.append(f"  end {at(parsed.end_spans[node.key])}")
    return rows


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_every_part_has_its_place(case: dict[str, str]) -> None:
    assert described(parse_fragment(case["markup"])) == case["places"].strip("\n").split("\n")


@settings(max_examples=400, deadline=None)
@given(fragments)
def test_places_hold_what_the_tree_says(markup: str) -> None:
    parsed = parse_fragment(markup)
    for parent in [parsed.tree.root, *parsed.tree.elements()]:
        for node in parent.children:
            span = parsed.places.span(node.key)
            if span is None:
                continue
            typed = markup[span.start : span.end].replace("\0", "\ufffd")
            if isinstance(node, Element):
                assert fold_name(typed[1 : 1 + len(node.name)]) == fold_name(node.name)
                spans = attribute_spans(markup, span)
                assert [fold_name(name) for name in node.attributes] == list(spans)
                for (name, value), each in zip(node.attributes.items(), spans.values(), strict=True):
                    place = each.value
                    assert fold_name(markup[each.name.start : each.name.end]) == fold_name(name)
                    typed_value = "" if place is None else markup[place.start : place.end]
                    assert decode(typed_value, attribute=True)[0].replace("\0", "\ufffd") == value
                end = parsed.end_spans.get(node.key)
                assert end is None or markup[end.start :].lower().startswith(f"</{node.name.lower()}")
                assert end is None or end.start >= span.end
            elif isinstance(node, Text):
                flat = typed if holds_raw_text(parent) else decode(typed, attribute=False)[0]
                flat, data = (
                    text.replace("\r\n", "\n").replace("\0", "").replace("\ufffd", "") for text in (flat, node.data)
                )
                if "<" in typed or "]]>" in typed:  # runs that flowed together, around ignored tags or CDATA signs
                    starts = (flat[:1], flat.removeprefix("\n")[:1])
                    assert flat[-1:] == data[-1:] and (data[:1] in starts or typed.startswith("\ufffd"))
                else:
                    assert flat in (data, f"\n{data}")
            else:
                assert isinstance(node, Comment)
                assert typed.startswith("<")


@settings(max_examples=300, deadline=None)
@given(fragments)
def test_our_serialisation_is_the_browser_s(markup: str) -> None:
    written = serialise(parse_fragment(markup).tree)
    assert written.markup == browser_serialisation(markup)
    for at, node in written.starts().items():
        if isinstance(node, Element):
            assert written.markup.startswith(f"<{node.name}", at)


def test_marks_in_the_author_s_own_text_cost_places_and_nothing_else() -> None:
    parsed = parse_fragment("<p>a\ufdd07\ufdd2b</p>")
    assert serialise(parsed.tree).markup == "<p>a\ufdd07\ufdd2b</p>"
    assert parsed.places.span(1) is None
    assert [note.kind for note in parsed.notes] == ["no-positions"]


def test_documents_and_other_contexts() -> None:
    page = parse_document("<!doctype html><title>T</title><p>x")
    assert (
        serialise(page.tree).markup == "<!DOCTYPE html><html><head><title>T</title></head><body><p>x</p></body></html>"
    )
    assert described(page)[0] == "comment 1:1 <!doctype html>"
    assert serialise(parse_fragment("<td>a<td>b", "tr").tree).markup == "<td>a</td><td>b</td>"


def test_objects_that_somebody_keeps_frozen_stay_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(gc_pause, "_frozen_by_others", False)
    gc.freeze()
    frozen = gc.get_freeze_count()
    try:
        assert len(parse_fragment("<p>x" * 50).tree.elements()) == 50
        assert gc.get_freeze_count() > frozen - 1_000  # what is used up meanwhile goes
        assert gc.isenabled()
    finally:
        gc.unfreeze()


HOSTILE = {
    "nested": ("<div>" * 100_000, "too-deep"),
    "nested by adoption": ("<i><div></i>" * 20_000, "too-deep"),
    "nested past a scope": ("<div><table><td></div>" * 10_000, "too-deep"),
    "nested foreign": ("<svg>" * 20_000, "too-deep"),
    "attributes": ("<p " + " ".join(f"a{n}" for n in range(20_000)) + ">x</p>", "too-many-attributes"),
    "formatting made anew in each paragraph": (
        "".join(f"<b id={n}>" for n in range(200)) + "<p>x" * 2_000,
        "formatting-pile",
    ),
    "formatting that nothing closes": ("<b><i><p>x" * 20_000, "formatting-pile"),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_limits_of_reading(name: str) -> None:
    markup, kind = HOSTILE[name]
    parsed = parse_fragment(markup)
    assert kind in {note.kind for note in parsed.notes}
    assert len(parsed.tree.elements()) < 110_000


UNSUSPICIOUS = {
    "list without end tags": "<ul>" + "<li><p>x" * 3_000,
    "old table": "<table>" + "<tr><td><font color=red>x</td><td><b>y</td></tr>" * 400 + "</table>",
    "paragraphs without end tags": "<p>x <b>y</b>" * 2_000,
    "deep but within": "<div>" * (DEEPEST - 12) + "x",
    "many attributes": "<p " + " ".join(f"a{n}" for n in range(MOST_ATTRIBUTES - 5)) + ">",
}


@pytest.mark.parametrize("name", UNSUSPICIOUS)
def test_ordinary_markup_is_read_whole(name: str) -> None:
    markup = UNSUSPICIOUS[name]
    assert parse_fragment(markup).cap_notes == []
    assert serialise(parse_fragment(markup).tree).markup == browser_serialisation(markup)


def test_references_decode_as_the_standard_says() -> None:
    for typed in ("&amp;", "&ampx", "&notit;", "&#65;&#x41", "&#128;", "&NoSuch;", "&", "&lt", "&frac12;"):
        assert decode(typed, attribute=False)[0] == html.unescape(typed)
    assert decode("&copy=1&copyx&copy;", attribute=True)[0] == "&copy=1&copyx©"
    text, offsets = decode("a&quot;b\r\nc", attribute=True)
    assert (text, offsets) == ('a"b\nc', [0, 1, 7, 8, 10, 11])


PLAIN = (
    "p div b a ul li table tbody tr td caption colgroup col h1 h2 button form dl dt dd span i br img pre hr nobr "
    "section style script font center label x-y input th iframe"
).split()
RUNS = ("x", " ", "\n", "a<b", "&", "\xa0", "</style>", "<!--", "\r", "")


@st.composite
def trees(draw: st.DrawFn) -> Tree:
    """Return a tree that nobody parsed: elements inside one another as no markup would have them."""

    def element(depth: int) -> Element:
        made = Element(
            draw(st.sampled_from(PLAIN)), attributes=draw(st.sampled_from([{}, {"class": '"x'}, {"id": "a\rb"}]))
        )
        for _ in range(draw(st.integers(0, 3)) if depth < 6 else 0):
            text = draw(st.integers(0, 3)) == 0
            made.children.append(Text(draw(st.sampled_from(RUNS))) if text else element(depth + 1))
        return made

    root = Element("")
    root.children = [element(0) for _ in range(draw(st.integers(1, 3)))]
    return Tree(root)


@settings(max_examples=300, deadline=None)
@given(st.one_of(trees(), fragments.map(lambda markup: parse_fragment(markup).take_tree())), st.integers(0, 30))
def test_a_tree_that_is_certain_to_be_read_back_is(tree: Tree, number: int) -> None:
    elements = tree.elements()
    if elements:
        tree.set_fate(elements[number % len(elements)], "unwrap")
        tree.settle()
    markup = serialise(tree).markup
    assert not reads_back(tree, markup) or browser_serialisation(markup) == markup


@pytest.mark.parametrize(
    "markup", ["<p>a<b>b</b></p>", "<table><tbody><tr><td>x</td></tr></tbody></table>", "<ul><li>a</li></ul>"]
)
def test_plain_markup_is_certain_to_be_read_back(markup: str) -> None:
    assert reads_back(parse_fragment(markup).tree, markup)
