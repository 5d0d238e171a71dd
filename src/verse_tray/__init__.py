"""Verse Tray: what a rich-text editor leaves of a piece of HTML, why, and what readers will see.

The names below are the stable interface; they are loaded when first used, so that the command starts quickly.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from verse_tray.editors.adopt import adopt
    from verse_tray.editors.load import Editor, load_editor
    from verse_tray.journeys.journey import Journey, journey

__version__ = "0.1.0"
__all__ = ["Editor", "Journey", "__version__", "adopt", "journey", "load_editor"]

_HOMES = {
    "Editor": "verse_tray.editors.load",
    "Journey": "verse_tray.journeys.journey",
    "adopt": "verse_tray.editors.adopt",
    "journey": "verse_tray.journeys.journey",
    "load_editor": "verse_tray.editors.load",
}


def __getattr__(name: str) -> Any:
    from importlib import import_module

    if name in _HOMES:
        value = globals()[name] = getattr(import_module(_HOMES[name]), name)
        return value
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
