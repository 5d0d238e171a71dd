"""What style sheets learn of how readers point at things: a phone is touched, and nothing hovers over it."""

from __future__ import annotations

import re

from verse_tray.model.patterns import lazy

_SHEET = lazy(r"<style\b.*?(?:</style|\Z)", re.IGNORECASE | re.DOTALL)
_ASKED = lazy(r"\(\s*(any-)?(hover|pointer)\s*(?::\s*([a-z]+)\s*)?\)", re.IGNORECASE)
_IS, _IS_NOT = "(width >= 0px)", "(width < 0px)"


def touched(markup: str) -> str:
    """Return a page as it is on a phone: what its style sheets ask about pointing (Media Queries 4, 6) is answered.

    Browsers answer by what the machine has that they run on.
    """
    return _SHEET.sub(lambda sheet: _ASKED.sub(_answer, sheet[0]), markup)


def _answer(asked: re.Match[str]) -> str:
    feature, value = asked[2].lower(), (asked[3] or "").lower()
    if value not in ("", "none", *(("hover",) if feature == "hover" else ("coarse", "fine"))):
        return asked[0]
    there = {"hover": ("none",), "pointer": ("", "coarse")}[feature]
    return _IS if value in there else _IS_NOT
