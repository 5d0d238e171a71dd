"""Pages and hosts, asked as readers ask them: without a token."""

from __future__ import annotations

from verse_tray.exchange.client import Answer, Client, ExchangeError

_KINDS = ("text/html", "application/xhtml+xml")


def page(address: str) -> Answer:
    """Return a page.

    Raises:
        ExchangeError: it could not be asked, or what comes is no HTML.
    """
    with Client() as client:
        answer = client.get(address, accept="text/html")
    if answer.status < 400 and answer.kind not in _KINDS:
        kind = answer.kind or "no type"
        raise ExchangeError(f"{address}: this is no page: {kind} came, and text/html was expected.")
    if answer.status >= 400 and answer.status not in (404, 410):
        raise ExchangeError(f"{address}: the site answers with {answer.status}; a page was expected. Try again later.")
    return answer


def answers(address: str) -> str:
    """Ask whether something is there; return why not, or nothing where it is."""
    try:
        with Client(longest=20) as client:
            answer = client.get(address)
    except ExchangeError as error:
        return str(error)
    return "" if answer.status < 400 else f"{address} answers with {answer.status}."
