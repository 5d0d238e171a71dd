"""A profile inferred from what came back: read off, held against it, repaired; stage by stage."""

from __future__ import annotations

from math import inf
from typing import Any

from msgspec import Struct

from verse_tray.journeys.journey import markup_after
from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.held import Case, Draft, Misses, cost, editor_of, hold, is_right_alone
from verse_tray.learning.reading_off.addresses import read_addresses
from verse_tray.learning.reading_off.attributes import read_attributes
from verse_tray.learning.reading_off.building import read_building
from verse_tray.learning.reading_off.elements import read_elements
from verse_tray.learning.reading_off.frames import read_frames
from verse_tray.learning.reading_off.given import read_given
from verse_tray.learning.reading_off.names import read_names
from verse_tray.learning.reading_off.styles import read_styles
from verse_tray.learning.reading_off.writing import read_writing
from verse_tray.learning.search import search
from verse_tray.learning.sizes import limits_of

PANES: tuple[Draft, ...] = (
    {},
    {"paste": {"pane": "visual-rich"}},
    {"paste": {"pane": "visual-text"}},
    {"paste": {"pane": "visual-text", "lines": "divisions"}},
    {"paste": {"pane": "visual-text", "lines": "breaks"}},
)
"""What may take a paste."""
_PANE_ALONE = 1.2
"""What speaks, for each cell, for a rich-text pane that is not followed by a filter."""
WRITES = ("anew", "as-typed", "tags-anew", "tokens-anew")
"""Ways of writing."""
STAGES = ("save", "reopen", "publish")
"""The stages that something can come back from, in order."""


class Returned(Struct, frozen=True):
    """A text that was sent, and what came back of it."""

    sent: str
    back: dict[str, str]
    """By stage: what was stored, what was stored after opening it again, what was published."""


class Learned(Struct):
    """What was learned of an editor."""

    draft: Draft
    """The tables of its profile."""
    facts: dict[str, Facts]
    """What became of everything, by stage."""
    cases: dict[str, list[Case]]
    """What was sent and what came back, by stage."""
    misses: dict[str, Misses]
    """What the profile predicts otherwise, by stage."""

    @property
    def first(self) -> str:
        """The first stage that something came back from; what it tells stands in the table ``save``."""
        return next(iter(self.cases))

    def table(self, stage: str) -> str:
        """Return the table of the profile that says what a stage does."""
        return "save" if stage == self.first else stage

    @property
    def first_facts(self) -> Facts:
        """What became of everything on its way to the first stage."""
        return self.facts[self.first]


def learn_from(returned: list[Returned], refused: tuple[int, ...] = (), *, visual: bool = False) -> Learned:
    """Infer a profile.

    Args:
        returned: What was sent, and what came back.
        refused: Sizes of texts, in characters, that were refused.
        visual: Whether the texts were pasted into a visual pane.
    """
    limits = limits_of(returned, refused)
    learned = Learned({"limits": limits} if limits else {}, {}, {}, {})
    before: list[str] = [each.sent for each in returned]
    for at, stage in enumerate(STAGES):
        told = [number for number, each in enumerate(returned) if stage in each.back]
        if not told:
            continue
        first = not learned.cases
        table = "save" if first else stage
        run = ("paste", "save") if first else (stage,)
        cases = [Case(before[number], returned[number].back[stage], run) for number in told]
        held = [*cases, *(each for case in cases for each in case.apart())]
        panes = PANES if visual and first else ({},)
        least, guess, facts = _guess({**learned.draft, **panes[0]}, cases, held, table)
        for pane in panes[1:]:
            other = _guess({**learned.draft, **pane}, cases, held, table, least)
            if other[0] < least:
                least, guess, facts = other
        learned.draft, missed = search(guess, held, table)
        learned.facts[stage], learned.cases[stage] = facts, cases
        if not first:  # the way from the beginning counts, as a check goes it
            way = ("paste", *STAGES[: at + 1])
            missed = hold(learned.draft, [Case(returned[n].sent, returned[n].back[stage], way) for n in told]) or missed
        learned.misses[stage] = _alone(learned.draft, missed.of(range(len(cases))), cases)
        for number in told:
            before[number] = returned[number].back[stage]
    return learned


def _alone(draft: Draft, misses: Misses, cases: list[Case]) -> Misses:
    """Return what is predicted otherwise also where it stands alone: in a long text, one cell can change all others."""
    editor = editor_of(draft)
    right = {(at, cell) for at, cell in misses.texts if editor is None or is_right_alone(editor, cases[at], cell)}
    return Misses(misses.trees - right, misses.texts - right)


def _likely(draft: Draft, cases: list[Case]) -> float:
    """Return what speaks for a draft beside what it explains: a visual pane mostly takes a paste as rich text.

    What that leaves of styles hangs on what is around them: lists of elements that explain some cells of it foretell
    less than the pane alone.
    """
    if draft.get("paste") != PANES[1]["paste"]:
        return 0.0
    return 0.5 if "save" in draft else _PANE_ALONE * sum(len(case.cells) for case in cases if not case.is_apart)


def _guess(
    draft: Draft, cases: list[Case], held: list[Case], table: str, least: float = inf
) -> tuple[float, Draft, Facts]:
    """Return the cost of a draft with a table read off from facts, that draft, and the facts.

    Of the ways of writing when it is saved, the one that explains most is taken; at other stages the search finds any
    other than the usual. What costs more than the least that is known is not looked at to its end. Where the pane has
    changed a text before anything was cleaned, facts are about what it left.
    """
    pane = editor_of({"paste": draft["paste"]}) if "paste" in draft else None
    facts = Facts()
    for case in cases:
        facts.observe(case.sent if pane is None else markup_after(case.piece, pane, ("paste",)), case.got)
    out, kept = read_elements(facts)
    read_attributes(facts, out, kept)
    for read_off in (read_frames, read_names, read_addresses, read_styles, read_given, read_writing, read_building):
        read_off(facts, out)
    tables: list[dict[str, Any]] = [{**out, "writes": writes} for writes in WRITES] if table == "save" else [out]
    found: list[tuple[float, Draft]] = []
    for each in (*({**draft, table: read} for read in tables), draft):  # that without the table mostly costs the most
        found.append((_weighed(each, held, min([least, *(known for known, _ in found)])), each))
    found.insert(0, found.pop())  # and is the shorter of two that cost the same
    return (*min(found, key=lambda each: each[0]), facts)


def _weighed(draft: Draft, held: list[Case], least: float) -> float:
    """Return the cost of a draft; one that is more than the least is not exact."""
    likely = _likely(draft, held)
    return cost(hold(draft, held, least + likely), draft) - likely
