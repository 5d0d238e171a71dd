"""The journey of a piece through an editor."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterable
from functools import cached_property, partial
from typing import TYPE_CHECKING, Any
from weakref import WeakValueDictionary

from verse_tray.editors.load import Editor, load_editor
from verse_tray.journeys.alive import CODE_ALIVE
from verse_tray.journeys.fixpoint import Fixpoint
from verse_tray.journeys.limits.use import LimitUse, told
from verse_tray.journeys.pipeline import Pipeline
from verse_tray.journeys.snapshot import written
from verse_tray.journeys.stages import STAGES, Stage
from verse_tray.markup.tree import Tree
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Change, Finding, Severity, Verdict
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.locations import key_of
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View

if TYPE_CHECKING:  # what is told of readers is loaded where somebody asks for it
    from verse_tray.journeys.survival import Survival
    from verse_tray.reading.differences import Comparison


class Journey:
    """What an editor makes of a piece.

    It can be pickled: what was worked out goes with it, and trees are made anew when somebody asks for one.
    """

    def __init__(
        self,
        piece: Piece,
        editor: Editor,
        stages: tuple[Stage, ...],
        limits: tuple[LimitUse, ...],
        fixpoint: Fixpoint | None,
        *,
        reopened: int,
        typed: tuple[str, ...],
    ) -> None:
        self.piece = piece
        """The piece."""
        self.editor = editor
        """The editor."""
        self.stages = stages
        """Every stage, in order."""
        self.limits = limits
        """How much of each limit of the editor the piece uses."""
        self.fixpoint = fixpoint
        """Whether opening and saving it again and again comes to rest; None where that was not asked or cannot be."""
        self._way = reopened, typed
        self._again: _Again | None = None

    def stage(self, name: str) -> Stage:
        """Return a stage by its name."""
        return self.stages[STAGES.index(name)]

    @property
    def published(self) -> Tree:
        """The tree that readers get; its nodes have the keys of the written tree."""
        return self.stages[-1].tree

    @property
    def published_view(self) -> View:
        """That tree made ready for counting."""
        return self.stages[-1].view

    @cached_property
    def comparison(self) -> Comparison:
        """What readers get beside what they were to get, as far as it is seen."""
        from verse_tray.journeys.outcome import outcome

        with collection_paused():
            return outcome(self.piece.written_view, self.published_view, self.editor)

    @cached_property
    def survival(self) -> Survival:
        """What of the piece readers still get."""
        from verse_tray.journeys.survival import survival

        box = self.editor.profile.box
        with collection_paused():
            sandbox = None if box is None else box.sandbox
            return survival(self.piece.written_view, self.published_view, self.comparison, sandbox)

    @cached_property
    def verdict(self) -> Verdict:
        """What becomes of the piece."""
        from verse_tray.journeys.verdict import verdict

        same = self.stages[0].markup == self.stages[-1].markup
        alive = any(notice.rule == CODE_ALIVE for stage in self.stages for notice in stage.notices)
        return verdict(self.survival, self.comparison, self.limits, same_markup=same, alive=alive)

    @property
    def refused(self) -> bool:
        """Whether the editor takes nothing of it, as it is over a limit."""
        return any(use.exceeded and use.over == "refuse" for use in self.limits)

    @property
    def changes(self) -> tuple[Change, ...]:
        """The changes of every stage."""
        return tuple(change for stage in self.stages for change in stage.changes)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Changes and notices with line and column, the gravest first, then by place; each once."""
        return self._found(lambda stage: stage.changes, every=True)

    @property
    def hurting(self) -> tuple[Finding, ...]:
        """Those of the findings that cost readers something, or are more than a note; sooner told than all of them."""
        return self._found(lambda stage: stage.edited, every=False)

    def _found(self, changes_of: Callable[[Stage], tuple[Change, ...]], *, every: bool) -> tuple[Finding, ...]:
        from verse_tray.journeys.causes import costs
        from verse_tray.journeys.remarks import remarks

        with collection_paused():
            changed = [(changes_of(stage), stage.notices) for stage in self.stages]
            edits = tuple(change for changes, _ in changed for change in changes)
            charged = dict(costs(self.comparison, self.piece.written_view, edits))
            told = [change for each in changed for some in each for change in some]
            told += remarks(self.comparison, self.piece, self.editor, self.published_view)
            costly = ((change, self._cost(change, charged)) for change in told)
            findings = dict.fromkeys(
                finding_of(change, self.piece.source, cost)
                for change, cost in costly
                if every or cost or change.severity is not Severity.NOTE
            )
            return tuple(sorted(findings, key=lambda f: (f.severity.rank, f.line or 0, f.column or 0)))

    def _cost(self, change: Change, charged: dict[int, int]) -> int:
        """Return what a change costs; of a limit, how much is over it. What is charged is told once."""
        from verse_tray.journeys.causes import may_cost

        if change.rule.startswith("limits/"):
            over = [use.used - use.most for use in self.limits if use.exceeded and told(use) in change.message]
            return max(over, default=0)
        return charged.pop(key_of(change) or 0, 0) if may_cost(change) else 0

    def packed(self) -> dict[str, Any]:
        """Return what was worked out, to be sent to where the piece and the editor are known."""
        return {name: value for name, value in self.__getstate__().items() if name not in ("piece", "editor")}

    @classmethod
    def unpacked(cls, piece: Piece, editor: Editor, packed: dict[str, Any]) -> Journey:
        """Return the journey of a piece through an editor, as it was packed."""
        found = cls.__new__(cls)
        found.__setstate__({"piece": piece, "editor": editor, **packed})
        return found

    def rest(self) -> None:
        """Let trees go that were made anew, until somebody asks for one again."""
        if self._again is not None and self._again.is_made:
            self._make_anew((each.name, each.markup) for each in self.stages)

    def _make_anew(self, stages: Iterable[tuple[str, str]]) -> None:
        """Have stages whose trees are made when somebody asks for them."""
        self._again = again = _Again(self.piece, self.editor, *self._way)
        self.stages = tuple(again.stage(*each) for each in stages)

    def __getstate__(self) -> dict[str, Any]:
        """Return everything but the trees, and the changes, which the findings tell of."""
        with collection_paused():
            worked_out = {
                "comparison": self.comparison,
                "survival": self.survival,
                "verdict": self.verdict,
                "findings": self.findings,
            }
        kept = {name: value for name, value in self.__dict__.items() if name != "_again"}
        return {**kept, **worked_out, "stages": [(stage.name, stage.markup) for stage in self.stages]}

    def __setstate__(self, state: dict[str, Any]) -> None:
        """Take everything back; who asks for a tree or for changes sends the piece on its way once more."""
        self.__dict__.update(state)
        self._make_anew(state["stages"])


class _Again:
    """A journey that is made once more where somebody asks; it holds nobody who holds it."""

    def __init__(self, piece: Piece, editor: Editor, reopened: int, typed: tuple[str, ...]) -> None:
        self._make = partial(journey, piece, editor, reopened=reopened, typed=typed)

    @property
    def is_made(self) -> bool:
        """Whether somebody has asked."""
        return "_made" in self.__dict__

    @cached_property
    def _made(self) -> Journey:
        return self._make()

    def stage(self, name: str, markup: str) -> Stage:
        """Return a stage of it, of which the markup is known."""
        return Stage(
            name,
            markup,
            tree=lambda: self._made.stage(name).tree,
            view=lambda _: self._made.stage(name).view,
            changes=lambda: self._made.stage(name).changes,
            edited=lambda: self._made.stage(name).edited,
            notices=lambda _: self._made.stage(name).notices,
        )


_ALIVE: WeakValueDictionary[str, Piece] = WeakValueDictionary()
"""Pieces that were given as text, while a journey of theirs is alive: many editors, one parse."""


def finding_of(change: Change, source: Source, cost: int = 0) -> Finding:
    """Return a change with its line and column; a note that costs readers something is a warning."""
    span = change.span
    line, column = (None, None) if span is None else source.place(span.start)
    severity = Severity.WARNING if cost and change.severity is Severity.NOTE else change.severity
    return Finding(change.rule, change.stage, sys.intern(change.message), line, column, severity, cost)


def journey(
    markup: str | Source | Piece, editor: Editor | str, *, reopened: int = 1, typed: tuple[str, ...] = ()
) -> Journey:
    """Send a piece through an editor.

    Args:
        markup: The piece: markup, or a file's text, or a piece that was read before.
        editor: The editor, or its name or path.
        reopened: How often the stored piece is opened in the visual pane and saved again before it is published, where
            the editor has such a pane.
        typed: What is typed at its end there, the first time: ``Enter``, ``Shift+Enter``, or text, key by key.

    Raises:
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    if isinstance(editor, str):
        editor = load_editor(editor)
    with collection_paused():
        piece, shared = _piece(markup)
        pipeline = Pipeline(piece, editor, written(piece, shared=shared))
        pipeline.paste()
        pipeline.save()
        pipeline.reopen(reopened, typed)
        pipeline.publish()
        stages, uses = tuple(pipeline.stages), tuple(pipeline.uses)
        return Journey(piece, editor, stages, uses, pipeline.fixpoint, reopened=reopened, typed=typed)


def markup_after(piece: Piece, editor: Editor, stages: Iterable[str]) -> str:
    """Return what some stages of an editor make of a text, and nothing else: for those who ask about many editors.

    Args:
        piece: The text, as it is when the first of the stages begins.
        editor: The editor.
        stages: Names of stages, in order: of ``paste``, ``save``, ``reopen`` and ``publish``.
    """
    with collection_paused():
        pipeline = Pipeline(piece, editor, written(piece, shared=True), is_silent=True)
        run = {"paste": pipeline.paste, "save": pipeline.save, "reopen": pipeline.open_and_save}
        for stage in stages:
            run.get(stage, pipeline.publish)()
        return "" if pipeline.stopped else pipeline.snapshot.text


def _piece(markup: str | Source | Piece) -> tuple[Piece, bool]:
    """Return the piece, and whether others still need its tree."""
    if isinstance(markup, Piece):
        return markup, True
    if isinstance(markup, Source):
        return Piece(markup), False
    if (alive := _ALIVE.get(markup)) is not None:
        return alive, True
    piece = _ALIVE[markup] = Piece(Source(markup))
    return piece, False
