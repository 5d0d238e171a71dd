"""What a published piece does: its scripts, links and controls, tried out in a browser that reaches nothing."""

from verse_tray.preview.acting.acted import Acted
from verse_tray.preview.acting.run import act

__all__ = ["Acted", "act"]
