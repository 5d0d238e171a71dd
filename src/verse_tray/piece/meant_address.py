"""The address that an author meant, or why there is none: for every piece that is made, and every value that is set."""

from __future__ import annotations

import re
from functools import lru_cache

from msgspec import Struct

from verse_tray.markup.addresses import clean, host_of, scheme_of
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import nearest

HOST = lazy(  # of names that end like a country's, or a language's, only those of two parts and more in front
    r"\s*((?:www\.[a-z0-9-]+(?:\.[a-z0-9-]+)+|(?:[a-z0-9-]+\.){1,4}(?:com|org|net|edu|gov|example)"
    r"|(?:[a-z0-9-]+\.){2,4}(?:eu|uk|ca|au|de|fr|info))(?::\d+)?(?=[/?#]|\s*$))",
    re.IGNORECASE,
)
"""A host without a scheme at the beginning of a value; group 1 is the host."""
MAIL = lazy(r"\s*[\w.+-]+@(?:[a-z0-9-]+\.)+[a-z]{2,}\s*$", re.IGNORECASE)
"""A mail address."""
TWICE = lazy(r"\s*(?:(https?):/*)+(https?://)", re.IGNORECASE)
"""A scheme that stands twice; group 2 is the one that is meant."""
MISSPELT = lazy(r"\s*([a-z][a-z0-9+.-]{2,8}):", re.IGNORECASE)
"""A scheme, which may be misspelt."""
BROKEN = lazy(r"\s*(https?)(?:(:/)(?=[^/\s])|(//))", re.IGNORECASE)
"""A scheme whose signs are not all there."""
_PICTURE = lazy(r"data:image/[\w.+-]+[;,]", re.IGNORECASE)
_PHONE = lazy(r"\+?[\d\s()/.-]{5,}")


class Meant(Struct, frozen=True):
    """An address that can be written."""

    address: str
    """The address."""
    note: str
    """What was done to it; empty for nothing."""


def meant_address(typed: str, what: str, *, picture: bool = False) -> Meant:
    """Return the address that was meant.

    Args:
        typed: What the author gave.
        what: What it is for, such as ``--link``: begins the messages.
        picture: Whether it is that of a picture, which can be written into its address.

    Raises:
        InputError: it is empty, would run code, or no address can be made of it.
    """
    address = clean(typed.strip()).strip()
    if not address:
        raise InputError(f"{what}: an address is missing.")
    scheme = scheme_of(address)
    if scheme in ("javascript", "vbscript") or (scheme == "data" and not (picture and _PICTURE.match(address))):
        raise InputError(
            f"{what}: {address[:60]} would run code. Give an address that begins with https:// or mailto:."
        )
    if MAIL.match(address) and not picture:
        address = f"mailto:{address}"
    elif (found := HOST.match(address)) is not None and "." in found[1]:
        address = f"https://{address}"
    elif (twice := TWICE.match(address)) is not None:
        address = address[twice.start(2) :]
    elif (broken := BROKEN.match(address)) is not None:
        address = f"{broken[1].lower()}://{address[broken.end() :]}"
    elif (known := MISSPELT.match(address)) and (meant := meant_scheme(known[1].lower())):
        address = f"{meant}:{address[known.end() :]}"
    _hold(address, typed, what)
    if scheme_of(address) not in ("data", "mailto", "tel"):
        address = re.sub(r"\s", lambda blank: f"%{ord(blank[0]):02X}" if blank[0] < "\x7f" else "%20", address)
    shown = clean(typed.strip())
    return Meant(address, "" if address == shown else f"{what}: {shown[:60]} was written as {address[:80]}.")


def _hold(address: str, typed: str, what: str) -> None:
    """Refuse what browsers cannot go to."""
    scheme = scheme_of(address)
    if (scheme in ("http", "https", "ftp") or address.startswith("//")) and host_of(address) is None:
        raise InputError(
            f"{what}: {typed.strip()[:60]} has no host that browsers can look up. Look for a blank, or a sign too "
            "many, in it."
        )
    if scheme == "mailto" and re.search(r"\s", address.partition("?")[0]):
        raise InputError(f"{what}: there is a blank in the mail address {typed.strip()[:60]}. Take it out.")
    if scheme is None and re.search(r"\s", address) and not re.search(r"[./#?]", address):
        raise InputError(f"{what}: {typed.strip()[:60]} is no address. Give one that begins with https:// or mailto:.")


def meant_contact(typed: str) -> str | None:
    """Return where a contact leads: mail, telephone or a page; None for words such as opening hours."""
    contact = typed.strip()
    if MAIL.match(contact) or HOST.match(contact) or scheme_of(contact) in ("http", "https", "mailto", "tel"):
        return meant_address(contact, "--contact").address
    if _PHONE.fullmatch(contact) and (contact[0] == "+" or sum(map(str.isdigit, contact)) >= 7):
        return "tel:" + re.sub(r"[^\d+]", "", contact)
    if re.fullmatch(r"(?:[\w-]+\.)+[A-Za-z]{2,}(?:/\S*)?", contact):
        return meant_address(f"https://{contact}", "--contact").address
    return None


_KNOWN = frozenset(
    "http https mailto tel sms ftp ftps data blob file about javascript geo maps ws wss xmpp irc ircs magnet callto "
    "webcal feed market intent steam".split()
)


@lru_cache(maxsize=256)
def meant_scheme(scheme: str) -> str | None:
    """Return the scheme that a misspelt one was to be; None for one that may be right."""
    return None if scheme in _KNOWN else nearest(scheme, ("https", "http", "mailto"), 0.74)
