"""A length or a duration without its unit."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.values import has_decimal_comma, has_percent_apart, without_strings, words

RULE = Rule(
    Severity.WARNING,
    readers="The declaration does not count.",
    advice="Write the unit: 300px, 0.3s.",
    bad='<p style="width: 300; padding: 8px">Wear boots.</p>',
    good='<p style="width: 300px; padding: 8px">Wear boots.</p>',
)
_SIDES = ("top", "right", "bottom", "left")
_LENGTHS = (
    frozenset(
        "width height min-width max-width min-height max-height margin padding font-size letter-spacing word-spacing "
        "text-indent border-radius border-width border-spacing gap row-gap column-gap grid-gap top right bottom left "
        "inset translate outline-width outline-offset column-width border outline border-top border-right "
        "border-bottom border-left scroll-margin scroll-padding font".split()
    )
    | {f"{name}-{side}" for name in ("margin", "padding") for side in _SIDES}
    | {f"border-{side}-width" for side in _SIDES}
)
_TIMES = frozenset("transition transition-duration transition-delay animation-duration animation-delay".split())
_OF_FUNCTIONS = frozenset(
    "transform filter backdrop-filter background background-image list-style-image border-image mask mask-image".split()
)
_ARGUMENTS = lazy(
    r"(?<![\w-])(rotate[xyz]?|skew[xy]?|translate(?:[xyz]|3d)?|perspective|blur|hue-rotate|(?:repeating-)?linear-gradient)"
    r"\(([^()]*)",
    re.IGNORECASE,
)
_BARE = lazy(r"[+-]?(?:\d+\.?\d*|\.\d+)")


_WINDOWS = lazy(r"(?<=\()\s*((?:min|max)-(?:width|height))\s*:\s*(\d{1,9}(?:\.\d{1,9})?)\s*(?=\))", re.IGNORECASE)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each length other than 0, and each duration, that is a bare number."""
    for declared in subject.declared_anywhere:
        name, value = declared.declaration.name, declared.declaration.value
        if bare := _bare(name, value):
            number, unit = bare
            yield Mistake(
                declared.span,
                f"{name}: {value[:60]} does not count, because {number} has no unit. Write {number}{unit}.",
                covers=(declared.span,) if declared.span is not None else (),
            )
    for code, _ in subject.sheets:
        for found in _WINDOWS.finditer(without_strings(code.text) if "@" in code.text else ""):
            if float(found[2]):
                message = (
                    f"{found[1]}: {found[2]} has no unit, so the rules that ask for it never count. Write {found[2]}px."
                )
                yield Mistake(code.at(Span(*found.span(1))), message)


def _bare(name: str, value: str) -> tuple[str, str] | None:
    """Return the first bare number, and the unit that it lacks; None where there is none."""
    unit = "px" if name in _LENGTHS else "s" if name in _TIMES else "deg" if name == "rotate" else None
    if unit is None:
        return _in_function(value) if "(" in value and name in _OF_FUNCTIONS else None
    if not any(sign.isdigit() for sign in value):
        return None
    if unit == "px" and (has_decimal_comma(value) or has_percent_apart(value)):
        return None  # told as what it is: no value of that kind
    return next(((word, unit) for word in _measures(name, value) if _BARE.fullmatch(word) and float(word)), None)


def _in_function(value: str) -> tuple[str, str] | None:
    """Return the first bare number in a function that takes an angle or a length, and the unit that it lacks."""
    for function, arguments in _ARGUMENTS.findall(without_strings(value)):
        each = [argument.strip() for argument in arguments.split(",")]
        unit = "px" if function.lower().startswith(("translate", "perspective", "blur")) else "deg"
        for number in each[:1] if "gradient" in function.lower() else each:
            if _BARE.fullmatch(number) and float(number):
                return number, unit
    return None


def _measures(name: str, value: str) -> list[str]:
    """Return the words of a value that have to have a unit."""
    if name == "font":  # weight and line height are bare numbers; the size stands in front of the slash
        return words(value.partition("/")[0])[-1:] if "/" in value else []
    found = words(value)
    return found if name != "rotate" or len(found) == 1 else []  # an axis is written in bare numbers
