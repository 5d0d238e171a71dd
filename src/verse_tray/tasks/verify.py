"""Holding what is stored and live against what was sent and predicted: of files, and of what was sent before."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from msgspec import Struct

from verse_tray.editors.load import load_editor
from verse_tray.exchange.addresses import is_address
from verse_tray.markup.addresses import host_of
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError, VerseTrayError
from verse_tray.model.phrasing import as_argument
from verse_tray.piece.piece import Piece
from verse_tray.tasks.files import read_piece, read_text
from verse_tray.tasks.sending_target import chosen, target_of
from verse_tray.trays.sent import FILE, Sent, load_memory
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
        _ask_hosts(verified)
    return verified


def _hold_page(verified: Verified, page: str) -> None:
    if not is_address(page):
        verified.hold_page(read_text(page))
        return
    from verse_tray.exchange.pages import page as ask

    answer = ask(page)
    verified.hold_page(answer.text if answer.status < 400 else "")
    if answer.status >= 400:
        verified.notes.append(f"{page} answers with {answer.status}: it is not published, or it was taken away.")


def _ask_hosts(verified: Verified) -> None:
    """Ask for the scripts from elsewhere that readers' browsers load."""
    from verse_tray.exchange.pages import answers

    for element in verified.journeys[-1].published.elements():
        address = element.attributes.get("src", "")
        if element.name != "script" or not is_address(address):
            continue
        why = answers(address)
        verified.notes.append(why or f"{host_of(address)} answers: the script {address} is there.")
        verified.silent_hosts += [address] if why else []


def remembered(name: str | None) -> tuple[Path, list[Sent]]:
    """Return the folder of a memory, and what it knows of a piece, or of all.

    Raises:
        InputError: nothing was sent.
    """
    if name is None:
        home, found = Path(), load_memory(Path()).sent
        what = "from this folder"
    else:
        piece = chosen(name)
        home = piece.home
        found = [each for each in load_memory(home).sent if each.piece == piece.name]
        what = f"of {name}"
    if not found:
        told = f"{home / FILE}: nothing {what} was sent anywhere. Name what to hold it against: --stored, --page"
        raise InputError(told)
    return home, found


def verify_sent(home: Path, sent: Sent, *, ask_hosts: bool = False) -> Verified:
    """Verify what was sent: what the site has stored, and what its page shows.

    Args:
        home: The folder of the memory.
        sent: What was sent.
        ask_hosts: Whether the hosts of scripts from elsewhere are asked.

    Raises:
        InputError, ExchangeError: the site, its token or its editor cannot be used.
    """
    from verse_tray.exchange import micropub
    from verse_tray.exchange.client import Client, ExchangeError
    from verse_tray.exchange.pages import page as ask

    name = f"{sent.piece}, sent {sent.now.date[:10]}"
    before = [Piece(Source(each.text, f"{sent.piece}, sent {each.date[:10]}")) for each in sent.before]
    verified = Verified(Piece(Source(sent.now.text, name)), load_editor(sent.editor), before)
    state = sent.state
    try:
        target = target_of(sent.to, home)
        with Client(target.sending.address, target.token()) as client:
            endpoint = micropub.discover(client, target.sending.address)
            there = micropub.source(client, endpoint, sent.address)
        if there is None:
            verified.hold_stored("")
            state = "deleted"
        else:
            state = there.state
            verified.hold_stored(there.content)
            if sent.stored is not None and there.content != sent.stored:
                verified.notes.append("Somebody has changed what is stored since it was sent.")
    except ExchangeError:
        raise
    except VerseTrayError as error:
        verified.notes.append(f"What is stored was not asked for: {error}")
    if state in ("published", "deleted"):
        answer = ask(sent.address)
        verified.hold_page(answer.text if answer.status < 400 else "")
    else:
        verified.notes.append(f"It is a {state}: readers get nothing of it.")
    if ask_hosts:
        _ask_hosts(verified)
    _tell_newer(verified, home, sent)
    return verified


def _tell_newer(verified: Verified, home: Path, sent: Sent) -> None:
    """Say so where the author's file is newer than what was sent."""
    from verse_tray.tasks.send import written_hash

    try:
        piece = chosen(str(home / sent.piece) if (home / sent.piece).is_file() else sent.piece).piece
    except VerseTrayError:
        return
    if written_hash(piece) != sent.written:
        again = f"verse-tray send {as_argument(sent.piece)} --to {as_argument(sent.to)}"
        verified.notes.append(f"{sent.piece} has changed since; the site has the version of before. Send it: {again}")


def all_sent(name: str | None, *, ask_hosts: bool = False) -> Iterator[Verified]:
    """Verify all that was sent, or all that was sent of one piece."""
    home, found = remembered(name)
    for each in found:
        yield verify_sent(home, each, ask_hosts=ask_hosts)
