"""A piece found inside a page, by what it is: its words and pictures, in their order."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import takewhile

from msgspec import Struct

from verse_tray.markup.parse import parse_document, parse_fragment
from verse_tray.markup.tree import Element, Node
from verse_tray.verifying.leaves import Leaves

_LONGEST = 3  # leaves that are looked for together
_SMALLEST, _SMALL = 12, 40  # leaves
_LEAST = 0.35
"""How much of a piece has to be found together for it to be there."""
_OF_BEST, _OF_SMALL = 0.5, 0.8
"""How much of what is found best, for it to be there once more; a few words may stand anywhere."""
_MOST_PLACES = 24  # places of the same few leaves in a piece that are kept in mind
_DEEPEST = 4  # documents within attributes of one another
_ACTIVE = 24  # stretches that may go on
_SKEW = 40  # leaves that may be missing or new between two that belong together
_NOISE = 0.05
"""What is found of less of a piece than this says nothing."""


class Place(Struct):
    """Where a piece stands in a page."""

    nodes: list[Node]
    """What stands there: neighbours within one element."""
    around: tuple[Element, ...]
    """The elements around it, the outermost first."""
    page: Leaves
    """The page that it is in, be it a document within a frame."""
    share: float
    """How much of the piece was found together, 0 to 1."""


def leaves_of_page(text: str) -> Leaves:
    """Return what stands in a page: a document, or a part of one."""
    start = text[:2000].lower()
    whole = any(mark in start for mark in ("<!doctype", "<html", "<head", "<body"))
    tree = (parse_document(text) if whole else parse_fragment(text)).tree
    return Leaves(tree.root.children)


def places(piece: Leaves, page: Leaves, *, depth: int = 0) -> list[Place]:
    """Return the places where a piece stands in a page, in order; those within frames' own documents behind the others.

    Args:
        piece: The leaves of what is looked for.
        page: The page.
        depth: How many documents within attributes are around it.
    """
    found = [_place(piece, page, pairs, share) for pairs, share in _clusters(piece, page)]
    if depth < _DEEPEST:
        for element in page.elements:
            if element.name == "iframe" and (inner := element.attributes.get("srcdoc")):
                found += places(piece, leaves_of_page(inner), depth=depth + 1)
    best = max((each.share for each in found), default=0.0)
    least = best * (_OF_SMALL if len(piece) < _SMALL else _OF_BEST)
    return [each for each in found if each.share >= max(_LEAST, least)]


def _run(leaves: int) -> int:
    """Return how many leaves are looked for together, of a piece of so many."""
    return min(_LONGEST if leaves > _SMALLEST else _LONGEST - 1, leaves)


_Pairs = list[tuple[int, int]]


def _clusters(piece: Leaves, page: Leaves) -> list[tuple[_Pairs, float]]:
    """Return stretches of a page that hold much of a piece: pairs of a leaf of each, and how much that is."""
    wanted, there = piece.tokens, page.tokens
    size = _run(len(wanted))
    if not size:
        return []
    known: dict[tuple[str, ...], list[int]] = defaultdict(list)
    for at in range(len(wanted) - size + 1):
        places = known[tuple(wanted[at : at + size])]
        if len(places) < _MOST_PLACES:
            places.append(at)
    tells = any(len(each) < _MOST_PLACES for each in known.values())
    clusters: list[_Pairs] = []
    active: list[_Pairs] = []
    runs = enumerate(zip(*(there[step:] for step in range(size)), strict=False))
    for at, hits in [(at, known[run]) for at, run in runs if run in known]:
        best: tuple[int, int, _Pairs] | None = None
        active = [each for each in active if at - each[-1][1] <= _SKEW]
        for cluster in active:
            i, j = cluster[-1]
            first = bisect_right(hits, i)
            near = bisect_left(hits, i + at - j, first)
            for hit in hits[max(first, near - 1) : near + 1]:  # the two around where it would go on
                skew = abs(hit - i - (at - j))
                if skew <= _SKEW and (best is None or skew < best[0]):
                    best = skew, hit, cluster
        if best is not None:
            best[2].append((best[1], at))
        elif len(hits) < _MOST_PLACES or not tells:  # what stands everywhere in the piece tells no place in it
            active = [*active[1 - _ACTIVE :], [(hits[0], at)]]
            clusters.append(active[-1])
    clusters = _joined([each for each in clusters if _share(each, len(wanted), size) >= _NOISE], len(wanted))
    found = [(pairs, share) for pairs in clusters if (share := _share(pairs, len(wanted), size)) >= _LEAST]
    return found or [(_whole(at, len(wanted), size), 1.0) for at in _exact(wanted, there)]


def _exact(wanted: list[str], there: list[str]) -> Iterator[int]:
    """Yield where a page holds all leaves of a piece, just as they are: what repeats itself tells nothing else."""
    text, sought = "\0".join(["", *there, ""]), "\0".join(["", *wanted, ""])
    at = text.find(sought)
    while at >= 0:
        yield text.count("\0", 0, at)
        at = text.find(sought, at + len(sought) - 1)


def _whole(at: int, count: int, size: int) -> _Pairs:
    return [(0, at), (count - size, at + count - size)]


def _joined(clusters: list[_Pairs], size: int) -> list[_Pairs]:
    """Put stretches together that follow one another in the piece as well."""
    found: list[_Pairs] = []
    for each in clusters:
        if found and each[0][0] > found[-1][-1][0] and each[0][1] - found[-1][-1][1] <= 2 * size + 40:
            found[-1] = [*found[-1], *each]
        else:
            found.append(each)
    return found


def _share(pairs: _Pairs, wanted: int, size: int) -> float:
    covered = {at + step for at, _ in pairs for step in range(size)}
    return len(covered) / wanted


def _place(piece: Leaves, page: Leaves, pairs: _Pairs, share: float) -> Place:
    """Return where the nodes of a piece begin and end in a page, told from the leaves that were found."""
    more = _run(len(piece)) - 1  # a pair stands for so many leaves behind it
    (i, j), (k, m) = pairs[0], (pairs[-1][0] + more, pairs[-1][1] + more)
    own, there = _shared(piece, i, k), _shared(page, j, m)
    while own:  # elements of the piece around all that was found are elements of the page around it
        if not there:
            break
        one, other = piece.elements[own[-1]], page.elements[there[-1]]
        if one.name != other.name and not _holds_only(page, there[-1], j, m):
            break
        own, there = own[:-1], there[:-1]
    holder = there[-1] if there else -1
    children = page.elements[holder].children if there else page.nodes
    first, last = _child_of(page, j, holder), _child_of(page, m, holder)
    first, last = _widened(piece, (i, k), children, (first, last))
    return Place(list(children[first : last + 1]), tuple(page.elements[each] for each in there), page, share)


def _shared(leaves: Leaves, first: int, last: int) -> list[int]:
    """Return the elements around two leaves, the outermost first."""
    pairs = zip(leaves.chain(first), leaves.chain(last), strict=False)
    return [one for one, _ in takewhile(lambda pair: pair[0] == pair[1], pairs)]


def _holds_only(page: Leaves, element: int, first: int, last: int) -> bool:
    """Tell whether an element holds nothing but some leaves."""
    return page.first[element] >= first and page.last[element] <= last + _LONGEST


def _child_of(leaves: Leaves, leaf: int, holder: int) -> int:
    """Return which child of an element, or of the whole, a leaf is in."""
    chain = leaves.chain(leaf)
    inner = chain[chain.index(holder) + 1 :] if holder >= 0 else chain
    return leaves.place[inner[0]] if inner else leaves.children[leaf]


def _widened(piece: Leaves, found: tuple[int, int], children: Sequence[Node], span: tuple[int, int]) -> tuple[int, int]:
    """Take in neighbours that hold what stands in the piece before and behind what was found there."""
    first, last = span
    before = [each for each in _outer(piece) if piece.last[each] <= found[0]]
    behind = [each for each in _outer(piece) if piece.first[each] > found[1]]
    for wanted in reversed(before):
        at = first - 1
        while at >= 0 and type(children[at]) is not Element:
            at -= 1
        if at < 0 or not _alike(piece, wanted, children[at]):
            break
        first = at
    for wanted in behind:
        at = last + 1
        while at < len(children) and type(children[at]) is not Element:
            at += 1
        if at >= len(children) or not _alike(piece, wanted, children[at]):
            break
        last = at
    return first, last


def _outer(piece: Leaves) -> list[int]:
    return [each for each, around in enumerate(piece.around) if around < 0]


def _alike(piece: Leaves, wanted: int, node: Node) -> bool:
    """Tell whether a node of a page may be an element of the piece: of its name, with something of it or wordless."""
    if type(node) is not Element or node.name != piece.elements[wanted].name:
        return False
    own = set(piece.tokens[piece.first[wanted] : piece.last[wanted]])
    there = set(Leaves([node]).tokens)
    return bool(own & there) or all(each[0] == "<" and len(each) > 1 for each in own | there)
