"""Text that styles make, written as text."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.serialise import escape_attribute, escape_text
from verse_tray.markup.splice import Splice
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.reading.made_text import made_text
from verse_tray.style.variables import substituted

NAME = "made-text"
_MAKES = lazy(r"::?(?:before|after)\b", re.IGNORECASE)
SENTENCE = "Text that styles put before or behind elements was written as text."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the text that ::before and ::after make, in an element of its own look, where their rules go."""
    if not draft.loses_rules:
        return
    stays = False
    for element in draft.elements:
        inner = draft.inner(element)
        winners = draft.winners(element)
        if inner is None or not any(name.startswith("content ") for name in winners):
            continue
        for place, at in (("::before", inner.start), ("::after", inner.end)):
            value = winners.get(f"content {place}") or winners.get(f"content {place[1:]}")
            resolved = substituted(value[0], draft.environment(element)) if value else None
            text = made_text(resolved, element) if resolved else ""
            if not text.strip():
                continue
            if draft.makes_text(element, place):
                stays = True
                continue
            look = {
                name.partition(" ")[0]: each
                for name, (each, _) in winners.items()
                if name.endswith(f" {place}") and not name.startswith(("content", "--"))
            }
            style = "; ".join(f"{name}: {each}" for name, each in look.items())
            typed = (
                f'<span style="{escape_attribute(style)}">{escape_text(text)}</span>' if style else escape_text(text)
            )
            yield Splice(Span(at, at), typed)
    for code, sheet in draft.subject.sheets if not stays else ():
        for rule in sheet.rules:
            for each in rule.declarations if _MAKES.search(rule.selectors) else ():
                span = code.at(each.span) if each.name == "content" else None
                if span is not None:  # else the text would be there twice, should the rule survive after all
                    end = span.end + draft.subject.source.text.startswith(";", span.end)
                    yield Splice(Span(span.start, end), "")
