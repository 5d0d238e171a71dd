"""Text that can hardly be told from what lies behind it (WCAG 2.2, 1.4.3)."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted
from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.preview.measuring.observation import Seen
from verse_tray.style.colours import Colour, contrast, parse_colour, written

_SAME = 1.25
_LARGE, _LARGE_BOLD = 24.0, 18.66  # pixels: 18 and 14 points


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield the first element of each pair of colours in which text has less contrast than the standard asks for."""
    told: dict[tuple[str, str], list[ElementFacts]] = {}
    for each in page.elements:
        if not each.shown or not each.text or each.ink is None or each.ground is None or not each.width:
            continue
        ink, ground = (Colour(*(part / 255 for part in colour)) for colour in (each.ink, each.ground))
        if contrast(ink, ground) < (3.0 if _is_large(each) else 4.5):
            told.setdefault((written(ink, "hex"), written(ground, "hex")), []).append(each)
    for (ink_form, ground_form), elements in told.items():
        first = elements[0]
        both = parse_colour(ink_form), parse_colour(ground_form)
        assert both[0] is not None
        assert both[1] is not None
        found, asked = contrast(both[0], both[1]), 3.0 if all(map(_is_large, elements)) else 4.5
        colours = f"{ink_form} on {ground_form}"
        more = f" and of {counted(len(elements) - 1, 'more element')}" if len(elements) > 1 else ""
        if found < _SAME:
            message = (
                f"The text of this <{first.name}>{more} has the colour of what lies behind it ({colours}): readers do "
                "not see it. Set colour and ground together."
            )
            yield Seen("same-colour", first.number, message, Severity.ERROR, 1 / found)
        else:
            message = (
                f"The text of this <{first.name}>{more} is hard to read: {colours} has a contrast of {found:.1f}, and "
                f"{asked:.1f} is asked for. Set colour and ground together."
            )
            yield Seen("contrast", first.number, message, Severity.WARNING, 1 / found)


def _is_large(element: ElementFacts) -> bool:
    return element.size >= (_LARGE_BOLD if element.bold else _LARGE)
