"""Addresses as browsers read them (URL standard, basic URL parser), as far as scheme and host go."""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.model.patterns import lazy

ADDRESS_ATTRIBUTES = frozenset(
    "action background cite data formaction href longdesc manifest ping poster src srcset usemap xlink:href".split()
)
"""Attributes whose value is an address (HTML standard, "Attributes" index; SVG 2)."""
_FOLLOWED = frozenset(
    [("html", name, "href") for name in ("a", "area", "base")]
    + [("html", name, "formaction") for name in ("button", "input")]
    + [("html", "form", "action"), ("svg", "a", "href"), ("svg", "a", "xlink:href")]
)

_SCHEME = lazy(r"([A-Za-z][A-Za-z0-9+.\-]*):")
_DISGUISE = str.maketrans("", "", "\t\n\r")
_CONTROLS = "".join(map(chr, range(0x21)))


def is_followed(namespace: str, element: str, attribute: str) -> bool:
    """Tell whether a click or a submit follows an address (HTML Sanitizer API, navigating URL attributes)."""
    return (namespace, element, attribute) in _FOLLOWED or (namespace == "mathml" and attribute.endswith("href"))


def clean(address: str) -> str:
    """Take away what the URL parser takes away: controls and spaces around, tabs and line ends anywhere."""
    if address.isprintable() and address[:1] != " ":
        return address.rstrip(" ")
    return address.strip(_CONTROLS).translate(_DISGUISE)


@lru_cache(maxsize=2048)
def scheme_of(address: str) -> str | None:
    """Return the scheme in lower case, or None for a relative address."""
    match = _SCHEME.match(clean(address))
    return match[1].lower() if match else None


def host_of(address: str) -> str | None:
    """Return the host in lower case; None for an address without one, or one that cannot be read."""
    from urllib.parse import urlsplit  # rarely needed, and slow to load

    try:
        return urlsplit(clean(address).replace("\\", "/")).hostname
    except ValueError:
        return None


def srcset_addresses(value: str) -> list[str]:
    """Return the addresses of a ``srcset`` (HTML standard, "parse a srcset attribute"), descriptors left out."""
    found: list[str] = []
    for match in re.finditer(r"[\s,]*(\S+)", value):
        address = match[1]
        if found and not value[: match.start()].rstrip().endswith(",") and re.fullmatch(r"[\d.]+[wxh],?", address):
            continue
        found.append(address.rstrip(","))
    return found
