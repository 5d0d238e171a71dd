"""A declaration that loses against the site's own style sheet."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.editors.load import PIECE_MARK
from verse_tray.markup.parse import parse_document
from verse_tray.markup.tree import Element, Tree
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import listed
from verse_tray.piece.subject import Declared, Site, Subject
from verse_tray.style.cascade import cascade, specificities, valid_declarations
from verse_tray.style.names import names_in
from verse_tray.style.sheets import Sheet, StyleRule, parse_sheet, split_selectors

RULE = Rule(
    Severity.WARNING,
    readers="The site's own rule wins: readers see its colour or size, and not yours.",
    advice="Write the declaration into a style attribute; against !important, with !important as well.",
    bad="<style>a { color: #a14a12 }</style><p><a href='https://gannetcove.example'>Walks</a></p>",
    good="<style>#walks p a { color: #a14a12 }</style><div id=walks><p><a "
    "href='https://gannetcove.example'>Walks</a></p></div>",
)
_EVERYTHING = lazy(r"\*|html\b|body\b|:root\b")
_HOLDER = '<div class="verse-tray-piece"></div>'


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each declaration that a site's theme overrules, with the sites' names."""
    ours = [
        each
        for each in subject.declared
        if not each.declaration.important and (each.rule is None or not _EVERYTHING.match(each.rule.selectors))
    ]
    weakest: dict[str, _Strength] = {}
    for each in ours:
        own = _STRONGEST if each.rule is None else min(specificities(each.rule.selectors), default=_STRONGEST)
        weakest[each.declaration.name] = min(own, weakest.get(each.declaration.name, _STRONGEST))
    lost: dict[int, tuple[Declared, str, bool, list[str]]] = {}
    for theme in subject.themes:
        rules = [rule for rule in parse_sheet(theme.css).rules if _may_win(subject, rule, weakest)]
        if not rules:
            continue
        for declared, (value, strong) in _lost(subject, theme, Sheet(rules), ours):
            lost.setdefault(id(declared), (declared, value, strong, []))[3].append(theme.editor)
    for declared, value, strong, editors in lost.values():
        name = declared.declaration.name
        yield Mistake(
            declared.span,
            f"The site of {listed(editors)} has a stronger rule ({name}: {value}{' !important' if strong else ''}), so "
            f"this one does not count there. {_advice(declared, strong=strong)}",
        )


def _advice(declared: Declared, *, strong: bool) -> str:
    """Return what wins against a rule of the site."""
    said = declared.declaration
    if strong:
        return f"Write “{said.name}: {said.value[:60]} !important” into a style attribute: nothing less wins there."
    return f"Write “{said.name}: {said.value[:60]}” into a style attribute, which is stronger than every rule."


_Strength = tuple[int, int, int]
_STRONGEST = (99, 0, 0)


def _may_win(subject: Subject, rule: StyleRule, weakest: dict[str, _Strength]) -> bool:
    """Tell whether a site's rule is stronger than one of ours, and could match an element of the piece."""
    known = [each for each in rule.declarations if each.name in weakest]
    if not known:
        return False
    strengths = specificities(rule.selectors)
    if not any(each.important or any(strength > weakest[each.name] for strength in strengths) for each in known):
        return False
    lasts = [_LAST.split(selector.strip())[-1] for selector in split_selectors(rule.selectors)]
    return any(_could_match(subject, last) for last in lasts)


def _could_match(subject: Subject, compound: str) -> bool:
    if any(each.mark == "." and each.name not in subject.classes for each in names_in(compound)):
        return False
    name = _TYPE.match(compound)
    return name is None or name[0].lower() in subject.named


_LAST = lazy(r"[\s>+~]+")
_TYPE = lazy(r"[A-Za-z][\w-]*")


def _lost(
    subject: Subject, theme: Site, sheet: Sheet, ours: list[Declared]
) -> Iterator[tuple[Declared, tuple[str, bool]]]:
    own = {key: dict(winners) for key, winners in subject.piece.written_view.cascade.winners.items()}
    page = _page(theme, subject.piece.parsed.tree.root)
    both = cascade(page, subject.elements, [sheet, *(each for _, each in subject.sheets)]).winners
    by_value: dict[tuple[str, str], list[Declared]] = {}
    for declared in ours:
        by_value.setdefault((declared.declaration.name, declared.declaration.value), []).append(declared)
    for element in subject.elements:
        if element.key not in own:
            continue
        theirs = both.get(element.key, {})
        for name, (value, strong) in own[element.key].items():
            if " " in name or strong or theirs.get(name, (value,))[0] == value:
                continue
            waiting = by_value.get((name, value), [])
            at = next((at for at, each in enumerate(waiting) if _is_of(subject, element, each)), None)
            if at is not None:
                yield waiting.pop(at), theirs[name]


def _is_of(subject: Subject, element: Element, declared: Declared) -> bool:
    """Tell whether a declaration is about an element."""
    if declared.rule is None:
        return declared.element is element
    said = valid_declarations(declared.rule.declarations)[0]
    matched = subject.piece.written_view.cascade.matched
    lasts = (_LAST.split(selector.strip())[-1] for selector in split_selectors(declared.rule.selectors))
    return any(hit.normal == said for hit in matched.get(element.key, ())) and any(_ends_in(element, e) for e in lasts)


def _ends_in(element: Element, compound: str) -> bool:
    """Tell whether an element has the name, the classes and the identifier that a selector ends in."""
    classes = element.attributes.get("class", "").split()
    name = _TYPE.match(compound)
    return (name is None or name[0].lower() == element.name) and all(
        each.name in classes if each.mark == "." else each.name == element.attributes.get("id")
        for each in names_in(compound.partition(":")[0])
    )


def _page(theme: Site, piece: Element) -> Tree:
    """Return the page of a site with the piece in it; the piece's nodes are its own, not copies."""
    tree = parse_document(theme.frame.replace(PIECE_MARK, _HOLDER)).take_tree()
    for element in tree.elements():
        element.key = 0
        if element.attributes.get("class") == "verse-tray-piece":
            element.children = piece.children
    body = next((each for each in tree.elements() if each.name == "body"), tree.root)
    return Tree(body)
