"""A picture file that is heavier than a page should load."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.media.picture_size import Measured
from verse_tray.model.findings import Severity
from verse_tray.piece.pictures import pictures
from verse_tray.piece.subject import Subject

HEAVY = 500_000
"""Weight in bytes from which on a picture is told of."""
RULE = Rule(
    Severity.WARNING,
    readers="On a phone the page takes seconds to show the picture.",
    advice="Export the picture at the size it is shown at, or twice that, and compressed.",
    bad='<img src="heavy.png" alt="A limpet, from very near">',
    good='<img src="https://pictures.gannetcove.example/limpet.png" alt="A limpet, from very near">',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture whose file is at hand and weighs more than that."""
    for element, file in pictures(subject):
        if isinstance(file, Measured) and file.weight > HEAVY:
            yield Mistake(
                subject.attribute_span(element, "src"),
                f"This picture weighs {file.weight / 1000:,.0f} KB ({file.width:,} by {file.height:,} pixels, "
                f"{file.kind}). Export it smaller: twice the width it is shown at is enough.",
            )
