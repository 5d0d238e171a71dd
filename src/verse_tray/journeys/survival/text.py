"""Text that readers see."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.journeys.view import View, solid


def count_text(written: View, after: View) -> tuple[Count, int]:
    """Count visible characters kept, and those leaked: shown now, and written as something else than text."""
    before = written.visible_texts
    kept = leaked = 0
    for text, visible in after.texts:
        if not visible:
            continue
        original, size = before.get(text.key, ("", 0))
        if original == text.data:
            kept += size
        else:  # never a text, or cut short, perhaps with half a letter at its end
            pairs = enumerate(zip(original, text.data, strict=False))
            shared = next((at for at, (old, new) in pairs if old != new), min(len(original), len(text.data)))
            kept += solid(original[:shared])
            leaked += solid(text.data[shared:])
    return Count(kept, sum(size for _, size in before.values())), leaked
