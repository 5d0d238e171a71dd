"""Hold fitted pieces against what they were: ``python bench/fitting.py [FOLDER] [--seen] [--whole COUNT]``.

Of each piece of a folder (the demo's, and those in tests/data/fitting.toml, when none is named) and each editor, told
are: how much of the gap between what was written and what readers get is closed; every pair that is worse than as it
was, or that another fitting changes.

``--seen`` draws written, pasted and fitted page of each changed pair in a browser and compares them element by
element (the likeness of ``check --render``, things found again by their words): told is every pair that looks worse by
more than 0.02. ``--whole COUNT`` tries all subsets of the strategies on so many pairs with at most eight of
them, and tells how much of what can be closed the search closes.
"""

from __future__ import annotations

import sys
import tomllib
from collections import defaultdict
from collections.abc import Iterator
from itertools import combinations
from pathlib import Path

from verse_tray.demo import example
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import Editor
from verse_tray.fitting.fit import Fitted, fit
from verse_tray.fitting.judges import Judges
from verse_tray.fitting.probe import without_limits
from verse_tray.fitting.table import STRATEGIES
from verse_tray.fitting.trips import Trips
from verse_tray.journeys.highlights import text_runs
from verse_tray.journeys.journey import Journey
from verse_tray.markup.tree import Element, Tree
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.likeness import Sight, likeness
from verse_tray.preview.measuring.show import OpenPage
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import page
from verse_tray.reading.boxes import Spans
from verse_tray.reading.frames import frame_of, framed
from verse_tray.reading.pairing import pair
from verse_tray.reading.read import DESKTOP, read

HERE = Path(__file__).parent
WIDTHS = (1280, 375)
Runs = dict[tuple[int, int], tuple[int, ...]]


def main() -> int:
    """Fit, print what was found, and return 1 where a promise is broken."""
    options = sys.argv[1:]
    whole = int(options[options.index("--whole") + 1]) if "--whole" in options else 0
    folders = [each for each in options if not each.startswith("--") and not each.isdigit()]
    pieces = dict(_pieces(Path(folders[0]) if folders else None))
    gap: dict[str, float] = defaultdict(float)
    won: dict[str, float] = defaultdict(float)
    broken: list[str] = []
    changed: list[tuple[str, Fitted]] = []
    pairs: list[tuple[str, Piece, Editor, Fitted]] = []
    for name, text in pieces.items():
        piece = Piece(Source(text, name))
        for editor in chosen_editors(None):
            found = fit(piece, editor)
            before, after = max(0.0, found.before.share), max(0.0, found.after.share)
            gap[editor.name] += 1 - before
            won[editor.name] += after - before
            pairs.append((name, piece, editor, found))
            if after < before:
                broken.append(f"worse: {name} in {editor.name}, {before:.4f} to {after:.4f}")
            if found.changed:
                changed.append((name, found))
                if any(fit(Piece(Source(each, name)), editor).changed for each in found.texts):
                    broken.append(f"not at rest: {name} in {editor.name}")
    for editor_name in gap:
        share = f"{won[editor_name] / gap[editor_name]:.2f}" if gap[editor_name] > 1e-9 else "-"
        print(f"{editor_name}: gap {gap[editor_name]:.2f}, closed {share}")
    print(f"{len(pieces)} pieces, {len(changed)} pairs changed, closed {sum(won.values()) / sum(gap.values()):.3f}")
    if whole:
        broken += _exhausted(pairs, whole)
    if "--seen" in options:
        broken += _seen(changed)
    print("\n".join([f"{len(broken)} promises broken", *broken]))
    return bool(broken)


def _pieces(folder: Path | None) -> Iterator[tuple[str, str]]:
    if folder is not None:
        yield from ((path.name, path.read_text("utf-8")) for path in sorted(folder.glob("*.html")))
        return
    yield from ((path.name, data.decode()) for path, data in example().items() if path.suffix == ".html")
    rows = tomllib.loads((HERE.parent / "tests" / "data" / "fitting.toml").read_text("utf-8"))["wins"]
    yield from ((f"{row[0]}-{row[1]}", row[2]) for row in rows)


def _exhausted(pairs: list[tuple[str, Piece, Editor, Fitted]], most: int) -> list[str]:
    """Try every subset of the strategies that have something to do, and return the pairs that could be better."""
    told: list[str] = []
    tried, best_gain, own_gain = 0, 0.0, 0.0
    for name, piece, editor, found in pairs:
        judges = Judges([Trips(piece.source, without_limits(editor))], piece.source.text)
        base = judges.judge(judges.text).share
        active, text = [], judges.text
        for each in STRATEGIES:
            new = judges.applied(text, each)
            active += [each] if new != text else []
            text = new
        if not 2 <= len(active) <= 8 or found.pastes is not None:
            continue
        best = base
        for count in range(1, len(active) + 1):
            for chosen in combinations(active, count):
                text = judges.text
                for each in chosen:
                    text = judges.applied(text, each)
                best = max(best, judges.judge(text).share)
        tried += 1
        best_gain += best - base
        own_gain += max(0.0, min(best, found.after.share) - base)
        if found.after.share < best - 0.02:
            told.append(f"could be better: {name} in {editor.name}, {found.after.share:.3f} for {best:.3f}")
        if tried >= most:
            break
    print(f"{tried} pairs tried whole: {own_gain / best_gain if best_gain else 1:.4f} of what can be closed is closed")
    return told


def _seen(changed: list[tuple[str, Fitted]]) -> list[str]:
    """Compare pasted and fitted pages with the written one in a browser, and return the pairs that look worse."""
    told: list[str] = []
    sums = [0.0, 0.0]
    with Session() as session:
        for name, found in changed:
            journey = found.before.journey
            scores = []
            for published in (found.before.journey, found.after.journey):
                score = 0.0
                for width in WIDTHS if not published.refused else ():
                    written = journey.piece.parsed.tree
                    one = _sight(session, journey.editor, written, text_runs(written), width)
                    two = _sight(session, journey.editor, *_with_keys(journey, published), width)
                    score += likeness(one, two).score / len(WIDTHS)
                scores.append(score)
            sums = [total + score for total, score in zip(sums, scores, strict=True)]
            if scores[1] < scores[0] - 0.02:
                told.append(f"looks worse: {name} in {journey.editor.name}, {scores[0]:.3f} to {scores[1]:.3f}")
    count = max(1, len(changed))
    print(f"{len(changed)} pairs seen: {sums[0] / count:.3f} alike as pasted, {sums[1] / count:.3f} fitted")
    return told


def _sight(session: Session, editor: Editor, tree: Tree, runs: Runs, width: int) -> Sight:
    shown = OpenPage(session, page(editor, editor.theme, tree, LocalPictures()))
    facts = shown.look(width)
    return Sight(facts, *shown.pixels(facts), runs)


def _with_keys(journey: Journey, published: Journey) -> tuple[Tree, Runs]:
    """Return what is published with the keys of the author's tree, found again by words, boxes and addresses."""
    tree = published.published.clone()
    frame = frame_of(journey.editor)
    before = read(framed(frame, journey.piece.written_view), DESKTOP)
    after = read(framed(frame, View(published.published)), DESKTOP)
    pairing = pair(before, after, by_text=True)
    keys: dict[int, int] = {}
    words: dict[int, list[int]] = defaultdict(list)
    for one, other, _ in pairing.pairs:
        own = words[after.runs[other].key]  # what a style makes is no text that the comparison knows
        own += [before.runs[one].key] if not before.runs[one].made else []
    spans, used = Spans(after, pairing), set[int]()
    for box in before.boxes:
        found = spans.find(box, used)
        if found is not None:
            used.add(id(found))
            keys.setdefault(found.key, box.key)
    for medium in before.media:
        same = (m for m in after.media if (m.kind, m.address) == (medium.kind, medium.address) and m.key not in keys)
        if (first := next(same, None)) is not None:
            keys[first.key] = medium.key
    texts: dict[int, list[int]] = {}
    for number, node in enumerate(tree.nodes(), 1_000_000):
        texts[number] = words.get(node.key, [number])
        node.key = keys.get(node.key, number) if isinstance(node, Element) else number
    runs = {
        place: tuple(dict.fromkeys(key for each in own for key in texts[each]))
        for place, own in text_runs(tree).items()
    }
    return tree, runs


if __name__ == "__main__":
    sys.exit(main())
