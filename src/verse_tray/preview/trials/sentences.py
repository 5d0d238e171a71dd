"""What was heard of a page, in sentences."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.preview.trials.messages import Said

RULES = {
    "error": "script-error", "refused": "refused", "fetch": "fetch", "dialog": "dialog", "window": "window",
    "page": "leaves", "told": "console",
}  # fmt: skip
"""The rules behind ``act/``, by the kind of what was heard."""


_MISSING = lazy(r"ReferenceError: (?:Can't find variable: )?([\w$]+)(?: is not defined)?")


def missing_name(said: Said) -> str:
    """Return the name that an error says nobody has made; empty for another error."""
    match = _MISSING.match(said.words) if said.kind == "error" else None
    return match[1] if match else ""


def sentence(said: Said) -> tuple[str, Severity]:
    """Return what is told of something that was heard, and how grave it is."""
    words = said.words
    return {
        "error": (
            f"A script stops here: {words}. What it would have done behind this does not happen.",
            Severity.ERROR,
        ),
        "refused": (f"The page's box refused something: it does not allow {words}.", Severity.WARNING),
        "fetch": (
            f"It asks for {words}. Nothing is fetched here, so what hangs on it cannot be judged.",
            Severity.NOTE,
        ),
        "dialog": (f"A dialog opens by itself: “{words}”.", Severity.WARNING),
        "window": (f"A window opens by itself, for {words}. Browsers hold such windows back.", Severity.WARNING),
        "page": (f"The page leaves by itself for {words}.", Severity.WARNING),
        "told": (f"The browser says: {words}", Severity.NOTE),
    }[said.kind]


def happened(said: list[Said]) -> Iterator[str]:
    """Yield what came of a click, beside what it changed."""
    for each in said:
        yield {
            "error": f"a script stops: {each.words}",
            "refused": f"the box does not allow {each.words}",
            "fetch": f"asks for {each.words}",
            "dialog": f"a dialog opens: “{each.words}”",
            "window": f"a new window opens for {each.words}",
            "page": f"leads away to {each.words}",
            "told": f"the browser says: {each.words}",
        }[each.kind]
