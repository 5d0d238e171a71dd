"""What a rule says of itself, and what it finds."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.markup.splice import Splice
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span


class Rule(Struct, frozen=True):
    """A rule: one kind of mistake."""

    severity: Severity
    """How much a reader notices, as a rule; single mistakes may be graver or lighter."""
    readers: str
    """What happens to readers, in a sentence."""
    advice: str
    """What the author does about it, in a sentence."""
    bad: str
    """A piece in which the rule finds something."""
    good: str
    """The same piece as it should be: no rule finds anything in it."""
    mends: bool = False
    """Whether some of what it finds can be mended with certainty."""


class Mistake(Struct, frozen=True):
    """Something that a rule has found."""

    span: Span | None
    """Place in the author's file; None for the piece as a whole, or when the place cannot be known."""
    message: str
    """What is there, what readers get, what to do: for the author, in a sentence or two."""
    severity: Severity | None = None
    """How grave it is; None for what the rule says."""
    mend: tuple[Splice, ...] = ()
    """What mends it with certainty; empty when an author has to decide."""
    covers: tuple[Span, ...] = ()
    """Other places that show the same mistake: rules further down the table are silent about them."""
