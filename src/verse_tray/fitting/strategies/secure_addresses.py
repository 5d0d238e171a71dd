"""Addresses that go since they are not secure, by https:."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.model.patterns import lazy

NAME = "secure-addresses"
SENTENCE = "Addresses became https:, since the editor keeps no http: ones. See whether their hosts answer so."
_INSECURE = lazy(r"\s*http:(?=//)", re.IGNORECASE)
_ATTRIBUTES = ("src", "href", "poster", "srcset")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield each address by https: that the editor takes away as it is."""
    for element in draft.elements:
        kept = draft.kept(element)
        for name in _ATTRIBUTES:
            value = element.attributes.get(name, "")
            if _INSECURE.match(value) and (kept is None or name not in kept.attributes):
                yield from draft.with_attributes(element, **{name: _INSECURE.sub("https:", value, 1)})
