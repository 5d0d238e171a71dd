"""Elements that an editor does not know, in the form of others that mean or look the same."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.splice import Splice

NAME = "other-elements"
SENTENCE = "Elements that the editor does not keep became others of the same look."
_BLOCKS = "section article header footer main nav aside figure figcaption address hgroup details summary fieldset form"
_AS = {
    **dict.fromkeys(_BLOCKS.split(), ("div", "")),
    "mark": ("span", "background-color: #ffff00; color: #000000"),
    "small": ("span", "font-size: 13px"),
    "big": ("span", "font-size: 19px"),
    "u": ("span", "text-decoration: underline"),
    "ins": ("u", ""),
    "del": ("s", ""),
    "strike": ("s", ""),
    "s": ("span", "text-decoration: line-through"),
    "b": ("strong", ""),
    "strong": ("b", ""),
    "i": ("em", ""),
    "em": ("i", ""),
    "cite": ("em", ""),
    "dfn": ("em", ""),
    "var": ("em", ""),
    "kbd": ("code", ""),
    "samp": ("code", ""),
    "tt": ("code", ""),
    "code": ("span", "font-family: monospace"),
    "blockquote": ("div", "margin: 16px 40px"),
    "center": ("div", "text-align: center"),
    "dl": ("div", ""),
    "dt": ("p", "font-weight: bold"),
    "dd": ("p", "margin-left: 40px"),
    "th": ("td", "font-weight: bold; text-align: center"),
    "h5": ("h4", ""),
    "h6": ("h4", ""),
    "h1": ("h2", ""),
}


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield other names for the tags of elements that go by themselves, and the styles that stand for them."""
    for element in draft.elements():
        stand_in = _AS.get(element.name)
        if stand_in is None or not draft.is_lost(element):
            continue
        name, style = stand_in
        renamed = list(draft.renamed(element, name))
        yield from renamed
        if renamed and style:
            own = element.attributes.get("style", "").rstrip("; ")
            yield from draft.with_attributes(element, style=f"{style}; {own}" if own else style)
