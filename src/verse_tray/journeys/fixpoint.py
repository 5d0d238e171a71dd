"""Whether opening a piece in the visual pane and saving it again comes to rest."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct

MOST_SAVES = 10
"""Saves after which a piece that still changes counts as never coming to rest."""


class Fixpoint(Struct, frozen=True):
    """How often a stored piece changes when it is opened and saved again."""

    comes: bool
    """Whether it comes to rest."""
    after: int
    """Saves after which nothing changes any more, or after which it first comes back to what it was before."""
    cycle: int = 0
    """Saves after which it is the same again, for one that goes round; 0 for one that rests or just goes on."""

    @property
    def told(self) -> str:
        """The same in a sentence."""
        if self.comes and not self.after:
            return "Opened and saved again, it stays as it is."
        if self.comes:
            times = "once" if self.after == 1 else f"{self.after} times"
            return f"Opened and saved again, it changes {times}; after that it stays as it is."
        if self.cycle:
            return (
                f"It never comes to rest: each time it is opened and saved it changes, and after {self.cycle} saves it "
                "is what it was before. What readers get depends on how often somebody has saved the page."
            )
        return f"It does not come to rest: opened and saved {self.after} times, it still changes each time."


def find_fixpoint(texts: list[str], save_again: Callable[[], str]) -> Fixpoint:
    """Open a stored piece and save it again until nothing changes, or until that is known never to happen.

    Args:
        texts: What was stored first, and after each opening and saving that has been done.
        save_again: Opens and saves once more, and returns what is stored then.
    """
    seen = {texts[0]: 0}
    before = texts[0]
    for save in range(1, MOST_SAVES + 1):
        after = texts[save] if save < len(texts) else save_again()
        if after == before:
            return Fixpoint(True, save - 1)
        if after in seen:
            return Fixpoint(False, save, save - seen[after])
        seen[after] = save
        before = after
    return Fixpoint(False, MOST_SAVES)
