"""Whether the at-rules around a style rule hold (CSS Conditional Rules Level 5, Media Queries Level 4)."""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.model.patterns import lazy
from verse_tray.style.media_queries import container_holds, media_holds
from verse_tray.style.property_table import is_known
from verse_tray.style.validity import is_valid

_FONT = lazy(r"font-(?:tech|format)\(\s*([\w-]+)\s*\)", re.IGNORECASE)
_FONTS = frozenset(
    "woff2 woff truetype opentype collection features-opentype variations color-colrv0 color-colrv1 color-sbix "
    "color-cbdt palettes".split()
)
"""What browsers can read of fonts."""
_TESTED = lazy(r"\(\s*([\w-]+)\s*:(.*)\)", re.DOTALL)


@lru_cache(maxsize=2048)
def holds(around: tuple[tuple[str, str], ...], width: int | None) -> bool | None:
    """Tell whether every at-rule around a style rule holds on a screen.

    Args:
        around: Keyword and prelude of each.
        width: Width of the window in CSS pixels; None where it is not known.

    Returns:
        None where that depends on the reader's window.
    """
    answer: bool | None = True
    for keyword, prelude in around:
        if keyword == "layer":
            continue
        if keyword in ("media", "container"):
            one = media_holds(prelude, width) if keyword == "media" else _container(prelude, width)
        elif keyword == "supports":
            one = _supports(prelude)
        else:  # @scope is part of the selectors; @starting-style says what was before the page stood still
            one = (None if " to (" in prelude else True) if keyword == "scope" else False
        if one is False:
            return False
        answer = None if one is None else answer
    return answer


def _container(prelude: str, width: int | None) -> bool | None:
    """Tell whether a container's query holds, whatever the container is called."""
    at = prelude.find("(")
    return False if at < 0 else container_holds(prelude[at:], width)


def _supports(prelude: str, depth: int = 0) -> bool:
    test = prelude.strip()
    if depth > 20:
        return False
    if test.lower().startswith("not") and test[3:4].isspace():
        return not test[3:].lstrip().lower().startswith("not") and not _supports(test[3:], depth + 1)
    parts = list(_split(test))
    if len(parts) > 1:
        answers = [_supports(part, depth + 1) for part in parts[0::2]]
        return any(answers) if parts[1] == "or" else all(answers)
    if test.lower().startswith("selector("):
        from verse_tray.style.matching import understood

        return understood(test[9:-1])
    if font := _FONT.fullmatch(test):
        return font[1].lower() in _FONTS
    if test.find(")") < test.rfind("(") and _closes(test) < len(test) - 1:
        return False  # what stands in brackets, and more behind them
    tested = _TESTED.fullmatch(test)
    if tested is None:
        return _supports(test[1:-1], depth + 1) if test.startswith("(") and test.endswith(")") else False
    if "(" in tested[1] or tested[1].startswith("("):
        return False
    name = tested[1] if tested[1].startswith("--") else tested[1].lower()
    value = " ".join(tested[2].split())
    if test.startswith("((") or (")" in value and value.count("(") != value.count(")")):
        return _supports(test[1:-1], depth + 1)
    return name.startswith("--") or (is_known(name) and is_valid(name, value))


def _closes(test: str) -> int:
    """Return where the first bracket closes; the end where it does not."""
    depth = 0
    for match in re.finditer(r"[()]", test):
        depth += 1 if match[0] == "(" else -1
        if depth <= 0:
            return match.start()
    return len(test)


def _split(test: str) -> list[str]:
    """Split a condition at ``and`` or ``or`` outside brackets: parts and words in turn."""
    found, depth, start = [], 0, 0
    for match in re.finditer(r"[()]|(?<=[\s)])(?:and|or)(?=\s)", test, re.IGNORECASE):
        if match[0] == "(":
            depth += 1
        elif match[0] == ")":
            depth -= 1
        elif depth == 0:
            found += [test[start : match.start()], match[0].lower()]
            start = match.end()
    return [*found, test[start:]]
