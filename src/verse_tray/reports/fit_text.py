"""What fitting did to a piece, what it won, and what is still lost."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence

from verse_tray.fitting.fit import Fitted
from verse_tray.fitting.judge import of_hundred
from verse_tray.fitting.pastes import TooLarge
from verse_tray.journeys.remarks import seen_otherwise
from verse_tray.model.findings import Severity
from verse_tray.model.grouping import grouped
from verse_tray.model.phrasing import counted, listed

_MOST_LEFT = 4


def fit_lines(fitted: Fitted) -> Iterator[str]:
    """Yield the lines that explain a fitted piece, for the author."""
    before = fitted.before
    head = f"{before.journey.piece.source.name} for {before.journey.editor.name}"
    if not fitted.changed:
        yield f"{head}: as you wrote it, since {_why_unchanged(fitted)}. Readers get {of_hundred(before.share)} of 100."
    elif fitted.pastes is not None and len(fitted.texts) == 1:
        yield f"{head}: it is refused as you wrote it, and still when it is fitted."
    else:
        yield f"{head}: readers get {of_hundred(fitted.share)} of 100{_before(fitted)}. {_size(fitted)}"
        for used in fitted.used:
            won = f"wins {of_hundred(used.won)}" if used.won >= 0.01 else "wins less than 1"
            yield f"  {won}: {used.sentence} [{used.name}]"
    if fitted.pastes is not None:
        for large in fitted.pastes.too_large:
            yield f"  too large: {_too_large(large)}"
    yield from _left(fitted)


def together_lines(fits: Sequence[Fitted]) -> Iterator[str]:
    """Yield the lines that explain one text for several editors."""
    first = fits[0]
    name = first.before.journey.piece.source.name
    if not first.changed:
        yield f"{name} for {len(fits)} editors: as you wrote it, since no one text does better in all of them."
    else:
        yield f"{name} for {len(fits)} editors: one text. {_size(first)}"
        for used in first.used:
            yield f"  {used.sentence} [{used.name}]"
    for each in fits:
        better = f"readers get {of_hundred(each.share)} of 100"
        was = _before(each) if each.changed else ""
        alone = of_hundred(each.alone or 0.0)
        cost = f" Fitted to it alone: {alone}." if alone > of_hundred(each.share) else ""
        yield f"  {each.before.journey.editor.name}: {better}{was}.{cost}"


def _before(fitted: Fitted) -> str:
    if fitted.before.journey.refused:
        return "; as you wrote it, it is refused"
    works, worked = (each.journey.survival.behaviour for each in (fitted.after, fitted.before))
    share = of_hundred(fitted.before.share)
    told = f", and not {share}" if share != of_hundred(fitted.share) else ", as before"
    if works.of == worked.of and works.kept > worked.kept:
        told += f"; of {counted(works.of, 'thing')} that it does, {works.kept} work, and not {worked.kept}"
    return told


def _why_unchanged(fitted: Fitted) -> str:
    if fitted.before.share > 0.995:
        return "readers see all of it"
    return "it is refused as it is" if fitted.before.journey.refused else "nothing that we know helps"


def _size(fitted: Fitted) -> str:
    if fitted.pastes is not None:
        sizes = listed([f"{len(text):,}" for text in fitted.pastes.texts])
        return f"It takes {counted(len(fitted.pastes.texts), 'paste')}, of {sizes} signs."
    longer = len(fitted.after.text) - len(fitted.before.text)
    return f"The piece is {counted(abs(longer), 'sign')} {'longer' if longer >= 0 else 'shorter'}."


def _too_large(large: TooLarge) -> str:
    what = f"one <{large.element}>" if large.element else "one stretch of text"
    begins = f" that begins “{large.begins}…”" if large.begins else ""
    more = f", and {large.around:,} more around it in each paste" if large.around else ""
    over = large.size + large.around - large.most
    what_helps = f"shorten it by {over:,}, or part it where it may be parted"
    if over >= large.size:
        what_helps = f"shorten what stands around it, styles and tags, by {over:,}"
    return f"{what}{begins} has {large.size:,} signs{more}; a paste holds {large.most:,}: {what_helps}."


def _left(fitted: Fitted) -> Iterator[str]:
    """Yield what is still lost: by place what goes, then what is seen otherwise, then why nothing stands for it."""
    after = fitted.after
    left = [each for each in after.journey.findings if each.severity is Severity.ERROR and each.rule != "limits/refuse"]
    groups = grouped([("", left)])
    for group in groups[:_MOST_LEFT]:
        each = group.finding
        of = " of the fitted piece" if fitted.changed else ""
        place = f" at {each.line}:{each.column}{of}" if each.line is not None else ""
        yield f"  still lost{place}: {each.message}{group.elsewhere}"
    if len(groups) > _MOST_LEFT:
        yield f"  and {len(groups) - _MOST_LEFT} more: verse-tray check tells them."
    if seen := seen_otherwise(after.comparison) if fitted.changed else []:
        yield f"  still seen otherwise: {listed(seen)}."
    for sentence in fitted.given_up if fitted.changed else ():
        yield f"  {sentence}"


def fit_json(fits: list[Fitted]) -> str:
    """Return what was done as JSON; the texts are in it."""
    return (
        json.dumps(
            {
                "format": "verse-tray/1",
                "file": fits[0].before.journey.piece.source.name if fits else "",
                "editors": [_editor(each) for each in fits],
            },
            ensure_ascii=False,
            indent=2,
        )
        + "\n"
    )


def _editor(fitted: Fitted) -> dict[str, object]:
    return {
        "editor": fitted.before.journey.editor.name,
        "before": round(max(fitted.before.share, 0.0), 4),
        "after": round(max(fitted.share, 0.0), 4),
        "verdict": fitted.verdict.value,
        "strategies": [{"name": used.name, "won": round(used.won, 4), "size": used.size} for used in fitted.used],
        "givenUp": list(fitted.given_up),
        "tooLarge": [large._asdict() for large in fitted.pastes.too_large] if fitted.pastes is not None else [],
        "text": fitted.after.text,
        "pastes": list(fitted.texts),
    }
