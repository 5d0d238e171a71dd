"""How tags, attributes and signs are written."""

from __future__ import annotations

import re
from html import unescape
from typing import Any

from verse_tray.learning.facts.cells import WORD
from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.probe.probe import cut

_PLAIN = {"&": "&amp;", "<": "&lt;", ">": "&gt;", "\xa0": "&nbsp;"}
"""How the standard's serialisation writes signs of the text; all others stand as they are."""
_PLAIN_VALUE = {**_PLAIN, '"': "&quot;"}
_REFERENCE = r"&#?\w+;|."


def read_writing(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about writing into a filter; whether all is written anew is found out by trying."""
    text: dict[str, set[str]] = {}
    values: dict[str, set[str]] = {}
    for sent, got in facts.pairs:
        slashes = re.findall(r"<(?:br|hr|img)\b[^>]*?(\s?/)?>", got)
        if slashes and slashes.count("") < len(slashes) / 2:
            out["voidTags"] = "tight-slash" if slashes.count("/") > slashes.count(" /") else "slash"
        answers = cut(got)
        for number, cell in cut(sent).items():
            answer = answers.get(number, "")
            if any(map(_is_far, cell)) and number in answers and not any(map(_is_far, answer)):
                if "w1" in answer:
                    out["beyond16Bits"] = "drop" if "w2" in answer else "cut"
            _signs(cell, answer, text)
            _value(cell, answer, values)
            if "<details open" in cell and (found := re.search(r"<details (open(?:=\"\w*\")?)", answer)):
                form = {"open": "bare", 'open="open"': "repeat"}.get(found[1])
                if form:
                    out["booleanAttributes"] = form
    gaps = [
        gap for _, got in facts.pairs for gap in re.findall(r"</(?:p|h[1-6]|div|ul)>(\s*)<(?:p|h[1-6]|div|ul)[ >]", got)
    ]
    if gaps and all(got.lstrip().startswith("<p>Test text") for _, got in facts.pairs):
        out["looseText"] = "paragraphs"
        gap = max(set(gaps), key=gaps.count)
        if gap != "\n":
            out["blockGap"] = gap
    _order(facts, out)
    far = {sign: refs for sign, refs in text.items() if ord(sign) > 0xA0 and len(refs) == 1 and refs != {sign}}
    if far:
        out["references"] = "numeric" if all("#" in next(iter(refs)) for refs in far.values()) else "named"
    near = {sign: next(iter(refs)) for sign, refs in text.items() if len(refs) == 1 and ord(sign) <= 0xA0}
    own = {sign: ref for sign, ref in near.items() if ref != _PLAIN.get(sign, sign) and unescape(ref) == sign}
    if own:
        out["textSigns"] = own
    own = {
        sign: next(iter(refs))
        for sign, refs in values.items()
        if len(refs) == 1 and ord(sign) <= 0xA0 and next(iter(refs)) != _PLAIN_VALUE.get(sign, sign)
    }
    if own:
        out["valueSigns"] = {sign: ref for sign, ref in own.items() if unescape(ref) == sign}


def _order(facts: Facts, out: dict[str, Any]) -> None:
    """Tell in which order attributes are written, where that is another than the one in which they were typed."""
    rows: list[list[str]] = []
    changed = False
    for fates in facts.elements.values():
        for fate in fates:
            if fate.got is None or len(fate.sent.attributes) < 2:
                continue
            there = [name for name in fate.got.attributes if name in fate.sent.attributes]
            rows.append(there)
            changed |= there != [name for name in fate.sent.attributes if name in there]
    if not changed:
        return
    if all(row == sorted(row) for row in rows):
        out["attributeOrder"] = "sorted"
    elif "attributes" in out and (listed := _one_order(rows)) is not None:
        out["attributes"] = [*(name for name in listed if name in out["attributes"]),
                             *(name for name in out["attributes"] if name not in listed)]  # fmt: skip
        out["attributeOrder"] = "listed"


def _one_order(rows: list[list[str]]) -> list[str] | None:
    """Return all names in an order that each of the rows follows; None where there is none."""
    left = list(dict.fromkeys(name for row in rows for name in row))
    after: dict[str, set[str]] = {name: set() for name in left}
    for row in rows:
        for at, name in enumerate(row):
            after[name].update(row[:at])
    found: list[str] = []
    while left:
        ready = next((name for name in left if not after[name] - set(found)), None)
        if ready is None:
            return None
        found.append(ready)
        left.remove(ready)
    return found


def _is_far(sign: str) -> bool:
    return ord(sign) > 0xFFFF


def _signs(cell: str, answer: str, found: dict[str, set[str]]) -> None:
    """Take in how the signs between words are written, where the words are all there."""
    if not cell.startswith(" &copy;w1"):
        return
    sent, got = (WORD.split(each) for each in (cell, answer))
    if len(sent) != len(got):
        return
    for before, after in zip(sent, got, strict=True):
        sign = unescape(before).strip(" ")
        if len(sign) == 1:
            found.setdefault(sign, set()).add(after.strip(" ") if sign != "\xa0" or after.strip(" ") else after)


def _value(cell: str, answer: str, found: dict[str, set[str]]) -> None:
    if 'title="&quot;&amp;&lt;&gt;' not in cell:
        return
    written = re.search(r'title="([^"]*)"', answer)
    parts = re.findall(_REFERENCE, written[1], re.DOTALL) if written else []
    if len(parts) == 7:
        for sign, part in zip("\"&<>'\xa0é", parts, strict=True):
            found.setdefault(sign, set()).add(part)
