"""Styles in place of old attributes and of font elements, where these go."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.style.expand import SIDES
from verse_tray.style.hints import has_hints, hints
from verse_tray.style.table_hints import TABLE_ATTRIBUTES, of_part

NAME = "styles-for-attributes"
SENTENCE = "Colours, widths and alignment in old attributes became styles."
_OLD = frozenset(
    "align bgcolor border bordercolor cellpadding cellspacing clear color face frame frameborder height hspace noshade "
    "nowrap rules size text valign vspace width".split()
)
_USUAL = ("", "currentcolor", "inherit")
_PARTS = ("width", "style", "color")
_OF_BORDER = lazy(r"border-(top|right|bottom|left|image)-")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a style attribute for each element that loses such attributes (HTML standard, chapter 15)."""
    for element in draft.elements:
        kept = draft.kept(element)
        gone = [name for name in element.attributes if name in _OLD and (kept is None or name not in kept.attributes)]
        look = dict(hints(element)) if gone and has_hints(element) else {}
        table = next((each for each in draft.subject.around(element) if each.name == "table"), None)
        if table is not None and _loses(draft, table):
            look = {**dict(of_part(table, element.name)), **look}
        look = _written({name: value for name, value in look.items() if not value.startswith("-internal")})
        if not look:
            continue
        own = draft.own_look(element)
        style = "; ".join(f"{name}: {value}" for name, value in {**look, **own}.items())
        if element.name == "font" and draft.is_lost(element):
            renamed = list(draft.renamed(element, "span"))
            if not renamed:
                continue
            yield from renamed
        yield from draft.with_attributes(element, style=style)


def _written(look: dict[str, str]) -> dict[str, str]:
    """Return a look as an author would write it: one declaration for what goes together, no word of one browser."""
    made = {
        name: value.removeprefix("-webkit-").removeprefix("baseline-")
        for name, value in look.items()
        if not _OF_BORDER.match(name)
    }
    if "float" in made:
        made.pop("vertical-align", None)  # it places nothing that floats
    for box in ("padding", "margin"):
        if len(values := {look.get(f"{box}-{side}", "") for side in SIDES}) == 1 and values != {""}:
            made = {name: value for name, value in made.items() if not name.startswith(f"{box}-")} | {box: values.pop()}
    lines = {
        side: [value for part in _PARTS if (value := look.get(f"border-{side}-{part}", "")) not in _USUAL]
        for side in SIDES
    }
    if len(set(map(tuple, lines.values()))) == 1:
        lines = {"": lines["top"]}
    for side, line in lines.items():
        if line and (not side or f"border-{side}-style" in look):  # a colour alone shows nothing
            made[f"border-{side}".rstrip("-") + "-width" * (line == ["0"])] = " ".join(line)
    return made


def _loses(draft: Draft, table: Element) -> bool:
    kept = draft.kept(table)
    return any(name in table.attributes and (kept is None or name not in kept.attributes) for name in TABLE_ATTRIBUTES)
