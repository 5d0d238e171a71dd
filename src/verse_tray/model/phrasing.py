"""Names and numbers in sentences."""

from __future__ import annotations

from collections.abc import Collection, Iterable

MOST_GUESSES = 60
"""How many unknown names are worth a guess: each is held against all known ones."""


MOST_COMPARED = 20_000
"""Names that are compared at most, of all that one rule looks for."""
_LONGEST_NAME = 80  # in longer ones no letters are turned round


def nearest(name: str, known: Iterable[str], least: float = 0.5) -> str | None:
    """Return the known name that looks most like ``name``, if one looks at least ``least`` (0 to 1) like it.

    One with two neighbouring letters the other way round is taken first, however short it is.
    """
    import difflib

    names = list(known)
    swapped = {name[:at] + name[at + 1] + name[at] + name[at + 2 :] for at in range(min(len(name), _LONGEST_NAME) - 1)}
    swapped.discard(name)
    turned = next((each for each in names if each in swapped), None)
    return turned or next(iter(difflib.get_close_matches(name, names, 1, least)), None)


class Guesses:
    """Guesses at what was meant, as many as can be afforded: comparing thousands of names takes minutes."""

    def __init__(self) -> None:
        self._left = MOST_COMPARED

    def nearest(self, name: str, known: Collection[str], least: float = 0.5) -> str | None:
        """Return what :func:`nearest` does; None once too many names have been compared."""
        self._left -= len(known)
        return nearest(name, known, least) if self._left >= 0 else None


def spelling(name: str, known: Iterable[str], least: float = 0.75) -> str:
    """Return ``did you mean X?`` behind a space and a semicolon, or nothing when no known name is near."""
    near = nearest(name, known, least)
    return f"; did you mean {near}?" if near else "."


def as_argument(name: str) -> str:
    """Return a file's name, or another argument, as it is typed into a shell: quoted where that is needed."""
    import shlex

    return shlex.quote(f"./{name}" if name.startswith("-") and len(name) > 1 else name)


def listed(names: Iterable[str], most: int = 5, last: str = "and") -> str:
    """Return names behind one another, the last behind *and* or another word; of many how many more there are."""
    rows = list(names)
    if len(rows) > most:
        rows = [*rows[: most - 1], f"{len(rows) - most + 1} more"]
    return rows[0] if len(rows) == 1 else f"{', '.join(rows[:-1])} {last} {rows[-1]}"


def first_difference(text: str, other: str) -> int:
    """Return where two texts part, 0-based: the length of the shorter where it is the beginning of the other."""
    pairs = enumerate(zip(text, other, strict=False))
    return next((at for at, (one, two) in pairs if one != two), min(len(text), len(other)))


def as_slug(text: str, otherwise: str) -> str:
    """Return what stands for a text in an address: letters and digits of ASCII, and hyphens; else another word."""
    import re

    return re.sub(r"[^a-z0-9]+", "-", text.lower()[:80]).strip("-") or otherwise


def counted(number: int, word: str) -> str:
    """Return ``1 row``, ``2 rows``."""
    return f"{number:,} {word}{'' if number == 1 else 's'}"


def storable(text: str) -> str:
    """Return a text with ``?`` for halves of signs, which names of files and JSON can hold and no UTF-8 can."""
    return text.encode("utf-8", "replace").decode("utf-8")
