"""Local paths in a piece, and the hosted addresses that take their place."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import unquote

from msgspec import Struct

from verse_tray.edit.values import quote_of
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.media.picture_size import Measured, Unreadable, measure_file
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
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
_SRCSET_PART = lazy(r"[^\s,]\S*[^\s,]|[^\s,]")


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


def local_paths(piece: Piece, folder: Path | None) -> list[LocalPath]:
    """Return the local paths of a piece, by place; in scripts those that stand in plain strings and end like a file."""
    subject = Subject(piece, folder=folder)
    rows = [*_in_attributes(subject), *_in_styles(subject), *_in_scripts(subject)]
    found = []
    for path, span, place in sorted(rows, key=lambda row: row[1]):
        file = local_file(subject, path)
        known = measure_file(file) if file is not None and place.context is not Context.SCRIPT else None
        found.append(LocalPath(path, span, place, known, file is not None))
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
        for match in _FILE_NAME.finditer(code.text):
            span = code.at(Span(*match.span(2)))
            if is_local(match[2]) and span is not None:
                yield match[2], span, Quoted(Context.SCRIPT, None)


class Hosts:
    """Hosted addresses by local path."""

    def __init__(self, addresses: dict[str, str]) -> None:
        self._exact = {_normal(path): address for path, address in addresses.items()}
        names = [posixpath.basename(path) for path in self._exact]
        self._by_name = {
            posixpath.basename(path): address
            for path, address in self._exact.items()
            if names.count(posixpath.basename(path)) == 1
        }

    def of(self, path: str) -> str | None:
        """Return the address of a path: by the path itself, or by its file name where only one path has that name."""
        normal = _normal(path)
        return self._exact.get(normal) or self._by_name.get(posixpath.basename(normal))


def _normal(path: str) -> str:
    path = unquote(re.split(r"[?#]", path.strip())[0]).replace("\\", "/")
    path = re.sub(r"^file:/*(?=[A-Za-z]:|/)?", "", path, flags=re.IGNORECASE)
    return posixpath.normpath(path).lower()


def hosts_from(records: Records) -> Hosts:
    """Read a map of hosted addresses: CSV or JSON with the columns file and address, or one JSON object of both.

    Raises:
        InputError: a column is missing, or an address is none.
    """
    if set(records.columns) >= {"file", "address"}:
        pairs = {row["file"]: row["address"] for row in records.rows}
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
    return Hosts(pairs)


class Replaced(Struct, frozen=True):
    """A piece with hosted addresses."""

    text: str
    """The text afterwards."""
    count: int
    """How many paths were replaced."""
    left: tuple[LocalPath, ...]
    """Paths that are still there: the map does not know them, or they stand in scripts."""


def replace_paths(piece: Piece, hosts: Hosts, *, scripts: bool = False) -> Replaced:
    """Put hosted addresses in place of local paths, everywhere; in scripts only when asked to."""
    splices, left = [], []
    for each in local_paths(piece, None):
        address = hosts.of(each.path)
        if address is None or (each.in_script and not scripts):
            left.append(each)
            continue
        splices.append(Splice(each.span, each.place.typed(_address(address, each.place.context))))
    return Replaced(Spliced(piece.source.text, splices).text, len(splices), tuple(left))


def _address(address: str, context: Context) -> str:
    """Return a hosted address so that it stays one in a context, whatever signs it holds."""
    address = address.replace(" ", "%20")
    if context is Context.SCRIPT:  # the signs that could end its string; references would be part of it
        return address.replace("\\", "%5C").replace("'", "%27").replace('"', "%22")
    return address if context is Context.ADDRESS else encoded(address, context)
