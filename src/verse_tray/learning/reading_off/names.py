"""Classes and identifiers: which stay, and what is put in front of them."""

from __future__ import annotations

import re
from typing import Any

from verse_tray.learning.facts.fates import Facts
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Text


def read_names(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about classes and identifiers into a filter."""
    kept: list[str] = []
    gone: list[str] = []
    prefixes: set[str] = set()
    for (_, name), rows in facts.attributes.items():
        for row in rows if name == "class" else ():
            got = (row.got or "").split()
            for each in row.sent.split():
                hit = next((new for new in got if new.endswith(each)), None)
                (gone if hit is None else kept).append(each)
                prefixes |= {hit[: -len(each)]} if hit is not None else set()
    prefix = prefixes.pop() if len(prefixes) == 1 else ""
    if prefix:
        out["classPrefix"] = prefix
    lost = dict.fromkeys(each for each in gone if each not in kept)
    if kept and lost:
        if "c1" in lost:  # nobody's class goes, so there is a list of those that stay
            out["classes"] = list(dict.fromkeys(kept))
        else:
            out["removeClasses"] = list(lost)
    rows = [row for (_, name), each in facts.attributes.items() if name == "id" for row in each if row.got]
    if rows and all(row.got and row.got != row.sent and row.got.endswith(row.sent) for row in rows):
        out["idPrefix"] = str(rows[0].got)[: -len(rows[0].sent)]
    for fate in facts.elements.get((HTML, "style"), []):
        if fate.got is not None:
            text = "".join(each.data for each in fate.got.children if type(each) is Text)
            if found := re.match(r"\s*([^{}]+?)\s+\.\S*c1\s*\{", text):
                out["stylePrefix"] = found[1]
