"""Pieces in their places: on sites, in templates, and from trays."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import time
import tomllib
from pathlib import Path
from typing import Any

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from support.program import Running
from support.program import run as start
from verse_tray.markup.parse import parse_document
from verse_tray.markup.scan import scan
from verse_tray.markup.tokens import Kind
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError, SettingsError, VerseTrayError
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece
from verse_tray.place.element_end import element_end
from verse_tray.place.page import Paste, predicted
from verse_tray.place.placement import Placement, Wanted, place
from verse_tray.place.tags import tags_of
from verse_tray.place.targets import Target
from verse_tray.place.template import insert
from verse_tray.sites.contradictions import contradictions
from verse_tray.sites.load import STAND_INS, Where, chosen_page, chosen_region, known_sites, load_site, split_page
from verse_tray.tasks.clipboard import copy_text
from verse_tray.tasks.new import KINDS, NewTray, begin_tray
from verse_tray.tasks.place import write_placements
from verse_tray.tasks.tray import TrayAtWork
from verse_tray.tasks.tray_placing import place_tray

CASES = tomllib.loads((Path(__file__).parent / "data" / "placing.toml").read_text("utf-8"))
TEXTS = [row[0] for row in CASES["placed"]]
REGIONS = [(name, page, region) for name in known_sites() for page, each in load_site(name).site.pages.items()
           for region in each.regions]  # fmt: skip


def run(arguments: list[str], folder: Path, **environment: str) -> subprocess.CompletedProcess[str]:
    return start(*arguments, cwd=folder, stdin=b"", **environment)


def where_of(page: str, region: str = "") -> Where:
    name, page = split_page(page)
    site = load_site(name)
    page = chosen_page(site, page)
    return Where(site, page, chosen_region(site, page, region))


def placed(pieces: dict[str, str], page: str, *regions: str, position: str = "") -> Placement:
    wanted = [
        Wanted(Piece(Source(text, f"{name}.html")), where_of(page, region), position)
        for region in regions or ("",)
        for name, text in pieces.items()
    ]
    return place(wanted[0].where.site, wanted)


@pytest.mark.parametrize(("text", "page", "region", "position", "way", "targets", "verdict"), CASES["placed"])
def test_each_part_goes_where_it_survives(
    text: str, page: str, region: str, position: str, way: str, targets: list[str], verdict: str
) -> None:
    found = placed({"piece": text}, page, region, position=position)
    assert (found.placed[0].outcome.way.name, [each.target.key for each in found.pastes]) == (way, targets)
    assert found.placed[0].verdict.value == verdict
    assert found.placed[0].outcome.worth >= found.placed[0].written.worth


@pytest.mark.parametrize(("pieces", "page", "regions", "position", "part"), CASES["told"])
def test_what_an_author_should_know_is_told(
    pieces: dict[str, str], page: str, regions: list[str], position: str, part: str
) -> None:
    found = placed(pieces, page, *regions, position=position)
    said = [*found.notes, *(finding.message for _, finding in found.findings)]
    assert any(part in each for each in said) if part else not said


@pytest.mark.parametrize(("pieces", "page", "region", "shares"), CASES["shared"])
def test_what_pieces_share_is_pasted_once(
    pieces: dict[str, str], page: str, region: str, shares: list[list[str]]
) -> None:
    assert [list(each.pieces) for each in placed(pieces, page, region).pastes] == shares


def test_copies_of_a_piece_do_not_clash() -> None:
    text = "<style>.c{color:teal}</style><p class=c>Low</p>"
    alike = placed({"a": text}, "noticeboard:board", "desktop", "phone")
    assert [each.text for each in alike.pastes] == [text, text]  # nothing of it is there just once
    piece = Piece(Source(f"{text}<b id=q></b><script>document.getElementById('q').title = 1</script>", "a.html"))
    wanted = Wanted(piece, where_of("field-blog:post", "sidebar"))
    scripted = place(wanted.where.site, [wanted, wanted])
    found = re.findall(r'id="?([\w-]+)', scripted.page("post"))
    assert (len(found), len(set(found))) == (2, 2)


def test_positions_are_those_among_what_stands_there() -> None:
    pieces = {"a": "<p>aa</p>", "b": "<p>bb</p>"}
    for position, order in (("2", "About us.*aa.*bb.*Next walk"), ("", "Archive.*aa.*bb"), ("1", "aa.*bb.*About us"),
                            ("before next walk", "About us.*aa.*bb.*Next walk")):  # fmt: skip
        first = Wanted(Piece(Source(pieces["a"], "a.html")), where_of("field-blog:post", "sidebar"), position)
        second = first._replace(piece=Piece(Source(pieces["b"], "b.html")), position="after a.html")
        assert re.search(order, place(first.where.site, [first, second]).page("post"), re.DOTALL), position
    for wrong, said in (
        ("9", "1 to 4 are there"),
        ("after nothing", "has no item 'nothing'"),
        ("x", "expected a number"),
    ):
        with pytest.raises(VerseTrayError, match=said):
            placed(pieces, "field-blog:post", "sidebar", position=wrong)


@settings(max_examples=40)
@given(st.lists(st.sampled_from(TEXTS), min_size=1, max_size=3), st.sampled_from(REGIONS), st.data())
def test_pastes_put_where_they_belong_give_the_predicted_page(
    tmp_path_factory: pytest.TempPathFactory, texts: list[str], region: tuple[str, str, str], data: st.DataObject
) -> None:
    site = load_site(region[0])
    others = [each for each in REGIONS if each[:2] == region[:2]]
    wanted = []
    for number, text in enumerate(texts):
        where = Where(site, region[1], data.draw(st.sampled_from(others))[2])
        items = len(where.of_region.items)
        position = data.draw(st.sampled_from(["", *(str(each + 1) for each in range(items + 1))]))
        wanted.append(Wanted(Piece(Source(text, f"piece-{number}.html")), where, position))
    folder = tmp_path_factory.mktemp("placed")
    found = place(site, wanted)
    list(write_placements([found], folder))
    record = json.loads((folder / "placement.json").read_text("utf-8"))
    assert record["format"] == "verse-tray/1"
    pastes = [
        Paste(
            (folder / each["file"]).read_bytes().decode("utf-8", "surrogatepass"),
            each["kind"],
            Target(each["target"]["kind"], *(each["target"][key] or "" for key in ("name", "page", "region"))),
            tuple(each["pieces"]),
            (each["place"] or 0) - 1,
        )
        for each in record["placements"][0]["pastes"]
    ]
    assert predicted(site, region[1], pastes) == (folder / "page.html").read_bytes().decode("utf-8", "surrogatepass")
    for each in found.placed:
        assert each.outcome.worth >= each.written.worth - 1e-9


@pytest.mark.parametrize(("name", "old", "new", "said"), CASES["sites"])
def test_a_site_that_contradicts_itself_is_refused(name: str, old: str, new: str, said: str, tmp_path: Path) -> None:
    shutil.copytree(STAND_INS / name, tmp_path / "site")
    file = tmp_path / "site" / "site.toml"
    text = file.read_text("utf-8")
    load_site(str(tmp_path / "site"))
    assert old in text
    file.write_text(text.replace(old, new), "utf-8")
    with pytest.raises(SettingsError) as caught:
        load_site(str(file))
    assert said in str(caught.value)
    assert re.search(r"site\.toml:\d+:\d+: ", str(caught.value))


def test_the_stand_in_sites_show_every_editor_and_every_kind_of_place() -> None:
    sites = [load_site(name) for name in known_sites()]
    regions = [region for each in sites for page in each.site.pages.values() for region in page.regions.values()]
    assert len(sites) >= 5
    assert len({region.editor for region in regions}) == 11
    for each in sites:
        assert not contradictions(each, (each.folder / "site.toml").read_text("utf-8"))
    pages = [page for each in sites for page in each.site.pages.values()]
    slots = [slot for each in sites for slot in each.site.slots.values()]
    slots += [slot for page in pages for slot in page.slots.values()]
    slots += [slot for region in regions for slot in region.slots.values()]
    assert {slot.at for slot in slots} == {"before-everything", "head", "body-start", "body-end", "block"}
    assert {slot.takes for slot in slots} == {"styles", "scripts", "markup"}
    assert any(each.site.holders for each in sites)
    assert any(region.twin for region in regions)


def marked(name: str, piece: str, end: str = "\n", *, inline: bool = False, indent: str = "") -> str:
    begin, stop = f"<!-- verse-tray begin: {name} -->", f"<!-- verse-tray end: {name} -->"
    return begin + piece + stop if inline else f"{indent}{begin}{end}{piece}{end}{indent}{stop}{end}"


@pytest.mark.parametrize(("name", "text", "how", "landmark", "after"), CASES["templates"])
def test_a_piece_goes_to_its_landmark_once(name: str, text: str, how: Any, landmark: str, after: str) -> None:
    made = insert(Source(text, "t.html"), "<p>new</p>\n", "piece", how, landmark)
    before, behind = after.split("*")
    alone = (not before or before.endswith("\n")) and (how != "instead-of" or behind.startswith(("\n", "b")))
    indent = re.match(r"[ \t]*(?=\S)|", behind)
    block = marked(
        "piece", "<p>new</p>", "\r\n" if "\r" in text else "\n", inline=not alone, indent=indent[0] if indent else ""
    )
    assert made.text == before + block + behind, name
    again = insert(Source(made.text, "t.html"), "<p>new</p>\n", "piece", how, landmark)
    assert (again.text, again.changes) == (made.text, ())
    newer = insert(Source(made.text, "t.html"), "<p>newer</p>", "piece", how, landmark)
    assert newer.text == made.text.replace("<p>new</p>", "<p>newer</p>")


def test_a_piece_moves_to_another_landmark() -> None:
    text = "<a id=one></a>\n<b id=two>x</b>\n"
    first = insert(Source(text, "t.html"), "<i>new</i>", "piece", "after", "#one")
    moved = insert(Source(first.text, "t.html"), "<i>new</i>", "piece", "instead-of", "#two")
    assert moved.text == f"<a id=one></a>\n{marked('piece', '<i>new</i>')}"
    assert "it stood at line 2, and has moved" in moved.notes[0]
    assert insert(Source(moved.text, "t.html"), "<i>new</i>", "piece", "instead-of", "#two").changes == ()


@pytest.mark.parametrize(("text", "how", "landmark", "said"), CASES["unusable"])
def test_a_landmark_that_is_no_landmark_is_refused(text: str, how: Any, landmark: str, said: str) -> None:
    with pytest.raises(InputError) as caught:
        insert(Source(text, "t.html"), "<p>new</p>", "piece", how, landmark)
    assert said in str(caught.value)


TAGS = st.sampled_from(
    "<div> <p> <b> </div> </p> </b> <ul> <li> </li> </ul> <!-- c --> text <hr> <td> <table> </table>".split(" ")
)


@settings(max_examples=150)
@given(st.lists(TAGS, max_size=14), st.lists(TAGS, max_size=14), st.sampled_from(("before", "after", "instead-of")))
def test_templates_never_change_outside_the_marks(front: list[str], back: list[str], how: Any) -> None:
    joint = ("", "\n", "  \n\t", "\r\n")[len(front) % 4]
    text = joint.join(front) + joint + '<div id="q">x</div>' + joint + joint.join(back)
    try:
        made = insert(Source(text, "t.html"), "<i>new</i>", "piece", how, "#q")
    except InputError:  # a stray end tag can end it
        return
    for change in made.changes:
        assert text[change.start : change.start + len(change.old)] == change.old
        assert made.text == text[: change.start] + change.new + text[change.start + len(change.old) :]
    outside = re.sub(r"[ \t]*<!-- verse-tray begin.*?end: piece -->(?:\r\n|\n)?", "", made.text, flags=re.DOTALL)
    if how != "instead-of":
        assert outside.replace(" ", "").replace("\t", "") == text.replace(" ", "").replace("\t", "")
    assert insert(Source(made.text, "t.html"), "<i>new</i>", "piece", how, "#q").text == made.text


@settings(max_examples=200)
@given(
    st.lists(
        st.sampled_from("<div> <p> </div> </p> <h2> </h2> text <section> </section>".split()),
        max_size=20,
    )
)
def test_elements_end_where_browsers_let_them_end(parts: list[str]) -> None:
    text = "<!doctype html><body>" + "".join(parts)
    parsed = parse_document(text)
    own: dict[int, list[Span | None]] = {}
    for element in parsed.tree.elements():
        span = parsed.places.span(element.key)
        if span is not None:
            own.setdefault(span.start, []).append(parsed.end_spans.get(element.key))
    for tag in tags_of(text, xml=False):
        spans = own.get(tag.span.start, [])
        if tag.kind == "start" and tag.name not in ("body", "html") and len(spans) == 1 and spans[0] is not None:
            assert element_end(text, tag, xml=False) == (spans[0].end, True)


@settings(max_examples=200)
@given(st.lists(st.sampled_from(CASES["snippets"]), max_size=12))
def test_the_tags_of_a_template_are_those_that_browsers_find(parts: list[str]) -> None:
    text = "<body>" + "".join(parts) + "<hr>"
    kinds = {Kind.START: "start", Kind.END: "end", Kind.COMMENT: "comment"}
    found = [(kinds[each.kind], each.start) for each in scan(text) if each.kind in kinds]
    bogus = {("comment", each.start()) for each in re.finditer(r"</[^a-z]|<[?!](?!--)", text, re.IGNORECASE)}
    found = [each for each in found if each not in bogus]  # what only browsers take for a comment is no landmark
    assert [(each.kind, each.span.start) for each in tags_of(text, xml=False)] == found


@pytest.mark.parametrize(("text", "said"), CASES["trays"])
def test_a_tray_that_cannot_be_used_is_refused(text: str, said: str, folder: Path) -> None:
    tray = folder / "tray"
    tray.mkdir()
    shutil.copy(folder / "piece.html", tray)
    shutil.copy(folder / "piece.html", folder / "outside.html")
    (tray / "link.html").symlink_to(folder / "outside.html")
    (tray / "tray.toml").write_text('format = "verse-tray-tray/1"\n' + text.replace("\\n", "\n"), "utf-8")
    before = sorted(tray.rglob("*"))
    done = run(["place"], tray)
    assert done.returncode == 2
    assert said in done.stderr
    assert "Traceback" not in done.stderr
    assert sorted(tray.rglob("*")) == before


def test_a_tray_from_its_beginning_to_the_old_banner(tmp_path: Path) -> None:
    assert (
        run(["new", "t", "--kind", "banner", "--on", "field-blog:post", "--region", "sidebar"], tmp_path).returncode
        == 0
    )
    tray = tmp_path / "t"
    with (tray / "tray.toml").open("a") as more:
        more.write(
            '\n[pieces.clock]\nparts = ["clock.html"]\non = [{ page = "field-shop:guide", region = "delivery" }]\n'
        )
    (tray / "clock.html").write_text("<p>Low</p><script>high()</script>", "utf-8")
    first, again = run(["check", "--fail-on", "never"], tray), run(["check", "--fail-on", "never"], tray)
    assert "2 pieces, 2 checked now" in first.stdout
    assert "2 pieces, nothing has changed" in again.stdout
    assert "2 sites, 2 placed now" in run(["place", "--fail-on", "never"], tray).stdout
    assert (tray / "placed" / "field-shop" / "2-delivery-clock.html").read_text() == "<p>Low</p>\n[[clock]]\n"
    assert "pastes of several sites have these numbers" in run(["place", "--done", "1"], tray).stderr
    assert run(["place", "--done", "1", "--on", "field-blog"], tray).returncode == 0
    standing = run(["place", "--standing"], tray).stdout
    assert "as it is now" in standing
    assert "never pasted" in standing
    banner = tray / "banner.html"
    banner.write_text(banner.read_text().replace("Saturday", "Sunday"), "utf-8")
    assert "an old version" in " ".join(run(["place", "--standing"], tray).stdout.split())
    assert "something has changed since" in run(["place", "--done", "1", "--on", "field-blog"], tray).stderr
    assert "2 sites, 1 placed now" in run(["place", "--fail-on", "never"], tray).stdout
    for command, file in (
        (["fit"], "fitted/clock/field-shop-guide-delivery.html"),
        (["preview"], "previews/clock.html"),
    ):
        assert run([*command], tray).returncode in (0, 1)
        assert (tray / file).is_file()


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_of_piece_begins_a_tray_that_can_be_placed(kind: str, tmp_path: Path) -> None:
    names = begin_tray(NewTray(tmp_path / "t", kind, "field-blog:post", "sidebar"))
    assert {path.name for path in (tmp_path / "t").iterdir()} == set(names)
    ((site, found),) = place_tray(TrayAtWork(tmp_path / "t"))
    assert (site, set(found.verdicts.values()) <= {"intact", "rewritten"}) == ("field-blog", True)


def test_a_tray_fills_hosts_makes_and_watches_what_is_the_authors_own(tmp_path: Path) -> None:
    shutil.copytree(STAND_INS / "field-shop", tmp_path / "our" / "shop")
    for name, text in CASES["own_tray"].items():
        (tmp_path / name).write_text(text, "utf-8")

    def placed_now() -> list[str]:
        return [site for site, _ in place_tray(TrayAtWork(tmp_path))]

    assert (placed_now(), placed_now()) == (["our-shop", "field-blog"], [])
    (pasted,) = (tmp_path / "placed" / "our-shop").glob("*-delivery-*.html")
    assert "Low at <b>06:10</b>" in pasted.read_text("utf-8")
    assert 'src="https://pictures.example.org/tide.png"' in pasted.read_text("utf-8")
    for name, again in (("our/shop/site.toml", "our-shop"), ("our/shop/guide.html", "our-shop"),
                        ("tides.csv", "our-shop"), ("rows.csv", "field-blog")):  # fmt: skip
        with (tmp_path / name).open("a", encoding="utf-8") as file:
            file.write("\n" if name.endswith("csv") else "<!-- x -->" if name.endswith("html") else "# x\n")
        assert (name, placed_now()) == (name, [again])


def test_what_a_slot_cannot_take_and_code_from_elsewhere(tmp_path: Path) -> None:
    piece = Piece(Source(f"<style>.q{{color:teal}}/*{'x' * 60_000}*/</style><p class=q>Low</p>", "a.html"))
    wanted = Wanted(piece, where_of("survey-site:reports", "body"))
    told = [each.message for _, each in place(wanted.where.site, [wanted]).findings if each.rule == "place/slot-full"]
    assert len(told) == 1
    assert "60,000" in told[0]
    text = "<P  ALIGN=center onclick='x()'>Low<FONT color=teal> tide</FONT>\n<script>x()</script>"
    given_as = Wanted(Piece(Source(text, "b.html")), where_of("course-site:lesson", "body"), as_given=True)
    assert [each.text for each in place(given_as.where.site, [given_as]).pastes] == [text]


def test_only_files_of_an_earlier_placement_are_written_over(folder: Path) -> None:
    asked = [
        "place",
        "piece.html",
        "--on",
        "field-shop:guide",
        "--region",
        "delivery",
        "--fail-on",
        "never",
        "-o",
        "out",
    ]
    assert run(asked, folder).returncode == 0
    (folder / "piece.html").write_text("<p>Low</p>", "utf-8")
    assert run(asked, folder).returncode == 0  # what is not there any more has gone
    names = {path.name for path in (folder / "out").iterdir()}
    assert names == {"1-delivery-piece.html", "page.html", "paste-sheet.html", "paste-sheet.md", "placement.json"}
    (folder / "out" / "page.html").write_text("mine", "utf-8")
    done = run(asked, folder)
    assert done.returncode == 2
    assert "page.html: it would be written over" in done.stderr
    assert (folder / "out" / "page.html").read_text() == "mine"


def test_templates_are_printed_or_written_with_a_backup(folder: Path) -> None:
    for name in ("desktop", "phone"):
        (folder / f"{name}.html").write_bytes(f"<body>\r\n<!-- {name} -->\r\n<p>\xe9</p></body>".encode("latin-1")
                                              .replace(b"<body>", b"<meta charset=latin1><body>"))  # fmt: skip
    before = (folder / "desktop.html").read_bytes()
    run(["place", "piece.html", "--in", "desktop.html", "--after", "<!-- desktop -->", "-o", "out.html"], folder)
    printed = (folder / "out.html").read_bytes()
    assert printed.startswith(before[:30])
    assert printed.endswith(before[-10:])
    both = [
        "place",
        "piece.html",
        "--in",
        "desktop.html",
        "--in",
        "phone.html",
        "--write",
        "--after",
        "<!-- desktop -->",
    ]
    assert "is in none" not in run(both, folder).stderr
    assert (folder / "desktop.html").read_bytes() == before  # the phone's has no landmark: nothing is written
    done = run([*both, "--after", "<!-- phone -->"], folder)
    assert done.returncode == 0, done.stderr
    assert "@@ -1,3 +1,6 @@\n <meta charset=latin1><body>\n" in done.stdout
    assert "+<!-- verse-tray begin: piece -->" in done.stdout
    assert (folder / "desktop.html.bak").read_bytes() == before
    assert (folder / "desktop.html").read_bytes() == printed
    assert "nothing was written" in run([*both, "--after", "<!-- phone -->"], folder).stderr
    one = ["place", "piece.html", "--in", "two.html", "--after", "<!-- for desktop -->"]
    (folder / "two.html").write_text("<!-- for desktop -->\n<!-- for phone -->\n", "utf-8")
    assert "readers there will not see it" in run(one, folder).stderr
    assert run([*one, "--after", "<!-- for phone -->"], folder).returncode == 0


def test_a_placement_that_is_killed_leaves_whole_files(folder: Path) -> None:
    asked = ["place", "piece.html", "--in", "t.html", "--after", "#q", "--write"]
    template = "<p id=q>x</p>\n" + "<p>filler</p>\n" * 40_000
    for moment in range(8):
        (folder / "t.html").write_text(template, "utf-8")
        running = Running(*asked, cwd=folder)
        time.sleep(0.02 + 0.05 * moment)
        running.send(signal.SIGKILL)
        running.ended()
        text = (folder / "t.html").read_text("utf-8")
        assert text == template or text.endswith("<p>filler</p>\n" * 40_000)


def test_a_paste_goes_to_the_clipboard(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    run(["place", "piece.html", "--on", "field-blog:post", "--region", "sidebar", "-o", "out"], folder)
    taker = folder / "xclip"
    taker.write_text(f"#!/bin/sh\ncat > {folder}/taken\n", "utf-8")
    taker.chmod(0o755)
    place_it = ["place", "--copy", "1", "-o", "out"]
    done = run(place_it, folder, PATH=f"{folder}:{os.environ['PATH']}", DISPLAY=":9", WAYLAND_DISPLAY="")
    assert done.returncode == 0, done.stderr
    assert (folder / "taken").read_bytes() == (folder / "piece.html").read_bytes()
    assert "there are 1 to 1" in run(["place", "--copy", "7", "-o", "out"], folder).stderr
    monkeypatch.setenv("PATH", str(folder / "nowhere"))
    with pytest.raises(VerseTrayError, match="no program of this system takes a text"):
        copy_text("x")


def test_the_json_of_a_placement_says_what_its_files_hold(folder: Path) -> None:
    done = run(["place", "piece.html", "--on", "survey-site:reports", "--format", "json", "--fail-on", "never"], folder)
    (placement,) = msgspec.json.decode(done.stdout)["placements"]
    assert placement["pieces"][0]["region"] == "body"
    assert [each["number"] for each in placement["pastes"]] == list(range(1, len(placement["pastes"]) + 1))
