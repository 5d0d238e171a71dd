"""Profiles: faults and their places, the stand-ins, adopting, and storing."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest
from msgspec import structs

import verse_tray
from verse_tray.editors.filters import Styles
from verse_tray.editors.load import known_editors, load_editor, read_profile
from verse_tray.editors.profile import Save
from verse_tray.editors.store import profile_toml
from verse_tray.journeys.journey import journey
from verse_tray.model.errors import ProfileError, UnknownEditorError

CASES = tomllib.loads((Path(__file__).parent / "data" / "profiles.toml").read_text("utf-8"))["case"]
HEAD = '# a profile\nformat = "verse-tray-editor/1"\ntitle = "t"\nsummary = "s"\n'


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_every_fault_is_told_with_its_place(case: dict[str, Any], tmp_path: Path) -> None:
    folder = tmp_path / "ours"
    folder.mkdir()
    (folder / "editor.toml").write_text(HEAD + case["text"], "utf-8")
    (folder / "broken.html").write_text("<p>no place</p>", "utf-8")
    (folder / "latin.css").write_bytes(b"/* \xe9 */")
    with pytest.raises(ProfileError) as caught:
        load_editor(folder)
    rows = [f"{f.line}:{f.column} {f.path}: {f.message}".replace(" : ", " ") for f in caught.value.faults]
    assert rows == case["faults"]


def test_an_unknown_editor_is_told_with_the_nearest_one(tmp_path: Path) -> None:
    with pytest.raises(UnknownEditorError, match="Did you mean course-page"):
        load_editor("course-pag")
    with pytest.raises(UnknownEditorError, match=r"holds no editor\.toml"):
        load_editor(tmp_path)
    with pytest.raises(UnknownEditorError, match="no such file"):
        load_editor("nowhere/editor.toml")


@pytest.mark.parametrize("name", known_editors())
def test_a_stand_in_survives_being_stored(name: str) -> None:
    profile = load_editor(name).profile
    assert read_profile(tomllib.loads(profile_toml(profile)), name) == profile


def test_a_profile_extends_another_and_leaves_out_what_does_not_hold(tmp_path: Path) -> None:
    head = 'format = "verse-tray-editor/1"\n'
    (tmp_path / "first.toml").write_text(
        head + 'extends = "course-page:teacher"\nleaveOut = ["save.styles"]\nsave.comments = true', "utf-8"
    )
    (tmp_path / "second.toml").write_text(
        head
        + 'extends = "first.toml"\ntitle = "Second"\n[save]\nscripts = "keep"\n[variants.open]\nleaveOut = ["save"]',
        "utf-8",
    )
    first, second = (load_editor(tmp_path / f"{name}.toml") for name in ("first", "second"))
    teacher = load_editor("course-page:teacher")
    assert (first.profile.title, second.profile.title) == (teacher.profile.title, "Second")
    assert second.profile.save == structs.replace(teacher.profile.save, comments=True, scripts="keep", styles=Styles())
    assert (second.frame, second.theme) == (teacher.frame, teacher.theme)
    assert load_editor(f"{tmp_path}/second.toml:open").profile.save == Save()
    with pytest.raises(UnknownEditorError, match=r"has no variant .close.\. Known are: open"):
        load_editor(f"{tmp_path}/second.toml:close")


EXPECTED = {
    # what the issue of each stand-in is: markup, and what is published
    "blog-post": [
        (
            "<style>p{}</style><p style='top:0' class=a onclick=b>x</p>",
            "<style>p{}</style><p style='top:0' class=a>x</p>",
        ),
        ("<script>1</script><a href='javascript:x'>y</a>", "<a>y</a>"),
    ],
    "course-page": [
        ("<style>p{}</style><p class=\"a\">x</p>", "<p class=\"a\">x</p>"),
        ("<p style=\"color: red; position: fixed\">x</p>", "<p style=\"color: red;\">x</p>"),
        ("<iframe src=\"https://maps.gannetcove.example/x\"></iframe><iframe src=\"https://x.example\"></iframe>",
         "<iframe src=\"https://maps.gannetcove.example/x\"></iframe>"),
        ("é" * 40_000, "é" * 32_767 + "\ufffd"),
    ],
    "mail-signoff": [
        ("<p class=\"a\" id=\"b\" style=\"color: red\">x</p>", "<p style=\"color: red\">x</p>"),
        ("<img src=\"http://a.example/x.png\" alt=\"y\">", "<img alt=\"y\">"),
        ("x" * 10_001, ""),
    ],
}  # fmt: skip


@pytest.mark.parametrize(
    ("name", "markup", "published"), [(n, *pair) for n, pairs in EXPECTED.items() for pair in pairs]
)
def test_what_the_stand_ins_are_there_for(name: str, markup: str, published: str) -> None:
    assert journey(markup, name).stages[-1].markup == published


@pytest.mark.parametrize(
    ("configuration", "message"),
    [
        ([], "expected a JSON object"),
        ({"elemnts": []}, "not a member of a SanitizerConfig"),
        ({"elements": ["p"], "removeElements": ["b"]}, "cannot both be given"),
        ({"elements": "p"}, "expected a list"),
        ({"elements": [{"nam": "p"}]}, "a name, or an object with a name"),
        ({"comments": 1}, "expected true or false"),
        ({"elements": [{"name": "p", "attributes": 5}]}, r"elements\[0\]\.attributes: expected a list"),
        ({"elements": [{"name": "p", "attributes": [5]}]}, r"elements\[0\]\.attributes\[0\]: expected a name"),
        ({"elements": [{"name": "p", "namespace": "x"}]}, "namespace: expected one of"),
        ({"elements": [{"name": "p", "namespace": ["x"]}]}, r"elements\[0\]\.namespace: expected an address"),
    ],
)
def test_a_configuration_that_cannot_be_adopted(configuration: Any, message: str) -> None:
    with pytest.raises(ProfileError, match=message):
        verse_tray.adopt(configuration)
