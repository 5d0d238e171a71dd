"""The page of the stand-in editors, for ``tools/write_pages.py``.

What each of them shows is found out by sending one piece through it that gives every step something to do.
"""

from __future__ import annotations

from functools import cache

from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.journeys.journey import journey
from verse_tray.journeys.steps import STEPS

DEEP = "<span>" * 32 + "deep" + "</span>" * 32
PICTURES = '<img src="data:image/png;base64,%s" alt="b">'
_HEAD = """# The stand-in editors

No real platform ships with Verse Tray: these are made up, each for what it shows. `verse-tray editors show NAME` tells
in sentences what one of them does, and `verse-tray editors new NAME --like OTHER` begins one of your own with it.

| editor | what it is and does |
|---|---|
"""
_TABLE = """
## Which shows what

Found out by sending one piece through each, variants included, that gives every step something to do. A test holds this
table true. (Every editor with a visual pane takes what is typed there: `trace --typed`.)

"""


def variants(name: str) -> list[Editor]:
    """Return an editor and its variants."""
    editor = load_editor(name)
    return [editor, *(load_editor(f"{name}:{variant}") for variant in editor.profile.variants)]


def showcase(picture: str, more: str = "") -> str:
    """Return a piece that gives every step something to do: their samples, what the pane takes first."""
    steps = dict.fromkeys(step for stage in STEPS.values() for step in stage)
    samples = [step.sample for step in sorted(steps, key=lambda step: step.name != "pane")]
    return "".join(samples) + PICTURES % picture + f"\n{more}\n"


@cache
def shown_by_editor() -> dict[str, set[str]]:
    """Return the steps, limits and notices that each editor shows, by its name."""
    found: dict[str, set[str]] = {}
    for name in known_editors():
        rules = found.setdefault(name, set())
        for editor in variants(name):
            for markup in (
                showcase("AA"),
                showcase("A" * 9000, DEEP),
                "<p>x</p><script>y()</script>" * 3,
                "x" * 70_000,
            ):
                for stage in journey(markup, editor).stages:
                    rules |= {change.rule for change in (*stage.changes, *stage.notices)}
    groups = ("limits", "view", "box", "regions", "publish")
    return {
        name: {rule.split("/")[0] if rule.split("/")[0] not in groups else rule for rule in rules} - {"writing"}
        for name, rules in found.items()
    }


def stand_ins_page() -> str:
    """Return the page."""
    names = known_editors()
    rows = [_HEAD.rstrip("\n")]
    for name in names:
        for editor in variants(name):
            rows.append(f"| `{editor.name}` | {editor.profile.summary} |")
    shown = shown_by_editor()
    steps = dict.fromkeys(step.name for stage in STEPS.values() for step in stage)
    others = sorted({each for found in shown.values() for each in found} - set(steps))
    page = "\n".join(rows) + "\n" + _TABLE
    page += "| | " + " | ".join(names) + " |\n|---|" + "---|" * len(names) + "\n"
    for step in (*(each for each in steps if each != "typing"), *others):
        page += f"| `{step}` | " + " | ".join("yes" if step in shown[name] else "" for name in names) + " |\n"
    return page
