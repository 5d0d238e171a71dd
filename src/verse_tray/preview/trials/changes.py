"""What is other about a piece after something was done to it, in words."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from pathlib import PurePosixPath
from typing import Any
from urllib.parse import unquote

State = Mapping[str, Mapping[str, Any]]
"""The state of every element by its number, as :file:`trial.js` returns it."""

_MOST = 6
_SHORT = 40


Where = Callable[[str], str]
"""Returns the place in the author's file, such as ``2:80``, of the element of a number; nothing where it has none."""


def changes(before: State, after: State, where: Where = lambda _: "", *, itself: str = "") -> list[str]:
    """Return all that changed, the plainest first; nothing when all is as before.

    Args:
        before: The state before.
        after: The state after.
        where: Tells the places of elements.
        itself: Number of an element that gets the focus because it was clicked; empty for none.
    """
    return list(dict.fromkeys(_each(before, after, where, itself)))


def shortened(found: list[str]) -> tuple[str, ...]:
    """Return the first changes of many, and how many more there are; not what only follows from others."""
    if len(found) > 1:
        found = [each for each in found if not each.endswith((" elements move", "changes its size"))]
    more = len(found) - _MOST
    return (*found[:_MOST], *([f"and {more} more"] if more > 0 else []))


def described(before: State, after: State, where: Where = lambda _: "") -> tuple[str, ...]:
    """Return what changed, as :func:`changes` and :func:`shortened` do."""
    return shortened(changes(before, after, where))


def _each(before: State, after: State, where: Where, itself: str) -> Iterator[str]:
    shown, moved, styled = [], [], []
    for number, now in after.items():
        was = before.get(number)
        if was is None:
            if now["shown"]:
                yield f"{_named(now)} is new"
            continue
        if was["shown"] != now["shown"]:
            shown.append((now, bool(now["shown"])))
            continue
        yield from _of_itself(was, now, where(number))
        if now.get("focused") and not was.get("focused") and number != itself:
            yield f"{_named(now)} gets the focus"
        if now["shown"] and (told := [each for each in differing(was["look"], now["look"]) if "outline" not in each]):
            styled.append((now, told))  # but for the ring of what has the focus since it was clicked
        elif now["shown"] and was["place"] != now["place"]:
            moved.append(now)
    for each, visible in _outermost(shown):
        yield f"{_named(each)} {'appears' if visible else 'disappears'}"
    for number, was in before.items():
        if number not in after and was["shown"]:
            yield f"{_named(was)} is taken away"
    for each, told in styled:
        yield f"{_named(each)}: {', '.join(told[:3])}"
    if len(moved) == 1:
        yield f"{_named(moved[0])} moves or changes its size"
    elif moved:
        yield f"{len(moved)} elements move"


def _of_itself(was: Mapping[str, Any], now: Mapping[str, Any], place: str) -> Iterator[str]:
    """Yield what changed of an element that is still there: its words, its picture, its state."""
    of = f" of {place}" if place else ""
    if was["text"] != now["text"]:
        yield f"{_quoted(was['text'])} becomes {_quoted(now['text'])} in <{now['name']}>{of}"
    if was["source"] != now["source"]:
        yield f"the picture{of} becomes {_picture(now['source'])}"
    if was["on"] != now["on"] and now["on"] is not None:
        yield f"{_named(now)} is {_switched(now)}"
    if was["value"] != now["value"]:
        yield f"{_named(now)} holds {_quoted(now['value'])}"
    if was["scrolled"] != now["scrolled"]:
        across, down = (b - a for a, b in zip(was["scrolled"], now["scrolled"], strict=True))
        yield f"{_named(now)} scrolls by {across or down} px"


def differing(was: Mapping[str, str], now: Mapping[str, str]) -> list[str]:
    """Return the properties that differ, each with its two values."""
    drawn = was.get("outline-style") != "none" or now.get("outline-style") != "none"
    return [
        f"{name} {_plain(was[name])} → {_plain(now[name])}"
        for name in was
        if was[name] != now.get(name) and (drawn or name != "outline-color")
    ]


def _outermost(shown: list[tuple[Mapping[str, Any], bool]]) -> Iterator[tuple[Mapping[str, Any], bool]]:
    """Yield of what comes and goes together only what holds the rest: by place, elements in one another."""
    told: list[tuple[list[int], bool]] = []
    for each, visible in shown:
        x, y, width, height = each["place"] or (0, 0, 0, 0)
        within = any(
            seen == visible
            and box[0] <= x
            and box[1] <= y
            and x + width <= box[0] + box[2]
            and y + height <= box[1] + box[3]
            for box, seen in told
        )
        if within and visible:
            continue
        told.append(([x, y, width, height], visible))
        yield each, visible


def _named(element: Mapping[str, Any]) -> str:
    text = element["text"]
    return f"<{element['name']}>" + (f" {_quoted(text)}" if text else "")


def _quoted(text: str) -> str:
    return f"“{text if len(text) <= _SHORT else text[: _SHORT - 1] + '…'}”"


def _picture(source: str | None) -> str:
    if not source:
        return "none"
    return "another" if source.startswith("data:") else unquote(PurePosixPath(source.split("?")[0]).name) or "another"


def _switched(element: Mapping[str, Any]) -> str:
    on = element["on"]
    if element["name"] in ("details", "dialog"):
        return "open" if on else "closed"
    return "chosen" if on else "not chosen"


def _plain(value: str) -> str:
    return value if len(value) <= _SHORT else value[: _SHORT - 1] + "…"
