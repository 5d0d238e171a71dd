"""A bracket that is not closed, or one too many, in a style sheet."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.values import without_strings

RULE = Rule(
    Severity.ERROR,
    readers="The rules behind the bracket do not count, or count in other places than was meant.",
    advice="Close the bracket where its block ends.",
    bad="<style>.hint { color: #1d4f53; .walk { padding: 8px; }</style><p class=hint>x</p><p class=walk>y</p>",
    good="<style>.hint { color: #1d4f53; } .walk { padding: 8px; }</style><p class=hint>x</p><p class=walk>y</p>",
)
_SIGN = lazy(r"[(\[{}\])]")
_DEEPEST = 20
_CLOSING = {"(": ")", "[": "]", "{": "}"}


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first bracket of each style element that has no other half."""
    for code, sheet in subject.sheets:
        if (found := lonely_bracket(without_strings(code.text))) is None:
            continue
        at, message = found
        broken = (code.at(span) for span in sheet.broken if span.end > at)
        yield Mistake(code.at(Span(at, at + 1)), message, covers=tuple(span for span in broken if span is not None))


def lonely_bracket(text: str) -> tuple[int, str] | None:
    """Return the offset of the first bracket of a style text that has no other half, and what that means.

    Strings, comments and addresses have to be blanked in it (:func:`verse_tray.style.values.without_strings`).
    """
    waiting: list[tuple[str, int]] = []
    suspect: int | None = None  # a block inside whose declarations a rule begins at the start of a line
    for sign in _SIGN.finditer(text):
        mark = sign[0]
        if mark in _CLOSING:
            if (
                mark == "{"
                and 0 < len(waiting) < _DEEPEST
                and waiting[-1][0] == "{"
                and suspect is None
                and _is_rule(text, waiting[-1][1])
            ):
                if not text[_line_start(text, sign.start()) : sign.start()].startswith((" ", "\t", "@", "&")):
                    suspect = waiting[-1][1]
            waiting.append((mark, sign.start()))
        elif waiting and _CLOSING[waiting[-1][0]] == mark:
            waiting.pop()
        elif mark == "}" and any(each[0] == "{" for each in waiting):
            opened, at = waiting[-1]
            return at, f"This {opened} is not closed before the block ends: the declaration around it does not count."
        else:
            return sign.start(), f"This {mark} closes nothing: what stands around it may not count. Take it away."
    if not waiting:
        return None
    at = suspect if suspect is not None else waiting[0][1]
    message = (
        f"This {text[at]} is never closed, so the rules behind it stand inside it. Write {_CLOSING[text[at]]} where it "
        "ends."
    )
    return at, message


def _is_rule(text: str, brace: int) -> bool:
    return (
        "@" not in text[max(text.rfind("}", 0, brace), text.rfind("{", 0, brace), text.rfind(";", 0, brace), 0) : brace]
    )


def _line_start(text: str, at: int) -> int:
    return max(text.rfind("\n", 0, at), text.rfind("\r", 0, at)) + 1
