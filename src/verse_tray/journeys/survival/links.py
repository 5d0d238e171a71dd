"""Links and media: addresses that are still what the author wrote."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.journeys.view import View
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES


def count_links(written: View, after: View) -> Count:
    """Count the addresses of links, pictures and other media; those of scripts and frames count as behaviour.

    A link to a place within the piece (``#name``) is intact only while that place is still there.
    """
    kept = total = 0
    targets = {e.attributes[n] for e in after.elements for n in ("id", "name") if n in e.attributes}
    anchors = {e.attributes[n] for e in written.elements for n in ("id", "name") if n in e.attributes}
    for element in written.elements:
        if not element.attributes or element.name in ("script", "iframe"):
            continue
        for name in element.attributes.keys() & ADDRESS_ATTRIBUTES:
            value = element.attributes[name]
            total += 1
            now = after.by_key.get(element.key)
            if now is None or now.attributes.get(name) != value:
                continue
            place = value[1:] if value.startswith("#") else ""
            kept += place not in anchors or place in targets
    return Count(kept, total)
