"""A picture that is stretched: its real size, the stated one and the styled one do not agree."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element
from verse_tray.media.picture_size import Measured
from verse_tray.model.findings import Severity
from verse_tray.piece.pictures import pictures
from verse_tray.piece.subject import Subject
from verse_tray.style.values import pixels

RULE = Rule(
    Severity.WARNING,
    readers="The picture is drawn out of shape, or blurred.",
    advice="State a width and a height in the proportion of the file; in styles write height: auto.",
    bad='<img src="https://pictures.gannetcove.example/gannet.png" alt="A gannet" width="400" height="300" '
    'style="width: 200px; height: 200px">',
    good='<img src="https://pictures.gannetcove.example/gannet.png" alt="A gannet" width="400" height="300" '
    'style="width: 200px; height: auto">',
)
_TOLERANCE = 0.03
_KEEPS = frozenset(("cover", "contain", "scale-down", "none"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture that is shown in another proportion than its file, or than is stated."""
    for element, file in pictures(subject):
        stated = _stated(element)
        real = (file.width, file.height) if isinstance(file, Measured) and file.width and file.height else None
        shown = _shown(subject, element, stated, real)
        if subject.winners(element).get("object-fit", ("",))[0] in _KEEPS:
            continue
        what = "stated" if real is None else "real"
        before = real or stated
        if before is not None and shown is not None and _differ(before, shown):
            yield Mistake(
                subject.name_span(element),
                f"This picture is drawn out of shape: its {what} size is {_told(before)}, and it is shown at "
                f"{_told(shown)}. For that width the height is {round(shown[0] * before[1] / before[0])}.",
            )
        elif real is not None and shown is not None and shown[0] > real[0] * 1.1 and not _is_bounded(subject, element):
            yield Mistake(
                subject.name_span(element),
                f"This picture is {_told(real)}, and it is shown {shown[0]:,.0f} pixels wide: it will be blurred.",
                Severity.NOTE,
            )


def _is_bounded(subject: Subject, element: Element) -> bool:
    return subject.winners(element).get("max-width", ("none",))[0] != "none"


def _stated_sides(element: Element) -> list[float | None]:
    sides = [element.attributes.get(name, "").strip().removesuffix("px") for name in ("width", "height")]
    return [float(side[:6]) if side.isdecimal() and float(side[:6]) else None for side in sides]


def _stated(element: Element) -> tuple[float, float] | None:
    width, height = _stated_sides(element)
    return None if width is None or height is None else (width, height)


def _shown(
    subject: Subject, element: Element, stated: tuple[float, float] | None, real: tuple[int, int] | None
) -> tuple[float, float] | None:
    """Return the size in CSS pixels at which a picture is shown; None where that depends on the page."""
    winners = subject.winners(element)
    sides: list[float | None] = []
    for number, name in enumerate(("width", "height")):
        if name in winners:
            sides.append(pixels(winners[name][0]) or (None if winners[name][0] == "auto" else -1))
        else:
            sides.append(_stated_sides(element)[number])
    width, height = sides
    if width == -1 or height == -1 or "aspect-ratio" in winners:
        return None
    ratio = real or stated
    if width is not None and height is not None:
        return width, height
    if ratio is None or (width is None and height is None):
        return None
    return (
        (width, width * ratio[1] / ratio[0])
        if width is not None
        else ((height or 0) * ratio[0] / ratio[1], height or 0)
    )


def _differ(one: tuple[float, float], other: tuple[float, float]) -> bool:
    if min(*one, *other) < 3:  # a dot that is stretched into a line on purpose
        return False
    return (
        abs(one[0] * other[1] / (one[1] * other[0]) - 1) > _TOLERANCE
        and abs(one[1] * other[0] / one[0] - other[1]) > 1.5
    )


def _told(size: tuple[float, float]) -> str:
    return f"{size[0]:,.0f} × {size[1]:,.0f}"
