"""Change real pages and change them back: ``python bench/round_trips.py FOLDER... [--pages N]``.

Every value of a page is set to another and back, every local path is hosted and found again, and the page is written
twice, each copy set apart: with the beginnings of the names taken off, both have to be the page.
"""

from __future__ import annotations

import random
import re
import sys
from collections import Counter
from pathlib import Path

from verse_tray.edit.adjust import set_values
from verse_tray.edit.apart import copies
from verse_tray.edit.hosted import Hosts, local_paths, replace_paths
from verse_tray.edit.values import Place, ValueKind, find_values
from verse_tray.join.paste import hold_ended
from verse_tray.markup.parse import parse_fragment
from verse_tray.model.decoding import Source, decode
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject

OTHERS = {
    ValueKind.COLOUR: "teal",
    ValueKind.TEXT: "A “pool” & <b>x</b>",
    ValueKind.LINK: "https://gannetcove.example/?a=1&b=2",
    ValueKind.PICTURE: "https://pictures.gannetcove.example/a b.png",
    ValueKind.DURATION: "0.7s",
}
MOST = 10  # values of a page


def adjusted(piece: Piece, counts: Counter[str]) -> None:
    """Set values to others and back."""
    values = find_values(piece)
    for value in random.Random(len(values)).sample(values, min(MOST, len(values))):
        other = OTHERS.get(value.kind, "17" if value.places[0].quoted.quote is not None else "17px")
        counts["values"] += 1
        try:
            there = set_values(piece, {value.name: other})
        except InputError:
            counts["values refused"] += 1
            continue
        now = next((each for each in find_values(Piece(Source(there))) if _same_place(each.places, value.places)), None)
        if now is None:
            counts["values FALLEN"] += 1
            print(f"{piece.source.name}: {value.name} cannot be found again")
            continue
        try:
            back = set_values(Piece(Source(there)), {now.name: value.value})
        except InputError:
            counts["values refused on the way back"] += 1
            continue
        if _reading(back) != _reading(piece.source.text):
            counts["values FALLEN"] += 1
            print(f"{piece.source.name}: {value.name}: another page after {other} and {value.value}")


def _same_place(one: tuple[Place, ...], other: tuple[Place, ...]) -> bool:
    return one[0].span.start == other[0].span.start


def _reading(text: str) -> list[tuple[str, tuple[tuple[str, str], ...]]]:
    elements = parse_fragment(text).tree.elements()
    return [(e.name, tuple((n, " ".join(v.split())) for n, v in sorted(e.attributes.items()))) for e in elements]


def hosted(piece: Piece, counts: Counter[str]) -> None:
    """Host every local path, and find it again."""
    paths = [each for each in local_paths(piece, None) if not each.in_script]
    addresses = {
        path: f"https://h.example/{n}.png" for n, path in enumerate(dict.fromkeys(each.path for each in paths))
    }
    counts["paths"] += len(paths)
    try:
        replaced = replace_paths(piece, Hosts(addresses))
    except InputError:
        counts["pages whose paths are refused"] += 1
        return
    text = replaced.text
    for path, address in addresses.items():
        found = len(re.findall(rf"{re.escape(address)}(?!\d)", text))
        if found < sum(each.path == path for each in paths):
            counts["paths FALLEN"] += 1
            print(f"{piece.source.name}: {path} was hosted {found} times")


def copied(piece: Piece, counts: Counter[str]) -> None:
    """Write a page twice, set apart, and take the beginnings of the names off again."""
    try:
        hold_ended(piece.source)
    except InputError:
        counts["pages that swallow what follows"] += 1
        return
    counts["pages copied"] += 1
    text, _ = copies(piece, 2, "copy")
    plain = re.sub(r"copy[-_][12][-_]", "", text)
    one = [row for row in _reading(piece.source.text) if row[0] not in ("link", "script", "style")]
    two = [row for row in _reading(plain) if row[0] not in ("link", "script", "style")]
    if two != one + one:
        counts["copies FALLEN"] += 1
        at = next((n for n, (a, b) in enumerate(zip(two, one + one, strict=False)) if a != b), -1)
        print(
            f"{piece.source.name}: {len(two)} elements for {len(one)} twice; at {at}: {two[at]} for {(one + one)[at]}"
        )
    names = Counter(name for name, same in Subject(Piece(Source(text))).identifiers.items() for _ in same)
    before = Counter(name for name, same in Subject(piece).identifiers.items() for _ in same)
    if sorted(names.values()) != sorted([*before.values(), *before.values()]):
        counts["copies FALLEN"] += 1
        print(f"{piece.source.name}: identifiers stand twice: {[n for n, c in names.items() if c > 1][:4]}")


def main() -> int:
    """Choose pages, change them, print, and return 1 where one did not come back."""
    folders = [each for each in sys.argv[1:] if not each.startswith("--") and not each.isdecimal()]
    most = int(sys.argv[sys.argv.index("--pages") + 1]) if "--pages" in sys.argv else 100
    files = sorted(
        file for folder in folders for file in Path(folder).rglob("*.html") if 2_000 < file.stat().st_size < 90_000
    )
    counts: Counter[str] = Counter()
    for file in random.Random(1).sample(files, min(most, len(files))):
        try:
            piece = Piece(decode(file.read_bytes(), str(file)))
        except InputError:
            continue
        counts["pages"] += 1
        for turn in (adjusted, hosted, copied):
            turn(piece, counts)
    for name, count in counts.items():
        print(f"{count:7,} {name}")
    return any("FALLEN" in name for name in counts)


if __name__ == "__main__":
    sys.exit(main())
