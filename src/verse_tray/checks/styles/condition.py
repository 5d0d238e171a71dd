"""A condition of ``@media`` that never holds, because browsers cannot read it."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import Guesses
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.media_queries import FEATURES, WORDS
from verse_tray.style.values import without_strings

RULE = Rule(
    Severity.WARNING,
    readers="None of the rules that ask for it ever counts.",
    advice="Write each condition in brackets of its own, with a colon in it, and the word and between two.",
    bad="<style>@media screen (max-width 600px) { p { margin: 0 } }</style><p>Wear boots.</p>",
    good="<style>@media screen and (max-width: 600px) { p { margin: 0 } }</style><p>Wear boots.</p>",
)
_ASKED = lazy(r"@media(?![\w-])([^{};]{0,1000})\{", re.IGNORECASE)
_LONGEST = 1_000  # signs of a condition that is looked into
_NOT_OURS = lazy(r"\{\{|\{%|<%|[$@\\#]|--|\[\[")  # marks, what a preprocessor puts in, conditions with names
_NAME = (
    r"(?:(?:min|max)-)?(?:device-)?(?:width|height|aspect-ratio)|orientation|prefers-[a-z-]+|(?:any-)?(?:hover|pointer)"
)
_BRACKETS = lazy(r"\(([^()]*)\)")
_OUTSIDE = lazy(rf"(?<![\w-])({_NAME})\s*(?:[:<>=]\s*[\w.-]*|[\d.]+\w*)", re.IGNORECASE)
_GLUED = lazy(r"\b(and|or|not|only)\(", re.IGNORECASE)
_NO_WORD = lazy(r"(?:\b(?!(?:and|or|not|only)\b)[a-z]+|\))\s+\(|\)\(", re.IGNORECASE)
_TYPE = lazy(r"\s*(?:(?:not|only)\s+)?(?!(?:not|only|and|or|layer)\b)([a-z][\w-]*)\s*(?=\Z|and\b)", re.IGNORECASE)
_TYPES = frozenset("all screen print speech aural braille embossed handheld projection tty tv".split())
_NO_COLON = lazy(rf"\s*({_NAME})\s+([\d.]+\w*)\s*", re.IGNORECASE)
_COMPARED = lazy(rf"\s*(m(?:in|ax)-(?:{_NAME}))\s*(?:[<>]=?|=).*", re.IGNORECASE | re.DOTALL)
_TYPE_OR = lazy(r"\b(only|(?:screen|print|all)\s+or)\s+\(", re.IGNORECASE)
_SPLIT_NAME = lazy(r"\s*(min|max)\s+((?:device-)?(?:width|height))\s*:", re.IGNORECASE)
_JOINING = lazy(r"\b(and|or)\b", re.IGNORECASE)
_HANGS = lazy(r"\A\s*(and|or)\b|\b(and|or|not|only)\s*\Z", re.IGNORECASE)
_NO_LENGTH = lazy(
    r"\s*(?:(?:min|max)-)?(?:device-)?(?:width|height)\s*(?:[<>]=?\s*([\d.]*[1-9][\d.]*)|:\s*([\d.]+%|[<>=].*|[\w.]+\s*;))\s*",
    re.IGNORECASE,
)
_SEVERAL = lazy(r":.*(?:\s(?:and|or)\s|[,;]).*:", re.IGNORECASE | re.DOTALL)
_APART = lazy(r":\s*([\d.]+)\s+(px|r?em|vw|ch|cm|pt)\s*\Z", re.IGNORECASE)
_TESTED = lazy(r"\s*([a-z][a-z-]*)\s*(?::\s*([a-z-]+)\s*)?\Z|\s*([a-z][a-z-]*)\s*[:<>=]", re.IGNORECASE)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each condition that is certain never to hold."""
    guesses = Guesses()
    for code, _ in subject.sheets:
        for found in _ASKED.finditer(without_strings(code.text) if "@" in code.text else ""):
            if why := _why(found[1], guesses):
                span = code.at(Span(found.start(1) + len(found[1]) - len(found[1].lstrip()), found.end(1)))
                yield Mistake(span, _message(found[1], why), covers=() if span is None else (span,))
    for element in subject.each("style", "link", "source"):
        asked = element.attributes.get("media", "")
        if asked and (why := _why(asked, guesses)):
            yield Mistake(subject.attribute_span(element, "media"), _message(asked, why))


def _message(asked: str, why: str) -> str:
    return f"“{' '.join(asked.split())[:60]}” never holds: {why}"


def _why(asked: str, guesses: Guesses) -> str:
    """Return what is wrong for certain with the first of the conditions that is; nothing where all may hold."""
    if len(asked) > _LONGEST or _NOT_OURS.search(asked) or asked.count("(") != asked.count(")"):
        return ""
    outside = asked
    while _BRACKETS.search(outside):
        outside = _BRACKETS.sub(lambda inner: f"[{' ' * (len(inner[0]) - 2)}]", outside)
    if named := _OUTSIDE.search(outside):
        feature, _, value = named[0].replace(" ", "").partition(":")
        return f"{named[1]} stands without brackets. Write ({feature}{': ' + value if value else ''})."
    plain = outside.replace("[", "(").replace("]", ")")
    if glued := _GLUED.search(plain):
        return f"a blank is missing behind {glued[1]}. Write {glued[1]} (…)."
    if both := _TYPE_OR.search(plain):
        return f"{both[1]} stands in front of a bracket. Write “and” there, or nothing for every kind of screen."
    if _NO_WORD.search(plain):
        return "a word is missing in front of a bracket. Write “and” between the two."
    for query in plain.split(","):
        joining = {word.lower() for word in _JOINING.findall(query)}
        if len(joining) > 1:
            return "“and” and “or” stand side by side. Write brackets around what belongs together."
        if end := _HANGS.search(query):
            return f"nothing stands beside {end[1] or end[2]}. Write the condition there, or take the word away."
        typed = _TYPE.match(query)
        if typed and typed[1].lower() not in _TYPES:
            return f"{typed[1]} is no kind of screen. Write (max-width: 600px) for what is to count on phones only."
    return next((why for inner in _BRACKETS.finditer(asked) if (why := _wrong_inside(inner[1], guesses))), "")


def _wrong_inside(inner: str, guesses: Guesses) -> str:
    if bare := _NO_COLON.fullmatch(inner):
        return f"a colon is missing. Write ({bare[1]}: {bare[2]})."
    if compared := _COMPARED.fullmatch(inner):
        name = compared[1].lower()
        sign = ">=" if name.startswith("min") else "<="
        return f"{name} takes a colon. Write ({name}: 600px), or ({name[4:]} {sign} 600px)."
    if _SEVERAL.search(inner):
        return "several conditions stand in the same brackets. Write (…: …) and (…: …)."
    if apart := _APART.search(inner):
        return f"a blank stands before the unit. Write {apart[1]}{apart[2]}."
    if split := _SPLIT_NAME.match(inner):
        return f"its name has a hyphen. Write {split[1]}-{split[2]}."
    if length := _NO_LENGTH.fullmatch(inner):
        return f"{(length[1] or length[2]).strip()} is no length here. Write 600px."
    tested = _TESTED.match(inner)
    name = (tested[1] or tested[3]).lower() if tested else ""
    if tested is None or name.startswith("-"):
        return ""
    if name not in FEATURES:
        near = guesses.nearest(name, FEATURES, 0.75)
        return f"there is no {name}; did you mean {near}?" if near else ""
    known = WORDS.get(name, ())
    if tested[2] and known and tested[2].lower() not in known:
        near = guesses.nearest(tested[2].lower(), known, 0.7)
        return f"{name} is never {tested[2]}" + (f"; did you mean {near}?" if near else f", but {' or '.join(known)}.")
    return ""
