"""Two pieces, or two versions of one, side by side: what differs, measured."""

from verse_tray.preview.comparing.compare import Comparison, compare
from verse_tray.preview.comparing.compared_sheet import compared_sheet

__all__ = ["Comparison", "compare", "compared_sheet"]
