"""Selectors made ready for matching a still page: states told apart, unknown parts forgiven where the standard does.

Selectors Level 4. The selector engine knows no states that a page without a reader cannot have, and few of the newer
pseudo-classes; they are written in forms that it knows, each of the same specificity.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import cssselect2
from msgspec import Struct

from verse_tray.style.sheets import split_selectors
from verse_tray.style.tokens import CssToken, css_tokens

_NEVER = ".\ufdd0"  # a class that no text of an author can name; it counts as a pseudo-class does
_ALWAYS = f":not({_NEVER})"
STATES = frozenset(
    "hover focus focus-visible focus-within active visited target target-within popover-open playing paused "
    "valid invalid user-valid user-invalid autofill modal fullscreen in-range out-of-range -webkit-autofill "
    "indeterminate default muted seeking stalled buffering volume-locked picture-in-picture local-link current past "
    "future".split()
)
"""Pseudo-classes that no element of a still page has."""
_STATES_OF_ATTRIBUTES = {"checked": ":checked", "open": "[open]"}  # those that the markup can set at first
_WRITTEN_OTHERWISE = {
    "required": "[required]:where(input,select,textarea)",
    "optional": ":not([required]):where(input,select,textarea)",
    "read-only": ":not(:where(input,textarea):not(:where([readonly],[disabled],[type=checkbox])),[contenteditable])",
    "read-write": ":is(:where(input,textarea):where(:not([readonly],[disabled],[type=checkbox])),[contenteditable])",
    "placeholder-shown": "[placeholder]:where(input:not([value]),textarea:empty)",
    "defined": _ALWAYS,
    "scope": ":root",
    "-webkit-any-link": ":any-link",
}
PSEUDO_ELEMENTS = frozenset(
    "before after first-line first-letter placeholder marker selection backdrop file-selector-button cue part slotted "
    "target-text spelling-error grammar-error highlight details-content view-transition view-transition-group "
    "view-transition-image-pair view-transition-old view-transition-new picker picker-icon checkmark column "
    "scroll-marker scroll-marker-group scroll-button search-text".split()
)
"""Names behind two colons."""
PSEUDO_CLASSES = (
    STATES
    | _STATES_OF_ATTRIBUTES.keys()
    | _WRITTEN_OTHERWISE.keys()
    | frozenset(
        "first-child last-child only-child nth-child nth-last-child first-of-type last-of-type only-of-type "
        "nth-of-type nth-last-of-type not is where has root empty link any-link lang dir enabled disabled".split()
    )
)
"""Names behind one colon."""
OF_OLD = frozenset(("before", "after", "first-line", "first-letter"))
"""Those of them that are written with one colon as well."""
_BEFORE_ELEMENT = frozenset(" >+~,(")
_MOST_FORGIVEN = 200  # selectors in the lists of one that are tried one by one
_ERRORS = (ValueError, RecursionError, SyntaxError, MemoryError, IndexError)


class Prepared(Struct, frozen=True):
    """One selector of a list."""

    still: Any
    """The compiled selector for a page that nobody points at."""
    stirred: Any
    """The one for a page where every state that it names holds; None where it names none."""
    states: str
    """The states, as in ``:hover``."""
    pseudo: str
    """The pseudo-element, as in ``::before``; empty for the element itself."""


@lru_cache(maxsize=100_000)  # a check asks for each selector many times: 2 MB of rules have 60,000
def prepared(selectors: str) -> tuple[Prepared, ...] | None:
    """Return the selectors of a list; None where browsers, or we, do not understand one of them."""
    try:
        return tuple(_prepare(part.strip()) for part in split_selectors(selectors))
    except _ERRORS:  # not understood, numbers without end, too deep
        return None


def understood(selectors: str) -> bool:
    """Tell whether a selector list is understood."""
    return prepared(selectors.strip()) is not None


class _Found:
    """What was found on the way through one selector."""

    def __init__(self) -> None:
        self.states: list[str] = []
        self.pseudo = ""
        self.forgiven = 0


def _prepare(selector: str) -> Prepared:
    if ":" not in selector:
        (compiled,) = cssselect2.compile_selector_list(selector)
        return Prepared(compiled, None, "", "")
    found = _Found()
    (still,) = cssselect2.compile_selector_list(_written(selector, found, stirred=False))
    stirred = None
    if found.states:
        (stirred,) = cssselect2.compile_selector_list(_written(selector, _Found(), stirred=True))
    return Prepared(still, stirred, "".join(sorted(set(found.states))), found.pseudo)


def _written(text: str, found: _Found, *, stirred: bool) -> str:
    """Write a selector, or a list, in the forms that the selector engine knows."""
    tokens = css_tokens(text)
    pieces: list[str] = []
    tests = 0
    at = 0
    while at < len(tokens):
        token = tokens[at]
        typed = text[token.start : token.end]
        tests += typed == "["
        tests -= typed == "]"
        if typed != ":" or tests or token.kind != "other":
            pieces.append("" if token.kind == "comment" else typed)
            at += 1
            continue
        double = at + 1 < len(tokens) and text[tokens[at + 1].start : tokens[at + 1].end] == ":"
        at += 2 if double else 1
        if at >= len(tokens):
            raise ValueError("a colon without a name")
        name, inner, at = _named(text, tokens, at)
        if double or name in OF_OLD:
            if name not in PSEUDO_ELEMENTS and not name.startswith("-webkit-"):
                raise ValueError(f"no pseudo-element: {name}")
            found.pseudo = f"::{name}"
            before = "".join(pieces)[-1:]
            pieces.append("*" if not before or before in _BEFORE_ELEMENT else "")
        else:
            pieces.append(_pseudo_class(name, inner, found, stirred=stirred))
    return "".join(pieces)


def _named(text: str, tokens: list[CssToken], at: int) -> tuple[str, str | None, int]:
    """Return the name behind a colon, what stands in its brackets (None without), and the place of the next token."""
    token = tokens[at]
    typed = text[token.start : token.end]
    if token.kind != "function":
        return typed.lower(), None, at + 1
    depth, end = 1, at + 1
    while end < len(tokens) and depth:
        depth += (tokens[end].kind in ("function", "opens")) - (tokens[end].kind == "closes")
        end += 1
    stop = tokens[end - 1].start if not depth else len(text)
    return typed[:-1].lower(), text[token.end : stop], end


def _pseudo_class(name: str, inner: str | None, found: _Found, *, stirred: bool) -> str:
    if inner is None:
        if name in STATES:
            found.states.append(f":{name}")
            return _ALWAYS if stirred else _NEVER
        if name in _STATES_OF_ATTRIBUTES:
            found.states.append(f":{name}")
            return _ALWAYS if stirred else _STATES_OF_ATTRIBUTES[name]
        return _WRITTEN_OTHERWISE.get(name, f":{name}")
    if name in ("is", "where", "-webkit-any"):
        parts = []
        for part in split_selectors(inner):
            found.forgiven += 1
            if found.forgiven > _MOST_FORGIVEN:
                raise ValueError("too many selectors in one")
            try:
                parts.append(_inner(part, found, stirred=stirred))
            except _ERRORS:  # the standard forgives it here
                continue
        return f":{'where' if name == 'where' else 'is'}({', '.join(filter(_compiles, parts))})"
    if name in ("not", "has"):
        return f":{name}({_inner(inner, found, stirred=stirred)})"
    if name in ("nth-child", "nth-last-child") and " of " in inner:
        count, _, of = inner.partition(" of ")
        of = _written(of, found, stirred=stirred)
        return f":{name}({count} of {of}):is({of})"  # what it matches matches that too, and it counts as strong
    if name == "dir":
        return _ALWAYS if inner.strip().lower() == "ltr" else _NEVER
    return f":{name}({inner})"


def _inner(text: str, found: _Found, *, stirred: bool) -> str:
    """Write a selector that stands in the brackets of another: no pseudo-element can be named there."""
    pseudo = found.pseudo
    written = _written(text, found, stirred=stirred)
    if found.pseudo != pseudo:
        found.pseudo = pseudo
        raise ValueError("a pseudo-element within brackets")
    return written


def _compiles(selector: str) -> bool:
    try:
        cssselect2.compile_selector_list(selector)
    except _ERRORS:
        return False
    return True
