"""What a learned profile rests on: cells by rule, what was never asked, what cannot be explained."""

from __future__ import annotations

from collections import Counter
from copy import deepcopy
from typing import Any

from msgspec import Struct

from verse_tray.editors.profile import LearnedFrom
from verse_tray.journeys.journey import markup_after
from verse_tray.learning.choose import choose
from verse_tray.learning.held import Case, Draft, editor_of
from verse_tray.learning.learned import STAGES, Learned
from verse_tray.learning.probe.probe import cut
from verse_tray.learning.probe.questions import Question
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


def asked_names(learned: Learned) -> LearnedFrom:
    """Return what was asked about, and how far the profile is to be trusted."""
    elements: set[str] = set()
    attributes: set[str] = set()
    properties: set[str] = set()
    for cases in list(learned.cases.values())[:1]:
        for case in cases:
            for element in parse_fragment(case.sent).tree.elements():
                elements.add(element.name)
                attributes |= element.attributes.keys()
                properties |= {
                    each.name for each in parse_declarations(element.attributes.get("style", "")) if each.name
                }
    return LearnedFrom(
        confidence=trust(learned),
        elements=tuple(sorted(elements)),
        attributes=tuple(sorted(attributes)),
        properties=tuple(sorted(properties)),
    )


def gather(learned: Learned, asks: dict[str, str], asked: set[str], wishes: Wishes) -> Evidence:
    """Find out what each rule rests on, and what is not known.

    Args:
        learned: What was learned.
        asks: What a cell asks about, by its markup.
        asked: Markup of the cells that were answered.
        wishes: What somebody wishes to know.
    """
    rules = []
    for stage, cases in learned.cases.items():
        table = "save" if stage == next(iter(learned.cases)) else stage
        base = _predicted(learned.draft, cases)
        for key in ("paste", *learned.draft.get(table, {})) if table == "save" else learned.draft.get(table, {}):
            without = _without(learned.draft, table, key)
            if without is not None:
                rules.append(_rule(f"{table}.{key}" if key != "paste" else key, stage, cases, base, without, asks))
    rules += [_limit(number) for number, _ in enumerate(learned.draft.get("limits", ()))]
    unexplained = []
    for stage, misses in learned.misses.items():
        cases = learned.cases[stage]
        base = _predicted(learned.draft, cases)
        for at, cell in sorted(misses.texts, key=lambda each: (each not in misses.trees, each)):
            unexplained.append(_seen(stage, cases[at], cell, base[at].get(cell), asks))
    facts = learned.facts.get("save") or next(iter(learned.facts.values()), None)
    left = choose(_ALL, asked, facts, wishes)
    unasked = Counter(each.asks for each in left if each.markup not in asked)
    return Evidence(trust(learned), tuple(rules), tuple(unexplained), dict(unasked), tuple(_guesses(learned, unasked)))


def _predicted(draft: Draft, cases: list[Case]) -> list[dict[int, str]]:
    editor = editor_of(draft)
    assert editor is not None
    return [cut(markup_after(case.piece, editor, case.stages)) for case in cases]


def _without(draft: Draft, table: str, key: str) -> list[Any] | Draft | None:
    """Return a draft without a key; None where it cannot be left out."""
    new = deepcopy(draft)
    if key == "paste":
        if "paste" not in new:
            return None
        del new["paste"]
    else:
        del new[table][key]
    return new if editor_of(new) is not None else None


def _rule(
    key: str, stage: str, cases: list[Case], base: list[dict[int, str]], without: Any, asks: dict[str, str]
) -> Rule:
    changed = [
        (at, cell)
        for at, other in enumerate(_predicted(without, cases))
        for cell in cases[at].cells
        if cell >= 0 and other.get(cell) != base[at].get(cell) and base[at].get(cell) == cases[at].texts.get(cell)
    ]
    if not changed:
        return Rule(key, 0, None)
    at, cell = min(changed, key=lambda each: len(cases[each[0]].sent_cells[each[1]]))
    return Rule(key, len(changed), _seen(stage, cases[at], cell, base[at].get(cell), asks))


def _limit(number: int) -> Rule:
    return Rule(f"limits[{number}]", 0, None)


def _seen(stage: str, case: Case, cell: int, predicted: str | None, asks: dict[str, str]) -> Seen:
    sent = case.sent_cells.get(cell, case.sent)
    returned = case.texts.get(cell)
    name = asks.get(sent.strip(" "), "a piece" if cell < 0 else "a cell")
    return Seen(stage, name, sent.strip(" "), returned, predicted)


def _guesses(learned: Learned, unasked: Counter[str]) -> list[str]:
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


def question_texts(questions: list[Question]) -> dict[str, str]:
    """Return what each question asks about, by its markup."""
    return {each.markup: each.asks for each in questions}
