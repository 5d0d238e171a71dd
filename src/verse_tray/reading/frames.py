"""The page around a piece: an editor's frame with its theme, read once, and a piece put into it."""

from __future__ import annotations

from functools import cached_property, lru_cache

from msgspec import Struct

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.editors.page import themed_frame
from verse_tray.markup.parse import parse_document
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.patterns import lazy
from verse_tray.piece.view import View
from verse_tray.reading.styles_known import StylesKnown
from verse_tray.style.conditions import holds
from verse_tray.style.names import names_in
from verse_tray.style.page_sheets import sheets_in
from verse_tray.style.sheets import Sheet
from verse_tray.style.ways import Ways

_HOLDER = '<div class="verse-tray-piece"></div>'
_LAYS_OUT = lazy(
    r"margin|padding|(?:min-|max-)?(?:width|height)|top|right|bottom|left|gap|inset|flex|order|float|grid|justify|align-items"
)
_OWN_PAGE = '<!DOCTYPE html><html><head></head><body class="verse-tray-piece"></body></html>'


class Frame:
    """A page that waits for a piece. It is shared: nothing of it is ever edited."""

    def __init__(self, tree: Tree, way: tuple[Element, ...]) -> None:
        self.tree = tree
        """The page. Its elements have keys below zero."""
        self.way = way
        """The elements from the root to the one that the piece is put into."""
        self.sheets = tuple(sheets_in(tree))
        """Its style sheets; all of them stand before the piece."""
        self._styles_known: dict[int, StylesKnown] = {}

    @cached_property
    def names(self) -> frozenset[str]:
        """The classes and identifiers of its elements."""
        found: set[str] = set()
        for element in self.tree.elements():
            found.update(element.attributes.get("class", "").split(), [element.attributes.get("id", "")])
        return frozenset(found)

    @cached_property
    def ways(self) -> Ways:
        """The rules of its style sheets that match elements, by what is around them."""
        return Ways(self.sheets)

    def styles_known(self, width: int) -> StylesKnown:
        """Return the styles that were worked out in this page, for that width of window in CSS pixels."""
        found = self._styles_known.get(width)
        if found is None or found.is_full:
            found = self._styles_known[width] = StylesKnown(width)
        return found

    @cached_property
    def styled(self) -> frozenset[str]:
        """The classes and identifiers that its style sheets name."""
        return frozenset(
            each.name for sheet in self.sheets for rule in sheet.rules for each in names_in(rule.selectors)
        )

    @cached_property
    def depends_on_width(self) -> bool:
        """Whether letters in it look otherwise in windows of other widths."""
        return any(
            not _LAYS_OUT.match(each.name)
            and ("vw" in each.value or (rule.around and holds(rule.around, None) is None))
            for sheet in self.sheets
            for rule in sheet.rules
            for each in rule.declarations
        )

    def name_of(self, key: int) -> str:
        """Return how a person would call an element of the page: ``body``, ``div.sheet``."""
        element = next(each for each in self.tree.elements() if each.key == key)
        classes = element.attributes.get("class", "").split()
        return f"{element.name}.{classes[0]}" if classes else element.name


class FramedPiece(Struct, frozen=True):
    """A piece in its page."""

    frame: Frame
    """The page."""
    piece: View
    """The piece."""
    tree: Tree
    """Frame and piece as one tree; the piece's nodes are its own, not copies."""
    holder: Element
    """What the piece stands in."""
    sheets: list[Sheet]
    """The style sheets of both, in their order."""


def frame_of(editor: Editor) -> Frame:
    """Return the page around what an editor publishes, with its usual theme; a box of its own is an empty page."""
    if editor.profile.box is not None:
        return own_page()
    page = themed_frame(editor, editor.theme)
    return _read(page.replace(PIECE_MARK, _HOLDER, 1).replace(PIECE_MARK, ""))


def own_page() -> Frame:
    """Return a page with nothing in it but the place of a piece."""
    return _read(_OWN_PAGE)


@lru_cache(maxsize=32)
def _read(page: str) -> Frame:
    tree = parse_document(page).take_tree()
    way: tuple[Element, ...] = ()
    stack: list[tuple[Element, tuple[Element, ...]]] = [(tree.root, (tree.root,))]
    number = 0
    while stack:
        element, above = stack.pop()
        number -= 1
        element.key = number
        if element.attributes.get("class") == "verse-tray-piece":
            way = above
        stack += [(child, (*above, child)) for child in reversed(element.children) if type(child) is Element]
    return Frame(tree, way)


def framed(frame: Frame, piece: View) -> FramedPiece:
    """Put a piece with its style sheets into its page."""
    holder, *above = reversed(frame.way)
    inner: list[Node] = piece.tree.root.children
    place = copy = Element(holder.name, holder.namespace, holder.attributes, holder.key, inner)
    below = holder
    for element in above:
        children = [copy if child is below else child for child in element.children]
        copy = Element(element.name, element.namespace, element.attributes, element.key, children)
        below = element
    return FramedPiece(frame, piece, Tree(copy), place, [*frame.sheets, *piece.sheets])
