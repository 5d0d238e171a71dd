"""A script without its element: browsers show it as text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.bare_code import bare_code, is_shown
from verse_tray.piece.subject import Subject
from verse_tray.script.faults import script_fault

RULE = Rule(
    Severity.ERROR,
    readers="Readers see the script as text, and what it should do does not happen.",
    advice="Put it inside <script>…</script>.",
    bad="<p id=next></p>\ndocument.getElementById('next').textContent = 'Low water at six';",
    good="<p id=next></p>\n<script>\ndocument.getElementById('next').textContent = 'Low water at six';\n</script>",
    mends=True,
)
_WORDS = ("document", "window", "function", "var ", "let ", "const ", "=>")


@lru_cache
def _form() -> re.Pattern[str]:
    """Return the forms that scripts have and prose has not."""
    return re.compile(
        r"\bdocument\s*\.\s*(?:getElement|querySelector|addEventListener|write|createElement)\w*\s*\("
        r"|\bwindow\s*\.\s*\w+\s*[=(]|\bfunction\s*\w*\s*\([\w\s,]*\)\s*\{"
        r"|(?:^|[;{\n])[ \t]*(?:var|let|const)\s+[\w$]+\s*=[^;\n]*;|=>\s*\{"
    )


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each visible text, code samples left out, that reads like a script."""
    for text in subject.prose:
        if any(word in text.data for word in _WORDS) and not is_shown(text) and (found := _form().search(text.data)):
            bare = bare_code(subject, text, found, "a script", "script", whole=script_fault(text.data) is None)
            yield Mistake(bare.span, bare.message, mend=bare.mend)
