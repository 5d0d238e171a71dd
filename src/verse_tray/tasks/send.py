"""Sending a piece to a site: pictures first, then the piece, once; and remembering what stands where."""

from __future__ import annotations

import hashlib
import mimetypes
import re
import secrets
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct

from verse_tray.edit.hosted import Hosts, LocalPath, local_paths, replace_paths
from verse_tray.exchange import micropub
from verse_tray.exchange.client import Client, ExchangeError
from verse_tray.exchange.micropub import Endpoint, Stored
from verse_tray.fitting.fit import fit
from verse_tray.journeys.journey import journey
from verse_tray.markup.tree import whole_text
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import read_file
from verse_tray.model.moments import now
from verse_tray.model.phrasing import as_slug, counted, listed
from verse_tray.piece.pictures import local_file
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.tasks.outputs import write_whole
from verse_tray.tasks.sending_target import Chosen, Target, chosen, target_of
from verse_tray.trays.memory import encoded
from verse_tray.trays.sent import FILE, Memory, Pending, Sent, Version, load_memory
from verse_tray.verifying.outcome import Outcome
from verse_tray.verifying.verified import Held, Verified

_SIDE_BY_SIDE = 6
_LARGEST = 20_000_000  # bytes of a file that is uploaded


class SendRequest(Struct, frozen=True):
    """What is sent where."""

    piece: str
    """A file, or the name of a piece in the tray of this folder."""
    to: str
    """The site: a name of the tray's, or a site's name, folder or file."""
    state: str | None = None
    """``published`` or ``draft``; None for a draft, and for what it is where it stands there already."""
    title: str | None = None
    """Its title; None for its first heading."""
    as_written: bool = False
    """Whether it is sent without being fitted."""
    anyway: bool = False
    """Whether it is sent although something speaks against it."""


class Refusal(InputError):
    """Something speaks against sending it: it would take something away from somebody, or be there twice."""


class Sender:
    """A piece on its way to a site."""

    def __init__(self, request: SendRequest, told: Callable[[str], None]) -> None:
        """Read everything.

        Args:
            request: What is sent where.
            told: Is given what is done, a sentence each.

        Raises:
            InputError, SettingsError, UnknownSiteError, UnknownEditorError: something cannot be used.
        """
        self._request = request
        self._told = told
        self.chosen: Chosen = chosen(request.piece)
        self.target: Target = target_of(request.to, self.chosen.home)
        self._editor = self.target.editor
        self.memory: Memory = load_memory(self.chosen.home)

    def save(self) -> None:
        """Write down what is remembered."""
        write_whole(self.chosen.home / FILE, encoded(self.memory), again=True)

    @property
    def paths(self) -> list[LocalPath]:
        """The local paths of the piece that stand for files."""
        return [each for each in local_paths(self.chosen.piece, self.chosen.pictures) if not each.in_script]

    def text_of(self, addresses: dict[str, str]) -> str:
        """Return the text that is sent: hosted addresses in it, fitted.

        Raises:
            InputError: it takes several pastes, or its editor refuses it.
        """
        source = self.chosen.piece.source
        if addresses:
            source = source.edited(replace_paths(self.chosen.piece, Hosts(addresses), "markup").text)
        piece = Piece(source)
        if self._request.as_written:
            text = source.text
        else:
            fitted = fit(piece, self._editor)
            if len(fitted.texts) > 1:
                raise InputError(
                    f"{source.name}: it takes {len(fitted.texts)} pastes in {self._editor.name}, and a post is one. "
                    "Part it, and send the parts."
                )
            (text,) = fitted.texts
            if text != source.text:
                self._told(f"Fitted to {self._editor.name}: {fitted.before.journey.verdict} → {fitted.verdict}.")
        if journey(text, self._editor, reopened=0).refused:
            raise InputError(
                f"{source.name}: {self._editor.name} refuses it: it is over a limit. See: verse-tray check"
            )
        return text

    def properties(self, text: str, slug: str) -> dict[str, list[Any]]:
        """Return the properties of a new post."""
        state = self._request.state or "draft"
        found: dict[str, list[Any]] = {"name": [self.title], "content": [{"html": text}], "post-status": [state]}
        if self.target.sending.channel:
            found["mp-channel"] = [self.target.sending.channel]
        return {**found, "mp-slug": [slug]}

    @property
    def title(self) -> str:
        """The title of the post: the one that was asked for, the first heading, or the piece's name."""
        if self._request.title is not None:
            return self._request.title
        for element in self.chosen.piece.parsed.tree.elements():
            if re.fullmatch("h[1-6]", element.name) and (words := " ".join(whole_text(element).split())[:200]):
                return words
        return Path(self.chosen.name).stem.replace("-", " ")

    def requests(self) -> Iterator[tuple[str, str]]:
        """Yield the requests that sending it would take, as far as they are known beforehand: what, and what for."""
        address = self.target.sending.address
        yield f"GET {address}", "to find its Micropub endpoint"
        yield "GET (its endpoint)?q=config", "with the token"
        for path in dict.fromkeys(each.path for each in self.paths if each.found):
            yield "POST (its media endpoint)", f"the file {path}, unless it is there already"
        known = self.memory.of(self.chosen.name, self.target.name)
        text = self.text_of({})
        body: dict[str, Any] = {"type": ["h-entry"], "properties": self.properties(text, "(a name of its own)")}
        if known is not None:
            asked = f"GET (its endpoint)?q=source&url={known.address}"
            yield asked, "to see that nobody has changed it"
            body = {"action": "update", "url": known.address, "replace": {"content": [{"html": text}]}}
        yield "POST (its endpoint)", msgspec.json.format(msgspec.json.encode(body), indent=2).decode()

    def send(self) -> Outcome:
        """Send it, and remember what stands there then.

        Raises:
            Refusal: it would take something away from somebody, or might be there twice.
            ExchangeError: the site does not take it.
            InputError: something of the piece cannot be used.
        """
        name, to = self.chosen.name, self.target.name
        self._see_files()
        with Client(self.target.sending.address, self.target.token()) as client:
            endpoint = micropub.discover(client, self.target.sending.address)
            self._look_for_pending(client, endpoint)
            known = self.memory.of(name, to)
            text = self.text_of(self._uploaded(client, endpoint))
            if known is None:
                return self._create(client, endpoint, text)
            return self._update(client, endpoint, known, text)

    def _see_files(self) -> None:
        missing = sorted({each.path for each in self.paths if not each.found})
        if missing and not self._request.anyway:
            raise Refusal(
                f"{self.chosen.piece.source.name}: there is no file {listed(missing)}, so readers would see nothing "
                "there. Mend the path, or send it all the same: --anyway"
            )

    def _uploaded(self, client: Client, endpoint: Endpoint) -> dict[str, str]:
        """Upload the files that the piece names, those that are not there yet; return their addresses by path."""
        subject = Subject(self.chosen.piece, folder=self.chosen.pictures)
        files = {each.path: local_file(subject, each.path) for each in self.paths if each.found}
        if not files:
            return {}
        known = self.memory.hosted.setdefault(self.target.name, {})
        data = {path: read_file(str(file), _LARGEST + 1) for path, file in files.items() if file is not None}
        hashes = {path: hashlib.sha256(each).hexdigest() for path, each in data.items()}
        new = {hashes[path]: path for path in data if hashes[path] not in known}
        if too_large := sorted(path for path in new.values() if len(data[path]) > _LARGEST):
            raise InputError(f"{too_large[0]}: it is larger than {_LARGEST // 1_000_000} MB, and is not uploaded.")
        if new and not endpoint.media:
            raise InputError(
                f"{self.target.sending.address}: this site takes no files (it names no media endpoint). Host them "
                "elsewhere, and put their addresses in place with: verse-tray pictures --hosted"
            )

        def upload(path: str) -> str:
            kind = mimetypes.guess_type(path)[0] or "application/octet-stream"
            return micropub.upload(client, endpoint, Path(path).name, data[path], kind)

        with ThreadPoolExecutor(_SIDE_BY_SIDE) as pool:
            going = {each: pool.submit(upload, path) for each, path in new.items()}
            failed: list[ExchangeError] = []
            for each, future in going.items():
                try:
                    known[each] = future.result()
                except ExchangeError as error:
                    failed.append(error)
        if new:
            self.save()  # those that arrived are never uploaded again
            self._told(f"Uploaded {counted(len(new) - len(failed), 'file')}.")
        if failed:
            raise failed[0]
        return {path: known[each] for path, each in hashes.items()}

    def _create(self, client: Client, endpoint: Endpoint, text: str) -> Outcome:
        slug = f"{as_slug(self.title, 'piece')}-{secrets.token_hex(3)}"
        version = Version(text, now())
        pending = Pending(self.chosen.name, self.target.name, slug, version, self._written)
        self.memory.pending.append(pending)
        self.save()  # before it is sent: should nobody answer, the next run looks for it
        try:
            address = micropub.create(client, endpoint, self.properties(text, slug))
        except ExchangeError as error:
            if not error.may_have_arrived:
                self.memory.pending.remove(pending)
                self.save()
                raise
            found = self._found(client, endpoint, pending)
            if found is None:
                raise ExchangeError(
                    f"{error} It is not known whether it arrived. Run the same command again: it looks for it first, "
                    "and sends nothing twice."
                ) from None
            address = found
            self._told("The answer was lost, but the piece has arrived.")
        return self._remember(client, endpoint, pending, address, "created")

    def _look_for_pending(self, client: Client, endpoint: Endpoint) -> None:
        """Look for what an earlier run may have sent.

        Raises:
            Refusal: the site does not say whether it is there.
        """
        pending = self.memory.waiting(self.chosen.name, self.target.name)
        if pending is None:
            return
        listed_posts = micropub.listing(client, endpoint)
        if listed_posts is None and not self._request.anyway:
            raise Refusal(
                "An earlier run may have sent this piece, and the site does not say what it has. Look there: if it "
                "is not there, send it with --anyway"
            )
        found = _same(listed_posts or [], pending, self._predicted(pending.version.text))
        if found:
            self._told("It had arrived when it was sent before.")
            self._remember(client, endpoint, pending, found, "created")
        else:
            self.memory.pending.remove(pending)

    def _found(self, client: Client, endpoint: Endpoint, pending: Pending) -> str | None:
        try:
            posts = micropub.listing(client, endpoint)
        except ExchangeError:
            return None
        return _same(posts or [], pending, self._predicted(pending.version.text)) or None

    def _predicted(self, text: str) -> str:
        return journey(text, self._editor, reopened=0).stage("save").markup

    def _update(self, client: Client, endpoint: Endpoint, known: Sent, text: str) -> Outcome:
        there = micropub.source(client, endpoint, known.address)
        if there is None:
            if not self._request.anyway:
                raise Refusal(
                    f"{known.address}: it was sent there on {known.now.date[:10]}, and it is not there any more. "
                    "Send it anew: --anyway"
                )
            self.memory.sent.remove(known)
            return self._create(client, endpoint, text)
        self._adopt_meant(known, there)
        if known.stored is not None and there.content != known.stored and not self._request.anyway:
            raise Refusal(
                f"{known.address}: somebody has changed it since it was sent on {known.now.date[:10]}; sending would "
                "take that away. See what is there: verse-tray verify. Send all the same: --anyway"
            )
        state = self._request.state or there.state
        if there.content == known.stored and text == known.now.text and state == there.state:
            held = self._held(known.now.text, there)
            return Outcome(known, held, "unchanged")
        replace: dict[str, list[Any]] = {"content": [{"html": text}]}
        if state != there.state:
            replace["post-status"] = [state]
        if self._request.title is not None:
            replace["name"] = [self._request.title]
        known.meant = Version(text, now())
        self.save()  # before it is sent: should nobody answer, the next run knows it for ours
        known.address = micropub.update(client, endpoint, known.address, replace)
        known.follow(known.meant)
        known.written, known.editor = self._written, self.target.editor_from(self.chosen.home)
        known.state, known.stored = state, None
        self.save()
        return self._looked_at(client, endpoint, known, "updated")

    def _adopt_meant(self, known: Sent, there: Stored) -> None:
        """Take what an earlier run has sent, and never heard of again, for what stands there, if it does."""
        if known.meant is not None and there.content in (known.meant.text, self._predicted(known.meant.text)):
            known.follow(known.meant)
            known.stored = there.content
            self.save()

    def _remember(self, client: Client, endpoint: Endpoint, pending: Pending, address: str, done: str) -> Outcome:
        state = self._request.state or "draft"
        editor = self.target.editor_from(self.chosen.home)
        sent = Sent(pending.piece, pending.to, editor, address, state, pending.version, pending.written)
        self.memory.pending.remove(pending)
        self.memory.sent.append(sent)
        self.save()
        return self._looked_at(client, endpoint, sent, done)

    def _looked_at(self, client: Client, endpoint: Endpoint, sent: Sent, done: str) -> Outcome:
        """Ask what is stored now, and remember it."""
        try:
            there = micropub.source(client, endpoint, sent.address)
        except ExchangeError as error:
            self._told(f"What is stored is not known: {error}")
            return Outcome(sent, None, done)
        if there is None:
            self._told("The site does not say what it has stored.")
            return Outcome(sent, None, done)
        sent.stored, sent.state = there.content, there.state
        self.save()
        return Outcome(sent, self._held(sent.now.text, there), done)

    def _held(self, text: str, there: Stored) -> Held:
        return Verified(Piece(Source(text)), self._editor).hold_stored(there.content)

    @property
    def _written(self) -> str:
        return written_hash(self.chosen.piece)


def written_hash(piece: Piece) -> str:
    """Return the hash of an author's text."""
    return hashlib.sha256(piece.source.text.encode("utf-8", "surrogatepass")).hexdigest()[:32]


def _same(posts: list[tuple[str, Stored]], pending: Pending, predicted: str) -> str:
    """Return the address of the post that a pending one is; empty for none."""
    for url, _ in posts:
        if url.rstrip("/").rpartition("/")[2].startswith(pending.slug):
            return url
    contents = (pending.version.text, predicted)
    return next((url for url, post in posts if post.content in contents and _is_later(post, pending)), "")


def _is_later(post: Stored, pending: Pending) -> bool:
    """Tell whether a post was not made before something was sent; clocks may differ by some minutes."""
    published = str((post.properties.get("published") or [""])[0])
    try:
        made = datetime.fromisoformat(published)
        asked = datetime.fromisoformat(pending.version.date)
        return (made if made.tzinfo else made.replace(tzinfo=UTC)).timestamp() > asked.timestamp() - 300
    except ValueError:
        return True
