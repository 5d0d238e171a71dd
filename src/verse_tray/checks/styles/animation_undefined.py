"""An animation that is named and never defined."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import spelling
from verse_tray.piece.subject import Subject
from verse_tray.style.values import words

RULE = Rule(
    Severity.WARNING,
    readers="Nothing moves.",
    advice="Define it with @keyframes, or spell it as its definition does.",
    bad="<style>@keyframes drift { to { opacity: 0 } } .wave { animation: drfit 2s }</style><p class=wave>~</p>",
    good="<style>@keyframes drift { to { opacity: 0 } } .wave { animation: drift 2s }</style><p class=wave>~</p>",
)
_KEYWORDS = frozenset(
    "none initial inherit unset revert revert-layer linear ease ease-in ease-out ease-in-out step-start step-end "
    "infinite normal reverse alternate alternate-reverse forwards backwards both running paused auto replace add "
    "accumulate !important important".split()
)
_NAME = lazy(r"-?[A-Za-z_][\w-]*|\"[^\"]+\"|'[^']+'")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each animation name without ``@keyframes`` of that name in the piece."""
    defined = {
        named.name.partition(" ")[2].strip("\"'")
        for _, sheet in subject.sheets
        for named in sheet.named
        if named.name.partition(" ")[0].endswith("keyframes")
    }
    linked = any(n.name.startswith("@import") for _, sheet in subject.sheets for n in sheet.named)
    if linked or any("stylesheet" in link.attributes.get("rel", "").lower() for link in subject.each("link")):
        return
    for declared in subject.declared:
        if declared.declaration.name.removeprefix("-webkit-") not in ("animation", "animation-name"):
            continue
        for word in words(declared.declaration.value):
            name = word.strip("\"'")
            if _NAME.fullmatch(word) and name.lower() not in _KEYWORDS and name not in defined:
                yield Mistake(
                    declared.span, f"No @keyframes of the piece defines the animation {name}{spelling(name, defined)}"
                )
