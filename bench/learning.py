"""Profiles learned from editors that are known, held against pieces that no probe asked about.

``python bench/learning.py [stand-ins|sanitizer|cleaners|fresh|rich-paste] [--pieces N] [--pastes N] [--only NAME]``
"""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))
sys.path.insert(0, str(Path(__file__).parent))

from random_pieces import Writer

from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.journeys.journey import journey, markup_after
from verse_tray.learning.choose import choose
from verse_tray.learning.held import editor_of, words_of
from verse_tray.learning.learned import Learned, Returned, learn_from
from verse_tray.learning.probe.probe import compose, cut
from verse_tray.learning.probe.wishes import Wishes
from verse_tray.learning.trust import trust, unasked
from verse_tray.markup.flat import flat

Box = Callable[[str], dict[str, str] | None]
"""An editor of which nobody knows more than what it gives back by stage; None where it refuses."""


WISHES = Wishes(
    hosts=("films.gannetcove.example", "maps.gannetcove.example"),
    classes=("note", "wide", "shop-card", "btn", "btn-main", "lead"),
    addresses=("https://films.gannetcove.example/watch?film=low",),
)
"""What the author's own pieces would put into the probe."""


def stand_in(name: str) -> Box:
    editor = load_editor(name)

    def give(text: str) -> dict[str, str] | None:
        went = journey(text, editor)
        if went.refused:
            return None
        back = {"save": went.stage("save").markup, "publish": went.stage("publish").markup}
        if "reopen" in editor.lists:
            back["reopen"] = went.stage("reopen").markup
        return back

    return give


def cleaner(clean: Callable[[str], str]) -> Box:
    return lambda text: {"save": clean(text)}


def session(box: Box, *, pastes: int, most: int, visual: bool = False) -> list[Learned | None]:
    """Return what is known after each paste."""
    asked: set[str] = set()
    returned: list[Returned] = []
    refused: list[int] = []
    known: Learned | None = None
    found: list[Learned | None] = []
    for number in range(1, pastes + 1):
        facts = known.facts["save"] if known else None
        probe = compose(number, choose(most, asked, facts, WISHES, visual=visual))
        back = box(probe.text)
        if back is None:
            refused.append(len(probe.text))
            most = 9900 if most > 9900 else 1950 if most > 1950 else 900
        else:
            returned.append(Returned(probe.text, back))
            known = learn_from(returned, tuple(refused), visual=visual)
            there = cut(next(iter(back.values())))
            asked |= {each.markup for place, each in enumerate(probe.questions) if place in there}
        found.append(known)
    return found


def predict(editor: Editor | None, text: str, stage: str) -> str:
    assert editor is not None
    return journey(text, editor).stage(stage).markup


def rights(learned: Learned | None, box: Box, pieces: list[str], stages: tuple[str, ...]) -> tuple[float, float]:
    """Return how many pieces of 100 are predicted right: byte for byte, and as trees."""
    if learned is None:
        return 0.0, 0.0
    editor = editor_of(learned.draft)
    assert editor is not None
    total = bytes_right = trees_right = 0
    for piece in pieces:
        back = box(piece)
        for stage in stages:
            if back is not None and stage in back:
                total += 1
                predicted = predict(editor, piece, stage)
                bytes_right += predicted == back[stage]
                trees_right += predicted == back[stage] or flat(predicted) == flat(back[stage])
    return 100 * bytes_right / max(1, total), 100 * trees_right / max(1, total)


def run(
    name: str,
    box: Box,
    options: argparse.Namespace,
    pieces: list[str],
    stages: tuple[str, ...],
    *,
    visual: bool = False,
) -> list[tuple[float, float]]:
    start = time.process_time()
    found = session(box, pastes=options.pastes, most=options.most, visual=visual)
    took = (time.process_time() - start) / options.pastes
    scores = [rights(each, box, pieces, stages) for each in found]
    if options.csv:
        with Path(options.csv).open("a") as file:
            for number, (known, score) in enumerate(zip(found, scores, strict=True), 1):
                if known is not None:
                    trees = sum(len(each.trees) for each in known.misses.values())
                    texts = sum(len(each.texts) for each in known.misses.values())
                    cells = sum(len(case.cells) for each in known.cases.values() for case in each)
                    file.write(
                        f"{name},{number},{trees},{texts},{cells},{unasked(known):.3f},{score[0]:.1f},{score[1]:.1f}\n"
                    )
    last = found[-1]
    told = "  ".join(f"{as_bytes:5.1f}/{as_trees:5.1f}" for as_bytes, as_trees in scores)
    left = sum(len(misses.texts) for misses in last.misses.values()) if last else -1
    sure = "/".join(str(trust(each)) if each else "-" for each in found)
    words = words_of(last.draft) if last else 0
    print(f"{name:32} {told}  unexplained {left:3}  told {sure}  words {words:4}  {took:5.1f} s", flush=True)
    if options.show and last:
        show(last, box, pieces, stages, options.show)
    return scores


def show(last: Learned, box: Box, pieces: list[str], stages: tuple[str, ...], most: int) -> None:
    """Print a profile, the cells that it does not explain, and the first pieces that it predicts otherwise."""
    editor = editor_of(last.draft)
    assert editor is not None
    print(json.dumps(last.draft, indent=1, ensure_ascii=False))
    for stage, misses in last.misses.items():
        for at, cell in sorted(misses.texts)[:most]:
            case = last.cases[stage][at]
            predicted = cut(markup_after(case.piece, editor, case.stages)).get(cell)
            print(stage, "tree" if (at, cell) in misses.trees else "text", repr(case.sent_cells[cell])[:300])
            print("   got      ", repr(case.texts.get(cell))[:300], "\n   predicted", repr(predicted)[:300])
    shown = 0
    for piece in pieces:
        back = box(piece) or {}
        for stage in stages:
            predicted = predict(editor, piece, stage) if stage in back else ""
            if stage in back and predicted != back[stage] and shown < most:
                shown += 1
                pairs = enumerate(zip(predicted, back[stage], strict=False))
                at = next((i for i, (one, other) in pairs if one != other), min(len(predicted), len(back[stage])))
                near = slice(max(0, at - 40), at + 60)
                print("PIECE", stage, repr(back[stage][near]), "PREDICTED", repr(predicted[near]))
                break


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("what", nargs="?", default="stand-ins")
    parser.add_argument("--pieces", type=int, default=100)
    parser.add_argument("--pastes", type=int, default=2)
    parser.add_argument("--most", type=int, default=9900)
    parser.add_argument("--only", default="")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--count", type=int, default=20)
    parser.add_argument("--csv", default="", help="file to which what was unexplained and what was right is added")
    parser.add_argument("--show", type=int, default=0)
    options = parser.parse_args()
    writer = Writer(options.seed)
    pieces = [writer.piece() for _ in range(options.pieces)]
    scores = []
    if options.what == "stand-ins":
        names = [
            n for each in known_editors() for n in (each, *(f"{each}:{v}" for v in load_editor(each).profile.variants))
        ]
        for name in names:
            if options.only in name:
                profile = load_editor(name).profile
                visual = profile.paste.pane != "source"
                scores.append(run(name, stand_in(name), options, pieces, ("save", "reopen", "publish"), visual=visual))
    if options.what in ("cleaners", "fresh"):
        from cleaners import CLEANERS
        from fresh_cleaners import FRESH

        for name, clean in (CLEANERS if options.what == "cleaners" else FRESH).items():
            if options.only in name:
                scores.append(run(name, cleaner(clean), options, pieces, ("save",)))
    if options.what == "rich-paste":
        from native import surface_box

        with surface_box() as box:
            scores.append(run("rich paste", box, options, pieces, ("save",), visual=True))
    if options.what == "sanitizer":
        from native import native_boxes

        with native_boxes(options.count, options.seed) as boxes:
            for name, box in boxes:
                scores.append(run(name, box, options, pieces, ("save",)))
        finals = [each[-1][0] for each in scores]
        print("worst:", min(finals), " below 90:", sum(each < 90 for each in finals))
    for paste in range(options.pastes):
        print(
            f"paste {paste + 1}:",
            *(f"{sum(each[paste][i] for each in scores) / max(1, len(scores)):.1f}" for i in (0, 1)),
        )


if __name__ == "__main__":
    main()
