"""Requests to other machines, bounded in size, time and redirects. HTTP as RFC 9110 has it."""

from __future__ import annotations

import ssl
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from types import TracebackType
from typing import Any
from urllib.parse import urlencode, urljoin, urlsplit, urlunsplit

import httpx
from msgspec import Struct

from verse_tray.exchange.tokens import Token
from verse_tray.model.decoding import page_text
from verse_tray.model.errors import VerseTrayError

MOST_BYTES = 16_000_000
"""Of an answer."""
LONGEST = 60.0
"""Seconds that one request may take, redirects apart."""
SILENCE = 20.0
"""Seconds without a sign of life."""
MOST_REDIRECTS = 5
_TRIES = 3  # of what may be asked again
_OWN_MACHINE = frozenset(("127.0.0.1", "localhost", "::1"))
_AGENT = "verse-tray"


class ExchangeError(VerseTrayError):
    """A request that failed."""

    def __init__(self, message: str, *, may_have_arrived: bool = False) -> None:
        super().__init__(message)
        self.may_have_arrived = may_have_arrived
        """Whether the other side may have done what was asked."""


class Answer(Struct, frozen=True):
    """What came back."""

    status: int
    """Status code."""
    url: str
    """The address that answered, after redirects."""
    headers: dict[str, str]
    """Headers, names in lower case."""
    links: tuple[str, ...]
    """Headers ``Link``, each as it came."""
    body: bytes
    """The body, decompressed."""

    @property
    def kind(self) -> str:
        """Media type, in lower case, without parameters."""
        return self.headers.get("content-type", "").split(";")[0].strip().lower()

    @property
    def text(self) -> str:
        """The body as text, decoded as browsers do."""
        parts = self.headers.get("content-type", "").split(";")[1:]
        named = [part.partition("=")[2].strip().strip("\"'") for part in parts if "charset" in part.lower()]
        return page_text(self.body, named[0] if named else "")


class Client:
    """Something that asks other machines. The token goes to the origin that it was given for, and nowhere else."""

    def __init__(self, origin: str = "", token: Token | None = None, *, longest: float = LONGEST) -> None:
        """Take the address whose origin the token is for, and the token."""
        self._origins = {origin_of(origin)} if origin else set()
        self._token = token
        self._longest = longest
        self._silence = min(SILENCE, longest)
        self._clients: dict[tuple[bool, bool], httpx.Client] = {}

    def __enter__(self) -> Client:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        for each in self._clients.values():
            each.close()

    def also_for(self, address: str) -> None:
        """Say that an endpoint, which the site itself named, gets the token too.

        Raises:
            ExchangeError: the address is no secure one.
        """
        checked(address)
        self._origins.add(origin_of(address))

    def get(self, url: str, *, accept: str = "*/*", query: Mapping[str, str] | None = None) -> Answer:
        """Ask for something; again, where nothing came of it, for it changes nothing.

        Raises:
            ExchangeError: it could not be asked, or the answer is none.
        """
        for left in range(_TRIES - 1, -1, -1):
            try:
                answer = self._follow("GET", with_query(url, query or {}), {"accept": accept})
                if answer.status not in (502, 503, 504) or not left:
                    return answer
            except ExchangeError:
                if not left:
                    raise
            time.sleep(0.2 * (_TRIES - left))
        raise AssertionError("the last try returns or raises")

    def post_json(self, url: str, data: Any) -> Answer:
        """Send JSON, once.

        Raises:
            ExchangeError: it could not be sent; it says whether it may have arrived all the same.
        """
        return self._follow("POST", url, {"accept": "application/json"}, json=data)

    def post_file(self, url: str, name: str, data: bytes, kind: str) -> Answer:
        """Send a file as the part ``file`` of a form, once.

        Raises:
            ExchangeError: see :meth:`post_json`.
        """
        return self._follow("POST", url, {"accept": "application/json"}, files={"file": (name, data, kind)})

    def _follow(self, method: str, url: str, headers: dict[str, str], **content: Any) -> Answer:
        begun = url
        for _ in range(MOST_REDIRECTS + 1):
            checked(url)
            answer = self._ask(method, url, headers, **content)
            target = answer.headers.get("location", "")
            if answer.status not in (301, 302, 303, 307, 308) or not target:
                return answer
            new = joined(url, target)
            if method != "GET" and (origin_of(new) != origin_of(url) or answer.status not in (307, 308)):
                raise ExchangeError(
                    f"{url} leads on to {new}. Nothing is sent there, and nothing was done here. If it is right, give "
                    "that address as the site's."
                )
            url = new
        raise ExchangeError(f"{begun} leads on and on, more than {MOST_REDIRECTS} times.")

    def _ask(self, method: str, url: str, headers: dict[str, str], **content: Any) -> Answer:
        own = {**headers, "user-agent": _AGENT}
        if self._token is not None and origin_of(url) in self._origins:
            own["authorization"] = self._token.header
        until = time.monotonic() + self._longest
        asked = self._client(url).stream(method, url, headers=own, **content)
        with _told(method, url, self._silence), asked as response:
            body = bytearray()
            for part in response.iter_bytes():
                body += part
                if len(body) > MOST_BYTES:
                    raise ExchangeError(f"{url}: the answer is larger than {MOST_BYTES // 1_000_000} MB.")
                if time.monotonic() > until:
                    raise ExchangeError(
                        f"{method} {url}: the answer takes longer than {self._longest:.0f} s.", may_have_arrived=True
                    )
            found = {name.lower(): value for name, value in response.headers.items()}
            links = tuple(response.headers.get_list("link"))
            return Answer(response.status_code, url, found, links, bytes(body))

    def _client(self, url: str) -> httpx.Client:
        parts = urlsplit(url)
        near, in_clear = (parts.hostname or "") in _OWN_MACHINE, parts.scheme == "http"
        if (near, in_clear) not in self._clients:
            self._clients[near, in_clear] = httpx.Client(
                timeout=httpx.Timeout(self._silence),
                follow_redirects=False,
                trust_env=not near,  # what the environment says of proxies is for other machines
                # loading the authorities takes longer than asking this machine; one that knows none trusts nobody
                verify=ssl.SSLContext(ssl.PROTOCOL_TLS_CLIENT) if near and in_clear else True,
            )
        return self._clients[near, in_clear]


def with_query(address: str, query: Mapping[str, str]) -> str:
    """Return an address with more parameters; those that it has stay."""
    parts = urlsplit(address)
    asked = "&".join(filter(None, (parts.query, urlencode(query))))
    return urlunsplit(parts._replace(query=asked, fragment=""))


def joined(base: str, target: str) -> str:
    """Return the address that a relative one stands for.

    Raises:
        ExchangeError: it is none.
    """
    try:
        return urljoin(base, target)
    except ValueError:
        raise ExchangeError(f"{base}: it names {target[:200]!r}, which is no address.", may_have_arrived=True) from None


def origin_of(address: str) -> str:
    """Return scheme, host and port of an address (RFC 6454)."""
    try:
        parts = urlsplit(address)
        port = parts.port or {"https": 443, "http": 80}.get(parts.scheme, 0)
    except ValueError:
        return ""
    return f"{parts.scheme.lower()}://{(parts.hostname or '').lower()}:{port}"


def checked(address: str) -> None:
    """See that an address may be asked: ``https:``, or ``http:`` on this machine.

    Raises:
        ExchangeError: it may not.
    """
    try:
        parts = urlsplit(address)
        host = parts.hostname or ""
        _ = parts.port
    except ValueError:
        raise ExchangeError(f"{address}: this is no address. Give one that begins with https://") from None
    if not host or parts.scheme.lower() not in ("https", "http"):
        raise ExchangeError(f"{address}: this is no address of a page. Give one that begins with https://")
    if parts.scheme.lower() == "http" and host not in _OWN_MACHINE:
        raise ExchangeError(f"{address}: http: can be read on the way, so nothing is asked by it. Use https:")
    if parts.username or parts.password:
        raise ExchangeError(f"{host}: an address with a name and a password in it is not asked. Leave them out.")


@contextmanager
def _told(method: str, url: str, silence: float) -> Iterator[None]:
    """Turn what can go wrong on the way into a message; it never holds a header."""
    what = f"{method} {url}"
    try:
        yield
    except httpx.ConnectTimeout:
        raise ExchangeError(f"{what}: nobody answers there. Check the address, or whether the site is up.") from None
    except httpx.ConnectError as error:
        raise ExchangeError(f"{what}: {_why(error)}") from None
    except httpx.TimeoutException:
        told = f"{what}: no answer within {silence:g} s."
        raise ExchangeError(told, may_have_arrived=True) from None
    except httpx.ProxyError as error:
        raise ExchangeError(f"{what}: the proxy refuses: {error}") from None
    except (httpx.InvalidURL, httpx.UnsupportedProtocol):
        raise ExchangeError(f"{url}: this is no address of a page.") from None
    except httpx.DecodingError:
        raise ExchangeError(f"{what}: the answer cannot be unpacked.", may_have_arrived=True) from None
    except httpx.HTTPError as error:
        told = f"{what}: the connection broke off ({type(error).__name__})."
        raise ExchangeError(told, may_have_arrived=True) from None


def _why(error: BaseException) -> str:
    found: BaseException | None = error
    while found is not None:
        if isinstance(found, ssl.SSLError):
            return (
                f"its certificate is not to be trusted ({found.reason or found}). Nothing was sent. Look at the "
                "address and at the date of this machine; a certificate of your own goes into SSL_CERT_FILE."
            )
        found = found.__cause__ or found.__context__
    return f"nobody answers there ({error}). Check the address, or whether the site is up."
