"""Holding what is stored and live against what was sent and predicted."""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct

from verse_tray.editors.load import load_editor
from verse_tray.exchange.addresses import is_address
from verse_tray.markup.addresses import host_of
from verse_tray.model.phrasing import as_argument
from verse_tray.tasks.files import read_page, read_piece, read_text
from verse_tray.verifying.verified import Verified


class VerifyRequest(Struct, frozen=True):
    """What is verified."""

    file: str
    """The piece that was sent."""
    editor: str
    """The editor that it was sent to."""
    stored: str | None = None
    """File with what is stored, or ``-``; None where that is not asked."""
    page: str | None = None
    """File with the live page, ``-``, or its address; None where that is not asked."""
    before: tuple[str, ...] = ()
    """Files with earlier versions, the latest first."""
    ask_hosts: bool = False
    """Whether the hosts of scripts from elsewhere are asked."""


def verify(request: VerifyRequest) -> Verified:
    """Verify a piece.

    Raises:
        InputError: something cannot be read.
        ExchangeError: the page cannot be asked for.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    piece = read_piece(request.file)
    verified = Verified(piece, load_editor(request.editor), [read_piece(each) for each in request.before])
    if request.stored is not None:
        held = verified.hold_stored(read_text(request.stored))
        folder = Path(request.editor)
        if held.state == "otherwise" and verified.editor.profile.learned is not None and folder.is_dir():
            pair = " ".join(map(as_argument, (request.file, request.stored)))
            verified.notes.append(f"Learn from it: verse-tray learn read {as_argument(request.editor)} --pair {pair}")
    if request.page is not None:
        _hold_page(verified, request.page)
    if request.ask_hosts:
        ask_hosts_of(verified)
    return verified


def _hold_page(verified: Verified, page: str) -> None:
    if not is_address(page):
        verified.hold_page(read_page(page))
        return
    from verse_tray.exchange.pages import page as ask

    answer = ask(page)
    verified.hold_page(answer.text if answer.status < 400 else "")
    if answer.status >= 400:
        verified.notes.append(f"{page} answers with {answer.status}: it is not published, or it was taken away.")


def ask_hosts_of(verified: Verified) -> None:
    """Ask for the scripts from elsewhere that readers' browsers load."""
    from verse_tray.exchange.pages import answers

    for element in verified.journeys[-1].published.elements():
        address = element.attributes.get("src", "")
        if element.name != "script" or not is_address(address):
            continue
        why = answers(address)
        verified.notes.append(why or f"{host_of(address)} answers: the script {address} is there.")
        verified.silent_hosts += [address] if why else []
