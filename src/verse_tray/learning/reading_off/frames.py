"""Frames: whose may be shown, and what every one is given."""

from __future__ import annotations

from typing import Any

from verse_tray.learning.facts.fates import Facts
from verse_tray.markup.addresses import host_of
from verse_tray.markup.names import HTML


def read_frames(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about frames into a filter."""
    fates = [each for each in facts.elements.get((HTML, "iframe"), []) if "src" in each.sent.attributes]
    kinds = {host_of(each.sent.attributes["src"]) or "": each.kind for each in fates}
    if "keep" in kinds.values() and set(kinds.values()) != {"keep"}:
        out["frameHosts"] = [host for host, kind in kinds.items() if kind == "keep" and host]
    got = [each for each in fates if each.got is not None]
    boxes = {each.got.attributes.get("sandbox") for each in got if each.got is not None}
    if len(boxes) == 1 and None not in boxes and any("sandbox" not in each.sent.attributes for each in got):
        out["frameSandbox"] = str(boxes.pop()).split()
    for key in ("width", "height"):
        values = {each.got.attributes.get(key) for each in got if each.got is not None}
        if len(values) == 1 and None not in values and values != {"9"}:
            out.setdefault("frameSize", {})[key] = values.pop()
