"""Headings that an editor does not keep, as paragraphs in bold."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice

NAME = "headings-as-words"
SENTENCE = "Headings that the editor does not keep became paragraphs in bold."
_HEADINGS = frozenset(("h1", "h2", "h3", "h4", "h5", "h6", "summary", "caption", "legend"))


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the tags of a bold paragraph in place of those of each heading that goes by itself."""
    for element in draft.elements:
        if element.name in _HEADINGS and draft.is_lost(element) and draft.inner(element) is not None:
            block, bold = draft.probe.first_kept("p", "div"), draft.probe.first_kept("strong", "b")
            start = "".join(f"<{name}>" for name in (block, bold) if name)
            yield from draft.with_tags(element, start, "".join(f"</{name}>" for name in (bold, block) if name))
