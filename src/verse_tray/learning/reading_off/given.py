"""Attributes that elements are given, and those that they need."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from verse_tray.learning.facts.fates import Facts, Fate, Kept
from verse_tray.markup.addresses import host_of, scheme_of
from verse_tray.markup.names import HTML

_NEEDED = {"a": "href", "img": "src", "iframe": "src"}


def read_given(facts: Facts, out: dict[str, Any]) -> None:
    """Put what elements are given into a filter: link types and targets apart, as those are added to the author's."""
    given: dict[tuple[str, str, bool, bool, str], list[str]] = defaultdict(list)
    for (element, name), rows in sorted(facts.given.items(), key=_place):
        values = {row.got for row in rows}
        if (
            name in ("style", "id", "sandbox", "type")
            or len(values) != 1
            or (element == "iframe" and name in ("width", "height"))
        ):
            continue
        value = str(values.pop())
        if element == "a" and name in ("rel", "target") and _links(facts, name, value, out):
            continue
        fates = [fate for fate in facts.elements.get((HTML, element), []) if fate.got is not None]
        beside = next((need for need in ("href", "src") if _goes_with(fates, name, need)), "")
        rows = [row for row in facts.attributes.get((element, name), []) if _has(row.of, beside)]
        leads = [row for row in rows if _leads(row.of)]
        own = [row.got for row in (leads or rows) if row.sent != value]
        missing = bool(own) and all(each != value for each in own)
        outward = any(
            name not in fate.sent.attributes and name not in fate.got.attributes for fate in fates if fate.got
        )
        given[name, value, missing, outward and not beside, beside].append(element)
    rows_ = [
        {
            "name": name,
            "value": value,
            "elements": elements,
            **({"whenMissing": True} if missing else {}),
            **({"beside": beside} if beside else {}),
            **({"outward": True} if outward else {}),
        }
        for (name, value, missing, outward, beside), elements in given.items()
    ]
    if rows_:
        out["setAttributes"] = rows_
    needs = {element: [need] for element, need in _NEEDED.items() if _needs(facts, element, need)}
    if _needs(facts, "span", None):
        needs["span"] = [
            name
            for (element, name), rows in facts.attributes.items()
            if element == "span" and any(row.got for row in rows)
        ]
    if needs:
        out["needAttributes"] = needs


def _place(row: tuple[tuple[str, str], list[Kept]]) -> int:
    """Return where an attribute that was given stands among those of its element: the one given first comes first."""
    (_, name), rows = row
    return min([*each.of.got.attributes].index(name) for each in rows if each.of.got is not None)


def _leads(fate: Fate) -> bool:
    return fate.got is not None and any(host_of(fate.got.attributes.get(each, "")) for each in ("href", "src"))


def _has(fate: Fate, name: str) -> bool:
    return not name or (fate.got is not None and name in fate.got.attributes)


def _goes_with(fates: list[Fate], name: str, need: str) -> bool:
    """Tell whether an attribute is given to those elements that still have another, and to no others."""
    known = [fate.got for fate in fates if fate.got is not None and name not in fate.sent.attributes]
    without = [got for got in known if need not in got.attributes]
    return bool(without) and all((name in got.attributes) == (need in got.attributes) for got in known)


def _links(facts: Facts, name: str, value: str, out: dict[str, Any]) -> bool:
    """Put in what links to other hosts are given; False where the author's own value is not kept beside it."""
    fates = [fate for fate in facts.elements.get((HTML, "a"), []) if fate.got is not None]
    leads = [fate for fate in fates if _scheme(fate) in ("http", "https")]
    if any(_scheme(fate) not in ("http", "https") and _new(fate, name) for fate in fates):
        return False
    if name == "target" and ("a", "rel") in facts.given and "linkRel" not in out and not _links(facts, "rel", "", {}):
        return False
    if name == "rel":
        both = [row for row in facts.attributes.get(("a", "rel"), []) if row.of in leads and row.got is not None]
        tokens = value.split()
        if any(set(tokens) - set(str(row.got).split()) for row in both) or any(
            set(row.sent.split()) - set(str(row.got).split()) for row in both
        ):
            return False
        out["linkRel"] = tokens
    else:
        rows = facts.attributes.get(("a", "target"), [])
        if any(row.got == row.sent != value and _scheme(row.of) in ("http", "https") for row in rows):
            return False
        out["linkTarget"] = value
    own = {
        host_of(str(fate.got.attributes.get("href")))
        for fate in leads
        if fate.got and not _new(fate, name) and name not in fate.sent.attributes
    }
    hosts = sorted(str(host) for host in own if host)
    hosts += [each for host in hosts if host.startswith("www.") for each in (host[4:], f"*.{host[4:]}")]
    hosts = [each for each in hosts if not each.startswith("www.")] if len(hosts) > 2 else hosts
    if hosts:
        out["ownHosts"] = hosts
    return True


def _scheme(fate: Fate) -> str | None:
    return scheme_of(fate.got.attributes.get("href", "")) if fate.got is not None else None


def _new(fate: Fate, name: str) -> bool:
    return fate.got is not None and name in fate.got.attributes and name not in fate.sent.attributes


def _needs(facts: Facts, element: str, need: str | None) -> bool:
    """Tell whether an element goes where it has no attributes, and stays where it has what it may need."""
    fates = facts.elements.get((HTML, element), [])
    bare = [fate for fate in fates if not fate.sent.attributes]
    has = [fate for fate in fates if (need in fate.sent.attributes if need else fate.sent.attributes)]
    stays = any(fate.kind == "keep" for fate in has)
    return stays and bool(bare) and all(fate.kind in ("unwrap", "drop") for fate in bare)
