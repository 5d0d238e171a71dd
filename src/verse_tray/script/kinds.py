"""Which scripts browsers run (HTML standard, 4.12.1.1, "prepare the script element")."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

JAVASCRIPT_TYPES = frozenset(
    (
        *("application/ecmascript", "application/javascript", "application/x-ecmascript", "application/x-javascript"),
        *("text/ecmascript", "text/javascript", "text/javascript1.0", "text/javascript1.1", "text/javascript1.2"),
        *("text/javascript1.3", "text/javascript1.4", "text/javascript1.5", "text/jscript", "text/livescript"),
        *("text/x-ecmascript", "text/x-javascript"),
    )
)
"""The types that mean a classic script (MIME Sniffing Standard, "JavaScript MIME type essence match")."""
_WHITE = " \t\n\v\f\r"  # with the vertical tab, which browsers take off as well


def script_kind(attributes: Mapping[str, str]) -> Literal["classic", "module", ""]:
    """Return what kind of script the attributes of a ``script`` element make it; empty for one that never runs."""
    kind = attributes.get("type")
    if kind is None:
        language = attributes.get("language", "")
        kind = f"text/{language}" if language else ""
    elif kind.lower() == "module":
        return "module"
    elif kind:
        kind = kind.strip(_WHITE) or "no type"
    return "classic" if not kind or kind.lower() in JAVASCRIPT_TYPES else ""
