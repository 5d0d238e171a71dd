"""Which one rule of a profile would explain what came out otherwise than predicted."""

from __future__ import annotations

import tomllib
from collections import Counter
from collections.abc import Iterator, Sequence
from typing import Any

from verse_tray.editors.load import Editor
from verse_tray.editors.store import profile_toml
from verse_tray.journeys.journey import markup_after
from verse_tray.learning.held import Case, Draft, editor_of
from verse_tray.learning.moves import moves
from verse_tray.markup.flat import flat
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Element, Tree
from verse_tray.verifying.differences import Difference
from verse_tray.verifying.explanation import Explanation

_TABLES = ("paste", "save", "reopen", "publish", "limits")
_MOST_TRIED = 150_000  # characters that are sent through changed editors
_MOST_CELLS = 12
_MOST_NAMES = 4  # of elements that are gone, and of new ones


def explain(
    editor: Editor, sent: str, found: str, stages: Sequence[str], told: Sequence[Difference]
) -> Explanation | None:
    """Return the single change of a profile that explains most of what came out otherwise; None where none does.

    Args:
        editor: The editor that predicted it.
        sent: What was sent.
        found: What came out.
        stages: The stages that lie between.
        told: What is otherwise.
    """
    case = Case(sent, found, stages)
    draft = draft_of(editor)
    cells = [*map(_cell, told[:_MOST_CELLS]), *_renamed(told)]
    base = _wrong(editor, case)
    best: tuple[int, str] | None = None
    tried = 0
    for move in moves(draft, stages[-1], cells):
        tried += len(sent)
        if tried > max(_MOST_TRIED, 40 * len(sent)):
            break
        changed = editor_of(move.draft)
        if changed is None:
            continue
        left = _wrong(changed, case)
        if left < base and (best is None or left < best[0]):
            best = left, move.told
            if not left:
                break
    if best is None or 2 * best[0] >= base:  # what explains no more than half says little
        return None
    return Explanation(best[1], base - best[0], base)


def draft_of(editor: Editor) -> Draft:
    """Return the tables of an editor's profile that say what it does."""
    data: dict[str, Any] = tomllib.loads(profile_toml(editor.profile))
    return {name: table for name, table in data.items() if name in _TABLES}


def _wrong(editor: Editor, case: Case) -> int:
    """Return how much of what an editor makes of a text is otherwise than it came out: tags and words.

    What is changed counts once: an editor that only takes it away, and puts nothing in its place, is no nearer.
    """
    made = markup_after(case.piece, editor, case.stages)
    if made == case.got:
        return 0
    one, other = flat(made), flat(case.got)
    return _distance(one, other)


def _distance(one: Sequence[Any], other: Sequence[Any]) -> int:
    first, second = Counter(map(repr, one)), Counter(map(repr, other))
    return max((first - second).total(), (second - first).total())


def _renamed(told: Sequence[Difference]) -> Iterator[tuple[str, str]]:
    """Yield pairs of an element that is gone and one that is new: the one may have become the other."""
    gone = {each.wanted.name: each.wanted for each in told if each.wanted is not None and each.found is None}
    new = {each.found.name: each.found for each in told if each.found is not None and each.wanted is None}
    for one in list(gone.values())[:_MOST_NAMES]:
        for other in list(new.values())[:_MOST_NAMES]:
            yield _shell(one), _shell(other)


def _cell(told: Difference) -> tuple[str, str]:
    """Return the tags that a difference is about: as predicted, and as found."""
    return _shell(told.wanted), _shell(told.found)


def _shell(element: Element | None) -> str:
    if element is None:
        return ""
    bare = Element(element.name, element.namespace, dict(element.attributes))
    return serialise(Tree(Element("", children=[bare]))).markup
