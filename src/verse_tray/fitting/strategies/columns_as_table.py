"""Columns that styles make, as a table, where only tables survive."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.style.expand import expand
from verse_tray.style.values import pixels, words

NAME = "columns-as-table"
SENTENCE = "Columns became the cells of a table, since what puts them side by side goes."
_MOST = 6  # columns: more wrap on every screen
_COLUMN = 640  # pixels of a page's column, where nobody says
_NO_COLUMNS = frozenset("p tr ul ol table thead tbody tfoot".split())
_FRACTION = lazy(r"(\d*\.?\d+)fr")
_NUMBER = lazy(r"\d*\.?\d+")
_CELLS = frozenset("div section article aside header footer".split())
"""Elements that can be cells themselves."""
_OF_COLUMNS = ("flex", "order", "grid", "float", "align-self", "justify-self", "display", "box-sizing", "margin")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the tags of a table around the children of elements that lose what puts these side by side."""
    for element in draft.elements:
        children = [child for child in element.children if isinstance(child, Element)]
        if len(children) < 2 or element.name in _NO_COLUMNS or _has_words(element):
            continue
        look = draft.look(element)
        own = _columns(len(children), look)
        columns = (own if draft.loses(element, "display") else 0) if own else _by_children(draft, children)
        inner = draft.inner(element)
        spans = [draft.trip.piece.source_map.outer_span(child) for child in children]
        if columns < 2 or inner is None or any(span is None for span in spans) or not draft.probe.keeps("td"):
            continue
        looks = [draft.look(child) for child in children]
        if look.get("overflow-x", look.get("overflow", "")).split(" ")[0] in ("auto", "scroll"):
            continue  # what scrolls sideways may be wider than the page, and a table would make the page so
        whole = _whole_width(looks[:columns])
        yield draft.put(inner.start, f"<table{_of_table(draft, _gap(look, looks), whole)}><tbody><tr>")
        base = f"vertical-align: {'middle' if look.get('align-items') == 'center' else 'top'}"
        shares = _shares(look, looks, columns)
        for number, (child, span) in enumerate(zip(children, spans, strict=True)):
            assert span is not None
            if number and number % columns == 0:
                yield draft.put(span.start, "</tr><tr>")
            yield from _cell(draft, child, f"{base}; width: {shares[number % columns]}%" if shares else base)
        yield draft.put(inner.end, "</tr></tbody></table>")


def _gap(look: dict[str, str], children: list[dict[str, str]]) -> float:
    """Return the space between columns in CSS pixels: what is said of all, or that at the side of the first."""
    said = look.get("gap", look.get("column-gap", ""))
    if not said:
        margins = dict(expand("margin", children[0].get("margin", "0"))) | children[0]
        said = margins.get("margin-right", "0")
    return pixels(words(said)[-1]) or 0 if said else 0


def _whole_width(children: list[dict[str, str]]) -> str:
    """Return how wide a row of columns is: what the columns say, if all say it in shares of the page."""
    widths = [child.get("width", "") for child in children]
    if not all(re.fullmatch(r"\d+(?:\.\d+)?%", width) for width in widths):
        return "" if all(widths) else "100%"
    return f"{min(100.0, sum(float(width[:-1]) for width in widths)):g}%"


def _of_table(draft: Draft, gap: float, whole: str) -> str:
    """Return the attributes of a table of columns with the space between them."""
    spaced = f"; border-collapse: separate; border-spacing: {gap:g}px 0" if gap else ""
    typed = f' cellspacing="{gap:g}"' if gap and draft.probe.keeps("table", cellspacing=f"{gap:g}") else ""
    width = f"width: {whole}" if whole else ""
    style = (width + spaced).removeprefix("; ")
    return f' role="presentation"{typed}' + (f' style="{style}"' if style else "")


def _shares(look: dict[str, str], children: list[dict[str, str]], columns: int) -> list[int]:
    """Return the shares of the row, in percent, of columns whose width nobody says; nothing where it is not known.

    Those of a grid have what their template says in ``fr``, those that grow have as much as they grow.
    """
    if any("width" in child for child in children):
        return []
    if "grid" in look.get("display", ""):
        found = [_FRACTION.fullmatch(word) for word in words(look.get("grid-template-columns", ""))]
        parts = [float(each[1]) if each is not None else 0.0 for each in found]
        if len(parts) != columns or not all(parts):
            parts = [1.0] * columns
    else:
        grows = [child.get("flex", child.get("flex-grow", "0")).split(" ")[0] for child in children[:columns]]
        parts = [float(each) if _NUMBER.fullmatch(each) else 0.0 for each in grows]
        if not all(parts):
            return []
    return [round(100 * part / sum(parts)) for part in parts]


def _cell(draft: Draft, child: Element, base: str) -> Iterator[Splice]:
    """Yield what makes a cell of a child; around it where it is more than a plain block."""
    own = draft.own_look(child)
    if child.name in _CELLS and draft.inner(child) is not None:
        left = {name: value for name, value in own.items() if not name.startswith(_OF_COLUMNS)}
        bare = [each for each in ("border", "padding") if not any(name.startswith(each) for name in left)]
        base = base.partition("; ")[2] if "vertical-align" in left else base
        style = [base, *(f"{each}: 0" for each in bare), *(f"{name}: {value}" for name, value in left.items())]
        yield from draft.renamed(child, "td")
        yield from draft.with_attributes(child, style="; ".join(filter(None, style)))
        return
    span = draft.trip.piece.source_map.outer_span(child)
    assert span is not None
    yield draft.put(span.start, f'<td style="{escape_attribute(base)}; border: 0; padding: 0">')
    yield draft.put(span.end, "</td>")


def _has_words(element: Element) -> bool:
    return any(not isinstance(child, Element) and getattr(child, "data", "").strip() for child in element.children)


def _columns(count: int, look: dict[str, str]) -> int:
    """Return how many columns so many children stand in; 0 where they do not, or nobody knows."""
    display = look.get("display", "").split(" ")[0]
    if display in ("flex", "inline-flex") and not look.get("flex-direction", "row").startswith("column"):
        return count if count <= _MOST else 0
    if display in ("grid", "inline-grid"):
        template = look.get("grid-template-columns", "")
        repeated = re.fullmatch(r"repeat\(\s*(\d)\s*,.*\)", template)
        columns = int(repeated[1]) if repeated else len(words(template))
        return columns if columns <= _MOST else 0
    return 0


def _by_children(draft: Draft, children: list[Element]) -> int:
    """Return how many children stand side by side by styles of their own that go: cells, blocks in a line, floats."""
    if len(children) > _MOST or any(child.name not in BLOCKS for child in children):
        return 0
    looks = [draft.look(child) for child in children]
    for name, values in (("display", ("table-cell", "inline-block")), ("float", ("left", "right"))):
        if all(look.get(name) in values for look in looks) and draft.loses(children[0], name):
            if (name == "display" or looks[0]["float"] == "left") and _fit_side_by_side(looks):
                return len(children)  # where the first floats to the right, it stands last
    return 0


def _fit_side_by_side(looks: list[dict[str, str]]) -> bool:
    """Tell whether columns in shares of the page, with what is added to them in pixels, stand in one row."""
    shares, added = 0.0, 0.0
    for look in looks:
        width = look.get("width", "")
        shares += float(width[:-1]) / 100 if re.fullmatch(r"\d+(?:\.\d+)?%", width) else 0
        sides = ("margin",) if look.get("box-sizing") == "border-box" else ("margin", "padding", "border")
        expanded = dict(pair for name, value in look.items() for pair in expand(name, value))
        for side in sides:
            for end in ("left", "right"):
                name = f"{side}-{end}-width" if side == "border" else f"{side}-{end}"
                added += pixels(expanded.get(name, "0")) or 0
    return shares * _COLUMN + added <= _COLUMN
