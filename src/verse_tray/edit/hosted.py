"""Local paths in a piece, and the hosted addresses that take their place."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Literal
from urllib.parse import unquote

from msgspec import Struct

from verse_tray.edit.values import quote_of
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.media.picture_size import Measured, Unreadable, measure_file
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import listed
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context, Quoted
from verse_tray.piece.encoding import encoded
from verse_tray.piece.pictures import is_local, local_file
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.style.tokens import style_addresses
from verse_tray.tabular.records import Records

_FILE_NAME = lazy(
    r"(['\"])([^'\"\n<>{}]{1,300}\.(?:png|jpe?g|gif|webp|svg|avif|mp4|webm|mp3|pdf|woff2?))\1", re.IGNORECASE
)
_MACHINE = lazy(r"file:|[A-Za-z]:|[/\\]", re.IGNORECASE)
_DEEPEST = 16  # parts of a path that are looked at
_SRCSET_PART = lazy(r"[^\s,]\S*[^\s,]|[^\s,]")


Language = Literal["markup", "style", "script"]


class LocalPath(Struct, frozen=True):
    """A path in a piece."""

    path: str
    """The path as typed, references resolved."""
    span: Span
    """Its place in the file."""
    place: Quoted
    """What it stands in."""
    file: Measured | Unreadable | None
    """What is known of the file; None where it is not there, or no picture."""
    found: bool
    """Whether there is such a file."""

    @property
    def in_script(self) -> bool:
        """Whether it stands in a script."""
        return self.place.context is Context.SCRIPT


def local_paths(
    piece: Piece, folder: Path | None, language: Language = "markup", *, seek: bool = False
) -> list[LocalPath]:
    """Return the local paths of a piece, by place; in scripts those that stand in plain strings and end like a file.

    Args:
        piece: The piece, or a style sheet or a script of its own.
        folder: Where its paths begin; None where files do not matter.
        language: What it is written in.
        seek: Whether paths of another machine are looked for in the folder by their last parts.
    """
    text = piece.source.text
    if language == "style":
        subject = Subject(Piece(Source("")), folder=folder)
        rows = [(address, span, Quoted(Context.STYLE_ADDRESS, None)) for address, span, _ in style_addresses(text)]
        rows = [row for row in rows if is_local(row[0])]
    elif language == "script":
        subject = Subject(Piece(Source("")), folder=folder)
        rows = list(_in_script(text))
    else:
        subject = Subject(piece, folder=folder)
        rows = [*_in_attributes(subject), *_in_styles(subject), *_in_scripts(subject)]
    found = []
    for path, span, place in sorted(rows, key=lambda row: row[1]):
        file = local_file(subject, path, seek=seek)
        found.append(LocalPath(path, span, place, None if file is None else measure_file(file), file is not None))
    return found


_Row = tuple[str, Span, Quoted]


def _in_attributes(subject: Subject) -> Iterator[_Row]:
    for element in subject.elements:
        for name in ("src", "poster", "background", "data", "srcset", "href"):
            value = element.attributes.get(name)
            if not value or (name == "href" and not _FILE_NAME.fullmatch(f'"{value}"')):
                continue
            found = subject.attribute(element, name)
            if found is None or found.value is None:
                continue
            quote = quote_of(subject, found)
            if name != "srcset":
                if is_local(value):
                    yield value, found.value, Quoted(Context.ADDRESS, quote)
                continue
            for part in _SRCSET_PART.finditer(value):
                descriptor = re.fullmatch(r"[\d.]+[wxh]", part[0]) is not None
                span = subject.value_span(element, name, Span(*part.span()))
                if not descriptor and is_local(part[0]) and span is not None:
                    yield part[0], span, Quoted(Context.SRCSET, quote)


def _in_styles(subject: Subject) -> Iterator[_Row]:
    for code, _ in subject.sheets:
        for address, inside, _ in style_addresses(code.text):
            span = code.at(inside)
            if is_local(address) and span is not None:
                yield address, span, Quoted(Context.STYLE_ADDRESS, None)
    for element in subject.elements:
        found = subject.attribute(element, "style")
        if found is None:
            continue
        for address, inside, _ in style_addresses(element.attributes["style"]):
            span = subject.value_span(element, "style", inside)
            if is_local(address) and span is not None:
                yield address, span, Quoted(Context.STYLE_ADDRESS, quote_of(subject, found))


def _in_scripts(subject: Subject) -> Iterator[_Row]:
    for code in subject.scripts:
        for path, inside, place in _in_script(code.text):
            span = code.at(inside)
            if span is not None:
                yield path, span, place


def _in_script(text: str) -> Iterator[_Row]:
    for match in _FILE_NAME.finditer(text):
        if is_local(match[2]):
            yield match[2], Span(*match.span(2)), Quoted(Context.SCRIPT, None)


class Hosts:
    """Hosted addresses by local path."""

    def __init__(self, addresses: Mapping[str, str], name: str = "the map") -> None:
        self._name = name
        self._addresses = dict(addresses)
        self._by_end: dict[tuple[str, ...], list[str]] = {}
        for path in addresses:
            parts = tuple(_folded(path))
            for first in range(max(0, len(parts) - _DEEPEST), len(parts)):
                self._by_end.setdefault(parts[first:], []).append(path)

    def of(self, paths: Iterable[str]) -> dict[str, str]:
        """Return the paths of the map for those of a piece that it knows: by the path, else by its last parts.

        Raises:
            InputError: two of the map could be meant, or one could be meant by two of the piece.
        """
        found: dict[str, str] = {}
        for path in dict.fromkeys(paths):
            entry = self._entry(path)
            if entry is not None:
                found[path] = entry
        users: dict[str, list[str]] = {}
        for path, entry in found.items():
            users.setdefault(entry, []).append(path)
        for entry, several in users.items():
            if not _are_one_file(several):
                raise InputError(
                    f"{self._name}: {entry} could be {listed(sorted(several), 4, 'or')}. Give each of them an entry, "
                    "with as many of its folders as tell them apart."
                )
        return found

    def address(self, entry: str) -> str:
        """Return the address of an entry of the map."""
        return self._addresses[entry]

    def unused(self, used: Iterable[str]) -> list[str]:
        """Return the entries of the map that nothing used."""
        left = dict.fromkeys(self._addresses)
        for entry in used:
            left.pop(entry, None)
        return list(left)

    def _entry(self, path: str) -> str | None:
        """Return the entry of the map that has the most parts in common with a path, from the name on backwards."""
        parts = tuple(_folded(path)[-_DEEPEST:])
        best = next((found for first in range(len(parts)) if (found := self._by_end.get(parts[first:]))), [])
        if len(best) < 2:
            return best[0] if best else None
        exact = [each for each in best if _folded(each) == _folded(path)]
        if len(exact) == 1:
            return exact[0]
        raise InputError(
            f"{self._name}: {path} could be {listed(best, 4, 'or')}. Name the file in the piece with its folder, or "
            "leave one of these out of the map."
        )


def _parts(path: str) -> list[str]:
    """Return the folders and the name of a path, in the order in which they stand."""
    path = unquote(re.split(r"[?#]", path.strip())[0]).replace("\\", "/")
    path = re.sub(r"^file:/*(?=[A-Za-z]:|/)?", "", path, flags=re.IGNORECASE)
    return [part for part in posixpath.normpath(path).split("/") if part not in ("", ".", "..")] or [path]


def _folded(path: str) -> list[str]:
    return [part.lower() for part in _parts(path)]


def _are_one_file(paths: list[str]) -> bool:
    """Tell whether paths of one piece can be one file: those of a machine end like the one that begins beside it."""
    beside = {posixpath.normpath("/".join(_folded(path))) for path in paths if not _MACHINE.match(path)}
    ends = min((_folded(path) for path in paths), key=len)
    return len(beside) < 2 and all(_folded(path)[-len(ends) :] == ends for path in paths)


def hosts_from(records: Records) -> Hosts:
    """Read a map of hosted addresses: CSV or JSON with the columns file and address, or one JSON object of both.

    Raises:
        InputError: a column is missing, or an address is none.
    """
    if set(records.columns) >= {"file", "address"}:
        pairs: dict[str, str] = {}
        for row in records.rows:
            if pairs.setdefault(row["file"], row["address"]) != row["address"]:
                raise InputError(
                    f"{records.name}: {row['file']} stands in it twice, with two addresses. Leave one out."
                )
    elif len(records.rows) == 1 and records.lines == (0,):
        pairs = dict(records.rows[0])
    else:
        raise InputError(
            f"{records.name}: expected the columns file and address, or one JSON object of paths and addresses."
        )
    for path, address in pairs.items():
        if not re.match(r"(?:https?:)?//[^\s/]|/", address):
            raise InputError(
                f"{records.name}: {path}: {address[:60]!r} is no hosted address; it begins with https:// or /."
            )
    return Hosts(pairs, records.name)


class Replaced(Struct, frozen=True):
    """A piece with hosted addresses."""

    text: str
    """The text afterwards."""
    count: int
    """How many paths were replaced."""
    left: tuple[LocalPath, ...]
    """Paths that are still there: the map does not know them, or they stand in scripts."""
    unused: tuple[str, ...] = ()
    """Entries of the map that no path of the piece is."""


def replace_paths(piece: Piece, hosts: Hosts, language: Language = "markup", *, scripts: bool = False) -> Replaced:
    """Put hosted addresses in place of local paths, everywhere; in scripts only when asked to.

    Raises:
        InputError: two files have one name, and the map does not tell them apart.
    """
    splices, left = [], []
    paths = local_paths(piece, None, language)
    entries = hosts.of(each.path for each in paths)
    for each in paths:
        entry = entries.get(each.path)
        if entry is None or (each.in_script and not scripts):
            left.append(each)
            continue
        address = _address(hosts.address(entry), each.place.context)
        splices.append(Splice(each.span, each.place.typed(address)))
    text = Spliced(piece.source.text, splices).text
    return Replaced(text, len(splices), tuple(left), tuple(hosts.unused(entries.values())))


def _address(address: str, context: Context) -> str:
    """Return a hosted address so that it stays one in a context, whatever signs it holds."""
    address = address.replace(" ", "%20")
    if context is Context.SCRIPT:  # the signs that could end its string; references would be part of it
        return address.replace("\\", "%5C").replace("'", "%27").replace('"', "%22")
    return address if context is Context.ADDRESS else encoded(address, context)
