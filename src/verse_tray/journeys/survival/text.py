"""Text that readers see."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.piece.view import View


def count_text(written: View, after: View) -> tuple[Count, int]:
    """Count visible characters kept, and those leaked: shown now, and written as something else than text."""
    before = written.visible_texts
    kept = leaked = 0
    solid_texts: dict[int, str] = {}
    passed: dict[int, int] = {}  # how far each written text has been found again, in solid characters
    for text, visible in after.texts:
        if not visible:
            continue
        original, size = before.get(text.key, ("", 0))
        data = text.data if text.means is None else text.means
        if original == data and text.key not in passed:
            kept += size
            passed[text.key] = size
            continue
        # never a text, or a part of one, or cut short, perhaps with half a letter at its end
        wrote = solid_texts.get(text.key)
        if wrote is None:
            wrote = solid_texts[text.key] = "".join(original.split())
        now = "".join(data.split())
        at = passed.get(text.key, 0)
        found = wrote.find(now, at)
        shared = len(now)
        if found < 0:
            found = at
            shared = next((i for i, (old, new) in enumerate(zip(wrote[at:], now, strict=False)) if old != new),
                          min(len(wrote) - at, len(now)))  # fmt: skip
        passed[text.key] = found + shared
        kept += shared
        leaked += len(now) - shared
    return Count(kept, sum(size for _, size in before.values())), leaked
