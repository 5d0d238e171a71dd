"""What a learned profile rests on: cells by rule, what was never asked, what cannot be explained."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from copy import deepcopy

from msgspec import Struct

from verse_tray.editors.profile import LearnedFrom
from verse_tray.learning.choose import choose
from verse_tray.learning.held import Case, Draft, editor_of, predicted
from verse_tray.learning.learned import STAGES, Learned
from verse_tray.learning.probe.wishes import Wishes
from verse_tray.learning.trust import trust
from verse_tray.markup.parse import parse_fragment
from verse_tray.style.declarations import parse_declarations

_ALL = 10**6


class Seen(Struct, frozen=True):
    """One cell: what was sent, what came back, and what the profile predicts."""

    stage: str
    asks: str
    sent: str
    returned: str | None
    predicted: str | None


class Rule(Struct, frozen=True):
    """One key of a profile, and what speaks for it."""

    key: str
    """Dotted, such as ``save.elements``."""
    cells: int
    """So many cells would be predicted otherwise without it."""
    example: Seen | None
    """The first of them; None where none is."""


class Evidence(Struct, frozen=True):
    """What is known of an editor, and what is not."""

    confidence: int
    rules: tuple[Rule, ...]
    unexplained: tuple[Seen, ...]
    """Cells that came back otherwise than the profile predicts."""
    unasked: dict[str, int]
    """What was never asked and can be: how many cells, by what they ask about."""
    guesses: tuple[str, ...]
    """Sentences on what is taken for granted."""


def asked_names(learned: Learned, confidence: int) -> LearnedFrom:
    """Return what was asked about, with how far the profile is to be trusted."""
    elements: set[str] = set()
    attributes: set[str] = set()
    properties: set[str] = set()
    for case in learned.cases[learned.first]:
        for element in parse_fragment(case.sent).tree.elements():
            elements.add(element.name)
            attributes |= element.attributes.keys()
            styles = parse_declarations(element.attributes.get("style", ""))
            properties |= {each.name for each in styles if each.name}
    return LearnedFrom(
        confidence=confidence,
        elements=tuple(sorted(elements)),
        attributes=tuple(sorted(attributes)),
        properties=tuple(sorted(properties)),
    )


def gather(learned: Learned, asks: dict[str, str], wishes: Wishes) -> Evidence:
    """Find out what each rule rests on, and what is not known.

    Args:
        learned: What was learned.
        asks: What each cell that was answered asks about, by its markup.
        wishes: What somebody wishes to know.
    """
    rules: list[Rule] = []
    unexplained: list[Seen] = []
    for stage, cases in learned.cases.items():
        base = _predicted(learned.draft, cases) or []
        rules += _rules(learned, stage, base, asks)
        misses = learned.misses[stage]
        for at, cell in sorted(misses.texts, key=lambda each: (each not in misses.trees, each)):
            unexplained.append(_seen(stage, cases[at], cell, base[at].get(cell), asks))
    rules += [Rule(f"limits[{number}]", 0, None) for number, _ in enumerate(learned.draft.get("limits", ()))]
    left = choose(_ALL, asks, learned.first_facts, wishes)
    unasked = Counter(each.asks for each in left if each.markup not in asks)
    return Evidence(trust(learned), tuple(rules), tuple(unexplained), dict(unasked), tuple(_guesses(learned)))


def _predicted(draft: Draft, cases: list[Case]) -> list[dict[int, str]] | None:
    """Return what a draft makes of what was sent; None where it contradicts itself."""
    editor = editor_of(draft)
    return None if editor is None else [predicted(editor, case) for case in cases]


def _rules(learned: Learned, stage: str, base: list[dict[int, str]], asks: dict[str, str]) -> Iterator[Rule]:
    """Yield the rules of a stage, each with the cells that would be predicted otherwise without it."""
    table, cases = learned.table(stage), learned.cases[stage]
    tables = ("paste", "save") if table == "save" else (table,)
    for name, key in ((each, key) for each in tables for key in learned.draft.get(each, {})):
        new = deepcopy(learned.draft)
        del new[name][key]
        without = _predicted(new, cases)
        changed = [
            (at, cell)
            for at, other in enumerate(without or [])
            for cell in cases[at].cells
            if cell >= 0 and other.get(cell) != base[at].get(cell) and base[at].get(cell) == cases[at].texts.get(cell)
        ]
        example = None
        if changed:
            at, cell = min(changed, key=lambda each: len(cases[each[0]].sent_cells[each[1]]))
            example = _seen(stage, cases[at], cell, base[at].get(cell), asks)
        yield Rule(f"{name}.{key}", len(changed), example)


def _seen(stage: str, case: Case, cell: int, predicted: str | None, asks: dict[str, str]) -> Seen:
    sent = case.sent_cells.get(cell, case.sent)
    returned = case.texts.get(cell)
    name = asks.get(sent.strip(" "), "a piece" if cell < 0 else "a cell")
    return Seen(stage, name, sent.strip(" "), returned, predicted)


def _guesses(learned: Learned) -> list[str]:
    save = learned.draft.get("save", {})
    told = []
    if "elements" in save:
        told.append("Elements that no probe asked about are treated as the one of no standard was (<tide>).")
    if "attributes" in save or "removeAttributes" in save:
        told.append("Attributes are treated alike on elements on which they were not asked.")
    if "syntax" in save.get("styles", {}) or "values" in save.get("styles", {}):
        told.append("Values of styles that were not asked are judged by their form.")
    if any("ownHosts" in learned.draft.get(stage, {}) for stage in STAGES):
        told.append("Hosts below one of your own are taken for your own.")
    if "limits" in learned.draft:
        told.append("Limits lie somewhere between what passed and what did not; the next round number is taken.")
    if "save" in learned.facts and "publish" not in learned.facts:
        told.append("Nothing was published, so what the page itself changes is not known.")
    return told
