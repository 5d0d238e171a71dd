"""A comparison as a sheet: the two pieces side by side at one scale, what differs outlined."""

from __future__ import annotations

from html import escape
from pathlib import Path

from verse_tray.journeys.highlights import Mark
from verse_tray.journeys.journey import Journey
from verse_tray.preview.comparing.compare import Comparison
from verse_tray.preview.comparing.differences import Difference, grouped, sentence
from verse_tray.preview.pages.described import place_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import journey_page
from verse_tray.preview.sheet.sheet import framed
from verse_tray.preview.sheet.store import Store

_MOST = 12  # differences that are told beside the views


def compared_sheet(
    made: Comparison, theme: str, pictures: tuple[LocalPictures, LocalPictures], names: tuple[str, str]
) -> str:
    """Return the sheet of a comparison.

    Args:
        made: The comparison.
        theme: The site's theme, CSS.
        pictures: Where the pictures of the two pieces are; the first keeps them in its store for both.
        names: What the two pieces are called.
    """
    store = Store(pictures[0])
    journeys = (made.first, made.second)
    pages = [
        store.page(journey_page(journey, made.side, theme, local))
        for journey, local in zip(journeys, pictures, strict=True)
    ]
    rows = []
    for width, found in made.found.items():
        columns = []
        for at, name in enumerate(names):
            marks = store.marks(_marks(made, found, at, names))
            label = f"{name}, {width} pixels"
            columns.append(
                f'<section><h3>{escape(name)}</h3><div class="views"><figure class="wide" data-page="{pages[at]}" '
                f'data-marks="{marks}" data-width="{width}" data-theme="">'
                f'<div class="view"><button aria-label="Open larger: {escape(label)}"></button></div>'
                f"<figcaption>{width} px</figcaption></figure></div></section>"
            )
        told = [_told(group, made) for group in grouped(found)]
        rows.append(
            f'<article class="whole" data-row="{width}"><header class="alone"><div class="who"><h2>{width} pixels '
            "wide</h2>"
            f"<p>{_summary(made, len(found))}</p></div>{_list(told)}</header>"
            f'<div class="sides">{"".join(columns)}</div></article>'
        )
        store.more.setdefault("rows", {})[str(width)] = {
            "title": f"{width} pixels wide",
            "findings": [
                ("warning", each.what, sentence(each, names), [(*place_of(made.first, each.first), each.first)], 1)
                for each in found
            ],
            "more": 0,
            "lines": {},
            "published": [(True, line) for line in made.second.piece.source.text.splitlines()],
        }
    store.more["names"] = names
    store.more["written"] = made.first.piece.source.text.splitlines()
    about = (
        f"{names[0]} on the left and {names[1]} on the right, at the same scale, in the page of "
        f"{made.first.editor.name or 'no site'}. What differs is outlined and measured."
    )
    return framed(
        f"{Path(names[0]).name} and {Path(names[1]).name}", about=about, overview="", rows="\n".join(rows), store=store
    )


def _marks(made: Comparison, found: tuple[Difference, ...], at: int, names: tuple[str, str]) -> tuple[Mark, ...]:
    said: dict[int, list[str]] = {}
    for each in found:
        said.setdefault(each.second if at else each.first, []).append(sentence(each, names))
    marks = [Mark(number, None, "changed", tuple(told)) for number, told in said.items()]
    alone = made.aligned.second_only if at else made.aligned.first_only
    kind = ("gone", "new")[at]
    marks += [Mark(number, None, kind, (f"Only in {names[at]}.",)) for number in alone]  # type: ignore[arg-type]
    return tuple(marks)


def _told(group: list[Difference], made: Comparison) -> str:
    each = group[0]
    place = _place(made.first, each.first)
    more = f" and {len(group) - 1} more" if len(group) > 1 else ""
    one, two = (f"<b>{escape(value)}</b>" for value in each.values)
    return f"<li>{place}&lt;{escape(each.name)}&gt;{more}, {each.what}: {one} | {two}</li>"


def _place(journey: Journey, number: int) -> str:
    line, column = place_of(journey, number)
    return "" if line is None else f"<code>{line}:{column}</code> "


def _list(told: list[str]) -> str:
    more = len(told) - _MOST
    rest = f'<li class="more">and {more} more: open a view</li>' if more > 0 else ""
    return f'<ul class="worst columns">{"".join(told[:_MOST])}{rest}</ul>'


def _summary(made: Comparison, count: int) -> str:
    parts = [f"{count} measures differ"] if count else ["nothing differs in size, place or colour"]
    for number, where in ((len(made.aligned.first_only), "left"), (len(made.aligned.second_only), "right")):
        if number:
            parts.append(f"{number} element{'' if number == 1 else 's'} only on the {where}")
    return "; ".join(parts)
