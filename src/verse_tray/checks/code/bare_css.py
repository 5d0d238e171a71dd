"""Style rules without their element: browsers show them as text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.model.findings import Severity
from verse_tray.piece.bare_code import BEFORE, bare_code, is_shown
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="Readers see the style rules as text, and the look they describe is missing.",
    advice="Put them inside <style>…</style>.",
    bad=".hint { color: #1d4f53; padding: 8px; }\n<p class=hint>Wear boots.</p>",
    good="<style>\n.hint { color: #1d4f53; padding: 8px; }\n</style>\n<p class=hint>Wear boots.</p>",
    mends=True,
)


@lru_cache
def _form() -> re.Pattern[str]:
    """Return the form of a style rule: a selector, and a block whose declarations end like some."""
    return re.compile(
        r"(?:^|[{};>\n])[ \t]*[.#@*a-zA-Z][^{}<>;\n]{0,200}"
        r"\{\s*(?:[a-z-]{1,40}\s*:[^;{}<>\n]{1,200}(?:;\s*|(?=\})))+\}"
    )


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each visible text, code samples left out, that reads like style rules."""
    for text in subject.prose:
        if (
            "{" in text.data
            and not is_shown(text)
            and (found := next(filter(_is_selector, _form().finditer(text.data)), None))
        ):
            rest = _form().sub("", text.data).strip()
            bare = bare_code(subject, text, found, "a style rule", "style", whole=not rest)
            yield Mistake(bare.span, bare.message, mend=bare.mend)


def _is_selector(found: re.Match[str]) -> bool:
    """Tell whether what stands before the block of a rule is a selector, and not words that happen to stand there."""
    selector = found[0].lstrip(BEFORE).partition("{")[0]
    words = re.findall(r"(?<![.#:\w\"'=-])[A-Za-z][\w-]*", selector)
    return selector.startswith("@") or all(word.lower() in ELEMENTS for word in words)
