"""Hidden parts that a script or a state would show, shown, or behind what opens by itself."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.reading.scripts import is_active

NAME = "shown-without-script"
SENTENCE = "What a script or a style for a state would have shown is shown at once, or opens by itself."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield what shows each hidden part that something could have shown, where nothing of the kind is left.

    A part with an opener of its own, a button that names it, stands in a ``details`` element where that is kept.
    """
    published = draft.trip.published_view
    if not draft.is_active or is_active(published.tree.root, published.cascade.matched):
        return
    opens = draft.probe.keeps("details") and draft.probe.keeps("summary")
    gone: set[int] = set()
    for element in draft.outside(gone):
        shown = _shown(draft, element)
        if not shown or not draft.can_come(element):
            continue
        gone.add(element.key)
        opener = _opener(draft, element) if opens else None
        holder = None if opener is None else _held_alone(draft, opener)
        outer, of_opener = (None if e is None else draft.trip.piece.source_map.outer_span(e) for e in (element, holder))
        if opener is not None and outer is not None and of_opener is not None and of_opener.end <= outer.start:
            inner = draft.inner(opener)
            words = draft.subject.typed(inner).strip() or "&hellip;"
            yield Splice(of_opener, "")
            yield draft.put(outer.start, f"<details><summary>{words}</summary>")
            yield draft.put(outer.end, "</details>")
        own = {name: value for name, value in draft.own_look(element).items() if name not in shown}
        style = "; ".join(f"{name}: {value}" for name, value in (own | shown).items())
        yield from draft.with_attributes(element, style=style)
        yield from draft.without_attribute(element, "hidden")


def _shown(draft: Draft, element: Element) -> dict[str, str]:
    """Return the declarations that show an element that is hidden at first; nothing for one that is not."""
    look = draft.look(element)
    found = {}
    if look.get("display", "").split(" ")[0] == "none" or "hidden" in element.attributes:
        found["display"] = "block" if element.name in BLOCKS else "inline"
    if look.get("visibility", "").split(" ")[0] == "hidden":
        found["visibility"] = "visible"
    if look.get("opacity", "") in ("0", "0.0"):
        found["opacity"] = "1"
    for name in ("max-height", "height"):
        if look.get(name, "") in ("0", "0px") and "hidden" in look.get("overflow", ""):
            found[name] = "none" if name == "max-height" else "auto"
    return found


def _held_alone(draft: Draft, element: Element) -> Element:
    """Return an element, or the paragraph that holds nothing else."""
    parent = draft.subject.parents.get(element.key)
    return parent if parent is not None and parent.name == "p" and len(parent.children) == 1 else element


def _opener(draft: Draft, element: Element) -> Element | None:
    """Return the button that names a part in its event handler."""
    name = element.attributes.get("id", "")
    for opener, _, reading in draft.subject.handlers if name else ():
        if any(each.name == name for each in reading.sought) and opener.name in ("button", "a", "span", "div", "p"):
            return opener
    return None
