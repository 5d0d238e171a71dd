"""Names of a piece made its own, so that several copies, or other pieces, on one page do not clash with it."""

from verse_tray.edit.apart.apart import copies, set_apart, with_prefixes
from verse_tray.edit.apart.own import Names

__all__ = ["Names", "copies", "set_apart", "with_prefixes"]
