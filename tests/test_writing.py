"""What an author does before pasting: cases from data/writing.toml, and what holds for any piece."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import msgspec
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from support.editors import editor as made_editor
from support.markup import fragments
from support.pieces import CRAB, LIMPET, PIECES
from verse_tray.checks.find import find
from verse_tray.edit.adjust import convert_colours, set_on, set_values
from verse_tray.edit.apart import set_apart
from verse_tray.edit.hosted import Hosts, replace_paths
from verse_tray.edit.layout import compact, neaten
from verse_tray.edit.same import same_reading
from verse_tray.edit.values import find_values
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import load_editor
from verse_tray.fields.fill import Template, extremes
from verse_tray.fields.marks import mark_form
from verse_tray.join.kinds import tell_kind
from verse_tray.join.paste import join
from verse_tray.journeys.journey import journey
from verse_tray.make.blocks import (
    ListedItems,
    SignOff,
    listed_items,
    make_button,
    make_cards,
    make_list,
    make_signoff,
)
from verse_tray.make.builder import Styles, Terms
from verse_tray.make.frames import Frame, embedded, make_frame
from verse_tray.make.pictures import make_slider
from verse_tray.make.plain import from_markdown, from_word, left_out
from verse_tray.make.survive import made_for
from verse_tray.make.table import TableLook, make_table
from verse_tray.make.words import words_of
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Text
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Severity
from verse_tray.piece.piece import Piece
from verse_tray.style.colours import FORMS, parse_colour, written
from verse_tray.tabular.records import read_records, read_rows
from verse_tray.tasks.adjust import AdjustRequest, adjust, read_settings
from verse_tray.tasks.join import JoinRequest, join_parts


def read_table(name: str) -> dict[str, list[Any]]:
    return tomllib.loads((Path(__file__).parent / "data" / name).read_text("utf-8"))


def runs_code(element: Element) -> bool:
    return any(scheme_of(value) in ("javascript", "vbscript") for value in element.attributes.values())


TABLES = read_table("writing.toml")
BY_HAND = read_table("handwritten.toml")
FORM = mark_form("{{NAME}}")


def cases(name: str) -> pytest.MarkDecorator:
    return pytest.mark.parametrize("row", TABLES[name], ids=lambda row: str(row[0])[:40])


@cases("neat")
def test_neat(row: list[str]) -> None:
    assert neaten(Source(row[0]), width=60).text == row[1]
    assert neaten(Source(row[1]), width=60).text == row[1]


@cases("compact")
def test_compact(row: list[str]) -> None:
    assert compact(Source(row[0])).text == row[1]
    assert same_reading(Piece(Source(row[0])), row[1])


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("<p>a b</p>", "<p>ab</p>"),
        ("<a>x</a><a>y</a>", "<a>x</a> <a>y</a>"),
        ("<pre>a\n b</pre>", "<pre>a\nb</pre>"),
        ("<p>a</p>", "<p>a</p><p></p>"),
        ("<p class=a>a</p>", "<p class=b>a</p>"),
        ("<style>.a { top: 0 }</style>", "<style>.a { top: 1px }</style>"),
        ("<script>a\nb</script>", "<script>a b</script>"),
        ("<b>a </b>b", "<b>a</b> b"),
        ("<p>a&nbsp;b</p>", "<p>a b</p>"),
        ("<button>a</button> <select><option>b</select>", "<button>a</button><select><option>b</select>"),
    ],
)
def test_what_reads_differently_is_told_apart(one: str, other: str) -> None:
    assert not same_reading(Piece(Source(one)), other)
    assert same_reading(Piece(Source(one)), one + "\n")


def solid_text(text: str) -> str:
    """Return every sign of a piece's texts that is no white space."""
    return "".join("".join(node.data.split()) for node in parse_fragment(text).tree.nodes() if type(node) is Text)


@settings(max_examples=200, deadline=None)
@given(fragments)
@example('<a style="a" =x style="a"/>')
def test_any_piece_is_laid_out_to_read_the_same_and_comes_to_rest(text: str) -> None:
    for lay_out in (neaten, compact):
        laid_out = lay_out(Source(text))
        assert laid_out.changed or laid_out.text == text
        assert solid_text(laid_out.text) == solid_text(text) or "<style" in text
        if laid_out.changed and "<style" not in text:  # what is broken in a style sheet may take two turns
            assert lay_out(Source(laid_out.text)).text.split() == laid_out.text.split()


@cases("set_values")
def test_values_are_set_and_nothing_else(row: list[Any]) -> None:
    assert set_values(Piece(Source(row[0])), row[1]) == row[2]


@pytest.mark.parametrize("piece", TABLES["no_values"])
def test_what_stands_in_no_one_place_is_no_value(piece: str) -> None:
    assert find_values(Piece(Source(piece))) == []


@cases("set_on")
def test_every_occurrence_is_set(row: list[Any]) -> None:
    assert set_on(Piece(Source(row[0])), row[1], row[2])[0] == row[3]


@settings(max_examples=100, deadline=None)
@given(fragments)
def test_values_set_to_what_they_are_change_no_byte(text: str) -> None:
    piece = Piece(Source(text))
    for value in find_values(piece):
        for place in value.places:
            assert text[place.span.start : place.span.end].strip()
    assert convert_colours(Piece(Source("<p>x</p>")), "hex") == "<p>x</p>"


@pytest.mark.parametrize(
    ("piece", "settings", "words"),
    [
        ("<p style='color: red'>x</p>", {"p-colr": "blue"}, "did you mean p-color"),
        ("<p style='color: red'>x</p>", {"p-color": "blu"}, "this is no colour"),
        ("<p style='width: 5px'>x</p>", {"p-width": "7"}, "Write 7px"),
        ("<p style='width: 5px'>x</p>", {"p-width": "7px; color: red"}, "cannot stand behind a colon"),
        ("<p style='transition: top 1s'>x</p>", {"p-transition-time": "fast"}, "no duration"),
        ("<p style='display: flex; gap: 2px'>x</p>", {"p-gap": "wide"}, "gap does not take this"),
        ("<p style='border: 1px solid'>x</p>", {"p-border-size": "3"}, "Write 3px"),
        ("<a href=/x>x</a>", {"a-link": "javascript:x"}, "would run code"),
        ("<a href=/x>x</a>", {"a-link": "https://a b.example"}, "no host that browsers can look up"),
        ("<img src=a.png width=2 alt=''>", {"img-width": "8px"}, "takes a number: 8?"),
        ("<table bgcolor=red>", {"table-bgcolor": "rd"}, "no colour"),
    ],
)
def test_what_cannot_be_set_is_told(piece: str, settings: dict[str, str], words: str) -> None:
    with pytest.raises(InputError, match=words):
        set_values(Piece(Source(piece)), settings)


@pytest.mark.parametrize(
    ("selector", "settings", "words"),
    [
        ("p", {"margin": "8"}, "Write 8px"),
        ("p", {"display": "blok"}, "display does not take this"),
        ("p", {"--a": "red; top: 0"}, "cannot stand behind a colon"),
        ("p", {"--a": "red}"}, "cannot stand behind a colon"),
        ("a", {"@href": "javascript:x"}, "would run code"),
        ("p, a", {"@id": "x"}, "2 elements would get one identifier"),
        ("p", {"@style": "top: 0"}, "name the declaration"),
    ],
)
def test_what_cannot_be_set_on_elements_is_told(selector: str, settings: dict[str, str], words: str) -> None:
    with pytest.raises(InputError, match=words):
        set_on(Piece(Source("<p>x <a href=/x>y</a></p>")), selector, settings)


def test_nothing_valid_becomes_invalid() -> None:
    piece = Piece(Source('<p style="--gap: 1px; border: 1px solid red">x</p><a href="https://a.example/?x=1">y</a>'))
    assert read_settings(piece, ["https://a.example/?x=1=/z?y=2", "p-text=a=b"], on=None) == {
        "https://a.example/?x=1": "/z?y=2",
        "p-text": "a=b",
    }
    done = adjust(piece, AdjustRequest({"https://a.example/?x=1": "www.b.example/a b"}))
    assert 'href="https://www.b.example/a%20b"' in done.text
    assert done.notes == ("--set a-link: www.b.example/a b was written as https://www.b.example/a%20b.",)
    with pytest.raises(InputError, match=r"takes no value such as .*unknown-value"):
        adjust(piece, AdjustRequest({"p-border-size": "1deg"}))
    told = adjust(piece, AdjustRequest({"a-link": "#nowhere"})).findings
    assert [finding.rule for finding in told] == ["links/nowhere"]


@cases("colours")
def test_colours_in_every_form(row: list[str]) -> None:
    colour = parse_colour(row[0])
    assert colour is not None
    assert [written(colour, form) for form in FORMS] == row[1:]
    for form in row[1:]:
        back = parse_colour(form)
        assert back is not None
        assert written(back, "hex") == row[1]


@cases("fill")
def test_values_are_written_for_their_place(row: list[Any]) -> None:
    filled = Template(Source(row[0]), FORM).fill(row[1])
    assert filled.text == row[2]
    assert [finding.rule for finding in filled.findings] == row[3]


PLACES = [Template(Source(row[0]), FORM) for row in read_table("filling.toml")["places"]]


@settings(max_examples=300, deadline=None)
@given(st.sampled_from(PLACES), st.text(st.sampled_from("<>\"'`&;:={}()/*\\!-[]$ \n\rab1")) | st.text(max_size=40))
def test_no_value_breaks_out_of_its_place(template: Template, value: str) -> None:
    """What a browser reads in each place is held by bench/filled_values.py."""
    filled = template.fill({"v": value})
    elements = parse_fragment(filled.text).tree.elements()
    harmless = parse_fragment(template.fill({"v": "1"} if "<h{" in template.source.text else {"v": "a"}).text)
    if filled.count == len(template.marks) and not template.source.text.startswith(("<h{", "<p {")):
        expected = [(element.name, sorted(element.attributes)) for element in harmless.tree.elements()]
        assert [(element.name, sorted(element.attributes)) for element in elements] == expected
    assert not any(runs_code(element) for element in elements) or "javascript:" in template.source.text
    assert filled.count + sum(f.rule in ("fill/refused", "fill/empty") for f in filled.findings) == len(template.marks)


def test_records_worth_looking_at() -> None:
    rows = ({"a": "x"}, {"a": "a much longer one"}, {"a": ""}, {"a": "<&>"}, {"a": "mid"})
    found = dict(extremes(Template(Source("{{a}}"), FORM), rows))
    assert found == {"the shortest": 0, "the longest": 1, "a value missing": 2, "special characters": 3}


@cases("kinds")
def test_the_language_of_a_part_is_told_by_what_stands_in_it(row: list[str]) -> None:
    try:
        told = tell_kind(Source(row[1], row[0])).value
    except InputError as error:
        told = str(error)
    assert (
        row[2] in told if ":" in row[2] or "this is" in row[2] else (told == row[2] or row[2] in told.split("which")[0])
    )


@cases("join")
def test_parts_are_joined_in_the_right_order(row: list[Any]) -> None:
    joined = join([Source(text, name) for name, text in row[0]], row[1])
    assert joined.fragment() == row[2]
    assert find(Piece(Source(joined.document())))[0].finding.rule == "markup/whole-document"


def test_a_sheet_that_cannot_be_compiled_is_told_with_its_place() -> None:
    with pytest.raises(InputError, match=r"b\.scss:2:8: this sheet cannot be compiled: Undefined variable"):
        join([Source(".a {\n  top: $no;\n}", "b.scss")], [])
    compiled = join([Source("$a: 1px; .b { .c { top: $a } }", "b.scss")], []).fragment()
    assert ".b .c {" in compiled
    with pytest.raises(InputError, match=r"a\.css:1:4: this { is never closed"):
        join([Source(".a { color: red", "a.css")], [])


@cases("apart")
def test_a_piece_set_apart_names_only_its_own(row: list[str]) -> None:
    assert set_apart(Piece(Source(row[0])), "t")[0] == row[1]


@cases("hosted")
def test_paths_become_hosted_addresses_everywhere(row: list[Any]) -> None:
    if " could be " in row[2]:
        with pytest.raises(InputError, match=row[2]):
            replace_paths(Piece(Source(row[0])), Hosts(row[1]))
        return
    replaced = replace_paths(Piece(Source(row[0])), Hosts(row[1]))
    assert (replaced.text, len(replaced.left)) == (row[2], row[3])


@cases("markdown")
def test_markdown(row: list[str]) -> None:
    assert from_markdown(row[0]) == row[1]


@cases("word")
def test_what_word_processors_write(row: list[str]) -> None:
    assert from_word(row[0]) == row[1]


@cases("records")
def test_bad_records_get_one_clear_message(row: list[str]) -> None:
    with pytest.raises(InputError) as caught:
        read_records(row[0], "f")
    assert row[1] in str(caught.value)


def test_records_of_many_forms() -> None:
    for text in (
        "a;b\n1;x y\n",
        "a\tb\n1\tx y\n",
        '\ufeffa,b\r\n1,"x y"\r\n\r\n',
        '[{"a": 1, "b": "x y"}]',
        '{"a":1,"b":"x y"}',
    ):
        assert read_records(text, "f").rows == ({"a": "1", "b": "x y"},)
    assert read_rows('[["a", null], [1.5, true]]', "f") == [["a", ""], ["1.5", "true"]]
    assert len(read_records("a\n" + "1\n" * 50_000, "f").rows) == 50_000


@pytest.mark.parametrize("styles", list(Styles))
def test_what_is_made_has_no_mistakes_and_its_look_where_it_was_asked_for(styles: Styles) -> None:
    for name, (forms, build) in PIECES.items():
        for form in forms:
            made = build(form.name, Terms(styles))
            found = [each.finding for each in find(Piece(Source(made.markup)), region=700)]
            assert [finding for finding in found if finding.severity is not Severity.NOTE] == [], (name, form.name)
            assert ("style=" not in made.markup) or styles is Styles.INLINE, (name, form.name)
            assert ("<style>" in made.markup) is (styles is Styles.ELEMENT and "class=" in made.markup), name
            assert ("<script>" in made.markup) is (form.name in ("buttons", "script")), (name, form.name)
        first = build(forms[0].name, Terms(styles))
        assert ("style=" in first.markup, "<style>" in first.markup, bool(first.css.strip())) == (
            styles is Styles.INLINE,
            styles is Styles.ELEMENT,
            styles is Styles.SEPARATE,
        ), name


@pytest.mark.usefixtures("unwatched")
@pytest.mark.parametrize("kind", PIECES)
def test_what_is_made_for_an_editor_does_as_well_as_the_best_written_by_hand(kind: str) -> None:
    """With every place of the look: bench/made_pieces.py."""
    forms, build = PIECES[kind]
    for editor in chosen_editors(None):
        ranks = [journey(Piece(Source(each)), editor).verdict.rank for each in BY_HAND[kind]]
        made = made_for(editor, forms, build, (Styles.ELEMENT, Styles.INLINE, Styles.NONE))
        piece = Piece(Source(made.markup))
        verdict = journey(piece, editor).verdict
        assert verdict.rank <= max(1, min(ranks)), (editor.name, verdict, made.markup)  # rewritten is as good as intact
        found = [each.finding for each in find(piece, region=700)]
        assert [finding for finding in found if finding.severity is not Severity.NOTE] == [], (editor.name, made.markup)


def test_editors_that_refuse_all_and_pieces_that_browsers_read_otherwise_still_get_one() -> None:
    forms, build = PIECES["button"]
    places = (Styles.ELEMENT, Styles.INLINE, Styles.NONE)
    tiny = {"limits": [{"measure": "stored", "of": "piece", "unit": "characters", "most": 5, "over": "refuse"}]}
    made = made_for(made_editor({}, **tiny), forms, build, places)
    assert "Book</a>" in made.markup
    odd = build("bold", Terms(Styles.NONE))
    torn = msgspec.structs.replace(odd, parts=odd.parts[:1])
    assert made_for(load_editor("article"), forms, lambda *_: torn, places).markup == odd.markup


def test_two_of_a_kind_do_not_clash_on_one_page() -> None:
    once = make_slider([LIMPET, CRAB], Styles.ELEMENT, label="Pools", width=400, height=300, form="buttons").markup
    twice = (
        once + make_slider([CRAB, LIMPET], Styles.ELEMENT, label="Pools", width=400, height=300, form="buttons").markup
    )
    assert [each.finding.rule for each in find(Piece(Source(twice)))] == []
    assert (
        "nicely-track"
        in make_slider([LIMPET, CRAB], Styles.NONE, label="x", width=9, height=9, form="scroll", name="nicely").markup
    )


def test_a_table_says_what_it_found_and_fits_a_phone_as_asked() -> None:
    rows = [["Height", "Very" * 12], ["1,204", "x"], ["–", "y"]]
    wide = make_table(rows, TableLook(), Styles.INLINE)
    assert "Columns of numbers, aligned to the right: 1." in wide.notes
    assert "It stands in a box that scrolls on a phone" in wide.notes[-1]
    assert '<div tabindex="0" role="region" aria-label="Table" style="overflow-x: auto">' in wide.markup
    small = make_table(rows, TableLook(phone="shrink"), Styles.INLINE)
    assert "below 12 pixels nobody reads it" in small.notes[-1]
    stacked = make_table(rows, TableLook(phone="stack"), Styles.ELEMENT).markup
    assert 'data-heading="Height"' in stacked
    assert "content: attr(data-heading)" in stacked
    assert "by a style element only" in " ".join(make_table(rows, TableLook(phone="stack"), Styles.INLINE).notes)
    assert make_table(rows, TableLook(), Styles.NONE).notes == ()
    fitted = make_table([["a" * 16, "b" * 17], ["x", "y"]], TableLook(), Styles.ELEMENT)
    assert "@media (max-width: 600px)" in fitted.markup
    assert 'style="' not in fitted.markup
    assert read_rows("Day,,Day\n1,2,3\n", "f") == [["Day", "", "Day"], ["1", "2", "3"]]


def test_words_addresses_and_embed_codes() -> None:
    german = make_slider(
        [LIMPET, CRAB], Styles.INLINE, label="x", width=9, height=9, form="buttons", words=words_of("de-AT")
    )
    assert (">Weiter</button>" in german.markup, 'aria-label="1 von 2"' in german.markup) == (True, True)
    with pytest.raises(InputError, match="there are words in en, de"):
        words_of("xx")
    code = embedded("<p>See <iframe width=560 height=315 src='https://v.example/1' title=Tides></iframe>", "video")
    assert code == ("https://v.example/1", "Tides", 560, 315)
    with pytest.raises(InputError, match="no frame with an address"):
        embedded("<iframe></iframe>", "video")
    made = make_button("Write", "counts@gannetcove.example", Styles.NONE, colour="teal", new_window=False)
    assert 'href="mailto:counts@gannetcove.example"' in made.markup
    assert made.notes == ("button: counts@gannetcove.example was written as mailto:counts@gannetcove.example.",)
    maren = SignOff("M", contacts=("Mon–Fri 9–5", "gannetcove.example/x", "0441 12 34"))
    signed = make_signoff(maren, colour="teal").markup
    assert "<br>\n        Mon–Fri 9–5<br>" in signed
    assert 'href="https://gannetcove.example/x"' in signed
    assert 'href="tel:04411234"' in signed


def test_a_joined_document_tells_what_its_fragment_changes(tmp_path: Path) -> None:
    page = tmp_path / "old.html"
    page.write_text('<html><body bgcolor="E8F0F0" text=navy background=x.png><style>body{margin:0}</style><p>a')
    done = join_parts(JoinRequest((str(page),)))
    assert '<div style="background-color: #E8F0F0; color: navy">' in done.text
    told = " ".join(done.notes)
    for part in ("the body's background “x.png”", "a box around its contents", "styles for body", "Write a class"):
        assert part in told


def test_what_is_left_out_is_told() -> None:
    assert listed_items("1. a\n2) b\n\n") == ListedItems(["a", "b"], True, ("The numbers in front were taken off.",))
    assert listed_items("- a\nb\n") == ListedItems(["- a", "b"], False, ())
    assert listed_items("<li>a</li>\n").notes == ("1 line of tags became text: give the words alone.",)
    text = "<p>a<img src=x.png><script>go()</script><select><option>b</select><form>c</form></p>"
    assert left_out(text, from_word(text)) == [
        "Left out: 1 script, 1 form control and 1 form.",
        "1 picture without alternative text: say in alt what each shows.",
    ]


@pytest.mark.parametrize(
    ("call", "words"),
    [
        (lambda: make_table([["a"], ["b", "c"]], TableLook(), Styles.NONE, source="t.csv"), "t.csv: row 2 has 2 cells"),
        (lambda: make_button("x", "javascript:go()", Styles.NONE, colour="red", new_window=False), "would run code"),
        (lambda: make_button("x", "\x01", Styles.NONE, colour="red", new_window=False), "an address is missing"),
        (lambda: make_list(["a\udcff"], Styles.NONE, space="8px", numbered=False), "bytes that are no UTF-8"),
        (lambda: make_list(["a\0"], Styles.NONE, space="8px", numbered=False), "holds a NUL"),
        (lambda: make_button("x", "/y", Styles.NONE, colour="redd", new_window=False), "this is no colour"),
        (lambda: make_list(["a"], Styles.NONE, space="8", numbered=False), "a length with its unit"),
        (lambda: make_frame("map", Frame("http://a.example", "x"), Styles.NONE), "begins with https://"),
        (lambda: make_frame("map", Frame("https://a.example", ""), Styles.NONE), "--title"),
        (lambda: make_cards([], Styles.NONE, colour="red", level=3), "at least one card"),
    ],
)
def test_values_that_no_piece_can_be_made_of(call: Any, words: str) -> None:
    with pytest.raises(InputError) as caught:
        call()
    assert words in str(caught.value)
