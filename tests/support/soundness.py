"""What is true of every journey."""

from __future__ import annotations

from typing import Any

from support.forbidden import forbidden
from verse_tray.editors.lists import Lists
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.survival.look import count_look
from verse_tray.markup.names import fold_name
from verse_tray.markup.references import decode
from verse_tray.model.findings import Change
from verse_tray.piece.view import View

KEPT = ["a", "b", "p", "div", "td", "tr", "tbody", "table", "img", "span", "li", "ul"]
STRICT: dict[str, Any] = {
    "comments": False,
    "scripts": "drop",
    "styleElements": "drop",
    "eventHandlers": False,
    "elements": KEPT,
    "attributes": ["href", "style", "title", "src"],
    "dataAttributes": False,
    "addresses": {"schemes": ["https"]},
    "styles": {"properties": ["color"]},
}


def assert_named(change: Change, there: str, old: dict[str, list[str]]) -> None:
    """Hold what stands at a change's place against what its message names; ``old`` has the names before a rename."""
    there = fold_name(there)
    kind = change.rule.split("/")[0]
    if kind in ("attributes", "addresses"):  # one that the editor itself has added stands nowhere but in its tag
        assert there.startswith(("<", fold_name(change.message.split(" on <")[0])))
    elif kind == "styles" and not there.startswith(("<", "style=")) and there != "style":
        typed = decode(there, attribute=True)[0]
        assert typed.split()[:1] == fold_name(change.message.split("”")[0].lstrip("“")).rstrip("…").split()[:1]
    elif kind in ("elements", "scripts", "style-elements", "frames"):
        name = {"scripts": "script", "style-elements": "style", "frames": "iframe"}.get(kind)
        name = fold_name(name or change.message.split("<")[1].split(">")[0])
        assert there.startswith(tuple(f"<{each}" for each in (name, *old.get(name, []))))
    elif kind == "comments":
        assert there.startswith("<")


def assert_sound(made: Journey) -> None:
    """Hold what is true of every journey."""
    text = made.piece.source.text
    before = made.stages[0].markup
    for stage in made.stages:
        assert stage.changes or stage.markup == before, stage.name
        cut = any(change.rule == "limits/cut" for change in stage.changes)  # it may undo what writing added
        assert cut or not stage.changes or stage.markup != before, stage.name
        before = stage.markup
    old: dict[str, list[str]] = {}
    for rules in made.editor.lists.values():
        for name, new in rules.record.rename_elements.items():
            old.setdefault(new if isinstance(new, str) else new.name, []).append(name)
    for change in made.changes:
        assert change.message
        if change.span is not None:
            assert 0 <= change.span.start <= change.span.end <= len(text)
            assert_named(change, text[change.span.start : change.span.end], old)
    survived = made.survival
    for count in (survived.text, survived.structure, survived.look, survived.behaviour, survived.links):
        assert 0 <= count.kept <= count.of
    prefixes = tuple(rules.record.style_prefix for rules in made.editor.lists.values() if rules.record.style_prefix)
    written, published = made.piece.written_view, View(made.published, prefixes)
    assert count_look(written, published) == survived.look  # worked out anew, and from what matched before
    assert set(published.by_key) <= set(written.by_key)
    assert [finding.severity.rank for finding in made.findings] == sorted(f.severity.rank for f in made.findings)


def assert_clean_or_told(made: Journey, stage: str, rules: Lists, *, code_only: bool = False) -> None:
    """Hold that nothing forbidden is left; an editor that cleans once may leave what comes alive, and that is told."""
    left = forbidden(made.stage(stage).markup, rules)
    if code_only:
        left = [each for each in left if each.startswith(("on", "<script")) or "=javascript:" in each]
    told = {notice.rule for each in made.stages for notice in each.notices}
    assert not left or (rules.record.cleans == "once" and "writing/code-alive" in told), (stage, left)
