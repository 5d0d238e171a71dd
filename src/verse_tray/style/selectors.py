"""Rewriting selectors in the text of a style sheet, and leaving the rest of it as it was typed."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import structs

from verse_tray.model.patterns import lazy
from verse_tray.style.names import names_in
from verse_tray.style.sheets import Sheet, StyleRule, parse_sheet, split_selectors

Change = Callable[[StyleRule, str], str]


def under_prefix(text: str, prefix: str) -> str:
    """Put a selector in front of every selector of a sheet that does not begin with it; nested rules follow theirs."""

    def under(rule: StyleRule, selectors: str) -> str:
        if rule.nested:
            return selectors
        return ",".join(selector_under(selector, prefix) for selector in split_selectors(selectors))

    return _rewrite(text, under)


def selector_under(selector: str, prefix: str) -> str:
    """Put a selector in front of one that does not begin with it."""
    bare = selector.lstrip()
    if not bare or bare == prefix or bare.startswith(f"{prefix} "):
        return selector
    return f"{selector[: len(selector) - len(bare)]}{prefix} {bare}"


def with_selectors(text: str, change: Callable[[str], str]) -> str:
    """Return a sheet with each of its selector lists changed."""
    return _rewrite(text, lambda _, selectors: change(selectors))


def rename_in_selectors(text: str, *, class_prefix: str = "", id_prefix: str = "") -> str:
    """Put prefixes in front of the classes and the identifiers in the selectors of a sheet."""

    prefixes = {".": class_prefix, "#": id_prefix}

    def renamed(_: StyleRule, selectors: str) -> str:
        pieces = []
        at = 0
        for name in names_in(selectors):
            if not selectors.startswith(prefixes[name.mark], name.span.start):
                pieces += [selectors[at : name.span.start], prefixes[name.mark]]
                at = name.span.start
        return "".join([*pieces, selectors[at:]])

    return _rewrite(text, renamed)


def as_seen_within(sheet: Sheet, prefix: str) -> Sheet:
    """Return a sheet as it works on what stands inside an element that ``prefix`` matches: without that prefix."""

    def seen(selector: str) -> str:
        rest = selector.strip().removeprefix(f"{prefix} ")
        return selector if _OUTSIDE.match(rest) else rest  # the page around is not inside that element

    rules = [
        structs.replace(rule, selectors=", ".join(map(seen, split_selectors(rule.selectors)))) for rule in sheet.rules
    ]
    return Sheet(rules, sheet.named, sheet.broken, sheet.layers)


_OUTSIDE = lazy(r"(?:html|body|:root)(?![\w-])")


def _rewrite(text: str, change: Change) -> str:
    pieces = []
    at = 0
    for rule in sorted(parse_sheet(text).rules, key=lambda rule: rule.span.start):
        start, end = rule.span
        if start < at:  # a broken sheet
            continue
        pieces += [text[at:start], change(rule, text[start:end])]
        at = end
    return "".join([*pieces, text[at:]])
