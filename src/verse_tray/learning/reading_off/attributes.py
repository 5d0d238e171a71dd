"""Which attributes stay, on every element or on some."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from verse_tray.editors.lists import is_event_handler
from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.reading_off.styles import syntax_of

Where = dict[str, dict[str, bool]]
"""By attribute, the elements that were sent with it, and whether it stayed there."""
NOBODYS = "tide"
"""The attribute of no standard: what becomes of it becomes of every one that is not listed."""


def read_attributes(facts: Facts, out: dict[str, Any], kept: list[str]) -> None:
    """Put the keys about attributes into a filter."""
    where = _where(facts)
    unknown = where.pop(NOBODYS, None) or where.get("nonce", {})
    if unknown:
        allows = not any(unknown.values())
    else:
        allows = sum(not any(each.values()) for each in where.values()) > len(where) / 3
    strict = set() if allows else {element for element, stays in unknown.items() if not stays}
    lists = _Lists(allows)
    for name, stays in where.items():
        for element in strict & stays.keys():
            lists.own[element] += [name] if stays[element] else []
        lists.add(name, {element: kept for element, kept in stays.items() if element not in strict})
    for element in strict:
        lists.own.setdefault(element, [])
    lists.put_into(out, kept)
    _values(facts, out)


def _where(facts: Facts) -> Where:
    where: Where = defaultdict(dict)
    classes = _tokens_kept(facts)
    for (element, name), rows in facts.attributes.items():
        if name == "class" and classes:  # one of which no class is kept tells nothing of the attribute
            rows = [row for row in rows if row.got is not None or classes & set(row.sent.split())]
        if rows:
            given = {row.got for row in facts.given.get((element, name), ())}  # it may be there because it is given
            where[name][element] = any(row.got is not None and (row.got not in given) for row in rows) or (
                bool(given) and all(row.got is not None for row in rows)
            )
    return where


def _tokens_kept(facts: Facts) -> set[str]:
    """Return the classes that stayed somewhere."""
    rows = [row for (_, name), each in facts.attributes.items() if name == "class" for row in each]
    return {token for row in rows if row.got for token in row.sent.split() if token in row.got}


_TYPED = (
    "width",
    "height",
    "colspan",
    "rowspan",
    "start",
    "size",
    "border",
    "align",
    "valign",
    "dir",
    "type",
    "target",
)
"""Attributes whose values may be let through by their form."""


def _values(facts: Facts, out: dict[str, Any]) -> None:
    """Put in the forms of values, where some values of an attribute stay and others go."""
    for name in _TYPED:
        rows = [row for (element, key), each in facts.attributes.items() if key == name for row in each]
        good = {row.sent for row in rows if row.got == row.sent}
        bad = {row.sent for row in rows if row.got is None} - good
        wrong = {row.of.sent.name for row in rows if row.got is None} - {
            row.of.sent.name for row in rows if row.got is not None
        }
        bad -= {row.sent for row in rows if row.of.sent.name in wrong and row.got is None}
        if good and bad and (syntax := syntax_of(sorted(good), sorted(bad))) is not None:
            out.setdefault("attributeSyntax", {})[name] = syntax


class _Lists:
    """The lists as they are found."""

    def __init__(self, allows: bool) -> None:
        self.allows = allows
        self.everywhere: list[str] = []
        self.nowhere: list[str] = []
        self.own: dict[str, list[str]] = defaultdict(list)
        self.own_lost: dict[str, list[str]] = defaultdict(list)

    def add(self, name: str, stays: dict[str, bool]) -> None:
        """Take in one attribute."""
        kept = [element for element, each in stays.items() if each]
        lost = [element for element, each in stays.items() if not each]
        if not lost:
            self.everywhere.append(name)
        elif not kept:
            self.nowhere.append(name)
        elif self.allows and len(kept) < 3 * len(lost):
            for element in kept:
                self.own[element].append(name)
        else:
            if self.allows:
                self.everywhere.append(name)
            for element in lost:
                self.own_lost[element].append(name)

    def put_into(self, out: dict[str, Any], kept: list[str]) -> None:
        """Write the lists as keys."""
        named, removed = self.everywhere, self.nowhere
        if self.allows:
            out["attributes"] = _shortened(named, "aria-", "aria-zq")
            if any(each.startswith("data-") for each in removed):
                out["dataAttributes"] = False
            else:
                out["attributes"] = [each for each in out["attributes"] if not each.startswith("data-")]
        else:
            handlers = [each for each in removed if is_event_handler(each)]
            if handlers and not any(is_event_handler(each) for each in named):
                out["eventHandlers"] = False
                removed = [each for each in removed if each not in handlers]
            removed = _shortened(_shortened(removed, "aria-", "aria-zq"), "data-", "data-zq")
            if removed:
                out["removeAttributes"] = removed
        if not self.own and not self.own_lost:
            return
        if "elements" not in out:
            out["elements"] = [each for each in kept if each in self.own or each in self.own_lost]
            out["otherElements"] = "keep"
        out["elements"] = [self._with_own(each) for each in out["elements"]]

    def _with_own(self, element: str) -> Any:
        found: dict[str, Any] = {"name": element}
        if element in self.own:
            found["attributes"] = self.own[element]
        if self.own_lost.get(element):
            found["removeAttributes"] = self.own_lost[element]
        return found if len(found) > 1 else element


def _shortened(names: list[str], front: str, nobodys: str) -> list[str]:
    """Write one name with a star for all that begin so, where even the one of no standard is among them."""
    if nobodys not in names:
        return names
    return [*(each for each in names if not each.startswith(front)), f"{front}*"]
