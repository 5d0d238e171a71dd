"""Hold what ``make`` makes for each editor against pieces written by hand: ``python bench/made_pieces.py``.

Every piece is made for every editor, with its look where it survives best and at every place that can be asked for. Its
verdict has to be as good as that of the best piece of its kind in ``tests/data/handwritten.toml`` (that readers get the
same counts, not whether the markup was written anew), and no rule may find a mistake in it.
"""

from __future__ import annotations

import sys
import tomllib
from pathlib import Path

HERE = Path(__file__).parents[1]
sys.path.insert(0, str(HERE / "tests"))

from support.pieces import PIECES  # noqa: E402
from verse_tray.checks.find import find  # noqa: E402
from verse_tray.editors.chosen import chosen_editors  # noqa: E402
from verse_tray.journeys.journey import journey  # noqa: E402
from verse_tray.make.survive import made_for  # noqa: E402
from verse_tray.make.terms import Styles  # noqa: E402
from verse_tray.model.decoding import Source  # noqa: E402
from verse_tray.model.findings import Severity  # noqa: E402
from verse_tray.piece.piece import Piece  # noqa: E402

ANYWHERE = (Styles.ELEMENT, Styles.INLINE, Styles.NONE)


def main() -> int:
    """Make, compare, print, and return 1 where one does worse than a piece written by hand, or has a mistake."""
    by_hand = tomllib.loads((HERE / "tests/data/handwritten.toml").read_text("utf-8"))
    count = fallen = 0
    for kind, (forms, build) in PIECES.items():
        for editor in chosen_editors(None):
            best = min(max(journey(Piece(Source(each)), editor).verdict.rank - 1, 0) for each in by_hand[kind])
            for places in (ANYWHERE, *((each,) for each in Styles)):
                made = made_for(editor, forms, build, places)
                piece = Piece(Source(made.markup))
                verdict = journey(piece, editor).verdict
                found = [each.finding for each in find(piece, region=700)]
                wrong = [finding.rule for finding in found if finding.severity is not Severity.NOTE]
                count += 1
                if max(verdict.rank - 1, 0) > best or wrong:
                    fallen += 1
                    print(f"{kind}, {editor.name}, {' '.join(places)}: {verdict} {' '.join(wrong)}")
    print(f"{count} pieces made, against {sum(map(len, by_hand.values()))} by hand: {fallen} fallen")
    return bool(fallen)


if __name__ == "__main__":
    sys.exit(main())
