"""What a page makes of links to films, and of marks that it fills in."""

from __future__ import annotations

import re
from typing import Any

from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.probe.probe import cut
from verse_tray.markup.parse import parse_fragment

_MARKS = (("{{", "}}"), ("[[", "]]"))


def read_building(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about players and marks into a filter."""
    for sent, got in facts.pairs:
        answers = cut(got)
        for number, cell in cut(sent).items():
            answer = answers.get(number)
            if answer is None:
                continue
            for opening, closing in _MARKS:
                mark = f"{opening}a{closing}"
                if mark in cell and mark not in answer:
                    out["fill"] = {"opening": opening, "closing": closing, "unknown": "blank"}
            _player(cell, answer, out)


def _player(cell: str, answer: str, out: dict[str, Any]) -> None:
    """Tell the forms of a film's address from a link that became a frame: what both addresses end with is its name."""
    link = re.search(r'<a href="([^"]*)"', cell)
    if link is None or "<iframe" in cell or "<iframe" not in answer:
        return
    frame = next(each for each in parse_fragment(answer).tree.elements() if each.name == "iframe")
    sent = next(each for each in parse_fragment(cell).tree.elements() if each.name == "a").attributes["href"]
    player = frame.attributes.get("src", "")
    names = [each for each in re.split(r"[/?=&#]", sent) if len(each) > 2 and each in player.split("/")[-1]]
    if not names or "players" in out:
        return
    name = names[-1]
    out["players"] = {"long": sent.replace(name, "{id}"), "player": player.replace(name, "{id}")}
    for key, usual in (("width", "640"), ("height", "360")):
        size = frame.attributes.get(key, usual)
        if size != usual and size.isdigit():
            out["players"][key] = int(size)
