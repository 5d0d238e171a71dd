"""Elements that an editor does not know, in the form of others that mean or look the same."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element

NAME = "other-elements"
SENTENCE = "Elements that the editor does not keep became others of the same look."

Forms = tuple[tuple[str, str], ...]
_BLOCKS = (
    "section article header footer main nav aside hgroup address search fieldset form figcaption details summary legend"
)
_WORDS = "abbr acronym bdi bdo button data label output time"
_CODE = "font-family: monospace; font-size: 13px"
_LARGER = (2.0, 1.5, 1.17, 1.0, 0.83, 0.67)
_AS: dict[str, Forms] = {
    **dict.fromkeys(_BLOCKS.split(), (("div", ""), ("p", "margin: 0"))),
    **dict.fromkeys(_WORDS.split(), (("span", ""),)),
    "mark": (("span", "background-color: #ffff00; color: #000000"),),
    "small": (("span", "font-size: smaller"),),
    "big": (("span", "font-size: larger"),),
    "sub": (("span", "vertical-align: sub; font-size: smaller"),),
    "sup": (("span", "vertical-align: super; font-size: smaller"),),
    "u": (("ins", ""), ("span", "text-decoration: underline")),
    "ins": (("u", ""), ("span", "text-decoration: underline")),
    **{
        name: (*((each, "") for each in ("s", "del") if each != name), ("span", "text-decoration: line-through"))
        for name in ("s", "del", "strike")
    },
    "b": (("strong", ""), ("span", "font-weight: bold")),
    "strong": (("b", ""), ("span", "font-weight: bold")),
    "i": (("em", ""), ("span", "font-style: italic")),
    "em": (("i", ""), ("span", "font-style: italic")),
    **dict.fromkeys(("cite", "dfn", "var"), (("em", ""), ("i", ""), ("span", "font-style: italic"))),
    **dict.fromkeys(("kbd", "samp", "tt"), (("code", ""), ("span", _CODE))),
    "code": (("span", _CODE),),
    "blockquote": (("div", "margin: 16px 40px"),),
    "figure": (("div", "margin: 16px 40px"),),
    "center": (("div", "text-align: center"), ("p", "text-align: center; margin: 0")),
    "hr": (("div", "border-top: 1px solid #808080; margin: 8px 0"),),
    "menu": (("ul", ""), ("div", "")),
    "dl": (("div", "margin: 16px 0"), ("div", "")),
    "dt": (("div", ""), ("p", "margin: 0")),
    "dd": (("div", "margin-left: 40px"), ("p", "margin: 0 0 0 40px")),
    "th": (("td", "font-weight: bold; text-align: center"),),
    **{
        f"h{number}": (
            *((f"h{other}", f"font-size: {_LARGER[number - 1]:g}em") for other in (2, 3, 4) if other != number),
        )
        for number in range(1, 7)
    },
}
"""What stands for each: the first that the editor keeps, with the style that makes it look the same."""
_LIST: dict[str, Forms] = {
    "dl": (("ul", "list-style-type: none; padding-left: 0"),),
    "dt": (("li", ""),),
    "dd": (("li", "margin-left: 40px"),),
}


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield other names for the tags of elements that go, and the styles that stand for them."""
    gone: dict[str, bool] = {}
    around = draft.subject.around
    for element in draft.elements:
        name = element.name
        if (name not in _AS and "-" not in name) or element.namespace != "html" or draft.kept(element) is not None:
            continue
        if name == "button" and ("onclick" in element.attributes or any(e.name == "form" for e in around(element))):
            continue  # words that did something, and would do nothing
        if not draft.is_lost(element) and gone.setdefault(name, draft.probe.keeps(name)):
            continue  # what is around it takes it along
        name, style = _stand_in(draft, element)
        renamed = list(draft.renamed(element, name)) if name else []
        yield from renamed
        if renamed and style:
            own = element.attributes.get("style", "").rstrip("; ")
            yield from draft.with_attributes(element, style=f"{style}; {own}" if own else style)


def _stand_in(draft: Draft, element: Element) -> tuple[str, str]:
    """Return the name of what stands for an element, and its style; nothing where nothing does."""
    forms = _AS.get(element.name, (("span", ""), ("div", "")))
    if element.name in _LIST and draft.probe.keeps("ul") and draft.probe.keeps("li"):
        forms = _LIST[element.name]
    if any(isinstance(child, Element) and child.name in BLOCKS for child in element.children):
        forms = tuple(form for form in forms if form[0] != "p")
    with_style = (form for form in forms if draft.probe.keeps(form[0], form[1]))
    return next(with_style, next((form for form in forms if draft.probe.keeps(form[0])), ("", "")))
