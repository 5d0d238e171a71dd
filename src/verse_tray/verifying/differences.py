"""What is lost, changed or new in a text, held against what was predicted; with places in what was sent."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from itertools import groupby

from msgspec import Struct

from verse_tray.markup.names import BLOCKS
from verse_tray.markup.tree import Element, Node, Text, own_text
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.phrasing import first_difference
from verse_tray.model.spans import Span
from verse_tray.piece.locations import TextLocation
from verse_tray.piece.piece import Piece
from verse_tray.verifying.leaves import CODE, Leaves
from verse_tray.verifying.pairing import paired

_LONGEST = 60  # characters of a text that a sentence quotes
_OTHERWISE_WRITTEN = frozenset(("style", "class", "rel", "srcset", "sizes"))


class Difference(Struct, frozen=True):
    """Something that is not as predicted."""

    finding: Finding
    """Rule, sentence and place."""
    wanted: Element | None = None
    """The predicted element that it is about; None where nothing was predicted."""
    found: Element | None = None
    """The element that is there in its stead; None for none."""


def differences(piece: Piece, predicted: Sequence[Node], found: Sequence[Node], stage: str) -> list[Difference]:
    """Return what is otherwise than predicted, by place.

    Args:
        piece: What was sent; predicted nodes have the keys of its tree.
        predicted: The predicted nodes.
        found: The nodes that are there.
        stage: What the findings say of where they come up: ``save``, ``reopen`` or ``publish``.
    """
    return _Held(piece, Leaves(predicted), Leaves(found), stage).differences()


class _Held:
    def __init__(self, piece: Piece, wanted: Leaves, found: Leaves, stage: str) -> None:
        self._piece = piece
        self._wanted = wanted
        self._found = found
        self._stage = stage
        self._pairs = paired(wanted.tokens, found.tokens)
        self._partner: dict[int, int] = {}
        self._taken: set[int] = set()
        self._known = {j for _, j in self._pairs}

    def differences(self) -> list[Difference]:
        """Return all, by place."""
        for i, j in self._pairs:
            self._pair_chains(self._wanted.chain(i), self._found.chain(j))
        self._pair_leaf_elements()
        self._pair_between()
        gone: set[int] = set()
        told = [*self._elements(gone), *self._attributes(), *self._texts(gone), *self._new()]
        return sorted(told, key=lambda each: (each.finding.line or 1 << 30, each.finding.column or 0))

    def _pair_chains(self, wanted: list[int], found: list[int]) -> None:
        """Pair the elements around two leaves by their names, those first that are paired already."""
        at = 0
        for one in wanted:
            partner = self._partner.get(one)
            if partner is not None:
                at = found.index(partner) + 1 if partner in found else at
                continue
            name = self._wanted.elements[one].name
            for step in range(at, len(found)):
                other = found[step]
                if other not in self._taken and self._found.elements[other].name == name:
                    self._partner[one] = other
                    self._taken.add(other)
                    at = step + 1
                    break

    def _pair_leaf_elements(self) -> None:
        own = {id(each): at for at, each in enumerate(self._wanted.elements)}
        there = {id(each): at for at, each in enumerate(self._found.elements)}
        for i, j in self._pairs:
            one, other = own.get(id(self._wanted.owners[i])), there.get(id(self._found.owners[j]))
            if one is not None and other is not None:
                self._partner[one] = other
                self._taken.add(other)

    def _pair_between(self) -> None:
        """Pair elements whose contents are others wholly, by their names, where they stand between the same leaves."""
        ends = [*self._pairs, (len(self._wanted), len(self._found))]
        i = j = 0
        for k, m in ends:
            if i < k and j < m:
                mine = [at for at in self._inside(self._wanted, i, k) if at not in self._partner]
                others = [at for at in self._inside(self._found, j, m) if at not in self._taken]
                names = [[leaves.elements[at].name for at in some] for leaves, some in
                         ((self._wanted, mine), (self._found, others))]  # fmt: skip
                for one, other in paired(*names):
                    self._partner[mine[one]] = others[other]
                    self._taken.add(others[other])
            i, j = k + 1, m + 1

    @staticmethod
    def _inside(leaves: Leaves, start: int, stop: int) -> list[int]:
        """Return the elements all of whose leaves lie in a stretch."""
        low = bisect_left(leaves.first, start)
        found = []
        for at in range(low, len(leaves.elements)):
            if leaves.first[at] >= stop:
                break
            if leaves.last[at] <= stop:
                found.append(at)
        return found

    def _elements(self, gone: set[int]) -> Iterator[Difference]:
        """Yield elements that are gone: around what was in them, or with it; these are put into ``gone``."""
        kept = {i for i, _ in self._pairs}
        for at, element in enumerate(self._wanted.elements):
            if at in self._partner:
                continue
            if self._wanted.around[at] in gone:
                gone.add(at)
                continue
            inside = range(self._wanted.first[at], self._wanted.last[at])
            whole = not any(leaf in kept for leaf in inside)
            if not whole:
                said = f"{_tag(element)} is not there; what is in it stays."
                yield self._difference("lost", said, element, wanted=element)
                continue
            gone.add(at)
            held = [leaf for leaf in inside if self._wanted.owners[leaf] is not element]
            with_it = f", nor what it holds: {_quoted(self._wanted, held)}" if held else ""
            yield self._difference("lost", f"{_tag(element)} is not there{with_it}.", element, wanted=element)

    def _attributes(self) -> Iterator[Difference]:
        for one, other in sorted(self._partner.items()):
            wanted, found = self._wanted.elements[one], self._found.elements[other]
            if wanted.name in CODE and _code(wanted) != _code(found):
                there, predicted = _apart(_code(found), _code(wanted))
                said = f"what {_tag(wanted)} holds is {there}, where {predicted} was predicted."
                yield self._difference("changed", said, wanted, wanted=wanted, found=found)
            for name in {**wanted.attributes, **found.attributes}:
                was, now = wanted.attributes.get(name), found.attributes.get(name)
                if was == now or (was is not None and now is not None and _same_value(name, was, now)):
                    continue
                if now is None:
                    kind, said = "lost", f"{name} on {_tag(wanted)} is not there."
                elif was is None:
                    kind, said = "added", f"{name}={_short(now)} on {_tag(wanted)} was not predicted."
                else:
                    kind = "changed"
                    there, predicted = _apart(now, was)
                    said = f"{name} on {_tag(wanted)} is {there}, where {predicted} was predicted."
                yield self._difference(kind, said, wanted, name, wanted=wanted, found=found)

    def _texts(self, gone: set[int]) -> Iterator[Difference]:
        """Yield words that are gone or others, each run of them once."""
        wanted, found = self._wanted, self._found
        i = j = 0
        for k, m in [*self._pairs, (len(wanted), len(found))]:
            if wanted.text(range(i, k)) != found.text(range(j, m)):  # else an element between the same letters went
                was = [leaf for leaf in range(i, k) if wanted.is_word(leaf) and not self._is_told(leaf, gone)]
                now = [leaf for leaf in range(j, m) if found.is_word(leaf) and not self._is_new(leaf)]
                if was:
                    old, new = _quoted(wanted, was), _quoted(found, now)
                    said = f"{old} is {new} there." if now else f"{old} is not there."
                    start = wanted.start(was[0])
                    part = Span(start, start + len(wanted.tokens[was[0]]))
                    yield self._difference("changed" if now else "lost", said, wanted.owners[was[0]], part=part)
                elif now:
                    before = wanted.owners[i - 1] if i else None
                    yield self._difference("added", f"{_quoted(found, now)} was not predicted.", before)
            i, j = k + 1, m + 1

    def _is_told(self, leaf: int, gone: set[int]) -> bool:
        """Tell whether a leaf is in an element that is told to be gone with all that it holds."""
        around = self._wanted.parents[leaf]
        while around >= 0 and around not in gone:
            around = self._wanted.around[around]
        return around >= 0

    def _is_new(self, leaf: int) -> bool:
        """Tell whether a leaf is in an element that was not predicted, and is told with it."""
        around = self._found.parents[leaf]
        while around >= 0 and around in self._taken:
            around = self._found.around[around]
        return around >= 0 and not self._holds_known(around)

    def _holds_known(self, element: int) -> bool:
        """Tell whether an element that is there holds something that was predicted."""
        return any(leaf in self._known for leaf in range(self._found.first[element], self._found.last[element]))

    def _new(self) -> Iterator[Difference]:
        """Yield elements that were not predicted, the outermost of each."""
        told: set[int] = set()
        for at, element in enumerate(self._found.elements):
            if at in self._taken:
                continue
            if self._found.around[at] in told:
                told.add(at)
                continue
            inside = range(self._found.first[at], self._found.last[at])
            if not self._holds_known(at):
                told.add(at)
            texts = _quoted(self._found, [leaf for leaf in inside if self._found.is_word(leaf)])
            around = f" around {texts}" if texts else ""
            yield self._difference("added", f"{_tag(element)}{around} was not predicted.", None, found=element)

    def _difference(
        self,
        kind: str,
        said: str,
        node: Node | None,
        attribute: str = "",
        *,
        part: Span | None = None,
        wanted: Element | None = None,
        found: Element | None = None,
    ) -> Difference:
        line, column = self._spot(node, attribute, part)
        severity = Severity.WARNING if kind == "added" else Severity.ERROR
        return Difference(Finding(f"verify/{kind}", self._stage, said, line, column, severity), wanted, found)

    def _spot(self, node: Node | None, attribute: str, part: Span | None) -> tuple[int | None, int | None]:
        if node is None or not node.key:
            return None, None
        span = self._piece.parsed.places.span(node.key)
        if attribute:
            typed = self._piece.source_map.attributes(node.key).get(attribute)
            span = typed.whole if typed is not None else span
        elif part is not None and type(node) is Text:
            span = TextLocation(self._piece, node.key, node.data, part).span
        return (None, None) if span is None else self._piece.source.place(span.start)


def _same_value(name: str, one: str, other: str) -> bool:
    """Tell whether two values of an attribute say the same to browsers, white space and the like aside."""
    if name not in _OTHERWISE_WRITTEN:
        return False
    if name == "style":
        one, other = ("".join(each.rstrip("; \n\t").split()).lower() for each in (one, other))
        return one == other
    return one.split() == other.split()


def _code(element: Element) -> str:
    return " ".join(own_text(element).split())


def _tag(element: Element) -> str:
    return f"<{element.name}>"


def _short(value: str) -> str:
    return f"“{value if len(value) <= _LONGEST else value[:_LONGEST] + '…'}”"


def _apart(one: str, other: str) -> tuple[str, str]:
    """Return two values in quotation marks; of long ones where they part."""
    at = first_difference(one, other)
    if max(len(one), len(other)) <= _LONGEST or at < _LONGEST // 2:
        return _short(one), _short(other)
    start = at - _LONGEST // 4
    return _short("…" + one[start:]), _short("…" + other[start:])


def _quoted(leaves: Leaves, some: Sequence[int]) -> str:
    """Return the text of leaves in quotation marks, cut short; nothing where there is none."""

    def blocks(leaf: int) -> list[int]:
        return [at for at in leaves.chain(leaf) if leaves.elements[at].name in BLOCKS]

    said = " ".join(leaves.text(each) for _, each in groupby(some[:_LONGEST], blocks))
    return _short(said) if some else ""
