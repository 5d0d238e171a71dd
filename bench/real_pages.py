"""Send every HTML file below some folders through every editor: ``python bench/real_pages.py FOLDER...``.

Nothing may crash, and what stands at each change's place has to be what its message names.
"""

from __future__ import annotations

import re
import sys
import time
from collections import Counter
from pathlib import Path

from verse_tray.checks.find import mistakes
from verse_tray.editors.load import known_editors, load_editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.model.decoding import decode
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Change
from verse_tray.piece.piece import Piece

_ATTRIBUTE = re.compile(r"(\S+) on <([^>]+)> (?:goes|becomes)")
_DECLARATION = re.compile(r"“(.*)” on <", re.DOTALL)


def misplaced(change: Change, text: str) -> bool:
    """Tell whether something else stands at a change's place than the change is about."""
    span = change.span
    if span is None:
        return False
    there = text[span.start : span.end]
    if change.rule.startswith(("attributes/", "addresses/")):
        match = _ATTRIBUTE.match(change.message)
        return match is None or not there.lower().startswith((match[1].lower(), "<"))
    if change.rule == "styles/declaration":
        match = _DECLARATION.match(change.message)
        return match is None or (not " ".join(there.split()).startswith(match[1].rstrip("…")[:20]) and "&" not in there)
    if change.rule.startswith(("elements/", "scripts/", "frames/", "style-elements/", "comments/")):
        return not there.startswith("<")
    return False


def check(path: Path, counts: Counter[str]) -> None:
    try:
        piece = Piece(decode(path.read_bytes(), str(path)))
    except InputError as error:
        counts["refused with a message"] += 1
        print(error)
        return
    counts["pages"] += 1
    counts["exact places" if piece.parsed.places.exactness == "exact" else f"not exact: {path}"] += 1
    counts["mistakes"] += len(mistakes(piece))
    for name in known_editors():
        made: Journey = journey(piece, load_editor(name))
        counts[f"{name}: {made.verdict.value}"] += 1
        for change in made.changes:
            counts["changes"] += 1
            if misplaced(change, piece.source.text):
                counts["misplaced"] += 1
                print(path, change.rule, change.message, change.span)


def main(folders: list[str]) -> None:
    counts: Counter[str] = Counter()
    slowest = (0.0, "")
    for folder in folders:
        for path in sorted(Path(folder).rglob("*.htm*")):
            if path.is_file():
                start = time.perf_counter()
                check(path, counts)
                slowest = max(slowest, (time.perf_counter() - start, str(path)))
    for name, count in sorted(counts.items()):
        print(f"{count:>8} {name}")
    print(f"slowest: {slowest[0]:.1f} s, {slowest[1]}")


if __name__ == "__main__":
    main(sys.argv[1:])
