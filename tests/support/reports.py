"""Every report of samples that show all of what reports tell; ``python tests/support/reports.py`` stores them anew."""

from __future__ import annotations

import sys
import tomllib
from collections.abc import Iterable, Iterator
from io import StringIO
from pathlib import Path
from typing import Any

from rich.console import Console
from rich.text import Text

from verse_tray.checks.find import find
from verse_tray.checks.table import rule
from verse_tray.edit.hosted import local_paths
from verse_tray.edit.mend import mend
from verse_tray.edit.values import find_values
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import Editor, known_editors
from verse_tray.journeys.journey import journey
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity, Verdict
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.preview.comparing.align import aligned
from verse_tray.preview.comparing.compare import Comparison
from verse_tray.preview.comparing.differences import Difference
from verse_tray.preview.measuring.likeness import Likeness
from verse_tray.preview.measuring.render import Rendered
from verse_tray.preview.pages.window import Window
from verse_tray.preview.trials.result import Acted, Control, Link, Look
from verse_tray.reports.before_after import columns, unified
from verse_tray.reports.comparison_text import comparison_text
from verse_tray.reports.editor_text import editor_text
from verse_tray.reports.formats import FORMATS, Wanted, report_in
from verse_tray.reports.mend_text import mend_text
from verse_tray.reports.picture_text import pictures_text
from verse_tray.reports.results import PieceResult
from verse_tray.reports.rule_text import rule_list, rule_text
from verse_tray.reports.terminal import piece_views
from verse_tray.reports.text_layout import Words
from verse_tray.reports.trace_text import trace_text
from verse_tray.reports.trial_text import trial_text
from verse_tray.reports.value_text import values_json, values_text

if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parent.parent))
from support.editors import editor
from support.task_reports import task_reports

FOLDER = Path(__file__).parent.parent / "data" / "reports"
PICTURES = Path(__file__).parent.parent.parent / "src" / "verse_tray" / "demo" / "pieces"

WALK = """<style>.a { color: red } .a:hover { top: 0 } @media (max-width: 9px) { p { margin: 0 } }</style>
<h1>Low <i>water</i></h1>
<p class="a" style="color: #123; position: fixed" onclick="go()">One 🦀 two &amp; “three”
<a href="javascript:x()">odd</a>
<a href="http://far.example/y" target=_blank>far</a> <b>bold</b><b>er</b>, <code>a &lt; b</code></p>

a line that stands alone
<ul><li>limpet<li>crab<ol><li>inner</ol></ul><hr><blockquote>said</blockquote><pre>kept
 as it is</pre>
<table><caption>Counts</caption><tr><th>What<th>How many<tr><td>limpets<td>41</table>
<img src="pictures/beadlet-anemone.png" width="40" alt="A limpet"><img src="data:image/png;base64,AA">
<form><label>Name <input name=q value="x"></label><select><option>one</select>
<textarea>t</textarea><textarea></textarea><input name=r><button>Go</button></form>
<ol><li>one<ul><li>two<ul><li>three</ul></ul></ol>
<p>A <s>long</s> line of text that goes as a whole, with its end and all, and more of it</p>
<iframe src="https://maps.gannetcove.example/slipway" title="Map"></iframe><script>go()</script>
"""
HURRY = """<p class="b" class="c">Wear boots.</p>
<p style="color: #fff; bakground: blue">x</p>
<img src="c:\\pools\\limpet.png"><a href="www.pools.example">pools</a>
{{name}} <div>left open
"""
PLAIN = "<p>Low water at six.</p>\n"


def _acted() -> Acted:
    found = Finding("act/error", "publish", "tide is not defined.", 3, 5, Severity.ERROR)
    looks = (Look("at rest", (), b""), Look("hover", ("color #000 → #f00",), b""), Look("focus", (), b""))
    controls = (
        Control(2, 1, "button “Next”", (("a picture becomes b.png",), ("nothing more",)), looks),
        Control(None, None, "button “Idle”", ((), ()), ()),
        Control(4, 1, "summary “More”", (("“x” appears",), ("“x” appears",)), ()),
    )
    links = (
        Link(1, 2, "pools", "https://pools.example/", "new"),
        Link(None, None, "tides", "https://tides.example/", "tides"),
    )
    return Acted((found,), links, controls, 3)


def _rendered() -> dict[str, Rendered]:
    seen = Finding("render/sticks-out", "publish", "This sticks out by 40 pixels.", 3, 1, Severity.WARNING)
    windows = {Window(1280, "day"): Likeness(0.984, {1: 1.0}), Window(375, "day"): Likeness(0.5, {})}
    return {
        "blog-post": Rendered({seen: 3}, windows),
        "course-page": Rendered({}, {}),
        "note-field": Rendered({}, {}),
        "": Rendered({seen: 3}, {}),
    }


def _comparison() -> Comparison:
    into = editor({})
    first, second = (journey(text, into) for text in (WALK, WALK.replace("<hr>", "").replace("limpet<li>", "<li>")))
    found = {
        1280: (
            Difference(3, 3, "h1", "height", ("18 px", "23 px")),
            Difference(4, 4, "i", "text colour", ("#000000", "#aa0000")),
        ),
        900: (),
        375: (Difference(3, 3, "h1", "height", ("18 px", "23 px")),),
    }
    return Comparison(first, second, "published", aligned(first.published, second.published), found)


def reports() -> Iterator[tuple[str, Any]]:
    """Yield each report with the name of the file that holds it: renderables, or a text."""
    walk, hurry, plain = (Piece(Source(text, f"{name}.html")) for text, name in (
        (WALK, "walk"), (HURRY, "hurry"), (PLAIN, "plain"),
    ))  # fmt: skip
    every = chosen_editors(None)
    three = chosen_editors(["blog-post", "course-page", "note-field"])
    limited = Editor("limited", editor({}, limits=[
        {"measure": "stored", "unit": "characters", "most": 60, "over": "cut"},
        {"measure": "stored", "unit": "frames", "most": 5, "already": 1, "over": "warn"},
    ]).profile)  # fmt: skip
    results = {
        "walk-all": [PieceResult(walk, find(walk), tuple(journey(walk, each) for each in every))],
        "walk-three": [PieceResult(walk, (), tuple(journey(walk, each) for each in three), _rendered())],
        "hurry": [PieceResult(hurry, find(hurry), (journey(hurry, limited),))],
        "none": [PieceResult(hurry, find(hurry), (), {"": _rendered()[""]}), PieceResult(plain, (), ())],
        "plain": [PieceResult(plain, find(plain), tuple(journey(plain, each) for each in every))],
        "seen": [PieceResult(plain, (), (journey(plain, three[0]),), {"blog-post": Rendered({}, {})})],
    }
    for name, rows in results.items():
        for form in FORMATS if name != "walk-all" else ("text",):
            for every_one in (False, True) if form == "text" else (False,):
                for width in (60, 100) if form == "text" else (80,):
                    wanted = Wanted(every_one, width, Verdict.REWRITTEN if name == "plain" else Verdict.DAMAGED)
                    yield f"check-{name}.{form}{width}{'-every' * every_one}", report_in(form)(rows, wanted)
    odd = Piece(Source("<p class='\x01-\ue123-\ufffd-\ud7ff-\U0001f980'>x</p>", "-"))
    told = [PieceResult(odd, find(odd), (journey(odd, editor({"classes": ["x"]})),))]
    for form in ("sarif", "junit", "text"):
        yield f"check-odd.{form}", report_in(form)(told, Wanted())
    yield "check-never.junit", report_in("junit")(results["hurry"], Wanted(threshold=None))
    for into in (*three, every[0], limited):
        made = journey(walk, into)
        for stage in (None, "save", "publish"):
            yield f"trace-{into.name}-{stage}", trace_text(made, stage, every=stage == "save", width=100)
    yield "trace-plain", trace_text(journey(plain, every[0]), None, every=False, width=70)
    yield "unified", unified(journey(walk, three[1]), "save")
    yield "columns", columns(journey(walk, three[1]), "save")
    for stage in ("written", "paste", "publish"):
        yield f"unified-{stage}", unified(journey(walk, three[1]), stage)
        yield f"columns-{stage}", columns(journey(walk, three[1]), stage)
    yield "unified-same", unified(journey(plain, three[1]), "save")
    for into in chosen_editors(known_editors()):
        yield f"editor-{into.name}", editor_text(into)
    yield "editor-limited", editor_text(limited)
    yield "editor-strict", editor_text(Editor("strict", editor(
        {"elements": ["p", "script", "style"], "scripts": "drop", "styleElements": "drop", "removeElements": ["i"],
         "styles": {"syntax": {"*": "<color>", "width": "<length>"}}},
        paste={"pane": "visual-rich", "rich": ["code", "ends"]},
    ).profile))  # fmt: skip
    yield "mend", mend_text(hurry.source, mend(hurry))
    yield "mend-nothing", mend_text(plain.source, mend(plain))
    yield "pictures", pictures_text(Subject(walk, folder=PICTURES), walk.source, local_paths(walk, PICTURES))
    yield "pictures-none", pictures_text(Subject(plain), plain.source, [])
    yield "rule", rule_text("links/in-link", rule("links/in-link"))
    yield "rules", rule_list(("links/in-link", "markup/ampersand"))
    yield "rules-narrow.text60", rule_list(("links/in-link", "styles/animation-undefined"))
    yield "trace-narrow.text60", trace_text(journey(walk, three[1]), None, every=False, width=60)
    yield "values", values_text(walk.source, find_values(walk))
    yield "values.json", values_json(walk.source, find_values(walk))
    boxes = chosen_editors(["sidebar-box", "code-box", "framed-box"])
    for side in ("written", "editor", "published"):
        yield f"terminal-{side}", piece_views([journey(walk, each) for each in (*three, *boxes)], (side,), 80)
    yield "trial", trial_text(journey(walk, three[0]), _acted())
    yield "trial-nothing", trial_text(journey(plain, three[0]), Acted((), (), (), 0))
    yield "trial-runs", trial_text(journey("<script>1</script>", "sidebar-box"), Acted((), (), (), 0))
    yield "comparison", comparison_text(_comparison(), ("walk.html", "other.html"))
    yield from task_reports()


def typed() -> Iterator[str]:
    """Yield what becomes of every start of data/typing.toml with every row of keys, as a browser has it as well."""
    cases = tomllib.loads((FOLDER.parent / "typing.toml").read_text("utf-8"))
    for start in cases["starts"]:
        for keys in cases["keys"]:
            made = journey(start, editor({}, reopen={}), typed=tuple(keys))
            yield f"{start} | {' '.join(keys)} | {made.stage('reopen').markup}"


def shown(report: Any, name: str) -> str:
    """Return a report as it is stored: colours and all."""
    if isinstance(report, str):
        return report
    width = 60 if "text60" in name else 70 if name == "trace-plain" else 80 if name.startswith("terminal") else 100
    file = StringIO()
    screen = Console(
        file=file, width=width, color_system="standard", force_terminal=True, highlight=False, markup=False, emoji=False
    )
    parts: Iterable[Any] = report
    for part in parts:
        screen.print(part, soft_wrap=not part.wrapped if isinstance(part, Words) else isinstance(part, Text))
    return file.getvalue()


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for old in FOLDER.iterdir():
        old.unlink()
    for name, report in reports():
        (FOLDER / f"{name}.txt").write_text(shown(report, name), "utf-8", newline="")
    (FOLDER.parent / "typed.txt").write_text("\n".join(typed()) + "\n", "utf-8", newline="")
