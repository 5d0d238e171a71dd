"""What no strategy could save of the look: properties that are kept nowhere, and rules that no element can hold."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.fitting.strategies.lost_left_out import lost_declarations
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted, listed

_STATE = lazy(r":(?:hover|focus(?:-within|-visible)?|active|checked|target|visited)\b")
_MOST = 6


def given_up(written: Draft, fitted: Draft) -> tuple[str, ...]:
    """Return in sentences what of the look goes, why nothing stands for it, and what can be done.

    Args:
        written: The author's piece.
        fitted: The fitted one, before what goes in any case was left out of it.
    """
    return (*_drawings(fitted), *_properties(fitted), *_rules(written, fitted))


def _drawings(fitted: Draft) -> Iterator[str]:
    count = sum(fitted.kept(each) is None for each in fitted.subject.each("svg"))
    if count and fitted.probe.keeps("img", src="https://pictures.example.org/icon.png"):
        go = "goes" if count == 1 else "go"
        yield f"{counted(count, 'drawing')} (SVG) {go}: --icons ADDRESS draws pictures of them, for you to host there."


def _properties(fitted: Draft) -> Iterator[str]:
    found = Counter(name for _, names in lost_declarations(fitted) for name in names)
    if found:
        told = [f"{name} ({counted(count, 'place')})" for name, count in found.most_common(_MOST)]
        told += [f"{len(found) - _MOST} more"] if len(found) > _MOST else []
        yield f"The editor keeps no {listed(told)}, nor anything that looks the same."


def _rules(written: Draft, fitted: Draft) -> Iterator[str]:
    """Tell of the rules of style elements that went with them, and that cannot be written into elements."""
    if any(fitted.subject.each("style")):
        return
    sheets = [sheet for _, sheet in written.subject.sheets]
    states = [rule.selectors for sheet in sheets for rule in sheet.rules if _STATE.search(rule.selectors)]
    if states:
        yield f"Rules for states cannot stand in an element: {listed(_first(states))}."
    widths = [
        f"@media {prelude}"
        for sheet in sheets
        for rule in sheet.rules
        for keyword, prelude in rule.around
        if keyword == "media" and re.search(r"width", prelude)
    ]
    if widths:
        other = "desktop" if written.width < 600 else "phone"
        yield (
            f"Rules for some widths cannot stand in an element ({listed(_first(widths))}): one look is for all. "
            f"--keep {other} chooses that of a {other}."
        )
    moving = [each.name for sheet in sheets for each in sheet.named if "keyframes" in each.name]
    if moving:
        yield f"Animations cannot stand in an element: {listed(_first(moving))}."


def _first(names: list[str]) -> list[str]:
    own = list(dict.fromkeys(names))
    return [*own[:_MOST], f"{len(own) - _MOST} more"] if len(own) > _MOST else own
