"""Whether the at-rules around a style rule hold (CSS Conditional Rules Level 5, Media Queries Level 4)."""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.model.patterns import lazy
from verse_tray.style.property_table import is_known
from verse_tray.style.validity import is_valid

_LENGTH = r"([\d.]+)(px|em|rem)?"
_BOUND = lazy(rf"\(\s*(min|max)-(?:inline-size|width)\s*:\s*{_LENGTH}\s*\)")
_COMPARED = lazy(rf"\(\s*(?:width|inline-size)\s*(<=|>=|<|>|=|:)\s*{_LENGTH}\s*\)")
_TURNED = lazy(rf"\(\s*{_LENGTH}\s*(<=|>=|<|>)\s*(?:width|inline-size)\s*(?:(<=|>=|<|>)\s*{_LENGTH}\s*)?\)")
_FEATURE = lazy(r"\(\s*([\w-]+)\s*(?::\s*([^()]*?))?\s*\)")
_TESTED = lazy(r"\(\s*([\w-]+)\s*:(.*)\)", re.DOTALL)
_WHOLE = lazy(r"(?<=[\s)])(and|or)(?=[\s(])")

_USUAL = {
    "hover": "hover", "any-hover": "hover", "pointer": "fine", "any-pointer": "fine", "prefers-color-scheme": "light",
    "prefers-reduced-motion": "no-preference", "prefers-contrast": "no-preference", "scripting": "enabled",
    "prefers-reduced-transparency": "no-preference", "forced-colors": "none", "inverted-colors": "none",
    "update": "fast", "grid": "0", "color-gamut": "srgb", "display-mode": "browser", "orientation": "landscape",
    "prefers-reduced-data": "no-preference", "dynamic-range": "standard", "overflow-block": "scroll",
    "overflow-inline": "scroll", "scan": "progressive",
}  # fmt: skip
"""What a reader's screen is taken for."""
_DEPENDS = frozenset(("height", "min-height", "max-height", "aspect-ratio", "resolution", "device-width", "color"))


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
            one = _media(prelude.lower() if keyword == "media" else _size_query(prelude.lower()), width)
        elif keyword == "supports":
            one = _supports(prelude)
        else:  # @scope is part of the selectors; @starting-style says what was before the page stood still
            one = (None if " to (" in prelude else True) if keyword == "scope" else False
        if one is False:
            return False
        answer = None if one is None else answer
    return answer


def _size_query(prelude: str) -> str:
    """Return a container's query without the container's name; its width is taken for the window's."""
    at = prelude.find("(")
    return "not all" if at < 0 else prelude[at:]


def _media(queries: str, width: int | None) -> bool | None:
    answers = [_query(query.strip(), width) for query in queries.split(",")]
    return True if True in answers else None if None in answers else False


def _query(query: str, width: int | None) -> bool | None:
    negated = query.startswith(("not ", "not("))
    query = query.removeprefix("not").strip() if negated else query.removeprefix("only ").strip()
    joined = _WHOLE.split(f" {query} ")
    parts, either = joined[0::2], "or" in joined[1::2]
    answers = [_feature(part.strip(), width) for part in parts]
    if either:
        answer = True if True in answers else None if None in answers else False
    else:
        answer = False if False in answers else None if None in answers else True
    return answer if answer is None or not negated else not answer


def _feature(part: str, width: int | None) -> bool | None:
    if part in ("", "all", "screen"):
        return True
    if part.startswith("not"):
        inner = _feature(part[3:].strip(), width)
        return None if inner is None else not inner
    if part.startswith("((") and part.endswith("))"):
        return _query(part[1:-1].strip(), width)
    if bound := _BOUND.fullmatch(part):
        return None if width is None else _compare(width, ">=" if bound[1] == "min" else "<=", bound[2], bound[3])
    if compared := _COMPARED.fullmatch(part):
        return None if width is None else _compare(width, compared[1], compared[2], compared[3])
    if turned := _TURNED.fullmatch(part):
        if width is None:
            return None
        low = _compare(width, _OTHER_WAY[turned[3]], turned[1], turned[2])
        return low and (turned[4] is None or _compare(width, turned[4], turned[5], turned[6]))
    feature = _FEATURE.fullmatch(part)
    if feature is None or feature[1] in _DEPENDS:
        return None if feature else False
    usual = _USUAL.get(feature[1])
    if usual is None:
        return None if feature[1].startswith(("min-", "max-")) else False
    return feature[2] == usual if feature[2] is not None else usual not in ("none", "no-preference", "0")


_OTHER_WAY = {"<": ">", ">": "<", "<=": ">=", ">=": "<="}


def _compare(width: int, sign: str, number: str, unit: str | None) -> bool:
    try:
        limit = float(number) * (1 if unit in (None, "px") else 16)
    except ValueError:
        return False
    if unit is None and limit:  # a length other than 0 has a unit, or nothing is read
        return False
    return {"<": width < limit, "<=": width <= limit, ">": width > limit, ">=": width >= limit}.get(
        sign, width == limit
    )


def _supports(prelude: str, depth: int = 0) -> bool:
    test = prelude.strip()
    if depth > 20:
        return False
    if test.lower().startswith("not") and test[3:4] in (" ", "("):
        return not _supports(test[3:], depth + 1)
    parts = list(_split(test))
    if len(parts) > 1:
        answers = [_supports(part, depth + 1) for part in parts[0::2]]
        return any(answers) if parts[1] == "or" else all(answers)
    if test.lower().startswith("selector("):
        from verse_tray.style.matching import understood

        return understood(test[9:-1])
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


def _split(test: str) -> list[str]:
    """Split a condition at ``and`` or ``or`` outside brackets: parts and words in turn."""
    found, depth, start = [], 0, 0
    for match in re.finditer(r"[()]|(?<=[\s)])(?:and|or)(?=[\s(])", test, re.IGNORECASE):
        if match[0] == "(":
            depth += 1
        elif match[0] == ")":
            depth -= 1
        elif depth == 0:
            found += [test[start : match.start()], match[0].lower()]
            start = match.end()
    return [*found, test[start:]]
