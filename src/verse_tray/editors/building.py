"""What is done to a piece when its page is built."""

from typing import Literal

from verse_tray.editors.opening import Opening
from verse_tray.editors.record import Name, Positive, Record


class Players(Record, frozen=True, kw_only=True):
    """Links to films that become players."""

    long: Name
    """Long form of a film's address, with ``{id}`` in the place of its name, such as
    ``https://films.example/watch?film={id}``."""
    short: str | None = None
    """Short form, such as ``https://film.example/{id}``."""
    player: Name
    """Address of the player in the frame, with ``{id}``."""
    width: Positive = 640
    """Width of the player in CSS pixels."""
    height: Positive = 360
    """Height of the player in CSS pixels."""
    links: bool = True
    """Whether linked text becomes a player, and not just an address that stands by itself."""
    leave_alone: str | None = None
    """Query parameter, such as ``plain=1``, that keeps a link a link. It counts in the long form only, behind an
    ampersand that is escaped in the stored text."""


class Fill(Record, frozen=True, kw_only=True):
    """References to holders of raw code, and fields, filled in when the page is built."""

    opening: Name = "{{"
    """What stands before a name."""
    closing: Name = "}}"
    """What stands behind a name."""
    values: dict[str, str] = {}  # noqa: RUF012
    """Texts of fields, by name."""
    holders: dict[str, str] = {}  # noqa: RUF012
    """Markup of holders, by name; no rule of the editor touches it."""
    unknown: Literal["leave", "blank", "error"] = "leave"
    """What becomes of a name that is neither: it is left as it is, it is left out, or the page is not built."""


class Building(Opening, frozen=True, kw_only=True):
    """What is done behind the filter."""

    fill: Fill | None = None
    players: Players | None = None
    address_links: bool = False
    """Whether addresses that stand in text become links."""
    typography: Literal["keep", "curly"] = "keep"
    """Whether straight quotes become curly ones, and two or three hyphens dashes."""
    typography_in_code: bool = False
    """Whether that happens in code samples too."""
    link_rel: tuple[str, ...] = ()
    """Link types that every link is given in ``rel``."""
    link_target: str | None = None
    """Window that every link is given in ``target``."""
    own_hosts: tuple[str, ...] = ()
    """Hosts whose links get neither."""
