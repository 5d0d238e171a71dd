"""The records of what any stage may filter.

Key names are those of ``editor.toml``; list names follow the HTML Sanitizer API. Every default changes nothing.
"""

from typing import Literal

from verse_tray.editors.building import Building
from verse_tray.editors.record import Name, Record

HTML_NAMESPACE = "http://www.w3.org/1999/xhtml"
SVG_NAMESPACE = "http://www.w3.org/2000/svg"
MATHML_NAMESPACE = "http://www.w3.org/1998/Math/MathML"
XLINK_NAMESPACE = "http://www.w3.org/1999/xlink"

Form = Literal["scheme-relative", "path-absolute", "path-relative", "query", "fragment"]
Namespace = Literal["http://www.w3.org/1999/xhtml", "http://www.w3.org/2000/svg", "http://www.w3.org/1998/Math/MathML"]


class ElementName(Record, frozen=True, kw_only=True):
    """An element by name; in ``elements`` also with attributes of its own."""

    name: Name
    """Local name."""
    namespace: Namespace | None = None
    """Namespace; when it is left out, the name counts in each."""
    attributes: tuple[str, ...] | None = None
    """Attributes that this element keeps beside the global ones."""
    remove_attributes: tuple[str, ...] = ()
    """Attributes that this element loses even though others keep them."""


Element = str | ElementName


class NewName(Record, frozen=True, kw_only=True):
    """What an element is renamed to."""

    name: Name
    """Its new name."""
    style: str = ""
    """Declarations that stand for what the old name showed, put in front of its style attribute."""


class FrameSize(Record, frozen=True, kw_only=True):
    """The size that every frame is given."""

    width: str | None = None
    """Value of its ``width`` attribute; None leaves the author's."""
    height: str | None = None
    """Value of its ``height`` attribute; None leaves the author's."""


class Addresses(Record, frozen=True, kw_only=True):
    """Rules for attributes that hold addresses."""

    schemes: tuple[str, ...] | None = None
    """Schemes that are kept; None keeps all."""
    relative: bool = True
    """Whether an address without a scheme is kept."""
    forms: tuple[Form, ...] | None = None
    """Forms of addresses without a scheme that are kept, in the words of the URL standard (``#a`` is a fragment);
    None keeps all."""
    attributes: dict[str, tuple[str, ...]] = {}  # noqa: RUF012
    """Schemes for one attribute, in place of ``schemes``; relative addresses count as not listed."""
    remove_schemes: tuple[str, ...] = ()
    """Schemes that are taken away where a click or a form would follow them."""
    secure: bool = False
    """Whether ``http:`` becomes ``https:``."""
    base: str | None = None
    """Address that relative ones are made absolute with; None leaves them as they are."""
    in_place: str | None = None
    """What stands in the place of an address that is not kept, such as ``#``; None takes the attribute away."""
    hosts: dict[str, tuple[Name, ...]] = {}  # noqa: RUF012
    """For an attribute, hosts whose addresses are kept, ``*.`` in front for any below one; without a host, all are."""
    gates: dict[str, Name] = {}  # noqa: RUF012
    """For an attribute, an address that goes in front of those of hosts, which follow it encoded, such as
    ``https://out.example/?to=``."""


class Styles(Record, frozen=True, kw_only=True):
    """Rules for declarations in ``style`` attributes."""

    properties: tuple[str, ...] | None = None
    """Properties that are kept, ``*`` at the end for any that begin so, such as ``border-*``; None keeps all."""
    remove_properties: tuple[str, ...] = ()
    """Properties that go, ``*`` at the end for any that begin so."""
    values: dict[str, tuple[str, ...]] = {}  # noqa: RUF012
    """For a property, the only values that are kept; ``<number>`` in one stands for any number that is not negative,
    such as ``<number>px``."""
    syntax: dict[str, Name] = {}  # noqa: RUF012
    """For a property, or ``*`` for those that are not named, which values are kept, as a CSS syntax string such as
    ``<length>+ | auto``."""
    important: bool = True
    """Whether declarations with ``!important`` are kept."""
    whole_attribute: bool = False
    """Whether one declaration that is not kept takes the whole attribute along."""
    writes: Literal["as-typed", "spaced", "tight"] = "as-typed"
    """How what is left is written: as it was typed, as ``color: red; margin: 0;``, or as ``color:red;margin:0``."""
    colon: str | None = None
    """What is written between a property and its value, such as ``": "``; None leaves it as it was typed."""
    separator: str | None = None
    """What is written between two declarations, such as ``"; "``."""
    closed: bool | None = None
    """Whether a semicolon is written behind the last declaration."""
    remove_functions: tuple[str, ...] = ()
    """Declarations whose value calls one of these functions go, such as ``url``."""


class SetAttribute(Record, frozen=True, kw_only=True):
    """An attribute that elements are given."""

    name: Name
    """Its name."""
    value: str
    """Its value."""
    elements: tuple[Name, ...] = ()
    """Elements that are given it; none at all for every one."""
    when_missing: bool = False
    """Whether it is given only to those that have none of that name, and not written over the author's."""
    beside: Name | None = None
    """Attribute that an element has to have, to be given this one."""
    outward: bool = False
    """Whether only links and media of another host are given it: those whose address has a host."""


class Filter(Building, frozen=True, kw_only=True):
    """What a stage takes away or rewrites, whichever stage it is, and how it writes what is left."""

    cleans: Literal["once", "until-safe"] = "once"
    """Whether what was written is read back as browsers do and filtered again until no code is left that the stage
    forbids; ``once`` is what browsers' own Sanitizer API does."""
    comments: bool = True
    """Whether comments are kept."""
    scripts: Literal["keep", "drop", "neutralise"] | None = None
    """What becomes of ``script`` elements: kept, dropped, or kept as text that never runs (their ``type`` is changed);
    None leaves it to the element lists."""
    style_elements: Literal["keep", "drop", "front"] | None = None
    """What becomes of ``style`` elements: kept, dropped, or moved to the front of the piece; None leaves it to the
    element lists."""
    style_prefix: str = ""
    """Selector put in front of every selector in style elements, such as ``.post``."""
    frame_hosts: tuple[str, ...] | None = None
    """Hosts that an ``iframe`` may show, ``*.`` in front for any below it; None allows all."""
    frame_sandbox: tuple[str, ...] | None = None
    """Tokens of the ``sandbox`` attribute that every frame is given; None leaves the author's."""
    frame_size: FrameSize = FrameSize()
    """Size that every frame is given."""
    elements: tuple[Element, ...] | None = None
    """Elements that are kept; None keeps all but the removed ones."""
    remove_elements: tuple[Element, ...] = ()
    """Elements that go with their contents."""
    replace_with_children_elements: tuple[Element, ...] = ()
    """Elements that go and leave their contents."""
    escape_elements: tuple[Element, ...] = ()
    """Elements whose tags become visible text."""
    empty_elements: tuple[Element, ...] = ()
    """Elements that stay and lose their contents."""
    escape_with: Literal["tag", "name"] = "tag"
    """What of an escaped tag becomes visible text: the whole tag as it was typed, or its name in angle brackets."""
    other_elements: Literal["drop", "unwrap", "escape", "keep"] = "drop"
    """What becomes of elements that ``elements`` does not list; ``keep`` where it is there for attributes alone."""
    rename_elements: dict[str, Name | NewName] = {}  # noqa: RUF012
    """New names of elements, by the old one."""
    attributes: tuple[str, ...] | None = None
    """Attributes that every element keeps, ``*`` at the end for any that begin so, such as ``aria-*``; None keeps all
    but the removed ones."""
    remove_attributes: tuple[str, ...] = ()
    """Attributes that every element loses, ``*`` at the end for any that begin so."""
    data_attributes: bool = True
    """Whether ``data-*`` attributes are kept although ``attributes`` does not list them."""
    event_handlers: bool = True
    """Whether event handlers (``onclick`` and the like) are kept."""
    classes: tuple[str, ...] | None = None
    """Classes that are kept, ``*`` at the end for any that begin so; None keeps all."""
    remove_classes: tuple[str, ...] = ()
    """Classes that go, ``*`` at the end for any that begin so."""
    class_prefix: str = ""
    """What is put in front of every class, in attributes and in the selectors of style elements alike."""
    id_prefix: str = ""
    """What is put in front of every identifier, and of every reference to one within the piece."""
    addresses: Addresses = Addresses()
    styles: Styles = Styles()
    attribute_syntax: dict[str, Name] = {}  # noqa: RUF012
    """For an attribute, which values are kept, as a CSS syntax string such as ``<integer> | <percentage>``."""
    need_attributes: dict[str, tuple[Name, ...]] = {}  # noqa: RUF012
    """For an element, attributes of which it needs one at least, such as ``href`` for ``a``: one that has none of them
    left goes, and leaves its contents."""
    set_attributes: tuple[SetAttribute, ...] = ()
    """Attributes that elements are given."""
    boolean_attributes: Literal["keep", "empty", "repeat", "bare"] = "keep"
    """How attributes whose being there is all that counts are written: as they are, ``checked=""``,
    ``checked="checked"``, or ``checked`` alone where tags are written anew."""
    loose_text: Literal["keep", "paragraphs"] = "keep"
    """Whether text and text-level elements that stand outside blocks are put into paragraphs, and what stands between
    blocks is written anew."""
    block_gap: str = "\n"
    """What is written between blocks then: white space, or nothing."""
    between_tags: Literal["keep", "drop"] = "keep"
    """Whether white space that stands by itself between two tags goes."""
    writes: Literal["as-typed", "tags-anew", "tokens-anew", "anew"] = "as-typed"
    """Whether the rest is stored as it was typed, or its tags are written anew one by one, without or with the text
    between them, or everything is written anew as a browser would."""
    references: Literal["plain", "named", "numeric"] = "plain"
    """How signs beyond ASCII are stored when everything is written anew: as they are, or as references."""
    void_tags: Literal["plain", "slash", "tight-slash"] = "plain"
    """Whether tags that never have an end tag are written as ``<br>``, ``<br />`` or ``<br/>`` when they are written
    anew."""
    text_signs: dict[str, str] = {}  # noqa: RUF012
    """How single signs of the text are written when it is written anew: ``"`` as ``&quot;``, say."""
    value_signs: dict[str, str] = {}  # noqa: RUF012
    """How single signs in the values of attributes are written when tags are."""
    attribute_order: Literal["typed", "sorted", "listed"] = "typed"
    """Order in which attributes are written when tags are written anew: as they were typed, by their names, or as
    ``attributes`` lists them, those behind that it does not list."""
    beyond16_bits: Literal["keep", "drop", "cut"] = "keep"
    """What becomes of characters beyond 16 bits (emoji and some scripts): kept, dropped, or the text ends there."""
