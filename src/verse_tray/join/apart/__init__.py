"""Names of a piece made its own, so that several copies, or other pieces, on one page do not clash with it."""

from verse_tray.join.apart.apart import copies, set_apart

__all__ = ["copies", "set_apart"]
