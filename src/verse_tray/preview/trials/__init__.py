"""What a published piece does: its scripts, links and controls, tried out in a browser that reaches nothing."""

from verse_tray.preview.trials.result import Acted
from verse_tray.preview.trials.trial import act

__all__ = ["Acted", "act"]
