"""A comparison as a sheet: the two pieces side by side at one scale, what differs outlined."""

from __future__ import annotations

from pathlib import Path

from markupsafe import Markup

from verse_tray.journeys.highlights import Highlight
from verse_tray.model.phrasing import counted, storable
from verse_tray.preview.comparing.compare import Comparison
from verse_tray.preview.comparing.differences import Difference, grouped, sentence
from verse_tray.preview.pages.described import place_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import journey_page
from verse_tray.preview.sheet.sheet import framed
from verse_tray.preview.sheet.store import Store
from verse_tray.preview.templates import render

_MOST = 12  # differences that are told beside the views


def compared_sheet(
    made: Comparison, theme: str, pictures: tuple[LocalPictures, LocalPictures], names: tuple[str, str]
) -> bytes:
    """Return the file of a sheet of a comparison.

    Args:
        made: The comparison.
        theme: The site's theme, CSS.
        pictures: Where the pictures of the two pieces are; the first keeps them in its store for both.
        names: What the two pieces are called.
    """
    names = (storable(names[0]), storable(names[1]))
    store = Store(pictures[0])
    journeys = (made.first, made.second)
    pages = [journey_page(journey, made.side, theme, local) for journey, local in zip(journeys, pictures, strict=True)]
    rows = []
    for width, found in made.found.items():
        groups = grouped(found)
        rows.append(
            render(
                "comparing/compared.html",
                width=width,
                summary=_summary(made, len(found)),
                told=[(group[0], len(group) - 1, place_of(made.first, group[0].first)) for group in groups[:_MOST]],
                more=len(groups) - _MOST,
                columns=[
                    (name, store.page(pages[at].in_window(width)), store.marks(_marks(made, found, at, names)))
                    for at, name in enumerate(names)
                ],
            )
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
        f"{Path(names[0]).name} and {Path(names[1]).name}",
        about=about,
        overview=Markup(),
        rows=Markup("\n").join(rows),
        store=store,
    )


def _marks(made: Comparison, found: tuple[Difference, ...], at: int, names: tuple[str, str]) -> tuple[Highlight, ...]:
    said: dict[int, list[str]] = {}
    for each in found:
        said.setdefault(each.second if at else each.first, []).append(sentence(each, names))
    marks = [Highlight(number, None, "changed", tuple(told)) for number, told in said.items()]
    alone = made.aligned.second_only if at else made.aligned.first_only
    kind = ("gone", "new")[at]
    marks += [Highlight(number, None, kind, (f"Only in {names[at]}.",)) for number in alone]  # type: ignore[arg-type]
    return tuple(marks)


def _summary(made: Comparison, count: int) -> str:
    parts = (
        [f"{counted(count, 'measure')} differ{'s' if count == 1 else ''}"]
        if count
        else ["nothing differs in size, place or colour"]
    )
    for number, where in ((len(made.aligned.first_only), "left"), (len(made.aligned.second_only), "right")):
        if number:
            parts.append(f"{number} element{'' if number == 1 else 's'} only on the {where}")
    return "; ".join(parts)
