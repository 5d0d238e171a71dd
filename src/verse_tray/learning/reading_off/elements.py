"""Which elements stay, and what becomes of the others."""

from __future__ import annotations

from typing import Any

from verse_tray.learning.facts.fates import Facts, Kind
from verse_tray.markup.names import HTML

NOBODYS = ("tide", "tide-x", "o-p")
"""Elements of no standard: what becomes of them becomes of every one that is not listed."""
_TYPE = ("script", "type")
_KEYS: dict[str, str] = {
    "drop": "removeElements",
    "unwrap": "replaceWithChildrenElements",
    "escape": "escapeElements",
    "empty": "emptyElements",
}


def others(facts: Facts) -> Kind:
    """Return what becomes of elements that no list names."""
    found = next((kind for name in NOBODYS if (kind := facts.first(name)) is not None), None)
    if found in ("keep", "unwrap", "escape", "drop"):
        return found
    lost = [kind for each in facts.elements.values() if (kind := each[0].kind) in ("drop", "unwrap", "escape")]
    if len(lost) <= 12:
        return "keep"
    counts: dict[Kind, int] = {
        "unwrap": lost.count("unwrap"),
        "drop": lost.count("drop"),
        "escape": lost.count("escape"),
    }
    return max(counts, key=lambda each: counts[each])


def read_elements(facts: Facts) -> tuple[dict[str, Any], list[str]]:
    """Return the keys about elements, and the names of those that are kept, old names of renamed ones left out."""
    out: dict[str, Any] = {}
    kinds: dict[str, Kind] = {}
    for namespace, name in facts.elements:
        kind = facts.first(name, namespace)
        if kind is not None:
            frames = name == "iframe" and any(each.kind == "keep" for each in facts.elements[namespace, name])
            kinds.setdefault(name, "keep" if frames else kind)
    unknown = others(facts)
    renamed = {name: facts.renamed[name] for name, kind in kinds.items() if kind == "rename"}
    for old, new in list(renamed.items()):
        if new == "p" and old not in ("div", "center"):  # a paragraph around what is unwrapped is no new name
            del renamed[old]
            kinds[old] = "unwrap"
    kept = [name for name, kind in kinds.items() if kind == "keep"]
    kept += [new for new in dict.fromkeys(renamed.values()) if kinds.get(new, "keep") == "keep" and new not in kept]
    for what, key in _KEYS.items():
        listed = [name for name, each in kinds.items() if each == what != unknown]
        if listed:
            out[key] = listed
    if unknown != "keep":
        out["elements"] = [*kept, *(old for old in renamed if renamed[old] not in kept)]
        if unknown != "drop":
            out["otherElements"] = unknown
    if "escape" in (unknown, *kinds.values()) and any("&lt;tide&gt;" in got for _, got in facts.pairs):
        out["escapeWith"] = "name"
    if renamed:
        out["renameElements"] = {old: _with_style(facts, old, new) for old, new in renamed.items()}
    if facts.comments and facts.comments[0] != "keep":
        out["comments"] = False
    if facts.styles_in_front:
        out["styleElements"] = "front"
    types = [each.got for each in (*facts.given.get(_TYPE, ()), *facts.attributes.get(_TYPE, ()))]
    if types and all(each == "text/plain" for each in types):
        out["scripts"] = "neutralise"
    return out, kept


def _with_style(facts: Facts, old: str, new: str) -> Any:
    """Return a new name, with the style that stands for the old one where every one of them got the same."""
    for fate in facts.elements[HTML, old]:
        if fate.got is None:
            continue
        sent, got = fate.sent.attributes.get("style", ""), fate.got.attributes.get("style", "")
        if got and not got.replace(" ", "").startswith(sent.replace(" ", "") or "\0"):
            own = sent.replace(" ", "")
            front = got[: got.replace(" ", "").find(own)] if own and own in got.replace(" ", "") else got
            return {"name": new, "style": front.split(";")[0].strip()}
    return new
