"""What came of trying a piece out."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.model.findings import Finding


class Link(Struct, frozen=True):
    """A link of the published piece."""

    line: int | None
    """Line in the author's file, 1-based; None for one that the editor added."""
    column: int | None
    text: str
    """What readers see of it."""
    address: str
    """Where it leads."""
    window: str
    """``same``, ``new``, or the name of a window."""

    @property
    def opens(self) -> str:
        """The window in words."""
        return f"{self.window} window" if self.window in ("same", "new") else f"window {self.window}"


class Look(Struct, frozen=True):
    """A control at rest, under the pointer or in focus."""

    state: str
    """``at rest``, ``hover``, ``focus``."""
    changes: tuple[str, ...]
    """What is other than at rest."""
    picture: bytes
    """Its picture, PNG."""


class Control(Struct, frozen=True):
    """Something that was clicked."""

    line: int | None
    column: int | None
    name: str
    """What it is: its element and what readers see of it."""
    clicks: tuple[tuple[str, ...], ...]
    """What each click changed; nothing at all for one after which all was as before."""
    looks: tuple[Look, ...]
    """How it looks; empty where no state changes anything."""

    @property
    def told(self) -> tuple[str, ...]:
        """What its clicks did, a line for each; one line for two that did the same."""
        lines = ["; ".join(each) or "nothing changes" for each in self.clicks]
        if len(lines) > 1 and lines[0] == lines[1]:
            return (f"{lines[0]} (each time)",)
        return tuple(each if not at else f"again: {each}" for at, each in enumerate(lines))


class Acted(Struct, frozen=True):
    """What a published piece does."""

    findings: tuple[Finding, ...]
    """Script errors, what was refused, controls after whose clicks nothing changed."""
    links: tuple[Link, ...]
    controls: tuple[Control, ...]
    more: int
    """Controls that were found and not tried."""
    loading: tuple[str, ...] = ()
    """What scripts change when the page is loaded."""
    by_itself: tuple[str, ...] = ()
    """What changes in the ten seconds after that, by timers."""
