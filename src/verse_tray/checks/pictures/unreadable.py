"""A picture file that is none."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.media.picture_size import Unreadable
from verse_tray.model.findings import Severity
from verse_tray.piece.pictures import pictures
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="Readers see a broken picture, or its alternative text.",
    advice="Export the picture again, and look at the file before you upload it.",
    bad='<img src="data:image/png;base64,AAAA" alt="A limpet">',
    good='<img src="data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7" alt="A limpet">',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture whose file is at hand and cannot be shown."""
    for element, file in pictures(subject):
        if isinstance(file, Unreadable):
            message = f"The file of this picture {file.reason}. Export the picture again."
            yield Mistake(subject.attribute_span(element, "src"), message)
