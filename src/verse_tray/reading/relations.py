"""How what readers see stands to what comes next: on one line, side by side, or below."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.reading.records import Block, Medium, Reading, Run

_IN_LINE = frozenset(("inline-block", "inline-flex", "inline-grid", "inline-table"))


class Relation(Struct, frozen=True):
    """How two neighbours stand."""

    kind: str
    """``joined`` (nothing between them), ``line``, ``row`` (side by side), ``below``, ``lifted``."""
    gap: float
    """Stated space between them in pixels, for ``row`` and ``below``."""


class Item(Struct, frozen=True):
    """A run, or a picture and the like, in the order of the page."""

    run: int
    """Number of the run; -1 for a medium."""
    medium: int
    """Number of the medium; -1 for a run."""
    block: int
    apart: bool
    below: bool


def items(reading: Reading) -> list[Item]:
    """Return runs and media in their order."""
    found: list[Item] = []
    waiting = list(enumerate(reading.media))[::-1]
    for number, run in enumerate(reading.runs):
        while waiting and waiting[-1][1].at <= number:
            found.append(_of_medium(*waiting.pop()))
        found.append(_of_run(number, run))
    found += [_of_medium(*each) for each in reversed(waiting)]
    return found


def _of_run(number: int, run: Run) -> Item:
    return Item(number, -1, run.block, run.apart, run.below)


def _of_medium(number: int, medium: Medium) -> Item:
    return Item(-1, number, medium.block, apart=True, below=False)


class Relations:
    """Answers how neighbours stand; each pair of blocks is looked at once."""

    def __init__(self, blocks: list[Block]) -> None:
        self._blocks = blocks
        self._chains: dict[int, list[int]] = {}
        self._known: dict[tuple[int, int], Relation] = {}

    def between(self, one: Item, other: Item) -> Relation:
        """Return how ``other`` stands to ``one``, which comes before it."""
        if one.block == other.block:
            kind = "below" if other.below else "line" if other.apart else "joined"
            return Relation(kind, 0.0)
        found = self._known.get((one.block, other.block))
        if found is None:
            found = self._known[one.block, other.block] = self._work_out(one.block, other.block)
        return found

    def _work_out(self, one: int, other: int) -> Relation:
        blocks = self._blocks
        if one and other and blocks[one].parent == blocks[other].parent:  # most neighbours stand in one block
            return _of_neighbours(blocks[blocks[one].parent], blocks[one], blocks[other])
        left, right = self._above(one), self._above(other)
        there = set(left)
        shared = next(number for number in right if number in there)
        first = left[: left.index(shared)][::-1]
        second = right[: right.index(shared)][::-1]
        return self._of(self._blocks[shared], [self._blocks[n] for n in first], [self._blocks[n] for n in second])

    def _above(self, block: int) -> list[int]:
        """Return a block and those around it, the innermost first."""
        found = self._chains.get(block)
        if found is None:
            found = [block]
            while found[-1]:
                found.append(self._blocks[found[-1]].parent)
            self._chains[block] = found
        return found

    def _of(self, around: Block, left: list[Block], right: list[Block]) -> Relation:
        kind = _kind(around, left[0] if left else None, right[0] if right else None)
        if kind == "row":
            own = sum(block.right for block in left) + sum(block.left for block in right)
            return Relation(kind, max(around.gap, own))
        if kind == "below":
            # margins of neighbours are one space, as wide as the wider of them
            return Relation(kind, max(sum(block.after for block in left), sum(block.before for block in right)))
        return Relation(kind, 0.0)


def _of_neighbours(around: Block, one: Block, other: Block) -> Relation:
    kind = _kind(around, one, other)
    if kind == "below":
        return Relation(kind, max(one.after, other.before))
    return Relation(kind, max(around.gap, one.right + other.left) if kind == "row" else 0.0)


def _kind(around: Block, one: Block | None, other: Block | None) -> str:
    if (one is not None and one.lifted) or (other is not None and other.lifted):
        return "lifted"
    if one is None or other is None:
        alone = one or other
        assert alone is not None
        return "line" if alone.display in _IN_LINE else "row" if alone.display == "float" else "below"
    if around.across or one.display == "float":
        return "row"
    if one.display in _IN_LINE and other.display in _IN_LINE:
        return "row"
    return "row" if one.display == other.display == "table-cell" else "below"
