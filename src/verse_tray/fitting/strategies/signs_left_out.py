"""Signs beyond 16 bits, which some stores cannot hold."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

NAME = "signs-left-out"
SENTENCE = "Signs such as emoji, which the editor cannot store, were left out."
_BEYOND = lazy("[\U00010000-\U0010ffff](?:\ufe0f|\u200d|[\U0001f3fb-\U0001f3ff])*[ \xa0]?")
_REFERENCE = lazy(r"&#(?:x0*[1-9a-f][0-9a-f]{4,}|0*[1-9]\d{5,});?", re.IGNORECASE)


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield what takes them out of the text, where one of them costs what follows, or turns into something else."""
    if not any(each.rule.startswith("characters/") for each in draft.trip.changes):
        return
    text = draft.subject.source.text
    for pattern in (_BEYOND, _REFERENCE):
        for match in pattern.finditer(text):
            yield Splice(Span(*match.span()), "")
