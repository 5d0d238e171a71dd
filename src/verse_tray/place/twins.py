"""Templates with a place for desktops and one for phones: is a piece in both?"""

from __future__ import annotations

import re
from collections.abc import Sequence

from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity
from verse_tray.place.tags import is_xml_flavoured, tags_of

_KINDS = (("desktop", "phone"), ("desktop", "mobile"), ("wide", "narrow"), ("large", "small"))


def twins_of(landmark: str) -> list[str]:
    """Return what a landmark would be called for the other kind of device."""
    found = []
    for one, other in (*_KINDS, *((b, a) for a, b in _KINDS)):
        if re.search(rf"(?<![a-z]){one}(?![a-z])", landmark, re.IGNORECASE):
            found.append(re.sub(rf"(?<![A-Za-z]){one}(?![A-Za-z])", other, landmark, flags=re.IGNORECASE))
    return found


def missing_twins(template: Source, landmarks: Sequence[str], piece: str, others: Sequence[Source]) -> list[Finding]:
    """Return a finding for each landmark whose twin is there, in the template or in another one, and was not named.

    Args:
        template: The template.
        landmarks: The landmarks that the piece is put at, in all templates.
        piece: Name of the piece.
        others: Other templates that it is put into.
    """
    found = []
    for landmark in landmarks:
        for twin in twins_of(landmark):
            if twin in landmarks or any(twin in other.text for other in others):
                continue
            at = _place_of(template, twin)
            if at is not None:
                line, column = template.place(at)
                text = (
                    f"{piece} goes to {landmark}, and not to {twin}, which is for the other kind of device: readers "
                    "there will not see it. Name that landmark too."
                )
                found.append(Finding("place/twin-missing", "written", text, line, column, Severity.WARNING))
    return found


def _place_of(template: Source, named: str) -> int | None:
    """Return where a landmark stands, if it does."""
    text = template.text
    if named[:1] in "#.":
        attribute = "id" if named[0] == "#" else "class"
        for tag in tags_of(text, xml=is_xml_flavoured(text), holding=named[1:]):
            if named[1:] in (tag.attribute(attribute) or "").split():
                return tag.span.start
        return None
    at = text.find(named)
    return None if at < 0 else at
