"""Code of a language that browsers do not read, left as it was written."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.markup.tokens import Kind
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="Browsers drop what they do not understand, or show it as text.",
    advice="Compile it first; verse-tray join does it for nested-style sheets.",
    bad="<style>$sea: #1d4f53; .hint { color: $sea; }</style><p class=hint>Wear boots.</p>",
    good="<style>.hint { color: #1d4f53; }</style><p class=hint>Wear boots.</p>",
)
_VARIABLE = "a variable of a preprocessor"
_COMMANDS = r"(@(?:include|mixin|extend|use|forward|each|function|return|else)\b)"
_AT_VARIABLE = r"(?m)(?:^|[;{}])[ \t]*(@(?!media|import|charset|layer|page)[a-z][\w-]*)\s*:(?!\s*\{)"
STYLE_FORMS = (
    (re.compile(r"(?m)(?:^|[;{}])[ \t]*(\$[A-Za-z_][\w-]*)\s*:"), _VARIABLE),
    (re.compile(_COMMANDS), "a command of a preprocessor"),
    (re.compile(r":[^:;{}]{0,120}?((?<![\w\\])\$[A-Za-z_][\w-]*)"), _VARIABLE),
    (re.compile(_AT_VARIABLE), _VARIABLE),
    (re.compile(r"(#\{[^{}\n]+\})"), "a value that a preprocessor puts in"),
    (re.compile(r"(?m)(?:^|[;{}])[ \t]*(\.[\w-]+\([^(){}]*\)\s*;)"), "a mixin of a preprocessor"),
)
"""Forms in style sheets that only preprocessors know, and what each is."""
_SERVER_TAG = lazy(r"<%(?!%)[^%\n]{1,200}%>")
_SERVER_CODE = "server code"
_SHOWN = "readers see it, unless the platform runs it"
_IN_TEXT = (
    (re.compile(r"\{%-?\s*\w[^%\n]{0,200}%\}"), "a command of a template language"),
    (re.compile(r"\{#-?\s[^#\n]{0,200}#\}"), "a comment of a template language"),
)
_IN_TAGS = (
    (re.compile(r"(?<![\"'=])\{%-?\s*\w[^%\n]{0,200}%\}"), "a command of a template language"),
    (re.compile(r"(?<![\"'=])\{\{[#/^][^{}\n]{1,200}\}\}"), "a command of a template language"),
)
_ODD_TYPES = lazy(r"babel|typescript|jsx|tsx|coffee|less|sass|scss|stylus", re.IGNORECASE)
_COMMENT = lazy(r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'", re.DOTALL)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first thing in each style element, script or text that no browser reads."""
    for code, _ in subject.sheets:
        bare = _COMMENT.sub(lambda match: " " * len(match[0]), code.text)
        if (found := first_of(STYLE_FORMS, bare)) is not None:
            yield _mistake(code.at(Span(*found[0].span(1))), found[0][1], found[1], "the rule around it is lost")
    for name in ("script", "style"):
        for element in subject.each(name):
            kind = element.attributes.get("type", "") + " " + element.attributes.get("lang", "")
            if match := _ODD_TYPES.search(kind):
                yield _mistake(
                    subject.span(element), f"<{name} {kind.strip()}>", f"code in {match[0]}", "nothing of it works"
                )
    yield from _in_texts(subject)
    yield from _in_tags(subject)
    for comment in subject.comments:
        if comment.markup.startswith(("<!--?php", "<!--?=", "<?php", "<?=")):
            yield _mistake(subject.span(comment), "<?php", _SERVER_CODE, "it does nothing on a page")
    for element in subject.elements:
        if "classname" in element.attributes and element.namespace == HTML:
            span = subject.attribute_span(element, "classname")
            yield _mistake(
                span, "className", "an attribute of component scripts (HTML says class)", "it does nothing", (span,)
            )


def _in_texts(subject: Subject) -> Iterator[Mistake]:
    for text in subject.prose:
        if "{" in text.data and (shown := first_of(_IN_TEXT, text.data)) is not None:
            span = subject.text_span(text, Span(*shown[0].span()))
            yield _mistake(span, shown[0][0][:50], shown[1], _SHOWN)
        if "<%" in text.data and (served := _SERVER_TAG.search(text.data)) is not None:
            span = subject.text_span(text, Span(*served.span()))
            if span is not None and subject.source.text.startswith("<%", span.start):  # else it is meant to be seen
                yield _mistake(span, served[0][:50], _SERVER_CODE, _SHOWN)


def _in_tags(subject: Subject) -> Iterator[Mistake]:
    for token in subject.tokens:
        if token.kind is not Kind.START:
            continue
        tag = subject.source.text[token.start : token.end]
        if "{" in tag and (within := first_of(_IN_TAGS, tag)) is not None:
            at = token.start + within[0].start()
            yield _mistake(Span(at, at + 2), within[0][0][:50], within[1], "browsers take its words for attributes")
        if "<%" in tag and (served := _SERVER_TAG.search(tag)) is not None:
            at = token.start + served.start()
            yield _mistake(Span(at, at + 2), served[0][:50], _SERVER_CODE, "it stands there as it is written")


def first_of(forms: tuple[tuple[re.Pattern[str], str], ...], text: str) -> tuple[re.Match[str], str] | None:
    """Return the first form that is found in a text, and what it is."""
    for form, what in forms:
        if (match := form.search(text)) is not None:
            return match, what
    return None


def _mistake(span: Span | None, typed: str, what: str, effect: str, covers: tuple[Span | None, ...] = ()) -> Mistake:
    advice = "Write what it gives" if what == _SERVER_CODE else "Compile it first, or write plain HTML and CSS"
    message = f"{typed} is {what}, which browsers do not read: {effect}. {advice}."
    return Mistake(span, message, covers=tuple(each for each in covers if each is not None))
