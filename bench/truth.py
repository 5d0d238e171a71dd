"""Hold what is said to survive against pictures of the pages: ``python bench/truth.py [FILE...]``.

Of each piece (the demo's when none is named) and each editor, the written and the published page are drawn in a browser
and compared element by element (the likeness of ``check --render``). Told are the rank correlation of that with
``alike``, and every pair that breaks what is promised: no page that looks less than 70 of 100 alike is ``intact`` or
``rewritten``, and none that looks wholly alike is ``damaged`` while text, links and behaviour are all there and the
site around it is as it was.
"""

from __future__ import annotations

import sys
from collections.abc import Iterable
from pathlib import Path
from tempfile import TemporaryDirectory

import pandas

from verse_tray.demo import example
from verse_tray.editors.chosen import chosen_editors
from verse_tray.journeys.journey import Journey, journey
from verse_tray.model.findings import Verdict
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.render import render
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.tasks.files import read_piece

WIDTHS = (1280, 375)
HARMLESS = (Verdict.INTACT, Verdict.REWRITTEN)


def main() -> int:
    """Compare, print what was found, and return 1 where a promise is broken."""
    with TemporaryDirectory() as folder:
        files = [Path(name) for name in sys.argv[1:]] or _demo(Path(folder))
        pairs: list[tuple[str, float, Journey]] = []
        with Session() as session:
            for file in files:
                piece = read_piece(str(file))
                for editor in chosen_editors(None):
                    made = journey(piece, editor)
                    pictures = LocalPictures(file.parent, (), stored=True)
                    seen = render(session, made, {"": editor.theme}, WIDTHS, pictures, compare=True)
                    if seen.score is not None:
                        pairs.append((file.name, seen.score, made))
    scores, told = [score for _, score, _ in pairs], [made.survival.alike for _, _, made in pairs]
    changed = [(s, t) for s, t in zip(scores, told, strict=True) if s < 1 or t < 100]
    print(f"{len(pairs)} pairs, rank correlation {_ranked(zip(scores, told, strict=True)):.3f} (asked: 0.85)")
    print(f"{len(changed)} of them changed, rank correlation {_ranked(changed):.3f}")
    broken = [f"{name} {made.editor.name}: looks {score:.2f}, {made.verdict}" for name, score, made in pairs
              if _breaks_a_promise(score, made)]  # fmt: skip
    print("\n".join([f"{len(broken)} pairs break a promise", *broken]))
    return bool(broken)


def _demo(folder: Path) -> list[Path]:
    for name, data in example().items():
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        (folder / name).write_bytes(data)
    return sorted(folder.rglob("*.html"))


def _ranked(pairs: Iterable[tuple[float, float]]) -> float:
    """Return the rank correlation of two columns (Spearman 1904)."""
    return float(pandas.DataFrame(pairs).corr("spearman").to_numpy()[0, 1])


def _breaks_a_promise(score: float, made: Journey) -> bool:
    if score < 0.7:
        return made.verdict in HARMLESS
    survived = made.survival
    there = not (survived.text.lost or survived.links.lost or survived.behaviour.lost)
    unseen = any(each.kind in ("moving", "site") for each in made.comparison.differences)
    return score >= 0.995 and made.verdict is Verdict.DAMAGED and there and not unseen


if __name__ == "__main__":
    sys.exit(main())
