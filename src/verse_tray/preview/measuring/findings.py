"""What was seen on several pages, as findings: each once, with where it holds."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from verse_tray.model.findings import Finding
from verse_tray.piece.piece import Piece
from verse_tray.preview.measuring.observation import Seen
from verse_tray.preview.pages.window import Window


def findings_of(
    piece: Piece, seen: Iterable[tuple[Window, Seen]], windows: Sequence[Window], stage: str
) -> dict[Finding, int]:
    """Return findings with the numbers of their elements, the gravest first.

    There is one for each rule and element, told as where it is worst, with the windows where it holds.

    Args:
        piece: The piece, for line and column.
        seen: What was seen, and where.
        windows: Every window that was looked at.
        stage: Stage of the findings.
    """
    groups: dict[tuple[str, int], list[tuple[Window, Seen]]] = {}
    for window, each in seen:
        groups.setdefault((each.rule, each.number), []).append((window, each))
    found = {}
    for (rule, number), group in groups.items():
        _, worst = max(group, key=lambda pair: (-pair[1].severity.rank, pair[1].much))
        where = _where({window for window, _ in group}, windows)
        span = piece.parsed.places.span(number) if number > 0 else None
        line, column = (None, None) if span is None else piece.source.place(span.start)
        found[Finding(f"render/{rule}", stage, worst.message + where, line, column, worst.severity)] = number
    order = sorted(found, key=lambda each: (each.severity.rank, each.line or 0, each.column or 0))
    return {finding: found[finding] for finding in order}


def _where(there: set[Window], all_windows: Sequence[Window]) -> str:
    """Return in words on which windows something holds; nothing when it does on all."""
    widths, themes = (list(dict.fromkeys(values)) for values in zip(*all_windows, strict=True))
    own_widths = [width for width in widths if any(window.width == width for window in there)]
    own_themes = [theme for theme in themes if any(window.theme == theme for window in there)]
    told = []
    if len(own_widths) < len(widths) or len(widths) == 1:
        told.append(f"in a window {' and '.join(map(str, own_widths))} px wide")
    if len(own_themes) < len(themes):
        told.append(f"only with the {'theme' if len(own_themes) == 1 else 'themes'} {' and '.join(own_themes)}")
    return f" Seen {', '.join(told)}." if told else ""
