"""Write the page of the stand-in editors: ``python tools/write_stand_ins.py docs/stand-ins.md``.

What each of them shows is found out by sending one piece through it that gives every step something to do.
"""

from __future__ import annotations

import sys
from pathlib import Path

from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.journeys.journey import journey
from verse_tray.journeys.steps import STEPS

SHOWCASE = """<!-- a note -->
one line
and another

<style>.a { color: red } p { margin: 0 }</style><style>#b { top: 0 }</style>
<p class="a shop-x" id="b" style="color: red; position: fixed" onclick="x()" title="t">He said "yes" -- \u201cno\u201d,
a&nbsp;b \U0001f980 https://pools.example/x<br></p>
<b>one</b><b>two</b> <i class="icon"></i><center>c</center><custom-tag>d</custom-tag><font color="red">e</font>
<b>around <div>a block</div></b>
<a href="http://far.example/y">far</a> <a href="/near">near</a> <a href="javascript:x()">odd</a>
<a href="https://films.gannetcove.example/watch?film=low-water">a film</a>
<iframe src="https://maps.gannetcove.example/slipway" width="10"></iframe><iframe src="https://far.example"></iframe>
<iframe src="https://maps.gannetcove.example/pools"></iframe>
<img src="http://pictures.gannetcove.example/a.png" alt="a"><img src="data:image/png;base64,%s" alt="b">
<p>[[shop]] and [[tide-clock]]</p><object data="x">o</object><canvas>n</canvas><textarea>t</textarea>
<script>x()</script><form action="/go"><input name="q"></form>
%s
"""
DEEP = "<span>" * 32 + "deep" + "</span>" * 32
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


def shown_by_editor() -> dict[str, set[str]]:
    """Return the steps, limits and notices that each editor shows, by its name."""
    found: dict[str, set[str]] = {}
    for name in known_editors():
        rules = found.setdefault(name, set())
        for editor in variants(name):
            for markup in (
                SHOWCASE % ("AA", ""),
                SHOWCASE % ("A" * 9000, DEEP),
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


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(stand_ins_page(), "utf-8")
