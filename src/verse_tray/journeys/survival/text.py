"""Text that readers see."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.journeys.view import View


def _solid(data: str) -> int:
    return len("".join(data.split()))


def count_text(written: View, after: View) -> tuple[Count, int]:
    """Count visible characters kept, and those leaked: shown now, and written as something else than text."""
    before: dict[int, str] = {}
    total = 0
    for text, visible in written.texts:
        if visible:
            before[text.key] = text.data
            total += _solid(text.data)
    kept = leaked = 0
    for text, visible in after.texts:
        if not visible:
            continue
        original = before.get(text.key)
        if original is None:
            leaked += _solid(text.data)
        elif original == text.data:
            kept += _solid(original)
        else:  # cut short, perhaps with half a letter at its end
            shared = next((i for i, (a, b) in enumerate(zip(original, text.data, strict=False)) if a != b), None)
            shared = min(len(original), len(text.data)) if shared is None else shared
            kept += _solid(original[:shared])
            leaked += _solid(text.data[shared:])
    return Count(kept, total), leaked
