"""The way of a piece through an editor, stage by stage."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import ClassVar
from weakref import WeakKeyDictionary

from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Lists
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Limit
from verse_tray.journeys import notices
from verse_tray.journeys.alive import come_alive, holds_forbidden
from verse_tray.journeys.fixpoint import Fixpoint, find_fixpoint
from verse_tray.journeys.limits.messages import ends_there, location_of, overrun, refusal
from verse_tray.journeys.limits.text_limits import is_of_text, weigh
from verse_tray.journeys.limits.tree_limits import Counted, count
from verse_tray.journeys.limits.use import LimitUse
from verse_tray.journeys.snapshot import Snapshot
from verse_tray.journeys.stages import Stage
from verse_tray.journeys.state import State
from verse_tray.journeys.steps import steps_of
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.writing import form_of, write
from verse_tray.markup.serialise import PLAIN
from verse_tray.markup.tree import Element, Tree
from verse_tray.model.findings import Change
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View

_NO_LISTS = Lists(Filter())
_LONG = 100_000  # signs of a text whose trees are let go as soon as may be
_MOST_ROUNDS = 20
"""How often an editor that cleans until nothing forbidden is left tries to; then it refuses the piece."""


class Pipeline:
    """A piece on its way: its snapshot, and the stages behind it."""

    _prepared: ClassVar[WeakKeyDictionary[Lists, list[Step]]] = WeakKeyDictionary()
    """The steps of each stage of an editor, once they were found out."""

    def __init__(self, piece: Piece, editor: Editor, snapshot: Snapshot, *, is_silent: bool = False) -> None:
        self.piece = piece
        self.editor = editor
        self.snapshot = snapshot
        """The piece as it stands."""
        self.stages = [
            Stage(
                "written",
                piece.source.text,
                tree=lambda: piece.written_view.tree,
                view=lambda _: piece.written_view,
            )
        ]
        """The stages so far."""
        self.uses: list[LimitUse] = []
        """How much of each limit was used when it was counted last."""
        self.fixpoint: Fixpoint | None = None
        """Whether opening and saving comes to rest, once that is known."""
        self._keys: tuple[str, ...] = ()
        self.stopped = False
        """Whether the piece was refused, or the page could not be built."""
        self._silent = is_silent
        """Whether nobody asks what it changes: what is to be told holds trees."""
        self._changes: list[tuple[bool, Callable[[], list[Change]]]] = []  # whether it is what an edit changed, and it
        self._notices: list[Callable[[Stage], list[Change]]] = []

    def paste(self) -> None:
        """Paste the piece."""
        self._weigh("paste", "pasted")
        self._steps("paste", "paste", "pasted")
        editor, piece = self.editor, self.piece  # what is told later holds on to these, and not to the whole pipeline
        self._notices.append(lambda _: [*notices.on_paste(editor, piece), *notices.on_guesses(editor, piece)])
        self._end("paste")

    def save(self) -> None:
        """Save what was pasted."""
        if not self.stopped:
            self._save("save")
            editor = self.editor
            self._notices.append(lambda stage: notices.in_the_editor(editor, stage))
        self._end("save")

    def reopen(self, times: int, keys: tuple[str, ...] = ()) -> None:
        """Open what is stored in the visual pane and save it again, so often; at first type ``keys`` at its end."""
        if "reopen" in self.editor.lists:
            texts = [self.snapshot.text]
            for _ in range(times):
                self._keys, keys = keys, ()
                self.open_and_save()
                self._keys = ()
                texts.append(self.snapshot.text)
                if texts[-1] == texts[-2]:
                    break
            if not self.stopped and times and not self._silent:
                found = self.fixpoint = self._find_fixpoint(texts)
                self._notices.append(lambda _: notices.on_fixpoint(found))
        self._end("reopen")

    def _find_fixpoint(self, texts: list[str]) -> Fixpoint:
        """Find out whether opening and saving comes to rest, on a snapshot that goes another way."""
        other = Pipeline(self.piece, self.editor, self.snapshot.fork(), is_silent=True)

        def save_again() -> str:
            other.open_and_save()
            return other.snapshot.text

        return find_fixpoint(texts, save_again)

    def open_and_save(self) -> None:
        """Open what is stored in the visual pane and save it again, once."""
        if not self.stopped and "reopen" in self.editor.lists:
            self._steps("reopen", "reopen", None)
            self._save("reopen")

    def publish(self) -> None:
        """Publish what is stored."""
        if not self.stopped:
            self._steps("publish", "publish", None)
        editor, piece = self.editor, self.piece
        if not self.stopped:
            self._notices.append(lambda stage: notices.on_the_page(editor, piece, stage.view))
        self._end("publish")

    def _save(self, stage: str) -> None:
        self._steps("save", stage, "stored")
        if not self.stopped:
            self._weigh(stage, "stored")

    def _end(self, name: str) -> None:
        changes, told = self._changes, self._notices
        self._changes, self._notices = [], []
        snapshot, piece, within = self.snapshot, self.piece, self.editor.style_prefixes
        stopped, before = self.stopped, self.stages[-1]
        if not stopped and snapshot.text == before.markup:
            changes = []  # what one step did another has undone, such as curly quotes made straight and curly again
        lists = self.editor.lists.get("save" if name == "reopen" else name, _NO_LISTS)

        def view(tree: Tree) -> View:
            written = piece.written_view
            return written if tree is written.tree else View(tree, within, written)

        self.stages.append(
            Stage(
                name,
                "" if stopped else snapshot.text,
                tree=lambda: Tree(Element("")) if stopped else snapshot.tree,
                view=view,
                changes=lambda: [change for _, tell in changes for change in tell()],
                edited=lambda: [change for by_edit, tell in changes if by_edit for change in tell()],
                notices=lambda stage: [
                    *(change for tell in told for change in tell(stage)),
                    *([] if snapshot.is_read_as_written else come_alive(piece, before.tree, stage.tree, lists, name)),
                ],
            )
        )

    def _steps(self, steps: str, stage: str, measured: str | None) -> None:
        """Run the steps of one stage while the piece is at another, which may be the same."""
        lists = self.editor.lists.get(steps)
        limits = tuple(each for each in self.editor.profile.limits if each.measure == measured and not is_of_text(each))
        if self.stopped or (lists is None and not limits):
            return
        for _ in range(_MOST_ROUNDS):
            self._round(steps, stage, lists, limits)
            if self.stopped or lists is None or not self._is_to_be_cleaned_again(lists):
                return
        self.stopped = True
        self._notices.append(lambda _: [notices.never_safe(stage)])

    def _is_to_be_cleaned_again(self, lists: Lists) -> bool:
        """Tell whether browsers run in what was written what the stage forbids, and the editor looks for that."""
        if lists.record.cleans == "once" or self.snapshot.is_read_as_written:
            return False
        return holds_forbidden(self.snapshot.tree, lists)

    def _round(self, steps: str, stage: str, lists: Lists | None, limits: tuple[Limit, ...]) -> None:
        tree, source_map = self.snapshot.open()
        state = State(tree, self.piece, source_map, lists or _NO_LISTS, stage)
        if lists is not None:
            state.keys = self._keys if steps == "reopen" else ()
            for step in self._chosen(steps, lists):
                state.run(step.name, step.run)
        counted = self._count_in(state, limits)
        told, warnings = state.notices, counted.warnings  # not the whole state: it holds a tree
        self._notices += [lambda _: told, lambda _: warnings]
        self._use(counted.uses)
        if (use := counted.refused) is not None or state.stops:
            self.stopped = True
            self._notices.append(lambda _: [] if use is None else [refusal(use, stage)])
        else:
            self._write(state, stage)

    def _count_in(self, state: State, limits: tuple[Limit, ...]) -> Counted:
        counted = Counted()
        if limits:
            state.run("limits", lambda state: count(state, limits, counted))
        state.settle()
        return counted

    def _write(self, state: State, stage: str) -> None:
        """Write what the steps have left."""
        record: Filter = state.record
        form = form_of(record)
        if stage == "reopen" and form == PLAIN:  # what is opened is written by saving it again
            form = form_of(self.editor.profile.save)
        self.snapshot, wrote = write(self.snapshot, state, "anew" if state.anew else record.writes, form)
        if not self._silent:
            self._changes += [(True, lambda: list(state.edits.changes)), (False, wrote)]
        if len(self.snapshot.text) > _LONG:  # told at once: until then they hold the trees of the round
            self._changes = [(by_edit, partial(list, tell())) for by_edit, tell in self._changes]
        if record.beyond16_bits == "cut":
            self._cut_beyond_16_bits(stage)

    def _chosen(self, steps: str, lists: Lists) -> list[Step]:
        if self._keys:
            return steps_of(steps, lists.record, typed=True)
        prepared = self._prepared.get(lists)
        if prepared is None:
            prepared = self._prepared[lists] = steps_of(steps, lists.record, typed=False)
        return prepared

    def _cut_beyond_16_bits(self, stage: str) -> None:
        from verse_tray.journeys.steps.characters import beyond_16_bits

        found = beyond_16_bits().search(self.snapshot.text)
        if found is None:
            return
        before = self.snapshot
        self.snapshot = before.cut(before.text[: found.start()])
        piece = self.piece
        ends = (True, lambda: [ends_there(stage, found[0][0], location_of(piece, before, found.start(), 1))])
        self._changes.append(ends)

    def _use(self, uses: list[LimitUse]) -> None:
        counted = {(use.measure, use.of, use.unit, use.most) for use in uses}
        kept = [use for use in self.uses if (use.measure, use.of, use.unit, use.most) not in counted]
        self.uses = [*kept, *uses]

    def _weigh(self, stage: str, measured: str) -> None:
        """Hold the text against the limits of its size."""
        limits = self.editor.profile.limits
        if not limits:
            return
        before = self.snapshot
        weighed = weigh(before.text, limits, measured)
        self._use(weighed.uses)
        piece = self.piece
        if weighed.text != before.text:
            self.snapshot = before.cut(weighed.text)
        cuts = [(use, left) for use, left in weighed.over if use.over != "warn"]
        warned = [(use, left) for use, left in weighed.over if use.over == "warn"]
        told = (True, lambda: [overrun(use, stage, location_of(piece, before, left)) for use, left in cuts])
        self._changes.append(told)
        self._notices.append(lambda _: [overrun(use, stage, location_of(piece, before, left)) for use, left in warned])
        if (use := weighed.refused) is not None:
            self.stopped = True
            self._notices.append(lambda _: [refusal(use, stage)])
