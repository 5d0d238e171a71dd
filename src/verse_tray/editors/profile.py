"""The records of a profile. Key names are those of ``editor.toml``; list names follow the HTML Sanitizer API.

Every default changes nothing: an empty profile describes an editor that keeps what it is given.
"""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

FORMAT = "verse-tray-editor/1"

HTML_NAMESPACE = "http://www.w3.org/1999/xhtml"
SVG_NAMESPACE = "http://www.w3.org/2000/svg"
MATHML_NAMESPACE = "http://www.w3.org/1998/Math/MathML"
XLINK_NAMESPACE = "http://www.w3.org/1999/xlink"

Namespace = Literal["http://www.w3.org/1999/xhtml", "http://www.w3.org/2000/svg", "http://www.w3.org/1998/Math/MathML"]
Positive = Annotated[int, Meta(ge=1)]


class _Record(Struct, frozen=True, forbid_unknown_fields=True, rename="camel", kw_only=True):
    pass


class ElementName(_Record, frozen=True):
    """An element by name; in ``elements`` also with attributes of its own."""

    name: str
    """Local name."""
    namespace: Namespace | None = None
    """Namespace; when it is left out, the name counts in each."""
    attributes: tuple[str, ...] | None = None
    """Attributes that this element keeps beside the global ones."""
    remove_attributes: tuple[str, ...] = ()
    """Attributes that this element loses even though others keep them."""


Element = str | ElementName


class Addresses(_Record, frozen=True):
    """Rules for attributes that hold addresses."""

    schemes: tuple[str, ...] | None = None
    """Schemes that are kept; None keeps all."""
    relative: bool = True
    """Whether an address without a scheme is kept."""
    attributes: dict[str, tuple[str, ...]] = {}
    """Schemes for one attribute, in place of ``schemes``; relative addresses count as not listed."""
    remove_schemes: tuple[str, ...] = ()
    """Schemes that are taken away where a click or a form would follow them."""


class Styles(_Record, frozen=True):
    """Rules for declarations in ``style`` attributes."""

    properties: tuple[str, ...] | None = None
    """Properties that are kept; None keeps all."""
    remove_properties: tuple[str, ...] = ()
    """Properties that go."""
    values: dict[str, tuple[str, ...]] = {}
    """For a property, the only values that are kept."""
    remove_functions: tuple[str, ...] = ()
    """Declarations whose value calls one of these functions go, such as ``url``."""


class Save(_Record, frozen=True):
    """What the editor does when the author saves."""

    writes: Literal["as-typed", "anew"] = "as-typed"
    """Whether the rest is stored as it was typed, or everything is written anew as a browser would."""
    comments: bool = True
    """Whether comments are kept."""
    scripts: Literal["keep", "drop"] | None = None
    """What becomes of ``script`` elements; None leaves it to the element lists."""
    style_elements: Literal["keep", "drop"] | None = None
    """What becomes of ``style`` elements; None leaves it to the element lists."""
    frame_hosts: tuple[str, ...] | None = None
    """Hosts that an ``iframe`` may show, ``*.`` in front for any below it; None allows all."""
    elements: tuple[Element, ...] | None = None
    """Elements that are kept; None keeps all but the removed ones."""
    remove_elements: tuple[Element, ...] = ()
    """Elements that go with their contents."""
    replace_with_children_elements: tuple[Element, ...] = ()
    """Elements that go and leave their contents."""
    escape_elements: tuple[Element, ...] = ()
    """Elements whose tags become visible text."""
    other_elements: Literal["drop", "unwrap", "escape"] = "drop"
    """What becomes of elements that ``elements`` does not list."""
    attributes: tuple[str, ...] | None = None
    """Attributes that every element keeps; None keeps all but the removed ones."""
    remove_attributes: tuple[str, ...] = ()
    """Attributes that every element loses."""
    data_attributes: bool = True
    """Whether ``data-*`` attributes are kept although ``attributes`` does not list them."""
    event_handlers: bool = True
    """Whether event handlers (``onclick`` and the like) are kept."""
    addresses: Addresses = Addresses()
    styles: Styles = Styles()


class Paste(_Record, frozen=True):
    """What the editor does when the author pastes."""

    pane: Literal["source"] = "source"
    """The pane that takes the paste; the source pane changes nothing."""


class Limit(_Record, frozen=True):
    """A limit of size."""

    measure: Literal["pasted", "stored"]
    """Whether it counts what is pasted or what is stored."""
    unit: Literal["characters", "utf-16", "bytes"]
    """Code points, UTF-16 code units, or bytes of UTF-8."""
    most: Positive
    """Largest size that passes."""
    over: Literal["refuse", "cut", "warn"]
    """What happens above it."""


class Profile(_Record, frozen=True):
    """An editor's description."""

    format: Literal["verse-tray-editor/1"]
    """Version of this format."""
    title: str
    """Name for people."""
    summary: str
    """One sentence on what this editor is and does."""
    frame: str = "frame.html"
    """File with the page around the piece; ``<!-- piece -->`` marks its place."""
    theme: str = "theme.css"
    """File with the site's styles."""
    paste: Paste = Paste()
    save: Save = Save()
    limits: tuple[Limit, ...] = ()
