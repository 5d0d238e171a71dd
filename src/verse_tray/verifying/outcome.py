"""What came of sending a piece."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.trays.sent import Sent
from verse_tray.verifying.verified import GOOD, Held


class Outcome(Struct):
    """What came of it."""

    sent: Sent
    """What stands there now."""
    held: Held | None
    """What is stored, held against the prediction; None where the site does not say."""
    done: str
    """``created``, ``updated`` or ``unchanged``."""

    @property
    def is_as_predicted(self) -> bool:
        """Whether what is stored is what was predicted, as far as the site says."""
        return self.held is None or self.held.state in GOOD
