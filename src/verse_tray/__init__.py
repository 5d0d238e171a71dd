"""Verse Tray: what a rich-text editor leaves of a piece of HTML, why, and what readers will see.

The names below are the stable interface; they are loaded when first used, so that the command starts quickly.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from verse_tray.editors.adopt import adopt
    from verse_tray.editors.load import Editor, load_editor
    from verse_tray.journeys.journey import Journey, journey
    from verse_tray.make.blocks import Card, SignOff, make_button, make_cards, make_list, make_signoff
    from verse_tray.make.builder import Made, Styles
    from verse_tray.make.pictures import Picture, make_picture, make_slider, make_swap
    from verse_tray.make.table import TableLook, make_table
    from verse_tray.tasks.interface import adjust, check, fill, neaten, preview_sheet, values
    from verse_tray.tasks.interface_learning import FittedPiece, fit, learn

__version__ = "0.1.0"

_HOMES = {
    "tasks.interface": ("check", "fill", "values", "adjust", "neaten", "preview_sheet"),
    "tasks.interface_learning": ("fit", "FittedPiece", "learn"),
    "editors.load": ("load_editor", "Editor"),
    "editors.adopt": ("adopt",),
    "journeys.journey": ("journey", "Journey"),
    "make.table": ("make_table", "TableLook"),
    "make.blocks": ("make_button", "make_cards", "Card", "make_list", "make_signoff", "SignOff"),
    "make.pictures": ("make_picture", "make_slider", "make_swap", "Picture"),
    "make.builder": ("Styles", "Made"),
}
__all__ = [
    "Card",
    "Editor",
    "FittedPiece",
    "Journey",
    "Made",
    "Picture",
    "SignOff",
    "Styles",
    "TableLook",
    "__version__",
    "adjust",
    "adopt",
    "check",
    "fill",
    "fit",
    "journey",
    "learn",
    "load_editor",
    "make_button",
    "make_cards",
    "make_list",
    "make_picture",
    "make_signoff",
    "make_slider",
    "make_swap",
    "make_table",
    "neaten",
    "preview_sheet",
    "values",
]


def __getattr__(name: str) -> Any:
    from importlib import import_module

    home = next((home for home, names in _HOMES.items() if name in names), None)
    if home is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    value = globals()[name] = getattr(import_module(f"{__name__}.{home}"), name)
    return value
