"""What fitting did to a piece, what it won, and what is still lost."""

from __future__ import annotations

import json
from collections.abc import Iterator

from verse_tray.fit.search import Fitted
from verse_tray.model.findings import Severity
from verse_tray.model.grouping import grouped
from verse_tray.model.phrasing import counted

_MOST_LEFT = 4


def fit_lines(fitted: Fitted) -> Iterator[str]:
    """Yield the lines that explain a fitted piece, for the author."""
    before, after = fitted.before, fitted.after
    name, editor = before.journey.piece.source.name, before.journey.editor.name
    if before.journey.refused:
        yield f"{name} for {editor}: as you wrote it. It is refused, and no strategy makes a piece shorter."
    elif not fitted.changed:
        reason = "readers see all of it" if before.share > 0.995 else "nothing that we know helps"
        yield f"{name} for {editor}: as you wrote it, since {reason}. Readers get {_of(before.share)} of 100."
    else:
        longer = len(after.text) - len(before.text)
        size = f"{counted(abs(longer), 'sign')} {'longer' if longer >= 0 else 'shorter'}"
        yield (
            f"{name} for {editor}: readers get {_of(after.share)} of 100, and not {_of(before.share)}. The piece is "
            f"{size}."
        )
        for used in fitted.used:
            won = f"wins {_of(used.won)}" if used.won >= 0.01 else "wins less than 1"
            yield f"  {won}: {used.sentence} [{used.name}]"
    left = [each for each in after.journey.findings if each.severity is Severity.ERROR]
    groups = grouped([("", left)])
    for group in groups[:_MOST_LEFT]:
        each = group.finding
        of = " of the fitted piece" if fitted.changed else ""
        place = f" at {each.line}:{each.column}{of}" if each.line is not None else ""
        yield f"  still lost{place}: {each.message}{group.elsewhere}"
    if len(groups) > _MOST_LEFT:
        yield f"  and {len(groups) - _MOST_LEFT} more: verse-tray check tells them."


def _of(share: float) -> int:
    return max(0, 100 if share > 1 - 1e-9 else min(99, round(share * 100)))


def fit_json(fits: list[Fitted]) -> str:
    """Return what was done as JSON; the texts are in it."""
    return (
        json.dumps(
            {
                "format": "verse-tray-fit/1",
                "file": fits[0].before.journey.piece.source.name if fits else "",
                "editors": [
                    {
                        "editor": each.before.journey.editor.name,
                        "before": round(max(each.before.share, 0.0), 4),
                        "after": round(max(each.after.share, 0.0), 4),
                        "verdict": each.verdict.value,
                        "strategies": [
                            {"name": used.name, "won": round(used.won, 4), "size": used.size} for used in each.used
                        ],
                        "text": each.after.text,
                    }
                    for each in fits
                ],
            },
            ensure_ascii=False,
            indent=2,
        )
        + "\n"
    )
