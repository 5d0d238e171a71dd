"""An attribute that takes one of a few words, and has another."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import Guesses, listed
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The attribute does nothing: a field takes any text, a button sends its form.",
    advice="Write one of the words that the attribute takes.",
    bad='<button type="buton">Count again</button>',
    good='<button type="button">Count again</button>',
)
_NOT_OURS = lazy(r"\{\{|\{%|<%|\[\[|[$#]\{|%%")  # marks, and what a template puts in
_NONE: frozenset[str] = frozenset()
_NOTHING = "it counts as if it were not written"
_MOST_LISTED = 6


class _Words(NamedTuple):
    known: frozenset[str]
    otherwise: str = _NOTHING
    """What another word counts as."""
    also: frozenset[str] = frozenset()
    """Words that are not what anybody should write, and do what was meant."""


def _words(known: str, otherwise: str = _NOTHING, also: str = "") -> _Words:
    return _Words(frozenset(known.split()), otherwise, frozenset(also.split()))


_INPUT = (
    "text search tel url email password date month week time datetime-local number range color checkbox radio file "
    "submit image reset button hidden"
)
_FORMS = "application/x-www-form-urlencoded multipart/form-data text/plain"
_LOADING = _words("lazy eager", "it is loaded at once")
# the enumerated attributes of the HTML standard of which authors write more than true and false
_OF_ELEMENTS = {
    ("input", "type"): _words(_INPUT, "the field takes any text", "datetime"),
    ("button", "type"): _words("button submit reset", "the button sends its form"),
    ("form", "method"): _words("get post dialog", "the form is sent by get, all of it in the address"),
    ("form", "enctype"): _words(_FORMS, "files are not sent"),
    ("th", "scope"): _words("col row colgroup rowgroup"),
    ("td", "scope"): _words("col row colgroup rowgroup"),
    ("img", "loading"): _LOADING,
    ("iframe", "loading"): _LOADING,
    ("img", "decoding"): _words("async sync auto"),
    ("video", "preload"): _words("none metadata auto"),
    ("audio", "preload"): _words("none metadata auto"),
    ("track", "kind"): _words("subtitles captions descriptions chapters metadata", "the track is not shown"),
    ("area", "shape"): _words("rect circle poly default", "the area is a rectangle", "circ rectangle polygon"),
    ("ol", "type"): _words("1 a A i I", also="disc circle square none"),
    ("ul", "type"): _words("disc circle square", also="none 1 a A i I"),
}
_OF_ALL = {
    "dir": _words("ltr rtl auto"),
    "translate": _words("yes no"),
    "inputmode": _words("none text tel url email numeric decimal search"),
    "aria-live": _words("polite assertive off"),
    "aria-hidden": _words("true false", also="undefined"),
    "aria-expanded": _words("true false", also="undefined"),
}
_REL = frozenset(
    "alternate author bookmark canonical dns-prefetch external help icon license me modulepreload next nofollow "
    "noopener noreferrer opener preconnect prefetch preload prev privacy-policy search sponsored stylesheet tag "
    "terms-of-service ugc".split()
)
_ROLES = frozenset(
    "alert alertdialog application article banner blockquote button caption cell checkbox code columnheader combobox "
    "complementary contentinfo definition deletion dialog directory document emphasis feed figure form generic grid "
    "gridcell group heading img insertion link list listbox listitem log main marquee math menu menubar menuitem "
    "menuitemcheckbox menuitemradio meter navigation none note option paragraph presentation progressbar radio "
    "radiogroup region row rowgroup rowheader scrollbar search searchbox separator slider spinbutton status strong "
    "subscript superscript switch tab table tablist tabpanel term textbox time timer toolbar tooltip tree treegrid "
    "treeitem image".split()
)
# of these anybody may make up words, so only one that looks like another is told
_OPEN = {"rel": (_REL, frozenset(("a", "area", "form", "link"))), "role": (_ROLES, None)}
"""The words by their attribute, and the elements that have it; None for all."""


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each word that an attribute does not take."""
    guesses = Guesses()
    for element in subject.elements:
        if element.namespace != HTML:
            continue
        for name, value in element.attributes.items():
            taken = _OF_ELEMENTS.get((element.name, name)) or _OF_ALL.get(name)
            if taken is not None:
                why = _why(name, value, taken, guesses)
            else:
                known, owners = _OPEN.get(name, (_NONE, _NONE))
                why = _misspelt(value, known, guesses) if owners is None or element.name in owners else ""
            if why and not _NOT_OURS.search(value):
                yield Mistake(subject.attribute_span(element, name), why)


def _why(name: str, value: str, taken: _Words, guesses: Guesses) -> str:
    word = value.strip(" \t\n\f\r")
    small = word.lower()
    if not word or {word, small} & (taken.known | taken.also):
        return ""
    near = guesses.nearest(small, taken.known, 0.6)
    hint = f"Did you mean {near}?" if near else f"It takes {listed(sorted(taken.known), _MOST_LISTED, 'or')}."
    return f"{name} takes no value such as “{value[:40]}”, so {taken.otherwise}. {hint}"


def _misspelt(value: str, known: frozenset[str], guesses: Guesses) -> str:
    for word in value.lower().split():
        if "," in word and set(word.split(",")) & known:
            return f"“{word[:40]}” is read as one word here, so it does nothing. Write blanks instead of commas."
        if word not in known and word.isascii() and (near := guesses.nearest(word, known, 0.8)):
            return f"No browser knows “{word[:40]}” here, so it does nothing; did you mean {near}?"
    return ""
