"""The journey of a piece through an editor."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from verse_tray.editors.load import Editor, load_editor
from verse_tray.editors.profile import Limit
from verse_tray.journeys import limits as sizes
from verse_tray.journeys.limits import LimitUse
from verse_tray.journeys.piece import Piece
from verse_tray.journeys.rekey import parse_stored
from verse_tray.journeys.state import State
from verse_tray.journeys.steps import SAVE_STEPS
from verse_tray.journeys.survival import Survival, survival
from verse_tray.journeys.verdict import verdict
from verse_tray.journeys.writing import starts_of, store
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.findings import Change, Finding, Severity, Verdict
from verse_tray.model.reading import Source
from verse_tray.model.spans import Span

STAGES = ("written", "paste", "save", "publish")
"""Names of the stages, in order."""


@dataclass(frozen=True, slots=True)
class Stage:
    """One stage of a journey."""

    name: str
    """One of :data:`STAGES`."""
    markup: str
    """The markup as it stands after this stage."""
    changes: tuple[Change, ...]
    """What the editor changed in it, in the order in which it did."""


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
        findings = dict.fromkeys(finding_of(change, self.piece.source) for change in self.changes)
        return tuple(sorted(findings, key=lambda f: (f.severity.rank, f.line or 0, f.column or 0)))


def finding_of(change: Change, source: Source) -> Finding:
    """Return a change with its line and column."""
    line, column = (None, None) if change.span is None else source.place(change.span.start)
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
    piece = markup if isinstance(markup, Piece) else Piece(markup if isinstance(markup, Source) else Source(markup))
    written = Stage("written", piece.source.text, ())
    uses: list[LimitUse] = []
    paste = _paste(piece, editor, uses)
    if paste is None:
        return _refused(piece, editor, (written, Stage("paste", written.markup, ())), (), uses)
    untouched = (written, paste)
    state = State(_pasted_tree(piece, paste.markup), piece, editor.rules, "save")
    for _, step in SAVE_STEPS:
        state.run(step)
    stored = store(piece, paste.markup, state.tree, state.pen, editor.profile.save.writes)
    changes = state.pen.changes + stored.changes
    text, tree = stored.text, stored.tree
    starts = None
    for limit in editor.profile.limits:
        if limit.measure != "stored":
            continue
        use = sizes.measure(text, limit)
        uses.append(use)
        if not use.exceeded:
            continue
        if limit.over == "refuse":
            return _refused(piece, editor, untouched, tuple(changes), uses)
        starts = starts_of(stored, state.tree) if starts is None else starts
        left = sizes.cut(text, limit) if limit.over == "cut" else text
        changes.append(_over(use, "save", limit, _behind(starts, len(left))))
        if limit.over == "cut":
            text, tree = left, None
    if tree is None:
        tree = parse_stored(text, starts_of(stored, state.tree) if starts is None else starts)
    stages = (*untouched, Stage("save", text, tuple(changes)), Stage("publish", text, ()))
    return Journey(piece, editor, stages, tuple(uses), tree)


def _paste(piece: Piece, editor: Editor, uses: list[LimitUse]) -> Stage | None:
    """Put the piece into the source pane; return None when it is refused there."""
    text = piece.source.text
    changes = []
    for limit in editor.profile.limits:
        if limit.measure != "pasted":
            continue
        uses.append(sizes.measure(text, limit))
        if not uses[-1].exceeded:
            continue
        if limit.over == "refuse":
            return None
        at = len(sizes.cut(text, limit)) if limit.over == "cut" else len(text)
        changes.append(_over(uses[-1], "paste", limit, Span(at, at)))
        text = sizes.cut(text, limit) if limit.over == "cut" else text
    return Stage("paste", text, tuple(changes))


def _pasted_tree(piece: Piece, pasted: str) -> Tree:
    if pasted == piece.source.text:
        return piece.parsed.tree.clone()
    starts = {node.start: node for node in piece.parsed.tree.nodes() if node.start >= 0}
    tree = parse_stored(pasted, starts)
    tree.positions = "partial"  # some of its text no longer stands in the author's file
    return tree


def _behind(starts: dict[int, Node], length: int) -> Span | None:
    """Return the first place in the author's file of which nothing is left in a stored text of that length."""
    behind = [node.start for at, node in starts.items() if at >= length and node.start >= 0]
    return Span(min(behind), min(behind)) if behind else None


def _refused(
    piece: Piece, editor: Editor, untouched: tuple[Stage, ...], changes: tuple[Change, ...], uses: list[LimitUse]
) -> Journey:
    use = uses[-1]
    message = (
        f"The piece is refused: {use.used:,} {sizes.UNIT_NAMES[use.unit]} {use.measure}, and at most {use.most:,} pass. "
        "Nothing is saved. Shorten it, or split it into several."
    )
    refusal = Change("limits/refuse", "save", message, Severity.ERROR, None)
    stages = (*untouched, Stage("save", "", (*changes, refusal)), Stage("publish", "", ()))
    return Journey(piece, editor, stages, tuple(uses), Tree(Element("")))


def _over(use: LimitUse, stage: str, limit: Limit, span: Span | None) -> Change:
    size = f"{use.used:,} {sizes.UNIT_NAMES[use.unit]} {use.measure}, {use.used - use.most:,} more than fit"
    if limit.over == "warn":
        return Change("limits/warn", stage, f"The editor warns of the size: {size}.", Severity.WARNING, span)
    message = f"The piece is cut here: {size}. What follows is lost, wherever in a tag or a word that falls."
    return Change("limits/cut", stage, message, Severity.ERROR, span)
