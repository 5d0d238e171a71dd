"""Declarations in style attributes: which properties and values stay, and how they are written."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable
from typing import Any, NamedTuple

from verse_tray.journeys.steps.styles import is_one_of
from verse_tray.learning.facts.fates import Facts
from verse_tray.style.declarations import fold, parse_declarations
from verse_tray.style.syntax import TYPES, holds

NOBODYS = "tide"
_OBSCURE = ("orphans", "word-break", "pointer-events", "quotes", "tab-size", "order", "resize", "user-select")
"""Properties that hardly any list of kept ones names."""


class _Row(NamedTuple):
    sent: dict[str, str]
    got: dict[str, str] | None
    """None where the whole attribute is gone."""


def read_styles(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about declarations into a filter."""
    attributes = [rows for (_, name), rows in facts.attributes.items() if name == "style"]
    rows = [
        _Row(_declared(row.sent), None if row.got is None else _declared(row.got))
        for each in attributes
        if any(row.got is not None for row in each)
        for row in each
        if row.sent.strip()
    ]
    kept = {name for row in rows if row.got is not None for name in row.sent if name in row.got}
    if not kept:
        return
    rules: dict[str, Any] = {}
    dropped = {name for row in rows for name in row.sent} - kept
    if any(row.got is None and row.sent.keys() & kept and row.sent.keys() & dropped for row in rows):
        rules["wholeAttribute"] = True
    obscure = [name for name in _OBSCURE if name in kept | dropped]
    allows = sum(name in dropped for name in obscure) * 2 > len(obscure) if obscure else NOBODYS in dropped
    if dropped:
        rules["properties" if allows else "removeProperties"] = sorted(kept if allows else dropped)
    _values(rows, kept, rules)
    marked = [row for each in attributes for row in each if row.sent.endswith("!important")]
    if marked and all(row.got is None or "important" not in row.got for row in marked):
        if any("color" in row.sent for row in marked) and "color" in kept:
            rules["important"] = False
    rules.update(_writes(facts))
    if rules:
        out["styles"] = rules


def _declared(style: str) -> dict[str, str]:
    return {each.name: fold(each.value) for each in parse_declarations(style) if each.name}


def _values(rows: Iterable[_Row], kept: set[str], rules: dict[str, Any]) -> None:
    """Tell functions, words and types apart among the values that stayed and that went."""
    stays: dict[str, dict[str, bool]] = defaultdict(dict)
    for row in rows:
        if len(row.sent) == 1 and (name := next(iter(row.sent))) in kept:
            stays[name][row.sent[name].lower()] = row.got is not None and name in row.got
        elif row.got is not None:
            stays_too = ((name, value) for name, value in row.sent.items() if name in row.got and name in kept)
            for name, value in stays_too:
                stays[name].setdefault(value.lower(), True)
    functions: dict[str, list[bool]] = defaultdict(list)
    for values in stays.values():
        for value, stay in values.items():
            for name in set(re.findall(r"([a-z-]+)\(", value)):
                functions[name].append(stay)
    bad = [name for name, each in functions.items() if not any(each)]
    lost = {name: [value for value, stay in values.items() if not stay] for name, values in stays.items()}
    explained = {
        name: [value for value in values if not any(f"{each}(" in value for each in bad)]
        for name, values in lost.items()
    }
    odd = [name for name, values in explained.items() if values]
    if bad:
        rules["removeFunctions"] = bad
    if not odd:
        return
    everywhere = syntax_of(
        [value for values in stays.values() for value, stay in values.items() if stay],
        [value for name in odd for value in explained[name]],
    )
    if everywhere and len(odd) > 3:
        rules["syntax"] = {"*": everywhere}
        return
    for name in odd:
        good = [value for value, stay in stays[name].items() if stay]
        found = syntax_of(good, explained[name])
        if found and any(kind in found for kind in TYPES):
            rules.setdefault("syntax", {})[name] = found
        else:
            rules.setdefault("values", {})[name] = generalised(good, explained[name])


def generalised(good: list[str], bad: list[str]) -> list[str]:
    """Return values with any number in the place of each, as far as none of those that go would be let through."""
    found: dict[str, None] = {}
    for value in good:
        wider = re.sub(r"(?<![\w#.-])\d*\.?\d+", "<number>", value)
        found[value if any(is_one_of(each, (wider,)) for each in bad) else wider] = None
    return list(found)


def syntax_of(good: list[str], bad: list[str]) -> str | None:
    """Return the shortest syntax string that takes all the good values and none of the bad; None where none does.

    Args:
        good: Values that stay.
        bad: Values that go.
    """
    choices = []
    for kind in TYPES:
        for many in ("", "+", "#"):
            syntax = f"<{kind}>{many}"
            taken = frozenset(value for value in good if holds(value, syntax))
            if taken and not any(holds(value, syntax) for value in bad):
                choices.append((syntax, taken))
                break
    left, parts = set(good), []
    while left:
        best = max(choices, key=lambda each: len(each[1] & left), default=None)
        if best is None or not best[1] & left:
            words = sorted(value for value in left if re.fullmatch(r"[a-z-]+", value))
            if len(words) < len(left) or set(words) & set(bad):
                return None
            parts += words
            break
        parts.append(best[0])
        left -= best[1]
    return " | ".join(parts)


_WRITTEN = re.compile(r"[a-z-]+(\s?:\s?)[^;:]+?(?:(\s?;\s?)[a-z-]+(\s?:\s?)[^;:]+?)?(;?)")
"""One declaration as it is written, and perhaps a second."""


def _writes(facts: Facts) -> dict[str, Any]:
    """Tell how declarations are written: by one that was typed with blanks in odd places, and by pairs of them."""
    found: dict[str, Any] = {}
    styles = [row for (_, name), rows in facts.attributes.items() if name == "style" for row in rows]
    if any(row.got == row.sent and " : " in row.sent for row in styles):
        return {}
    for row in styles:
        if row.got:
            written = _WRITTEN.fullmatch(row.got or "")
            if written is None:
                continue
            first, between, second, end = written.groups()
            typed = row.sent.count(";")
            if row.sent == "color:red" and (first, end) != (":", ""):
                found.update({"colon": first} if first != ":" else {}, **({"closed": True} if end else {}))
            elif row.sent.startswith("color: red; ") and between is not None:
                found["separator"] = between
                if first == second:
                    found["colon"] = first
                found["closed"] = bool(end)
            elif typed and not end and "closed" not in found and row.got != row.sent:
                found["closed"] = False
    if found.get("separator") is None and found.get("closed") is False and "colon" not in found:
        return {"closed": False}
    form = (found.get("colon"), found.get("separator", "; "), found.get("closed", True))
    names: dict[tuple[Any, ...], str] = {(": ", "; ", True): "spaced", (":", ";", False): "tight"}
    named = names.get(form)
    return {"writes": named} if named else found
