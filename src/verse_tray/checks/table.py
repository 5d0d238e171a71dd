"""The table of the rules: their order, and where each of them is."""

from __future__ import annotations

from functools import cache
from importlib import import_module
from types import ModuleType

from verse_tray.checks.rule import Rule
from verse_tray.model.errors import VerseTrayError
from verse_tray.model.phrasing import spelling

RULES = tuple(
    """
    reading/too-deep reading/too-many-attributes reading/formatting-pile reading/tag-unfinished markup/whole-document
    markup/quote-missing markup/quote-wrong markup/attribute-twice links/in-link markup/text-swallowed
    markup/end-tag-missing code/not-compiled code/bare-css code/bare-script links/space markup/unknown-element
    markup/unknown-attribute markup/unknown-keyword markup/id-twice markup/ampersand markup/mark-left
    markup/empty-spacing code/script-syntax code/script-order code/declared-twice code/misspelt-name
    styles/bracket-missing styles/semicolon-missing styles/unreadable styles/selector styles/condition
    styles/unknown-property styles/unit-missing styles/unknown-value styles/dot-missing styles/class-spelling
    styles/animation-undefined
    styles/site-stronger styles/site-class styles/same-colour styles/fixed-width styles/columns
    links/scheme-missing links/insecure links/new-window links/nowhere links/empty links/local-file
    markup/reference-missing markup/frame-title
    pictures/alt-missing pictures/embedded pictures/unreadable pictures/local pictures/weight
    pictures/size pictures/region tables/header-cells tables/uneven-rows
    reading/tag-ignored reading/no-positions reading/unknown-rule
    """.split()
)
"""Every rule, in the order in which they look; one can silence those behind it at places that it names."""


class UnknownRuleError(VerseTrayError):
    """A rule's name that no rule has."""


@cache
def module_of(name: str) -> ModuleType:
    """Return the file of a rule."""
    return import_module(f"verse_tray.checks.{name.replace('/', '.').replace('-', '_')}")


def rule(name: str) -> Rule:
    """Return what a rule says of itself.

    Raises:
        UnknownRuleError: there is no rule of that name.
    """
    if name not in RULES:
        raise UnknownRuleError(
            f"there is no rule {name!r}{spelling(name, RULES, 0.5)} verse-tray check --explain all lists them."
        )
    found = module_of(name).RULE
    assert isinstance(found, Rule)
    return found
