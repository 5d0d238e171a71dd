"""Style rules without their element: browsers show them as text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.piece.bare_code import BEFORE, bare_code, is_shown
from verse_tray.piece.subject import Subject
from verse_tray.style.matching import understood
from verse_tray.style.property_table import is_known
from verse_tray.style.sheets import parse_sheet

RULE = Rule(
    Severity.ERROR,
    readers="Readers see the style rules as text, and the look they describe is missing.",
    advice="Put them inside <style>…</style>.",
    bad=".hint { color: #1d4f53; padding: 8px; }\n<p class=hint>Wear boots.</p>",
    good="<style>\n.hint { color: #1d4f53; padding: 8px; }\n</style>\n<p class=hint>Wear boots.</p>",
    mends=True,
)


_WHOLE = lazy(r"\S(?:.*\S)?", re.DOTALL)
_AT_RULE = lazy(r"@(?:import|font-face|keyframes|property|namespace|layer|counter-style)\b", re.IGNORECASE)


@lru_cache
def _form() -> re.Pattern[str]:
    """Return the form of a style rule: a selector, and a block whose declarations end like some."""
    return re.compile(
        r"(?:^|[{};>\n])[ \t]*(?:@(?:media|supports|layer|container)\b[^{}<>;\n]{0,200}\{\s*)?"
        r"[.#@*:a-zA-Z][^{}<>;\n]{0,200}"
        r"\{\s*(?:[a-z-]{1,40}\s*:[^;{}<>\n]{1,200}(?:;\s*|(?=\})))+\}"
    )


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each visible text, code samples left out, that reads like style rules."""
    for text in subject.prose:
        if ("{" not in text.data and "@import" not in text.data) or is_shown(text):
            continue
        whole = _WHOLE.search(text.data) if _is_sheet(text.data) else None
        found = whole or next(filter(_is_selector, _form().finditer(text.data)), None)
        if found is not None:
            bare = bare_code(subject, text, found, "a style rule", "style", whole=whole is not None)
            yield Mistake(bare.span, bare.message, mend=bare.mend)


def _is_sheet(text: str) -> bool:
    """Tell whether a text is a style sheet and nothing else."""
    sheet = parse_sheet(text)
    if sheet.broken or not (sheet.rules or sheet.named):
        return False
    known = any(is_known(each.name) or each.name.startswith("--") for rule in sheet.rules for each in rule.declarations)
    selectors = all(understood(rule.selectors) and _reads_as_selector(rule.selectors) for rule in sheet.rules)
    at_rules = all(_AT_RULE.match(named.name) for named in sheet.named)
    return selectors and at_rules and (known or not sheet.rules)


def _is_selector(found: re.Match[str]) -> bool:
    """Tell whether what stands before the block of a rule is a selector, and not words that happen to stand there."""
    selector = found[0].lstrip(BEFORE).partition("{")[0]
    return selector.startswith("@") or _reads_as_selector(selector)


def _reads_as_selector(selector: str) -> bool:
    words = re.findall(r"(?<![.#:\w\"'=-])[A-Za-z][\w-]*", selector)
    return all(word.lower() in ELEMENTS for word in words)
