"""Paste sheets: a placement to work through, step by step."""

from __future__ import annotations

from verse_tray.preview.placed.paste_sheet import paste_sheet, paste_sheet_markdown

__all__ = ["paste_sheet", "paste_sheet_markdown"]
