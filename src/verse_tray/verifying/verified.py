"""A piece verified: what was stored and what the live page shows, held against what was sent and predicted."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import Literal

from msgspec import Struct

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.journeys.stages import Stage
from verse_tray.markup.flat import flat
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Node
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.piece import Piece
from verse_tray.verifying.differences import Difference, differences
from verse_tray.verifying.explanation import Explanation
from verse_tray.verifying.finding import Place, leaves_of_page, places
from verse_tray.verifying.hidden import hidden_by
from verse_tray.verifying.leaves import Leaves

State = Literal["to-the-letter", "as-predicted", "otherwise", "old-version", "absent", "several", "hidden", "as-code"]
"""What a text turned out to be. ``as-predicted``: browsers read the same in it. ``old-version``: it is what an earlier
version was predicted to become. ``absent``: the piece is not in it. ``several``: it is in it more than once.
``hidden``: it is there, and the page's styles hide it. ``as-code``: readers see its tags."""

GOOD: tuple[State, ...] = ("to-the-letter", "as-predicted")
"""States that nobody has to do anything about."""


class Held(Struct):
    """A text, held against what was predicted."""

    name: Literal["stored", "live"]
    """What it is."""
    state: State
    """What it turned out to be."""
    predicted_by: str = ""
    """The stage whose prediction it was held against: the one of several that is nearest."""
    told: tuple[Difference, ...] = ()
    """What is otherwise."""
    within: tuple[str, ...] = ()
    """Names of the elements around each place in a page where the piece stands."""
    why: str = ""
    """What hides it, where something does."""
    explained: Explanation | None = None
    """The change of the profile that would explain it."""


class Verified:
    """A piece, and what became of it."""

    def __init__(self, piece: Piece, editor: Editor, before: Sequence[Piece] = ()) -> None:
        """Take what was sent, where to, and earlier versions of it, the latest first."""
        self.piece = piece
        """What was sent."""
        self.editor = editor
        """The editor it was sent to."""
        self._before = before
        self.held: list[Held] = []
        """What was held against the prediction."""
        self.notes: list[str] = []
        """What else is to be told, in sentences."""
        self.silent_hosts: list[str] = []
        """Addresses of scripts from elsewhere that did not answer."""
        self.is_unasked = False
        """Whether something could not be asked; a note says what."""

    @cached_property
    def journeys(self) -> tuple[Journey, ...]:
        """What its editor makes of it: not opened again, and opened and saved once more."""
        first = journey(self.piece, self.editor, reopened=0)
        return (first, journey(self.piece, self.editor)) if "reopen" in self.editor.lists else (first,)

    @property
    def is_as_predicted(self) -> bool:
        """Whether all that was held is as predicted."""
        return not self.silent_hosts and not self.is_unasked and all(each.state in GOOD for each in self.held)

    def hold_stored(self, text: str) -> Held:
        """Hold what is stored against what was predicted to be.

        Args:
            text: What is stored, all of it.
        """
        stages = [("save", self.journeys[0].stage("save"))]
        stages += [("reopen", each.stage("reopen")) for each in self.journeys[1:]]
        held = self._nearest("stored", text, stages)
        self.held.append(held)
        return held

    def _nearest(self, name: Literal["stored", "live"], text: str, stages: list[tuple[str, Stage]]) -> Held:
        for stage, each in stages:
            if text == each.markup or text.removesuffix("\n") == each.markup.removesuffix("\n"):
                return Held(name, "to-the-letter", stage)
        read = flat(text)
        for stage, each in stages:
            if read == flat(each.markup):
                return Held(name, "as-predicted", stage)
        nodes = parse_fragment(text).tree.root.children
        if not text.strip():
            return Held(name, "absent", stages[0][0])
        options = [(self._told(each, nodes, stage), stage) for stage, each in stages]
        told, stage = min(options, key=lambda option: len(option[0]))
        if not told:
            return Held(name, "as-predicted", stage)
        if self._is_old(nodes, "save") or self._is_old(nodes, "reopen"):
            return Held(name, "old-version", stage, told)
        if self._is_code(nodes):
            return Held(name, "as-code", stage, told)
        way = ("paste", "save") if stage == "save" else ("paste", "save", "reopen")
        from verse_tray.verifying.explain import explain  # only where something differs

        why = explain(self.editor, self.piece.source.text, text, way, told)
        return Held(name, "otherwise", stage, told, explained=why)

    def hold_page(self, text: str) -> Held:
        """Hold what a page shows against what readers were predicted to get.

        Args:
            text: The page's own source.
        """
        with collection_paused():
            held = self._in_page(text)
        if not self.journeys[-1].stage("publish").markup.strip():
            self.notes.append(f"{self.editor.name} is predicted to publish nothing of it, so nothing can be found.")
        self.held.append(held)
        return held

    def _in_page(self, text: str) -> Held:
        page = leaves_of_page(text)
        best: Held | None = None
        for each in self.journeys:
            if best is not None and each.stage("publish").markup == self.journeys[0].stage("publish").markup:
                break
            held = self._found(page, each.stage("publish"))
            if held is not None and (best is None or (len(held.told), held.state) < (len(best.told), best.state)):
                best = held
        return best or self._not_found(page)

    def _found(self, page: Leaves, published: Stage) -> Held | None:
        """Return how a page holds what an editor publishes; None where it does not."""
        found = places(Leaves(published.tree.root.children), page)
        where = tuple(_way(each) for each in found)
        if len(found) != 1:
            return Held("live", "several", "publish", within=where) if found else None
        (place,) = found
        told = self._told(published, place.nodes, "publish")
        state: State = "as-predicted"
        if why := hidden_by(place):
            return Held("live", "hidden", "publish", told, where, why)
        if told:
            old, code = self._is_old(place.nodes, "publish"), self._is_code(place.nodes)
            state = "old-version" if old else "as-code" if code else "otherwise"
        return Held("live", state, "publish", told, where)

    def _not_found(self, page: Leaves) -> Held:
        for each in self._before:
            earlier = journey(each, self.editor, reopened=0).published.root.children
            if found := places(Leaves(earlier), page):
                return Held("live", "old-version", "publish", within=tuple(map(_way, found)))
        return Held("live", "as-code" if self._is_code(page.nodes) else "absent", "publish")

    def _told(self, stage: Stage, nodes: Sequence[Node], name: str) -> tuple[Difference, ...]:
        return tuple(differences(self.piece, stage.tree.root.children, nodes, name))

    def _is_old(self, nodes: Sequence[Node], stage: str) -> bool:
        """Tell whether nodes are what an earlier version was predicted to become."""
        for piece in self._before:
            earlier = journey(piece, self.editor, reopened=int(stage == "reopen"))
            if not differences(piece, earlier.stage(stage).tree.root.children, nodes, stage):
                return True
        return False

    def _is_code(self, nodes: Sequence[Node]) -> bool:
        """Tell whether readers see the tags of the piece."""
        tag = next((each for each in self.piece.source.text.split("<")[1:] if each[:1].isalpha()), "")
        sign = "".join(f"<{tag}".split(">")[0].split())
        leaves = Leaves(nodes)
        return len(sign) > 1 and sign in "".join(
            leaves.tokens[leaf] for leaf in range(len(leaves)) if leaves.is_word(leaf)
        )


def _way(place: Place) -> str:
    """Return the elements around a place in words, such as ``body > main > article``."""
    return " > ".join(each.name for each in place.around[-4:]) or "the page itself"
