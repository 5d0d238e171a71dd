"""One row of a sheet: an editor, what is lost in it, and its views."""

from __future__ import annotations

import difflib
from collections.abc import Iterator
from html import escape
from pathlib import Path
from typing import TYPE_CHECKING, Any

from verse_tray.journeys.highlights import key_of, published_highlights, written_highlights
from verse_tray.journeys.journey import Journey, finding_of
from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.lines import block_lines
from verse_tray.model.findings import Finding
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side, journey_page
from verse_tray.preview.pages.window import Window
from verse_tray.preview.sheet.store import Store
from verse_tray.preview.sheet.trial_part import acted_part

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered
    from verse_tray.preview.sheet.sheet import Shown
    from verse_tray.preview.trials import Acted

_WORST = 3
_MOST_FINDINGS = 60
_MOST_PLACES = 8  # places of one sentence
_MOST_LINES = 4000  # lines of markup that are held against one another; more only stand side by side
_TITLES: dict[Side, str] = {"written": "As written", "editor": "In the editor", "published": "As published"}


class _Row:
    """What one row is made of."""

    def __init__(self, journey: Journey, pictures: LocalPictures, shown: Shown, rendered: Rendered | None) -> None:
        self.journey = journey
        self.pictures = pictures
        self.shown = shown
        self.rendered = rendered
        self.findings: dict[Finding, int | None] = dict.fromkeys(journey.findings)
        """What there is to tell, the gravest first, with the numbers of the elements it is about."""
        source = journey.piece.source
        self.findings |= {finding_of(change, source): key_of(change) for change in journey.changes}
        if rendered is not None:
            self.findings |= rendered.findings
            order = sorted(self.findings, key=lambda each: (each.severity.rank, each.line or 0, each.column or 0))
            self.findings = {finding: self.findings[finding] for finding in order}


def row(
    journey: Journey,
    pictures: LocalPictures,
    shown: Shown,
    store: Store,
    rendered: Rendered | None = None,
    acted: Acted | None = None,
) -> str:
    """Return the row of a journey, and put its pages into the store.

    Args:
        journey: The journey.
        pictures: Where the piece's own pictures are.
        shown: What the sheet shows.
        store: Where the pages go.
        rendered: What a browser saw of it.
        acted: What came of trying it out.
    """
    made = _Row(journey, pictures, shown, rendered)
    editor, verdict = journey.editor, journey.verdict.value
    themes = shown.themes.get(editor.name) or {Path(editor.profile.theme).stem: editor.theme}
    groups = []
    for number, (name, css) in enumerate(themes.items()):
        sides = [
            # the editor's own view has no theme of the site: once is enough
            "<section></section>"
            if number and side == "editor"
            else _side(made, side, name, css, len(themes) > 1, store)
            for side in shown.sides
        ]
        groups.append(f'<div class="sides">{"".join(sides)}</div>')
    store.more.setdefault("rows", {})[editor.name] = _details(made)
    return f"""<article id="row-{escape(editor.name)}" data-row="{escape(editor.name)}">
<header>
<div class="who"><h2>{escape(editor.profile.title)}</h2>
<p><b class="verdict {verdict}">{verdict}</b> <code>{escape(editor.name)}</code></p></div>
{_counts(journey, rendered)}
{_worst(made.findings)}
</header>
{"".join(groups)}
{acted_part(acted) if acted else ""}
</article>"""


def _counts(journey: Journey, rendered: Rendered | None) -> str:
    survived = journey.survival
    named = (
        ("text", survived.text), ("structure", survived.structure), ("look", survived.look),
        ("behaviour", survived.behaviour), ("links, media", survived.links),
    )  # fmt: skip
    rows = [_count(name, count) for name, count in named if count.of]
    if survived.leaked:
        rows.append(f'<dt>leaked</dt><dd class="lost">{survived.leaked:,} characters</dd>')
    if rendered is not None and rendered.score is not None:
        percent = int(rendered.score * 100)
        lost = ' class="lost"' if percent < 100 else ""
        rows.append(f'<dt>looks alike</dt><dd{lost}><i style="--kept: {percent}%"></i>{percent} of 100</dd>')
    return f'<dl class="counts">{"".join(rows)}</dl>'


def _count(name: str, count: Count) -> str:
    bar = f'<i style="--kept: {count.percent}%"></i>'
    if count.lost:
        return f'<dt>{name}</dt><dd class="lost">{bar}{count.kept:,} of {count.of:,}</dd>'
    return f"<dt>{name}</dt><dd>{bar}all {count.of:,}</dd>"


def _worst(findings: dict[Finding, int | None]) -> str:
    rows = [_finding(finding, about) for finding, about in list(findings.items())[:_WORST]]
    more = len(findings) - _WORST
    if more > 0:
        rows.append(f'<li class="more">and {more} more: open a view</li>')
    return f'<ul class="worst">{"".join(rows) or "<li>Nothing to tell.</li>"}</ul>'


def _finding(finding: Finding, key: int | None) -> str:
    place = f"<code>{finding.line}:{finding.column}</code> " if finding.line is not None else ""
    about = "" if key is None else f' data-about="{key}"'
    return f'<li class="{finding.severity}"{about}>{place}{escape(finding.message)}</li>'


def _side(made: _Row, side: Side, theme: str, css: str, named: bool, store: Store) -> str:
    journey = made.journey
    title = _TITLES[side] + (f", {theme}" if named and side != "editor" else "")
    if journey.refused and side != "written":
        return f'<section><h3>{title}</h3><p class="nothing">Nothing: the piece is refused.</p></section>'
    marks = {"written": written_highlights, "editor": lambda _: (), "published": published_highlights}[side](journey)
    page, told = store.page(journey_page(journey, side, css, made.pictures)), store.marks(marks)
    figures = []
    for width in made.shown.widths:
        alike = made.rendered.likeness.get(Window(width, theme)) if made.rendered and side != "editor" else None
        heat = f' data-heat="{store.heat(alike.elements)}"' if alike else ""
        caption = f"{width} px" + (f", {int(alike.score * 100)} of 100 alike" if alike and side == "published" else "")
        figures.append(_figure(journey, side, theme, width, f'data-page="{page}" data-marks="{told}"{heat}', caption))
    return f'<section><h3>{title}</h3><div class="views">{"".join(figures)}</div></section>'


def _figure(journey: Journey, side: Side, theme: str, width: int, shows: str, caption: str) -> str:
    name = f"{journey.editor.name}, {_TITLES[side].lower()}, {width} pixels"
    return (
        f'<figure class="{"wide" if width > 600 else "narrow"}" {shows} data-width="{width}" data-side="{side}" '
        f'data-theme="{escape(theme)}">'
        f'<div class="view"><button aria-label="Open larger: {escape(name)}"></button></div>'
        f"<figcaption>{caption}</figcaption></figure>"
    )


def _details(made: _Row) -> dict[str, Any]:
    """Return what the opened view tells of a row."""
    journey, findings = made.journey, made.findings
    lines: dict[int, str] = {}
    for finding in reversed(list(findings)):  # the gravest comes first and is to win
        if finding.line is not None:
            lines[finding.line] = finding.severity.value
    alike: dict[tuple[str, str, str], list[Finding]] = {}
    for finding in findings:
        alike.setdefault((finding.severity.value, finding.stage, finding.message), []).append(finding)
    told = [
        (*kind, [(each.line, each.column, findings[each]) for each in group[:_MOST_PLACES]], len(group))
        for kind, group in list(alike.items())[:_MOST_FINDINGS]
    ]
    return {
        "title": journey.editor.profile.title,
        "findings": told,
        "more": max(0, len(alike) - _MOST_FINDINGS),
        "lines": lines,
        "published": list(_published_lines(journey)),
    }


def _published_lines(journey: Journey) -> Iterator[tuple[bool, str]]:
    """Yield the lines that readers get, and whether each stood there before."""
    before, after = (block_lines(stage.markup) for stage in (journey.stages[0], journey.stages[-1]))
    if before == after or len(before) + len(after) > _MOST_LINES:
        yield from ((True, line) for line in after)
        return
    for kind, _, _, first, last in difflib.SequenceMatcher(None, before, after, autojunk=False).get_opcodes():
        yield from ((kind == "equal", line) for line in after[first:last])
