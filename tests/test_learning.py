"""An editor learned from what it made of a probe: of the engine, and as the program is used."""

from __future__ import annotations

import html
import json
import re
import subprocess
import sys
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import verse_tray
from support.editors import editor
from support.program import run
from verse_tray.demo import example
from verse_tray.editors.load import Editor, load_editor
from verse_tray.journeys.journey import journey
from verse_tray.learning.choose import choose
from verse_tray.learning.drift import differences
from verse_tray.learning.held import editor_of
from verse_tray.learning.learned import Learned, Returned, learn_from
from verse_tray.learning.probe.probe import compose, cut, size_of
from verse_tray.learning.probe.questions import questions
from verse_tray.learning.probe.wishes import Wishes, wishes_of
from verse_tray.learning.returned import recognise
from verse_tray.learning.trust import trust
from verse_tray.markup.addresses import host_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import own_text
from verse_tray.model.errors import InputError

pytestmark = pytest.mark.usefixtures("unwatched")
DATA = tomllib.loads((Path(__file__).parent / "data" / "learning.toml").read_text("utf-8"))
STAGES = ("save", "reopen", "publish")
PROBE = compose(1, choose(9900))
FORUM = Path(verse_tray.__file__).parent / "demo" / "pieces" / "forum" / "clean.py"


def back_of(box: Editor, text: str) -> dict[str, str]:
    made = journey(text, box)
    return {stage: made.stage(stage).markup for stage in STAGES if stage in box.lists or stage != "reopen"}


def learned_of(box: Editor, *, visual: bool = False, pastes: int = 1) -> Learned:
    asked: set[str] = set()
    returned: list[Returned] = []
    known: Learned | None = None
    for number in range(pastes):
        probe = compose(number + 1, choose(9900, asked, known.facts["save"] if known else None, visual=visual))
        returned.append(Returned(probe.text, back_of(box, probe.text)))
        asked |= {each.markup for each in probe.questions}
        known = learn_from(returned, visual=visual)
    assert known is not None
    return known


@pytest.mark.parametrize("case", DATA["learned"], ids=[case["name"] for case in DATA["learned"]])
def test_what_is_learned_of_an_editor(case: dict[str, Any]) -> None:
    box = editor(case["save"], **{stage: case[stage] for stage in ("paste", "reopen", "publish") if stage in case})
    found = learned_of(box, visual=case.get("visual", False), pastes=2)
    mine = editor_of(found.draft)
    assert mine is not None
    assert back_of(mine, case["piece"]) == back_of(box, case["piece"])
    assert not any(misses.trees for misses in found.misses.values())
    assert trust(found) > 85


@pytest.mark.parametrize("name", ["blog-post", "mail-signoff", "code-box"])
def test_stand_ins_are_learned_whole_in_two_pastes(name: str) -> None:
    box = load_editor(name)
    mine = editor_of(learned_of(box, pastes=2).draft)
    assert mine is not None
    pieces = [data.decode() for path, data in example().items() if path.suffix == ".html" and "tray" not in path.parts]
    assert len(pieces) > 5
    assert [back_of(mine, each) for each in pieces] == [back_of(box, each) for each in pieces]


@pytest.mark.parametrize("case", DATA["limit"], ids=lambda case: str(case["limit"]["unit"]))
def test_limits_are_learned(case: dict[str, Any]) -> None:
    wishes = Wishes(hosts=("films.example", "maps.example"))
    probe = compose(1, choose(9900, wishes=wishes))
    back = back_of(editor({}, limits=[case["limit"]]), probe.text)
    assert learn_from([Returned(probe.text, back)]).draft["limits"] == [case["limit"]]


def test_a_refused_size_gives_a_round_limit() -> None:
    assert learn_from([Returned("a" * 1500, {"save": "a" * 1500})], (9900,)).draft["limits"] == [
        {"measure": "stored", "unit": "characters", "most": 2000, "over": "refuse"}
    ]


@settings(max_examples=10)
@given(st.integers(500, 20_000))
def test_probes_fit_and_are_read_back(most: int) -> None:
    probe = compose(1, choose(most))
    assert len(probe.text) <= most
    assert list(cut(probe.text)) == [-1, *range(len(probe.questions)), 999]
    assert recognise(probe, probe.text, "x") == probe.text


def test_nothing_in_a_probe_does_anything() -> None:
    everything = "".join(each.markup for each in questions())
    hosts = {
        host_of(address.strip("\"'")) for address in re.findall(r"(?:(?:https?|ftp):|[\"'])//[^\s\"')<]+", everything)
    } - {None}
    assert {host for host in hosts if not str(host).endswith((".example", "example.org", "w3.org"))} == set()
    loading = [each for each in parse_fragment(everything).tree.elements() if "src" in each.attributes]
    assert {host_of(each.attributes["src"]) for each in loading} <= {None, "pictures.example", "frames.example"}
    assert set(re.findall(r"<script[^>]*>([^<]*)", everything)) == {'"w1"'}
    assert set(re.findall(r' on\w+="([^"]*)"', everything)) == {"1"}


@pytest.mark.parametrize("case", DATA["returned"], ids=[case["name"] for case in DATA["returned"]])
def test_what_is_of_no_use_is_told(case: dict[str, Any]) -> None:
    text = eval(case["made"], {"html": html, "re": re, "probe": PROBE.text})
    with pytest.raises(InputError, match=re.escape(case["told"])):
        recognise(PROBE, text, "stored-1.html")


def test_a_whole_page_around_it_is_taken_off() -> None:
    page = (
        f"<!DOCTYPE html><html><body><nav>a</nav><div id=post><p>{PROBE.text}\n</div><footer>b</footer></body></html>"
    )
    assert recognise(PROBE, page, "published-1.html") == f"<p>{PROBE.text}"
    assert recognise(PROBE, html.escape(PROBE.text), "x", visual=True) == html.escape(PROBE.text)


def test_what_pieces_hold_is_asked_first() -> None:
    piece = '<tide-box class="a b" data-u=1 style="gap:2px"></tide-box><iframe src=https://films.example/e></iframe>'
    wishes = wishes_of([piece], ["maps.example"], ["c"])
    assert (wishes.hosts, wishes.classes) == (("maps.example", "films.example"), ("c", "a", "b"))
    asked = [each.markup for each in choose(9900, wishes=wishes) if "your own pieces" in each.asks]
    assert any("<tide-box" in each for each in asked)
    assert any("gap:2px" in each for each in asked)
    assert any("data-u" in each for each in asked)


def test_a_learned_editor_says_what_is_a_guess() -> None:
    mine = verse_tray.learn([(PROBE.text, {"stored": PROBE.text})])
    assert mine.confidence is not None
    assert mine.confidence > 90
    rows = [(each.rule, each.column) for each in journey('<p b-c=1>a<x-y style="gap:0">z</x-y>', mine).findings]
    assert [row for row in rows if row[0] == "learned/guess"] == [("learned/guess", 4), ("learned/guess", 11),
                                                                  ("learned/guess", 23)]  # fmt: skip
    assert load_editor("article").confidence is None


def test_rules_that_differ_are_named() -> None:
    old, new = editor({"elements": ["p", "b"], "comments": False}), editor({"elements": ["p", "i"], "scripts": "drop"})
    assert [(each.key, each.before, each.now) for each in differences(old.profile, new.profile)] == [
        ("save.comments", "False", "True"), ("save.elements", "b", "i"), ("save.scripts", "", "drop"),
    ]  # fmt: skip


def forum(text: str) -> str:
    done = subprocess.run([sys.executable, "-B", str(FORUM)], input=text, capture_output=True, check=True, text=True)
    return done.stdout


def test_learning_as_the_program_does_it(folder: Path) -> None:
    begun = run("learn", "begin", "our-forum", "--like", "piece.html", "--most", "5000", cwd=folder)
    assert begun.returncode == 0
    place = folder / "our-forum"
    assert "learn read our-forum" in begun.stderr
    assert run("learn", "begin", "our-forum", cwd=folder).returncode == 2
    assert "nothing came back yet" in run("learn", "read", "our-forum", cwd=folder).stderr
    waiting = run("learn", "next", "our-forum", cwd=folder)
    assert (waiting.returncode, "still to be pasted" in waiting.stderr) == (1, True)
    before = {path.name for path in place.iterdir()}
    (place / "stored-1.html").write_text("something else")
    assert run("learn", "read", "our-forum", cwd=folder).returncode == 2
    assert {path.name for path in place.iterdir()} == before | {"stored-1.html"}  # nothing is learned of it

    (place / "stored-1.html").write_text(forum((place / "probe-1.html").read_text()) + "\n")
    read = run("learn", "read", "our-forum", cwd=folder)
    assert (read.returncode, "predicted to the letter" in read.stdout) == (0, True)
    assert "as it was" in run("learn", "read", "our-forum", cwd=folder).stdout
    piece = "<p class=a>a <b>c</b><br><mark>d</mark></p>"
    (folder / "new.html").write_text(piece)
    traced = run("trace", "new.html", "--editor", "./our-forum", "--markup", cwd=folder).stdout
    assert traced == forum(piece) == "<p>a <strong>c</strong><br />d</p>"

    assert run("learn", "next", "our-forum", cwd=folder).returncode == 0
    (place / "stored-2.html").write_text(forum((place / "probe-2.html").read_text()))
    shown = json.loads(run("learn", "show", "our-forum", "--format", "json", cwd=folder).stdout)
    assert {rule["key"] for rule in shown["rules"]} >= {"save.elements", "save.renameElements", "save.voidTags"}
    assert "Known" in run("learn", "show", "our-forum", cwd=folder).stdout

    changed = (place / "stored-2.html").read_text().replace(' title="t"', "")
    (place / "stored-2.html").write_text(changed)
    told = run("learn", "read", "our-forum", cwd=folder)
    assert (told.returncode, "answered the same in two ways" in told.stderr) == (2, True)


def test_drift_and_refusals_as_the_program_does_them(folder: Path) -> None:
    run("learn", "begin", "box", "--most", "1500", cwd=folder)
    place = folder / "box"
    sent = (place / "probe-1.html").read_text()
    noted = run("learn", "read", "box", "--refused", "1", cwd=folder)
    assert (noted.returncode, "A shorter one: verse-tray learn next box" in noted.stderr) == (0, True)
    assert "refused = true" in (place / "session.toml").read_text()
    assert run("learn", "next", "box", cwd=folder).returncode == 0
    assert len((place / "probe-2.html").read_text()) < len(sent)
    (place / "stored-2.html").write_text((place / "probe-2.html").read_text())
    assert run("learn", "read", "box", "--pair", "piece.html", "piece.html", cwd=folder).returncode == 0
    assert (place / "pair-1-back.html").read_bytes() == (folder / "piece.html").read_bytes()
    assert run("learn", "again", "box", cwd=folder).returncode == 0
    assert run("learn", "again", "box", cwd=folder).returncode == 2  # it is still to be pasted
    (place / "stored-1.html").write_text(re.sub("</?b( [^>]*)?>", "", (place / "probe-1.html").read_text()))
    drifted = run("learn", "again", "box", cwd=folder)
    assert (drifted.returncode, "changed since" in drifted.stdout) == (1, True)
    assert "save.replaceWithChildrenElements: now also b" in drifted.stdout


HOSTILE = st.sampled_from(
    [
        "<p class='x\"><script>go()</script>'>a</p>",
        "<script data-k=v>go()</script><style data-a=b>@import 'https://far.test/a'</style>",
        "<plaintext data-a=b>",
        "<p style=\"background:image-set('https://far.test/a' 1x); b: \\75rl(//far.test); behavior:url(x)\">",
        '<x"onclick=go() data-q=1>',
        "<p class='q001z w1 a'>q999z</p><q001z></q001z>",
        "<iframe src='https://far.test:80/&quot;onload=&quot;go()'></iframe><a href='javascript:go()?a'>b</a>",
        "<a href='https://far.test/?a=&quot;&gt;&lt;script&gt;go()'>b</a><p data-onclick='&quot;&gt;'>c",
        "<x-y style='color:red' data-z='{{7}}' class=row2>d</x-y>",
    ]
)


OWN_NAMES = {each.name for each in parse_fragment(compose(1, choose(22_000)).text).tree.elements()}


@given(st.lists(HOSTILE, max_size=6))
def test_no_piece_puts_code_into_a_probe(pieces: list[str]) -> None:
    probe = compose(1, choose(22_000, wishes=wishes_of(pieces)))
    elements = parse_fragment(probe.text).tree.elements()
    assert {own_text(each) for each in elements if each.name == "script"} == {'"w1"'}
    assert {value for each in elements for name, value in each.attributes.items() if name.startswith("on")} == {"1"}
    assert {each.name for each in elements} <= OWN_NAMES | {"x-y"}
    assert [*cut(probe.text)] == [-1, *range(len(probe.questions)), 999]
    loads = ("url(", "image-set", "@import", "behavior:u")
    told = "".join(each.markup for each in probe.questions if "your own pieces" in each.asks)
    assert not any(each in told for each in loads)


def test_nothing_of_an_author_is_written_over(folder: Path) -> None:
    (folder / "ours").mkdir()
    (folder / "ours" / "editor.toml").write_text("mine")
    refused = run("learn", "begin", "ours", cwd=folder)
    assert (refused.returncode, "learning would write over it" in refused.stderr) == (2, True)
    assert [path.name for path in (folder / "ours").iterdir()] == ["editor.toml"]
    run("learn", "begin", "box", "--most", "900", cwd=folder)
    place = folder / "box"
    (place / "stored-1.html").write_text((place / "probe-1.html").read_text())
    assert run("learn", "read", "box", cwd=folder).returncode == 0
    worked_on = (place / "editor.toml").read_text() + "# mine\n"
    (place / "editor.toml").write_text(worked_on)
    assert "is kept as" in run("learn", "read", "box", cwd=folder).stderr
    assert (place / "editor.toml.bak").read_text() == worked_on
    (place / "stored-1.html").write_text((place / "probe-1.html").read_text().replace("<b>", "<b class=x>"))
    assert run("learn", "read", "box", cwd=folder).returncode == 0
    assert not (place / "editor.toml.bak2").exists()  # what we wrote ourselves needs no copy


def test_what_came_back_at_each_stage_is_read(folder: Path) -> None:
    asked = ("--host", "films.example", "--class", "lead", "--most", "6000")
    assert run("learn", "begin", "blog", *asked, cwd=folder).returncode == 0
    place = folder / "blog"
    sent = (place / "probe-1.html").read_text()
    assert "https://films.example/e" in sent
    assert 'class="lead"' in sent
    (place / "stored-1.html").write_text(sent)
    (place / "reopened-1.html").write_text(opened := re.sub("<(/?)b(?=[ >])", r"<\1strong", sent))
    (place / "published-1.html").write_text(
        f"<!DOCTYPE html><body><main>{opened.replace(' tide=', ' t=')}</main></body>"
    )
    assert run("learn", "read", "blog", cwd=folder).returncode == 0
    profile = load_editor(place).profile
    assert profile.reopen is not None
    assert profile.reopen.rename_elements == {"b": "strong"}
    assert profile.save.rename_elements == profile.publish.rename_elements == {}
    (folder / "own.html").write_text("<p>a <x-y>b</x-y></p>")
    assert "learned/guess" in run("check", "own.html", "--editor", "./blog", "--format", "json", cwd=folder).stdout
    (folder / "back.html").write_text("<p>a</p>")
    told = run("verify", "own.html", "--editor", "./blog", "--stored", "back.html", cwd=folder)
    assert "verse-tray learn read ./blog --pair own.html back.html" in told.stdout
    (place / "published-1.html").write_text(re.sub(r"(w1)", r"<mark>\1</mark>", opened, count=12))
    few, every = (run("learn", "show", "blog", *more, cwd=folder).stdout for more in ((), ("--every",)))
    assert "more: --every shows them" in few
    assert len(every) > len(few)


def test_a_page_to_copy_from_is_written_for_a_visual_pane(folder: Path) -> None:
    assert run("learn", "begin", "note", "--visual", "--most", "1000", cwd=folder).returncode == 0
    page = (folder / "note" / "probe-1.page.html").read_text()
    assert (folder / "note" / "probe-1.html").read_text() in page
    assert "default-src 'none'" in page
    sent = (folder / "note" / "probe-1.html").read_text()
    (folder / "note" / "stored-1.html").write_text(f"<p>{html.escape(sent)}</p>")  # taken as plain text: learned too
    assert run("learn", "read", "note", cwd=folder).returncode == 0
    assert 'pane = "visual-text"' in (folder / "note" / "editor.toml").read_text()


def test_sizes_of_questions_are_those_of_their_text() -> None:
    two = questions()[5:7]
    assert len(compose(1, two).text) - len(compose(1, two[:1]).text) == size_of(two[1])
