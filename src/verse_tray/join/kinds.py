"""What language a part is written in, told by what stands in it; the file's ending only where that leaves it open."""

from __future__ import annotations

import re
from enum import StrEnum
from pathlib import PurePath

from verse_tray.checks.code.not_compiled import STYLE_FORMS, first_of
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.script.faults import script_fault
from verse_tray.style.values import without_strings


class PartKind(StrEnum):
    """Languages that can be joined."""

    FRAGMENT = "HTML"
    DOCUMENT = "a whole HTML document"
    CSS = "CSS"
    SCRIPT = "JavaScript"
    MODULE = "a JavaScript module"
    NESTED = "nested-style CSS"
    """Compiled to CSS with the extra ``sass``: the form with braces."""
    INDENTED = "indented nested-style CSS"
    """The same language in its form without braces."""


_ENDINGS = {
    ".html": PartKind.FRAGMENT,
    ".htm": PartKind.FRAGMENT,
    ".css": PartKind.CSS,
    ".js": PartKind.SCRIPT,
    ".mjs": PartKind.MODULE,
    ".cjs": PartKind.SCRIPT,
    ".scss": PartKind.NESTED,
    ".sass": PartKind.INDENTED,
}
_COMPILE = "Compile it with the tool of that language, and join what comes out."
_REFUSED_ENDINGS = {
    ".less": "Less, a style preprocessor",
    ".styl": "Stylus, a style preprocessor",
    ".ts": "TypeScript",
    ".tsx": "TypeScript with markup in it",
    ".jsx": "JavaScript with markup in it (JSX)",
    ".vue": "a component file",
    ".svelte": "a component file",
    ".coffee": "CoffeeScript",
    ".pug": "an indentation-based template",
    ".jade": "an indentation-based template",
    ".haml": "an indentation-based template",
    ".slim": "an indentation-based template",
    ".hbs": "a template",
    ".mustache": "a template",
    ".ejs": "a template",
    ".njk": "a template",
    ".liquid": "a template",
    ".erb": "a template",
    ".php": "PHP, a server's language",
    ".md": "Markdown (verse-tray make text FILE makes HTML of it)",
}
_DOCUMENT = lazy(r"\s*+(?:<\?xml[^>]*+>\s*+)?<(?:!doctype|html|head|body)\b", re.IGNORECASE)
_COMPONENT = lazy(r"(?s)^\s*(?:<script[^>]*>.*?</script>\s*)?<template[\s>].*?</template>\s*(?:<(?:script|style)\b|\Z)")
_COMMANDS = lazy(
    r"\{%-?\s*(?:if|for|block|extends|include|set|endif|endfor|assign)\b|\{\{[#/^]\s*\w+|<%[=-]?\s|<\?(?:php|=)"
)
_LINE = r"(?m)^[ \t]*+"
_TYPED = lazy(
    _LINE + r"(?:export[ \t]++)?(?:interface\s++\w++[^{\n]*+\{|type\s++\w++\s*+=|enum\s++\w++\s*+\{|declare\s)"
    r"|\bimport\s++type\b|[\w)\]]\s*+\??:\s*+(?:string|number|boolean|any|void|unknown|never)\b"
    r"|\bas\s++(?:const|string|number|any|HTML\w*)\b"
)
_MARKUP_IN_SCRIPT = lazy(r"(?:return|=>|=|\()\s*+(?:\(\s*+)?<(?:[A-Za-z][\w.]*+[\s/>]|>)|className=")
_ARROW_WITHOUT_BRACES = lazy(
    r"(?m)^[\w.]++[ \t]*+=[ \t]*+\([^()\n]*+\)[ \t]*+[-=]>[ \t]*+$|^[ \t]*+(?:unless|else if|elsif)\b.*\bthen\b"
)
_TAGS = r"(?:html|head|body|div|section|ul|ol|li|p|h[1-6]|a|img|table|tr|td|span|header|footer|main|nav)"
_INDENTED_TEMPLATE = lazy(
    rf"(?m)^(?:doctype\s+html\b|[ \t]*+{_TAGS}(?:[.#][\w-]++)*+(?:\([^)\n]*+\))?(?:=|\s+\S|$)"
    r"|[ \t]*+[%.#][a-z][\w-]*+(?:[.#(][^\n{;]*+)?$)"
)
_RULE = lazy(_LINE + r"(?:[^{}\n<>]*+\{[^{}]*+\}|@(?:media|import|keyframes|font-face|charset|supports)\b|:root\b)")
_INDENTED_RULES = lazy(r"(?m)^(?:[.#&@]?[\w-][\w .#:&>-]*+)\n[ \t]++(?:[\w-]++:\s*+\S|[+@=&])")
_SCRIPT = lazy(
    _LINE + r"(?:var|let|const|function|class|import|export|async|if\s*+\(|for\s*+\(|document\.|window\.)"
    r"|^[ \t]*+(?:\(?[ \t]*+(?:function|\(\)[ \t]*+=>)|['\"]use strict)|=>"
)
_CALL, _CALL_ENDS = lazy(r"\w\s*+\("), lazy(r"\)\s*+;")
_MODULE = lazy(_LINE + r"(?:import\s++(?:[\w{*][^;\n]*from\s*+)?['\"]|export\s++(?:default|const|function|class|\{))")


def tell_kind(source: Source) -> PartKind:
    """Return the language of a part.

    Raises:
        InputError: it is one that cannot be joined, or it cannot be told.
    """
    text, ending = source.text, PurePath(source.name).suffix.lower()
    if ending in _REFUSED_ENDINGS:
        raise _refused(source.name, _REFUSED_ENDINGS[ending])
    hint = _ENDINGS.get(ending)
    bare = _without_markup_comments(text)
    if _COMPONENT.match(bare) and hint is not PartKind.SCRIPT:
        raise _refused(source.name, "a component file")
    if hint in (PartKind.FRAGMENT, None) and (command := _COMMANDS.search(bare)) is not None:
        raise _refused(
            source.name, f"a template with commands of its own ({command[0].strip()} …)", source, command.start()
        )
    if hint in (PartKind.SCRIPT, PartKind.MODULE):
        return _script(source, hint)
    if hint in (PartKind.CSS, PartKind.NESTED, PartKind.INDENTED):
        return _style(source, hint)
    if _looks_like_markup(bare):
        return PartKind.DOCUMENT if _DOCUMENT.match(bare) else PartKind.FRAGMENT
    return _guess(source)


def _reads_like_script(text: str) -> bool:
    """Tell whether a text holds words of a script, or a call that a semicolon ends."""
    if _SCRIPT.search(text) is not None:
        return True
    if ";" not in text or "(" not in text:
        return False
    for stretch in re.split(r"[{}]", text):
        call = _CALL.search(stretch)
        if call is not None and _CALL_ENDS.search(stretch, call.end()) is not None:
            return True
    return False


def _guess(source: Source) -> PartKind:
    """Tell the language of a part without tags, or without an ending."""
    text = source.text
    if first_of(STYLE_FORMS, without_strings(text)) is not None and "{" in text:
        return _style(source, PartKind.CSS)
    reads_like_script = _reads_like_script(text)
    if reads_like_script and script_fault(text, module=bool(_MODULE.search(text))) is None:
        return PartKind.MODULE if _MODULE.search(text) else PartKind.SCRIPT
    if _TYPED.search(text) or _MARKUP_IN_SCRIPT.search(text):
        return _script(source, PartKind.SCRIPT)
    if _RULE.search(text):
        return PartKind.CSS
    lines = [line for line in text.splitlines() if line.strip()]
    if _INDENTED_RULES.search(text) and not text.count("{"):
        return PartKind.INDENTED
    if lines and sum(bool(_INDENTED_TEMPLATE.match(line)) for line in lines) * 2 > len(lines):
        raise _refused(source.name, "an indentation-based template")
    if reads_like_script:
        return _script(source, PartKind.SCRIPT)
    return PartKind.FRAGMENT  # plain text is HTML as well


def _looks_like_markup(text: str) -> bool:
    return re.match(r"\s*<(?:[A-Za-z]|!--|!doctype)", text, re.IGNORECASE) is not None or (
        re.search(r"</[A-Za-z][\w-]*\s*>", text) is not None and not _SCRIPT.match(text.lstrip())
    )


def _script(source: Source, hint: PartKind) -> PartKind:
    text = source.text
    module = hint is PartKind.MODULE or bool(_MODULE.search(text))
    fault = script_fault(text, module=module)
    if fault is None:
        return PartKind.MODULE if module else PartKind.SCRIPT
    if (found := _TYPED.search(text)) is not None:
        raise _refused(source.name, "TypeScript", source, found.start() + len(found[0]) - len(found[0].lstrip()))
    if (found := _MARKUP_IN_SCRIPT.search(text)) is not None:
        raise _refused(source.name, "JavaScript with markup in it (JSX)", source, found.start())
    if (found := _ARROW_WITHOUT_BRACES.search(text)) is not None:
        raise _refused(source.name, "CoffeeScript", source, found.start())
    line, column = source.place(fault.offset)
    raise InputError(
        f"{source.name}:{line}:{column}: browsers cannot read this script: {fault.reason}. Look here and just before "
        "this place: a bracket, a quote or a comma is missing or too many."
    )


def _style(source: Source, hint: PartKind) -> PartKind:
    if hint is not PartKind.CSS:
        return hint
    found = first_of(STYLE_FORMS, without_strings(source.text))
    if found is None:
        return PartKind.CSS
    typed = found[0][1]
    if typed.startswith("@") and not re.match(
        r"@(?:include|mixin|extend|use|forward|each|function|return|else)\b", typed
    ):
        raise _refused(source.name, _REFUSED_ENDINGS[".less"], source, found[0].start(1))
    if typed.startswith("."):
        raise _refused(source.name, _REFUSED_ENDINGS[".less"], source, found[0].start(1))
    return PartKind.NESTED


def _without_markup_comments(text: str) -> str:
    """Return a text with its comments blanked; one that nothing ends is left."""
    pieces = []
    at = 0
    while (start := text.find("<!--", at)) >= 0 and (end := text.find("-->", start + 4)) >= 0:
        pieces += [text[at:start], " " * (end + 3 - start)]
        at = end + 3
    return "".join([*pieces, text[at:]])


def _refused(name: str, what: str, source: Source | None = None, at: int = 0) -> InputError:
    place = "" if source is None else ":{}:{}".format(*source.place(at))
    return InputError(f"{name}{place}: this is {what}, which browsers do not read. {_COMPILE}")
