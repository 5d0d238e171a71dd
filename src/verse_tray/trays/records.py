"""The records of a tray. Key names are those of ``tray.toml``."""

from typing import Literal

from verse_tray.editors.record import Name, Record
from verse_tray.editors.sending import Sending

FORMAT = "verse-tray-tray/1"


class Fitting(Record, frozen=True, kw_only=True):
    """How a piece is fitted to the fields that it goes into."""

    only: tuple[str, ...] = ()
    """Strategies that may be used; none at all for every one."""
    without: tuple[str, ...] = ()
    """Strategies that may not."""
    keep: Literal["desktop", "phone"] = "desktop"
    """Whose look is kept, where a piece has two and only one can be."""


class Spot(Record, frozen=True, kw_only=True):
    """Where a piece goes."""

    page: Name
    """Site (a name, or a folder or file beside this one) and page, as ``SITE:PAGE``."""
    region: str = ""
    """Region of the page; left out, the only one."""
    position: str = ""
    """A number, ``before ITEM`` or ``after ITEM``; left out, behind everything."""


class TrayPiece(Record, frozen=True, kw_only=True):
    """A piece of the tray."""

    parts: tuple[Name, ...] = ()
    """Its files: one piece of HTML, or parts that are joined, in order."""
    make: tuple[str, ...] = ()
    """What ``verse-tray make`` makes it with, in place of parts: the kind, then files and options, one by one."""
    libraries: tuple[str, ...] = ()
    """Addresses of libraries that it needs, in order; only with several parts."""
    values: str | None = None
    """CSV or JSON whose values fill its marks; None for a piece without marks."""
    record: str = "1"
    """The record of it that is filled in: a number from 1 on, or ``FIELD=VALUE``."""
    mark: str = "{{NAME}}"
    """Form of its marks, with ``NAME`` where the field's name stands."""
    hosted: str | None = None
    """CSV or JSON with the columns file and address: hosted addresses that take the place of local ones."""
    pictures: tuple[str, ...] = ()
    """Folders with copies of its pictures, for previews."""
    as_given: bool = False
    """Whether it is code from elsewhere, which is pasted as it was given; own changes go into a piece below it."""
    fit: Fitting = Fitting()
    editors: tuple[str, ...] = ()
    """Editors that it is checked in besides those of its places."""
    on: tuple[Spot, ...] = ()
    """Where it goes."""


class Tray(Record, frozen=True, kw_only=True):
    """A folder of pieces."""

    format: Literal["verse-tray-tray/1"]
    """Version of this format."""
    title: str = ""
    """Name for people."""
    sites: dict[str, Sending] = {}  # noqa: RUF012
    """Sites that pieces are sent to, by the name that ``send --to`` takes."""
    pieces: dict[str, TrayPiece] = {}  # noqa: RUF012
    """Its pieces by name, in order."""
