"""The preview sheet: one HTML file, every view inside it, nothing loaded from anywhere."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape
from pathlib import Path
from string import Template

from verse_tray.journeys.engine import Journey
from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.tree import Tree
from verse_tray.preview.page import page

WIDE, NARROW = 1280, 375
"""Widths of the views, in CSS pixels: a desktop and a phone."""
_WORST = 3


def sheet(journeys: Sequence[Journey], pictures: tuple[Path, ...] = ()) -> str:
    """Return the sheet: for each journey the piece as written beside the piece as published, at both widths.

    Args:
        journeys: Journeys of one piece.
        pictures: Folders in which its pictures are looked for.
    """
    name = journeys[0].piece.source.name
    template = Template((Path(__file__).parent / "sheet.html").read_text("utf-8"))
    count = len(journeys)
    about = (
        f"As written on the left, as readers get it on the right, in {count} editor{'' if count == 1 else 's'}, "
        f"{WIDE} and {NARROW} pixels wide. Scripts do not run here and nothing is fetched: pictures and frames show as "
        "boxes of their size where no local file was given."
    )
    articles = "\n".join(_article(journey, pictures) for journey in journeys)
    return template.substitute(
        title=escape(Path(name).name if name != "-" else "piece"), about=about, articles=articles
    )


def _article(journey: Journey, pictures: tuple[Path, ...]) -> str:
    profile = journey.editor.profile
    verdict = journey.verdict.value
    refused = any(use.exceeded and use.over == "refuse" for use in journey.limits)
    published = '<div class="nothing">nothing: the piece is refused</div>'
    if not refused:
        published = _views(journey, journey.published, "as published", pictures)
    return f"""<article>
<header><h2>{escape(profile.title)}</h2> <span class="verdict {verdict}">{verdict}</span>
<code>{escape(journey.editor.name)}</code>
<p class="summary">{escape(profile.summary)}</p></header>
{_counts(journey)}
{_worst(journey)}
<div class="pair">
<section><h3>As written</h3>{_views(journey, journey.piece.parsed.tree, "as written", pictures)}</section>
<section><h3>As published</h3>{published}</section>
</div>
</article>"""


def _counts(journey: Journey) -> str:
    survived = journey.survival
    named = (
        ("text", survived.text), ("structure", survived.structure), ("look", survived.look),
        ("behaviour", survived.behaviour), ("links and media", survived.links),
    )  # fmt: skip
    rows = [f"<div><dt>{name}</dt>{_count(count)}</div>" for name, count in named if count.of]
    if survived.leaked:
        rows.append(f'<div><dt>leaked</dt><dd class="lost">{survived.leaked:,} characters</dd></div>')
    return f'<dl class="counts">{"".join(rows)}</dl>'


def _count(count: Count) -> str:
    if count.lost:
        return f'<dd class="lost">{count.lost:,} of {count.of:,} lost</dd>'
    return f"<dd>all {count.of:,}</dd>"


def _worst(journey: Journey) -> str:
    rows = []
    for finding in journey.findings[:_WORST]:
        place = f"<code>{finding.line}:{finding.column}</code> " if finding.line is not None else ""
        rows.append(f"<li>{place}{escape(finding.message)}</li>")
    return f'<ul class="worst">{"".join(rows)}</ul>' if rows else ""


def _views(journey: Journey, tree: Tree, what: str, pictures: tuple[Path, ...]) -> str:
    document = escape(page(journey.editor, tree, pictures), quote=True)
    figures = []
    for kind, width, label in (("wide", WIDE, "desktop"), ("narrow", NARROW, "phone")):
        title = escape(f"{journey.editor.name}, {what}, {label}")
        figures.append(
            f'<figure><div class="view {kind}"><iframe sandbox title="{title}" srcdoc="{document}"></iframe></div>'
            f"<figcaption>{label}, {width} px</figcaption></figure>"
        )
    return f'<div class="views">{"".join(figures)}</div>'
