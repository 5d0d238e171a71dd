"""One row of a sheet: an editor, what is lost in it, and its views."""

from __future__ import annotations

import difflib
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from markupsafe import Markup
from msgspec import Raw, json, structs

from verse_tray.fitting.judge import of_hundred
from verse_tray.journeys.highlights import published_highlights, written_highlights
from verse_tray.journeys.journey import Journey, finding_of
from verse_tray.markup.lines import block_lines
from verse_tray.model.decoding import RECORD
from verse_tray.model.findings import Finding
from verse_tray.model.grouping import grouped
from verse_tray.piece.locations import key_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side, journey_page
from verse_tray.preview.pages.window import Window
from verse_tray.preview.sheet.store import Store
from verse_tray.preview.templates import render

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered
    from verse_tray.preview.sheet.sheet import Shown
    from verse_tray.preview.trials import Acted

_WORST = 3
_MOST_FINDINGS = 60
_MOST_PLACES = 8  # places of one sentence
_MOST_LINES = 4000  # lines of markup that are held against one another; more only stand side by side
_TITLES: dict[Side, str] = {
    "written": "As written",
    "editor": "In the editor",
    "published": "As published",
    "fitted": "Fitted, as published",
    "placed": "Placed, as published",
}


class _Row:
    """What one row is made of."""

    def __init__(
        self, journey: Journey, called: str, pictures: LocalPictures, shown: Shown, rendered: Rendered | None
    ) -> None:
        self.journey = journey
        self.besides = {side: each for (name, side), each in shown.besides.items() if name == called}
        self.pictures = pictures
        self.shown = shown
        self.rendered = rendered
        source = journey.piece.source
        keys = {_sign(finding_of(change, source)): key_of(change) for change in journey.changes}
        self.findings: dict[Finding, int | None] = {each: keys.get(_sign(each)) for each in journey.findings}
        """What there is to tell, the gravest first, with the numbers of the elements it is about."""
        if rendered is not None:
            self.findings |= rendered.findings
            order = sorted(self.findings, key=lambda each: (each.severity.rank, each.line or 0, each.column or 0))
            self.findings = {finding: self.findings[finding] for finding in order}


def _sign(finding: Finding) -> tuple[str, str, str, int | None, int | None]:
    """Return what tells a finding from others, whatever it costs."""
    return finding.rule, finding.stage, finding.message, finding.line, finding.column


def row(
    journey: Journey,
    called: str,
    pictures: LocalPictures,
    shown: Shown,
    store: Store,
    rendered: Rendered | None = None,
    acted: Acted | None = None,
) -> Markup:
    """Return the row of a journey, and put its pages into the store.

    Args:
        journey: The journey.
        called: What the row is called.
        pictures: Where the piece's own pictures are.
        shown: What the sheet shows.
        store: Where the pages go.
        rendered: What a browser saw of it.
        acted: What came of trying it out.
    """
    made = _Row(journey, called, pictures, shown, rendered)
    editor, survived = journey.editor, journey.survival
    themes = shown.themes.get(editor.name) or {Path(editor.profile.theme).stem: editor.theme}
    named = (
        ("text", survived.text), ("structure", survived.structure), ("look", survived.look),
        ("behaviour", survived.behaviour), ("links, media", survived.links),
    )  # fmt: skip
    score = rendered.score if rendered is not None else None
    groups = grouped([("", list(made.findings))])
    store.more.setdefault("rows", {})[called] = _details(made)
    number = journey.piece.source.name.partition(RECORD)[2]
    return render(
        "sheet/row.html",
        name=called,
        label=Path(journey.piece.source.name).name if shown.titled else number and f"Record {number}",
        title=editor.profile.title,
        verdict=journey.verdict.value,
        counts=[(about, count.kept, count.of, count.percent) for about, count in named if count.of],
        leaked=survived.leaked,
        alike=None if score is None else int(score * 100),
        worst=[
            (structs.replace(each.finding, message=each.finding.message + each.elsewhere), made.findings[each.finding])
            for each in groups[:_WORST]
        ],
        more=sum(each.size for each in groups[_WORST:]),
        groups=[
            [
                # the editor's own view has no theme of the site: once is enough
                None if number and side == "editor" else _side(made, side, name, css, len(themes) > 1, store)
                for side in shown.sides
            ]
            for number, (name, css) in enumerate(themes.items())
        ],
        acted=acted,
    )


class _Figure(NamedTuple):
    """One view of a side."""

    width: int
    page: int
    """Number of its page in the store."""
    heat: int | None
    """Number of what is stored of how alike its elements look; None where that is not known."""
    caption: str


class _Side(NamedTuple):
    """One side of a row, with one theme."""

    side: Side
    title: str
    called: str
    theme: str
    refused: bool
    marks: int = 0
    """Number of its marks in the store."""
    figures: tuple[_Figure, ...] = ()


def _side(made: _Row, side: Side, theme: str, css: str, named: bool, store: Store) -> _Side:
    besides = made.besides.get(side)
    journey = made.journey if besides is None else besides.journey
    called = "Pasted whole, as published" if side == "published" and "placed" in made.besides else _TITLES[side]
    title = called + (f", {theme}" if named and side != "editor" else "")
    called = called.lower()
    if journey.refused and side != "written":
        return _Side(side, title, called, theme, True)
    marks = {"written": written_highlights, "published": published_highlights}.get(side, lambda _: ())(journey)
    page, told = journey_page(journey, side, css, made.pictures), store.marks(marks)
    figures = []
    for width in made.shown.widths:
        alike = (
            made.rendered.likeness.get(Window(width, theme))
            if made.rendered and side in ("written", "published")
            else None
        )
        heat = store.heat(alike.elements) if alike else None
        caption = f"{width} px" + (f", {int(alike.score * 100)} of 100 alike" if alike and side == "published" else "")
        if besides is not None:
            caption = f"{width} px, {of_hundred(besides.share)} of 100"
        figures.append(_Figure(width, store.page(page.in_window(width)), heat, caption))
    return _Side(side, title, called, theme, False, told, tuple(figures))


def _details(made: _Row) -> Raw:
    """Return what the opened view tells of a row, as JSON: thousands of lines take less room so."""
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
    details = {
        "title": journey.editor.profile.title,
        "findings": told,
        "written": journey.piece.source.text.splitlines(),
        "more": max(0, len(alike) - _MOST_FINDINGS),
        "lines": lines,
        "published": list(_published_lines(journey)),
    }
    return Raw(json.encode(details))


def _published_lines(journey: Journey) -> Iterator[tuple[bool, str]]:
    """Yield the lines that readers get, and whether each stood there before."""
    before, after = (block_lines(stage.markup) for stage in (journey.stages[0], journey.stages[-1]))
    if before == after or len(before) + len(after) > _MOST_LINES:
        yield from ((True, line) for line in after)
        return
    for kind, _, _, first, last in difflib.SequenceMatcher(None, before, after, autojunk=False).get_opcodes():
        yield from ((kind == "equal", line) for line in after[first:last])
