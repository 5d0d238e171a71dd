"""Addresses as browsers read them (URL standard, basic URL parser), as far as scheme and host go."""

from __future__ import annotations

import re
from functools import lru_cache
from urllib.parse import quote

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


_SPECIAL = frozenset(("http", "https", "ws", "wss", "ftp"))
_AUTHORITY = lazy(r"[^/\\?#]*")
_PLAIN_AUTHORITY = lazy(r"[^/?#]*")
_PORT = lazy(r"[0-9]{0,5}")
_FORBIDDEN = lazy(r"[\x00-\x20#/:<>?@\[\\\]^|%\x7f]")
_NUMBER = lazy(r"(?:0[xX][0-9A-Fa-f]*|[0-9]+)")


@lru_cache(maxsize=2048)
def host_of(address: str) -> str | None:
    """Return the host in lower case; None for an address without one, or one that browsers cannot read.

    As the URL standard's basic URL parser does on a page of ``https:``; held against a browser by a test.
    """
    text = clean(address)
    match = _SCHEME.match(text)
    scheme, rest = (match[1].lower(), text[match.end() :]) if match else ("https", text)
    if scheme not in _SPECIAL:  # a host without a meaning: only encoded
        return _encoded(_host(_PLAIN_AUTHORITY, rest[2:]) or "") or None if rest.startswith("//") else None
    bare = rest.lstrip("/\\")
    if scheme == "https" and len(rest) - len(bare) < 2:  # the page's own scheme: a path, not a host
        return None
    host = _host(_AUTHORITY, bare)
    return host if not host or host[0] == "[" else _domain(host)


def _host(until: re.Pattern[str], text: str) -> str | None:
    found = until.match(text)
    authority = found[0].rpartition("@")[2] if found else ""
    host, bracket, after = authority.partition("]") if authority[:1] == "[" else ("", "", authority)
    name, _, port = after.partition(":")
    if (host and not bracket) or not _PORT.fullmatch(port) or int(port or 0) > 65535:
        return None
    return (host + bracket + name).lower() or None


def _encoded(host: str) -> str:
    from urllib.parse import quote  # few need it

    return host if host.isascii() else "".join(sign if sign.isascii() else quote(sign) for sign in host)


def _domain(host: str) -> str | None:
    """Return a host of a special scheme as it is looked up (URL standard, "host parsing"); None for one that fails."""
    from urllib.parse import unquote  # few need it

    name = unquote(host) if "%" in host else host
    if not name.isascii():
        try:
            name = name.encode("idna").decode("ascii")
        except UnicodeError:
            return None
    name = name.lower()
    if not name or _FORBIDDEN.search(name):
        return None
    last = name.removesuffix(".").rpartition(".")[2]
    return _ipv4(name.removesuffix(".")) if _NUMBER.fullmatch(last) else name


def _ipv4(name: str) -> str | None:
    """Return an address of numbers in its usual form (URL standard, "IPv4 parser"); None for one that fails."""
    numbers: list[int] = []
    for part in name.split("."):
        if not _NUMBER.fullmatch(part):
            return None
        base = 16 if part[:2] in ("0x", "0X") else 8 if len(part) > 1 and part[0] == "0" else 10
        try:
            numbers.append(int(part[2:] or "0", 16) if base == 16 else int(part, base))
        except ValueError:
            return None
    *front, last = numbers
    if len(numbers) > 4 or any(number > 255 for number in front) or last >= 256 ** (5 - len(numbers)):
        return None
    value = last + sum(number * 256 ** (3 - place) for place, number in enumerate(front))
    return ".".join(str(value >> shift & 255) for shift in (24, 16, 8, 0))


def srcset_addresses(value: str) -> list[str]:
    """Return the addresses of a ``srcset`` (HTML standard, "parse a srcset attribute"), descriptors left out."""
    found: list[str] = []
    for match in re.finditer(r"[\s,]*(\S+)", value):
        address = match[1]
        if found and not value[: match.start()].rstrip().endswith(",") and re.fullmatch(r"[\d.]+[wxh],?", address):
            continue
        found.append(address.rstrip(","))
    return found


def is_same_address(before: str, now: str) -> bool:
    """Tell whether an address still leads to where it led: it may be secure now, absolute, or behind a gate."""
    if before == now:
        return True
    if len(now) > len(before) and "%3A" in now and host_of(before) is not None:
        return now.endswith(quote(clean(before), safe=""))
    if scheme_of(before) is None and scheme_of(now) in ("http", "https"):
        return bool(before.lstrip("./")) and now.endswith(before.lstrip("./"))
    return scheme_of(before) == "http" and now == "https" + clean(before)[4:]
