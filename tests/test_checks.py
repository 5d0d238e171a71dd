"""Mistakes in the piece itself: every rule by its own examples, the corners by table, mending, silence."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec import structs

import verse_tray
from support.markup import fragments
from verse_tray.checks.find import find
from verse_tray.checks.styles.unknown_property import _SAID_OTHERWISE
from verse_tray.checks.table import RULES, UnknownRuleError, rule
from verse_tray.edit.hosted import Hosts, replace_paths
from verse_tray.edit.layout import neaten
from verse_tray.edit.mend import mend
from verse_tray.edit.values import find_values
from verse_tray.markup import references
from verse_tray.media.picture_size import Measured, measure
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Site

DATA = Path(__file__).parent / "data"
TABLES: dict[str, list[Any]] = tomllib.loads((DATA / "mistakes.toml").read_text("utf-8"))
ASKED: dict[str, list[Any]] = tomllib.loads((DATA / "asked.toml").read_text("utf-8"))
SITE = Site("shore-site", "<body><main><!-- piece --></main>", "main p a { color: #123 } .site-head { color: #456 }")
ALSO = {"pictures/weight": {"pictures/local"}}


def found(text: str, **options: Any) -> list[str]:
    return [each.finding.rule for each in find(Piece(Source(text)), **options)]


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    made = tmp_path_factory.mktemp("pictures")
    from PIL import Image

    Image.effect_noise((1000, 1000), 90).save(made / "heavy.png")
    Image.new("RGB", (400, 300)).save(made / "limpet.png")
    (made / "cut.png").write_bytes((made / "heavy.png").read_bytes()[:3000])
    (made / "no-picture.png").write_text("Low water at six.")
    (made / "huge.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg" width="60000" height="9"/>')
    return made


@pytest.mark.parametrize("name", RULES)
def test_each_rule_finds_its_bad_example_and_nothing_in_the_good_one(name: str, folder: Path) -> None:
    record = rule(name)
    options = {"sites": (SITE,), "region": 700, "folder": folder}
    names = found(record.bad, **options)
    assert name in names
    assert set(names) <= {name} | ALSO.get(name, set())
    assert found(record.good, **options) == []
    assert name not in found(record.bad, **options, silenced=[name])


@pytest.mark.parametrize("name", [name for name in RULES if rule(name).mends])
def test_what_a_rule_mends_is_its_good_example_or_as_good(name: str) -> None:
    mended = mend(Piece(Source(rule(name).bad)))
    assert [finding.rule for finding in mended.mended] == [name]
    assert found(mended.text) == []
    assert mend(Piece(Source(mended.text))).text == mended.text


@pytest.mark.parametrize("row", TABLES["mistakes"], ids=lambda row: row[0][:40])
def test_the_corners_of_the_rules(row: list[str]) -> None:
    shown = [f"{each.finding.line}:{each.finding.column} {each.finding.rule}" for each in find(Piece(Source(row[0])))]
    assert shown == row[1:]


def test_a_bare_number_is_told_with_the_unit_that_it_lacks() -> None:
    def told(declared: str) -> list[str]:
        return [each.finding.message for each in find(Piece(Source(f'<p style="{declared}">x</p>')))]

    for bare, mended in ASKED["bare"]:
        (message,) = told(bare)
        number = message.split(" has no unit")[0].split()[-1]
        assert (message.endswith(f"Write {number}px."), message.endswith(f"Write {number}deg.")) in {(1, 0), (0, 1)}
        unit = message.removesuffix(".").removeprefix(message[: message.rindex(number)])
        assert mended.count(unit) == 1
        assert told(mended) == []
    assert [message for whole in ASKED["whole"] for message in told(whole)] == []


def test_a_property_said_otherwise_is_named() -> None:
    for said, meant in _SAID_OTHERWISE.items():
        (told,) = find(Piece(Source(f'<p style="{said}: inherit">x</p>')))
        assert told.finding.message.endswith(f"did you mean {meant}?")
        assert found(f'<p style="{meant}: inherit">x</p>') == []


def test_conditions_that_never_hold_are_told_and_no_others() -> None:
    rows = [*ASKED["never"], *ASKED["fine"], *ASKED["unknown"]]
    pieces = {asked: f"<style>@media {asked} {{ .k {{ margin: 0 }} }}</style><p class=k>x</p>" for asked in rows}
    told = {asked for asked, piece in pieces.items() if "styles/condition" in found(piece)}
    assert told == set(ASKED["never"])


@pytest.mark.parametrize("row", TABLES["mends"], ids=lambda row: row[0][:40])
def test_mends_change_what_they_are_about_and_no_other_byte(row: list[str]) -> None:
    assert mend(Piece(Source(row[0]))).text == row[1]


FILLS = Site("shop", opening="[[", closing="]]", fills=frozenset({"walks"}))
BOXED = Site("box", boxed=True)
STRICT = Site("strict", SITE.frame, "p a { color: #123 !important } a { font-size: 20px }")
DOCUMENT = "<!DOCTYPE html><html><body><p>Low water at six.</p></body></html>"
LINK = "<style>.k { color: red } .j { color: red }</style><h2 class=k>x</h2><p><a class=j href='https://x.example/'>x</a></p>"


@pytest.mark.parametrize(
    ("piece", "sites", "told"),
    [
        ("<p>[[walks]]</p>", [FILLS], []),
        ("<p>[[walks]] [[tides]]</p>", [FILLS], ["1:14 unless the platform"]),
        ("<p>[[walks]]</p>", [FILLS, SITE], ["1:4 except where shop fills it in"]),
        (DOCUMENT, [BOXED], []),
        (DOCUMENT, [BOXED, SITE], ["1:1 (but for the box of box)"]),
        (LINK, [STRICT], ["1:31 color: #123 !important"]),
        ("<p><a style='color: red; margin: 0' href='https://x.example/'>x</a></p>", [STRICT], ["1:14 !important"]),
        ("<style>a { font-size: 9px }</style><a style='margin: 0' href='/x'>x</a>", [STRICT], []),
        ("<style>* { font-size: 9px }</style><a style='margin: 0' href='/x'>x</a>", [STRICT], []),
        ("<style>:where(a) { font-size: 9px }</style><a style='margin: 0' href='/x'>x</a>", [STRICT], ["1:20 20px"]),
        ("<p><a href='#head'>x</a></p>", [structs.replace(SITE, frame="<h1 id=head>")], []),
        ("<p><a href='#head'>x</a></p>", [structs.replace(SITE, frame="<h1>head</h1>")], ["1:7 Nothing in the piece"]),
    ],
)
def test_rules_know_the_sites_that_a_piece_is_for(piece: str, sites: list[Site], told: list[str]) -> None:
    shown = [each.finding for each in find(Piece(Source(piece)), sites=tuple(sites))]
    assert len(shown) == len(told)
    for each, expected in zip(shown, told, strict=True):
        place, _, words = expected.partition(" ")
        assert f"{each.line}:{each.column}" == place
        assert words in each.message


@pytest.mark.parametrize(
    ("address", "size", "rules"),
    [
        ("limpet.png", 'width="400" height="300"', ["pictures/local"]),
        ("limpet.png", 'width="400" height="100"', ["pictures/local", "pictures/size"]),
        ("limpet.png", 'width="900"', ["pictures/local", "pictures/size", "pictures/region"]),
        ("limpet.png", 'width="900" style="max-width: 100%; height: auto"', ["pictures/local"]),
        ("cut.png", "", ["pictures/unreadable", "pictures/local"]),
        ("no-picture.png", "", ["pictures/unreadable", "pictures/local"]),
        ("huge.svg", "", ["pictures/unreadable", "pictures/local"]),
        ("heavy.png", "", ["pictures/local", "pictures/weight"]),
        ("nowhere.png", "", ["pictures/local"]),
    ],
)
def test_pictures_are_held_against_their_files(address: str, size: str, rules: list[str], folder: Path) -> None:
    names = found(f'<img src="{address}" alt="A limpet" {size}>', folder=folder, region=700)
    assert sorted(names) == sorted(rules)


def test_a_picture_that_claims_more_than_is_believed_is_not_loaded() -> None:
    import struct
    import zlib

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    claims = (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0))
        + chunk(b"IEND", b"")
    )
    assert "60,000" in str(measure(claims)) or "more pixels" in str(measure(claims))
    assert isinstance(measure(b'<svg viewBox="0 0 30 20"></svg>'), Measured)


def test_a_silenced_rule_has_to_exist() -> None:
    with pytest.raises(UnknownRuleError, match="did you mean links/in-link"):
        find(Piece(Source("<p>x</p>")), silenced=["links/inlink"])
    assert found("<p>{{ x }}</a></p>", silenced=["all"]) == []


@settings(max_examples=150, deadline=None)
@given(fragments | st.text(max_size=200))
def test_any_text_gets_places_inside_it_and_mends_that_come_to_an_end(text: str) -> None:
    source = Source(text)
    for each in find(Piece(source), sites=(SITE,), region=300):
        if each.finding.line is not None:
            lines = len(source.lines._starts)
            assert 1 <= each.finding.line <= lines
        for splice in each.mend:
            assert 0 <= splice.span.start <= splice.span.end <= len(text)
    mended = mend(Piece(source)).text
    assert mend(Piece(Source(mended))).text == mended


def test_hostile_pieces_crash_no_rule_and_no_command() -> None:
    hostile = tomllib.loads((DATA / "hostile.toml").read_text("utf-8"))
    for text in (case if isinstance(case, str) else case[0] for cases in hostile.values() for case in cases):
        piece = Piece(Source(text))
        find(piece, sites=(SITE,), region=300)
        find_values(piece)
        replace_paths(piece, Hosts({"x": "https://h.example/x"}))
        assert neaten(Source(text)).changed or neaten(Source(text)).text == text


@pytest.mark.parametrize("piece", ["&amp;&[[b]]" * 300, "\n&amp;" * 300])
def test_a_long_text_is_decoded_once_however_many_parts_of_it_are_told(piece: str) -> None:
    before = references._decode_long.cache_info().misses
    assert find(Piece(Source(piece))) or verse_tray.journey(piece, "article").stages
    verse_tray.journey(piece, "article")
    assert references._decode_long.cache_info().misses - before <= 4
