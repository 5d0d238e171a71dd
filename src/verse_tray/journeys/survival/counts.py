"""Counts of what was written and what is still there."""

from __future__ import annotations

from typing import NamedTuple


class Count(NamedTuple):
    """How many of some kind were written, and how many of those readers still get."""

    kept: int
    """Number still there, never above ``of``."""
    of: int
    """Number written."""

    @property
    def lost(self) -> int:
        """Number gone."""
        return self.of - self.kept

    @property
    def percent(self) -> int:
        """Share kept in whole percent, rounded down so that 100 means all; 100 when there was none."""
        return 100 if not self.of else self.kept * 100 // self.of


class Survival(NamedTuple):
    """What of a piece survives; docs/architecture.md says what each kind counts."""

    text: Count
    """Visible characters, white space left out."""
    leaked: int
    """Characters that readers see and the author never wrote as text, white space left out."""
    structure: Count
    """Elements."""
    look: Count
    """Winning style declarations."""
    behaviour: Count
    """Scripts, event handlers, forms and controls, frames."""
    links: Count
    """Addresses of links and media."""
    alike: int
    """How much alike what readers get is to what they were to get, 0 to 100; 100 when nothing that is read differs."""

    @property
    def complete(self) -> bool:
        """Whether nothing of any kind is lost or leaked."""
        return not self.leaked and not any(
            count.lost for count in (self.text, self.structure, self.look, self.behaviour, self.links)
        )
