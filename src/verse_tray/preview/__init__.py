"""Sheets that show a piece as readers will see it. Only :mod:`verse_tray.preview.browser` knows a browser."""
