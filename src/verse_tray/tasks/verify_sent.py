"""Verifying what was sent: the site is asked for what it has stored, and its page for what readers get."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from verse_tray.editors.load import load_editor
from verse_tray.exchange import micropub
from verse_tray.exchange.client import Client, ExchangeError
from verse_tray.exchange.pages import page as ask
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError, VerseTrayError
from verse_tray.model.phrasing import as_argument
from verse_tray.piece.piece import Piece
from verse_tray.tasks.send import written_hash
from verse_tray.tasks.sending_target import chosen, target_of, within
from verse_tray.tasks.verify import ask_hosts_of
from verse_tray.trays.sent import FILE, Sent, load_memory
from verse_tray.verifying.verified import Verified


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
    name = f"{sent.piece}, sent {sent.now.date[:10]}"
    before = [Piece(Source(each.text, f"{sent.piece}, sent {each.date[:10]}")) for each in sent.before]
    verified = Verified(Piece(Source(sent.now.text, name)), load_editor(within(sent.editor, home)), before)
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
        ask_hosts_of(verified)
    _tell_newer(verified, home, sent)
    return verified


def _tell_newer(verified: Verified, home: Path, sent: Sent) -> None:
    """Say so where the author's file is newer than what was sent."""
    try:
        piece = chosen(str(home / sent.piece) if (home / sent.piece).is_file() else sent.piece).piece
    except VerseTrayError:
        return
    if written_hash(piece) != sent.written:
        again = f"verse-tray send {as_argument(sent.piece)} --to {as_argument(sent.to)}"
        verified.notes.append(f"{sent.piece} has changed since; the site has the version of before. Send it: {again}")


def all_sent(name: str | None, *, ask_hosts: bool = False) -> Iterator[Verified]:
    """Verify all that was sent, or all of one piece; what cannot be asked is told, and the rest goes on."""
    home, found = remembered(name)
    for each in found:
        try:
            yield verify_sent(home, each, ask_hosts=ask_hosts)
        except VerseTrayError as error:
            if len(found) == 1:
                raise
            unasked = Verified(Piece(Source(each.now.text, each.piece)), load_editor(within(each.editor, home)))
            unasked.is_unasked = True
            unasked.notes.append(str(error))
            yield unasked
