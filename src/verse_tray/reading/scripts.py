"""Whether something in a piece can bring forth what is not shown."""

from __future__ import annotations

from verse_tray.editors.lists import is_event_handler
from verse_tray.markup.tree import Element, own_text
from verse_tray.style.cascade import Matched

_SHOWS = frozenset("display visibility opacity height max-height left top transform all position".split())


def is_active(holder: Element, matched: Matched) -> bool:
    """Tell whether a script, an event handler, or a style for a state can show what is hidden at first."""
    stack = [holder]
    while stack:
        element = stack.pop()
        if element.name == "script" and ("src" in element.attributes or own_text(element).strip()):
            return True
        if any(map(is_event_handler, element.attributes)):
            return True
        stack += [child for child in element.children if type(child) is Element]
    seen: set[int] = set()
    for hits in matched.values():
        if id(hits) in seen:
            continue
        seen.add(id(hits))
        for hit in hits:
            if hit.where.startswith(":") and not hit.where.startswith("::"):
                if any(name in _SHOWS for name, _ in (*hit.normal, *hit.important)):
                    return True
    return False
