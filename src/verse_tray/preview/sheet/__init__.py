"""The preview sheet: one HTML file with every view in it, nothing loaded from anywhere."""

from verse_tray.preview.pages.window import NARROW, WIDE
from verse_tray.preview.sheet.sheet import Besides, Shown, empty_sheet, row_names, sheet

__all__ = ["NARROW", "WIDE", "Besides", "Shown", "empty_sheet", "row_names", "sheet"]
