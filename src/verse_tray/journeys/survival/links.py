"""Links and media: addresses that are still what the author wrote."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES, is_same_address, srcset_addresses
from verse_tray.piece.view import View


def count_links(written: View, after: View) -> Count:
    """Count the addresses of links, pictures and other media; those of scripts and frames count as behaviour.

    A link to a place within the piece (``#name``) is intact only while that place is still there.
    """
    kept = total = 0
    anchors: dict[str, int] = {}
    for element in written.elements:
        for name in ("id", "name"):
            if name in element.attributes:
                anchors.setdefault(element.attributes[name], element.key)
    for element in written.elements:
        if not element.attributes or element.name in ("script", "iframe"):
            continue
        for name in element.attributes.keys() & ADDRESS_ATTRIBUTES:
            value = element.attributes[name]
            total += 1
            now = after.by_key.get(element.key)
            found = None if now is None else now.attributes.get(name)
            if found is None:
                continue
            place = value[1:] if value.startswith("#") else ""
            if place and place in anchors:
                target = after.by_key.get(anchors[place])
                kept += target is not None and found[1:] in (target.attributes.get("id"), target.attributes.get("name"))
            else:
                before, now_there = (srcset_addresses(each) if name == "srcset" else [each] for each in (value, found))
                kept += len(before) == len(now_there) and all(map(is_same_address, before, now_there))
    return Count(kept, total)
