"""The way of a piece through an editor, stage by stage."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar
from weakref import WeakKeyDictionary

from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Rules
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Reopen, Save
from verse_tray.journeys import notices
from verse_tray.journeys.fixpoint import Fixpoint, find_fixpoint
from verse_tray.journeys.limits.messages import ends_there, overrun, place_of, refusal
from verse_tray.journeys.limits.text_limits import LimitUse, is_of_text, weigh
from verse_tray.journeys.limits.tree_limits import count
from verse_tray.journeys.snapshot import Snapshot
from verse_tray.journeys.stages import Stage
from verse_tray.journeys.state import Action, State
from verse_tray.journeys.steps import actions_of
from verse_tray.journeys.writing import write
from verse_tray.markup.tree import Element, Tree
from verse_tray.model.findings import Change
from verse_tray.piece.piece import Piece

Told = list[Callable[[], list[Change]]]
_NO_RULES = Rules(Save())


class Pipeline:
    """A piece on its way: its snapshot, and the stages behind it."""

    _prepared: ClassVar[WeakKeyDictionary[Rules, list[Action]]] = WeakKeyDictionary()
    """What each stage of an editor does, once that was found out."""

    def __init__(self, piece: Piece, editor: Editor, snapshot: Snapshot) -> None:
        self.piece = piece
        self.editor = editor
        self.snapshot = snapshot
        """The piece as it stands."""
        self.stages = [Stage("written", piece.source.text)]
        """The stages so far."""
        self.uses: list[LimitUse] = []
        """How much of each limit was used when it was counted last."""
        self.fixpoint: Fixpoint | None = None
        """Whether opening and saving comes to rest, once that is known."""
        self._keys: tuple[str, ...] = ()
        self._stopped = False
        """Whether the piece was refused, or the page could not be built."""
        self._changes: Told = []
        self._notices: Told = []

    def paste(self) -> None:
        """Paste the piece."""
        self._weigh("paste", "pasted")
        self._steps("paste", "paste", "pasted")
        editor, piece = self.editor, self.piece  # what is told later holds on to these, and not to the whole way
        self._notices.append(lambda: notices.on_paste(editor, piece))
        self._end("paste")

    def save(self) -> None:
        """Save what was pasted."""
        if not self._stopped:
            self._save("save")
            editor, stored = self.editor, self.snapshot.text
            self._notices.append(lambda: notices.in_the_editor(editor, stored))
        self._end("save")

    def reopen(self, times: int, keys: tuple[str, ...] = ()) -> None:
        """Open what is stored in the visual pane and save it again, so often; at first type ``keys`` at its end."""
        if "reopen" in self.editor.rules:
            texts = [self.snapshot.text]
            for _ in range(times):
                self._keys, keys = keys, ()
                self.open_and_save()
                self._keys = ()
                texts.append(self.snapshot.text)
                if texts[-1] == texts[-2]:
                    break
            if not self._stopped and times:
                found = self.fixpoint = self._find_fixpoint(texts)
                self._notices.append(lambda: notices.on_fixpoint(found))
        self._end("reopen")

    def _find_fixpoint(self, texts: list[str]) -> Fixpoint:
        """Find out whether opening and saving comes to rest, on a snapshot that goes another way."""
        other = Pipeline(self.piece, self.editor, self.snapshot.fork())

        def save_again() -> str:
            other.open_and_save()
            return other.snapshot.text

        return find_fixpoint(texts, save_again)

    def open_and_save(self) -> None:
        """Open what is stored in the visual pane and save it again, once."""
        if not self._stopped and "reopen" in self.editor.rules:
            self._steps("reopen", "reopen", None)
            self._save("reopen")

    def publish(self) -> Callable[[], Tree]:
        """Publish what is stored, and return a function that tells what readers get."""
        if not self._stopped:
            self._steps("publish", "publish", None)
        editor, piece, snapshot = self.editor, self.piece, self.snapshot
        if not self._stopped:
            self._notices.append(lambda: notices.on_the_page(editor, piece, snapshot.tree))
        self._end("publish")
        return (lambda: Tree(Element(""))) if self._stopped else (lambda: snapshot.tree)

    def _save(self, stage: str) -> None:
        self._steps("save", stage, "stored")
        if not self._stopped:
            self._weigh(stage, "stored")

    def _end(self, name: str) -> None:
        changes, told = self._changes, self._notices
        self._changes, self._notices = [], []
        self.stages.append(
            Stage(
                name,
                "" if self._stopped else self.snapshot.text,
                lambda: [change for tell in changes for change in tell()],
                lambda: [change for tell in told for change in tell()],
            )
        )

    def _steps(self, steps: str, stage: str, measured: str | None) -> None:
        """Run the steps of one stage while the piece is at another, which may be the same."""
        rules = self.editor.rules.get(steps)
        limits = tuple(each for each in self.editor.profile.limits if each.measure == measured and not is_of_text(each))
        if self._stopped or (rules is None and not limits):
            return
        record: Filter = rules.record if rules else Save()
        anew = isinstance(record, Reopen) or (isinstance(record, Save) and record.writes == "anew")
        tree, source_map = self.snapshot.open()
        state = State(tree, self.piece, source_map, rules or _NO_RULES, stage)
        state.keys = self._keys if steps == "reopen" else ()
        if rules is not None:
            for step in self._actions(steps, rules):
                state.run(step)
        counted = count(state, limits)
        state.edits.check()
        state.settle()
        self._notices += [lambda: state.notices, lambda: counted.warnings]
        self._count(counted.uses)
        if (use := counted.refused) is not None or state.stops:
            self._stopped = True
            self._notices.append(lambda: [] if use is None else [refusal(use, stage)])
            return
        references = record.references if isinstance(record, Save | Reopen) else "plain"
        before = self.snapshot
        self.snapshot, wrote = write(before, state, "anew" if anew or state.anew else "as-typed", references)
        self._changes += [lambda: state.edits.changes, wrote]
        if record.beyond16_bits == "cut":
            self._cut_beyond_16_bits(stage)

    def _actions(self, steps: str, rules: Rules) -> list[Action]:
        if self._keys:
            return actions_of(steps, rules.record, typed=True)
        prepared = self._prepared.get(rules)
        if prepared is None:
            prepared = self._prepared[rules] = actions_of(steps, rules.record, typed=False)
        return prepared

    def _cut_beyond_16_bits(self, stage: str) -> None:
        from verse_tray.journeys.steps.characters import beyond_16_bits

        found = beyond_16_bits().search(self.snapshot.text)
        if found is None:
            return
        before = self.snapshot
        self.snapshot = before.cut(before.text[: found.start()])
        piece = self.piece
        self._changes.append(lambda: [ends_there(stage, found[0][0], place_of(piece, before, found.start(), 1))])

    def _count(self, uses: list[LimitUse]) -> None:
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
        self._count(weighed.uses)
        piece = self.piece
        if weighed.text != before.text:
            self.snapshot = before.cut(weighed.text)
        cuts = [(use, left) for use, left in weighed.over if use.over != "warn"]
        warned = [(use, left) for use, left in weighed.over if use.over == "warn"]
        self._changes.append(lambda: [overrun(use, stage, place_of(piece, before, left)) for use, left in cuts])
        self._notices.append(lambda: [overrun(use, stage, place_of(piece, before, left)) for use, left in warned])
        if (use := weighed.refused) is not None:
            self._stopped = True
            self._notices.append(lambda: [refusal(use, stage)])
