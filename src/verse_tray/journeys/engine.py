"""The journey of a piece through an editor."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cached_property

from verse_tray.editors.load import Editor, load_editor
from verse_tray.journeys.limits import UNIT_NAMES, LimitUse, weigh
from verse_tray.journeys.piece import Piece
from verse_tray.journeys.rekey import parse_stored
from verse_tray.journeys.state import State
from verse_tray.journeys.steps import SAVE_STEPS
from verse_tray.journeys.survival import Survival, survival
from verse_tray.journeys.verdict import verdict
from verse_tray.journeys.where import Offset
from verse_tray.journeys.writing import store, written_starts
from verse_tray.markup.pause import collection_paused
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.findings import Change, Finding, Severity, Verdict
from verse_tray.model.reading import Source
from verse_tray.model.spans import Span

STAGES = ("written", "paste", "save", "publish")
"""Names of the stages, in order."""


class Stage:
    """One stage of a journey."""

    def __init__(self, name: str, markup: str, changes: Callable[[], Iterable[Change]] = tuple) -> None:
        self.name = name
        """One of :data:`STAGES`."""
        self.markup = markup
        """The markup as it stands after this stage."""
        self._changes = changes

    @cached_property
    def changes(self) -> tuple[Change, ...]:
        """What the editor changed in it, in the order in which it did."""
        return tuple(self._changes())


class Journey:
    """What an editor makes of a piece."""

    def __init__(
        self, piece: Piece, editor: Editor, stages: tuple[Stage, ...], limits: tuple[LimitUse, ...], published: Tree
    ) -> None:
        self.piece = piece
        """The piece."""
        self.editor = editor
        """The editor."""
        self.stages = stages
        """Every stage, in order."""
        self.limits = limits
        """How much of each limit of the editor the piece uses."""
        self.published = published
        """The tree that readers get; its nodes have the keys of the written tree."""

    @cached_property
    def survival(self) -> Survival:
        """What of the piece readers still get."""
        with collection_paused():
            return survival(self.piece.written_view, self.published)

    @cached_property
    def verdict(self) -> Verdict:
        """What becomes of the piece."""
        same = self.stages[0].markup == self.stages[-1].markup
        return verdict(self.survival, self.limits, same_markup=same)

    @property
    def changes(self) -> tuple[Change, ...]:
        """The changes of every stage."""
        return tuple(change for stage in self.stages for change in stage.changes)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """The changes with line and column, the gravest first, then by place; each once."""
        with collection_paused():
            return self._findings()

    def _findings(self) -> tuple[Finding, ...]:
        findings = dict.fromkeys(finding_of(change, self.piece.source) for change in self.changes)
        return tuple(sorted(findings, key=lambda f: (f.severity.rank, f.line or 0, f.column or 0)))


def finding_of(change: Change, source: Source) -> Finding:
    """Return a change with its line and column."""
    span = change.span
    line, column = (None, None) if span is None else source.place(span.start)
    return Finding(change.rule, change.stage, change.message, line, column, change.severity)


def journey(markup: str | Source | Piece, editor: Editor | str) -> Journey:
    """Send a piece through an editor.

    Args:
        markup: The piece: markup, or a file's text, or a piece that was read before.
        editor: The editor, or its name or path.

    Raises:
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    if isinstance(editor, str):
        editor = load_editor(editor)
    with collection_paused():
        if isinstance(markup, Piece):
            return _travel(markup, editor, shared=True)
        return _travel(Piece(markup if isinstance(markup, Source) else Source(markup)), editor, shared=False)


def _travel(piece: Piece, editor: Editor, *, shared: bool) -> Journey:
    source, limits = piece.source.text, editor.profile.limits
    written = Stage("written", source)
    pasted = weigh(source, limits, "pasted")
    if pasted.refused:
        refusal = [_refusal(pasted.refused, "paste")]
        stages = (written, Stage("paste", "", lambda: refusal), Stage("save", ""), Stage("publish", ""))
        return Journey(piece, editor, stages, tuple(pasted.uses), Tree(Element("")))
    cuts = [_over(use, "paste", Offset(Span(left, left))) for use, left in pasted.over]
    paste = Stage("paste", pasted.text, lambda: cuts)

    state = State(_pasted_tree(piece, pasted.text, shared=shared), piece, editor.rules, "save")
    for _, step in SAVE_STEPS:
        state.run(step)
    stored = store(piece, pasted.text, state.tree, state.pen, editor.profile.save.writes)
    kept = weigh(stored.text, limits, "stored")
    uses = (*pasted.uses, *kept.uses)

    def changes() -> list[Change]:
        over = [_over(use, "save", _behind(piece, stored.starts, left)) for use, left in kept.over]
        refusal = [_refusal(kept.refused, "save")] if kept.refused else []
        return state.pen.changes + stored.changes() + over + refusal

    if kept.refused:
        stages = (written, paste, Stage("save", "", changes), Stage("publish", ""))
        return Journey(piece, editor, stages, uses, Tree(Element("")))
    as_read = stored.tree if kept.text == stored.text else None
    published = parse_stored(kept.text, stored.starts) if as_read is None else as_read
    stages = (written, paste, Stage("save", kept.text, changes), Stage("publish", kept.text))
    return Journey(piece, editor, stages, uses, published)


def _pasted_tree(piece: Piece, pasted: str, *, shared: bool) -> Tree:
    """Return a tree of what was pasted that may be edited; others still need that of a ``shared`` piece."""
    if pasted == piece.source.text:
        return piece.parsed.tree.clone() if shared else piece.parsed.take_tree()
    return parse_stored(pasted, written_starts(piece, piece.parsed.tree))


def _behind(piece: Piece, starts: dict[int, Node], length: int) -> Offset | None:
    """Return the first place in the author's file of which nothing is left in a stored text of that length."""
    places = piece.parsed.places
    for at in sorted(at for at in starts if at >= length):
        if span := places.span(starts[at].key):
            return Offset(Span(span.start, span.start))
    return None


def _refusal(use: LimitUse, stage: str) -> Change:
    message = (
        f"The piece is refused: {use.used:,} {UNIT_NAMES[use.unit]} {use.measure}, and at most {use.most:,} pass. "
        "Nothing is saved. Shorten it, or split it into several."
    )
    return Change("limits/refuse", stage, message, Severity.ERROR)


def _over(use: LimitUse, stage: str, place: Offset | None) -> Change:
    size = f"{use.used:,} {UNIT_NAMES[use.unit]} {use.measure}, {use.used - use.most:,} more than fit"
    if use.over == "warn":
        return Change("limits/warn", stage, f"The editor warns of the size: {size}.", Severity.WARNING, place)
    message = f"The piece is cut here: {size}. What follows is lost, wherever in a tag or a word that falls."
    return Change("limits/cut", stage, message, Severity.ERROR, place)
