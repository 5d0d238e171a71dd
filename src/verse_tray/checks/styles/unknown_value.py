"""A value that browsers do not take."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import MOST_GUESSES, listed, nearest
from verse_tray.piece.subject import Declared, Subject
from verse_tray.style.colours import colour_names
from verse_tray.style.properties import PROPERTIES
from verse_tray.style.property_table import canonical, is_known, values_of
from verse_tray.style.validity import PAGE_BREAKS, begins_of_old, is_glued, is_valid, lacks_comma, takes_no_commas
from verse_tray.style.values import has_commas, has_decimal_comma, has_percent_apart

RULE = Rule(
    Severity.WARNING,
    readers="The declaration does not count.",
    advice="Write a value that the property takes.",
    bad='<p style="width: wide; color: #12">Wear boots.</p>',
    good='<p style="width: 300px; color: #123">Wear boots.</p>',
)
_OF_ONE_BROWSER = lazy(r"(?:^|[\s,(])-(?:webkit|moz|ms|o|khtml)-|expression\(|progid:|\\[09]|alpha\(", re.IGNORECASE)
_NOT_OURS = lazy(r"\{\{|\{%|<%|%%|\[\[|\$|@|#\{|~\"")  # marks, and what a preprocessor puts in
_SUM = lazy(r"(?:calc|min|max|clamp)\(", re.IGNORECASE)
_COLOUR_SIGN = lazy(r"#[\w-]*")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first declaration of each value that its property does not take."""
    told: set[tuple[str, str]] = set()
    refused: list[Declared] = []
    others: set[tuple[int, str]] = set()  # properties that have a value all the same, by the block
    for declared in subject.declared_anywhere:
        name, value = declared.declaration.name, declared.declaration.value
        if not value or name not in PROPERTIES or not is_known(canonical(name)):
            continue
        if is_valid(name, value):
            others.add((id(declared.rule or declared.element), canonical(name)))
        elif not _OF_ONE_BROWSER.search(value) and not _NOT_OURS.search(value):
            refused.append(declared)
    for declared in refused:
        name, value = declared.declaration.name, declared.declaration.value
        if (name, value) in told or (id(declared.rule or declared.element), canonical(name)) in others:
            continue  # one for other browsers stands beside it
        told.add((name, value))
        hint = _hint(name, value) if len(told) < MOST_GUESSES else ""
        yield Mistake(
            declared.span, f"{name} takes no value such as “{value[:60]}”, so this does not count{hint or '.'}"
        )


def _hint(name: str, value: str) -> str:
    """Return what was meant, if that can be guessed, or else what the property takes."""
    if _COLOUR_SIGN.fullmatch(value):
        return ": behind #, a colour has 3, 4, 6 or 8 signs, each 0 to 9 or a to f."
    if has_decimal_comma(value):
        return ": a decimal has a point, not a comma."
    if has_percent_apart(value):
        return ": no blank stands before a unit."
    if takes_no_commas(canonical(name)) and has_commas(value):
        return ": its parts stand side by side, without commas."
    if _SUM.search(value) and is_glued(value):
        return ". Write blanks around + and - in a sum: calc(100% - 20px)."
    if name == "font-family" and lacks_comma(value):
        return ": a comma stands between two fonts."
    if side := begins_of_old(value):
        return f". Write linear-gradient(to {_OPPOSITE[side]}, …): a gradient goes to a side now."
    allowed = values_of(canonical(name))
    if allowed is None:
        return ". Look at each of its words."
    if name in PAGE_BREAKS:
        near = nearest(value.lower(), PAGE_BREAKS[name], 0.7)
        return f"; did you mean {near}?" if near else f". It takes {listed(sorted(PAGE_BREAKS[name]), last='or')}."
    known = allowed.words | (colour_names() if "colour" in allowed.types else frozenset())
    if " " not in value and (near := nearest(value.lower(), known, 0.7)):
        return f"; did you mean {near}?"
    examples = [example for kind, example in _EXAMPLES.items() if kind in allowed.types]
    plain = sorted(word for word in allowed.words if word[0] != "-" and word != "revert-rule")
    return f". It takes values such as {', '.join([*examples, *plain][:_MOST_EXAMPLES])}."


_EXAMPLES = {
    "length": "24px",
    "percentage": "50%",
    "colour": "#1d4f53",
    "number": "1.5",
    "integer": "3",
    "time": "0.3s",
}
_MOST_EXAMPLES = 4
_OPPOSITE = {"top": "bottom", "bottom": "top", "left": "right", "right": "left"}
