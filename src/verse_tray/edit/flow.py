"""Which elements of a piece stand as blocks, and where white space means nothing (CSS Text 3, 4.1; CSS Display 3)."""

from __future__ import annotations

from verse_tray.markup.names import BLOCKS, HTML
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.piece.piece import Piece

WHITE = " \t\n\f\r"
"""White space that collapses; a no-break space does not."""
_NO_BOX = frozenset(
    ("style", "script", "link", "meta", "template", "base", "title", "noscript", "param", "source", "track")
)
_ONE_BOX = frozenset("select button video audio object canvas meter progress".split())
"""Elements that stand within a line as one box, whatever they hold."""
_KEEPS_LINES = frozenset(("pre", "textarea", "listing", "xmp", "plaintext"))
_HOLDS_NO_TEXT = frozenset("table tbody thead tfoot tr colgroup select optgroup datalist video audio".split())
_BLOCK_VALUES = ("block", "flex", "grid", "table", "list-item", "flow-root", "none", "-webkit-box")
_SVG_TEXT = frozenset(("text", "tspan", "textpath", "title", "desc", "foreignobject"))


class Flow:
    """A piece, and what white space in it means."""

    def __init__(self, piece: Piece) -> None:
        self._winners = piece.written_view.cascade.winners
        self._blocks: dict[int, bool] = {}
        for element in piece.written_view.elements:
            if element.name == "option" and element.namespace == HTML:  # it shows text alone, whatever stands in it
                self._blocks.update((inner.key, False) for inner in Tree(element).elements())
            # what is laid out in a row or a grid stands as a block (CSS Display 3, 2.7)
            if self._winners.get(element.key, {}).get("display", ("",))[0].endswith(("flex", "grid")):
                self._blocks.update((child.key, True) for child in element.children if isinstance(child, Element))
        for element in reversed(piece.written_view.elements):  # what is inside an element first
            if element.key not in self._blocks:
                self._blocks[element.key] = self._stands_alone(element)

    def is_block(self, node: Node) -> bool:
        """Tell whether white space beside a node means nothing, because it stands on lines of its own."""
        return isinstance(node, Element) and self._blocks.get(node.key, False)

    def _stands_alone(self, element: Element) -> bool:
        display = self._winners.get(element.key, {}).get("display", ("",))[0]
        if display:
            return display.startswith(_BLOCK_VALUES)
        if element.namespace != HTML:
            return element.name != "svg" and element.name.lower() not in ("text", "tspan", "textpath", "math")
        if element.name in BLOCKS or element.name in ("option", "optgroup", "body", "html", "head"):
            return True
        if element.name in _ONE_BOX:
            return False
        solid = [child for child in element.children if not is_white(child)]
        return bool(solid) and element.name not in _NO_BOX and all(self.is_block(child) for child in solid)

    def has_no_box(self, node: Node) -> bool:
        """Tell whether a node takes no room: white space is as before without it."""
        return isinstance(node, Element) and node.name in _NO_BOX and node.namespace == HTML

    def is_one_box(self, element: Element) -> bool:
        """Tell whether an element stands within a line like one sign, with lines of its own inside."""
        display = self._winners.get(element.key, {}).get("display", ("",))[0]
        if self.is_block(element) or element.namespace != HTML:
            return False
        return display.startswith("inline-") or element.name in _ONE_BOX

    def keeps_white_space(self, element: Element) -> bool:
        """Tell whether white space inside an element shows as typed."""
        if element.name in _KEEPS_LINES and element.namespace == HTML:
            return True
        for name, (value, _) in self._winners.get(element.key, {}).items():
            if name.startswith("white-space") and ("pre" in value or "break-spaces" in value):
                return True
        return False

    def holds_no_text(self, element: Element) -> bool:
        """Tell whether white space between the children of an element means nothing, whatever the children are."""
        if element.namespace != HTML:
            return element.name.lower() not in _SVG_TEXT
        display = self._winners.get(element.key, {}).get("display", ("",))[0]
        if display:
            return display.startswith(
                ("flex", "grid", "inline-flex", "inline-grid", "table-row", "table-header", "table-footer")
            )
        return element.name in _HOLDS_NO_TEXT


def is_white(node: Node) -> bool:
    """Tell whether a node is a text of nothing but white space that collapses."""
    return isinstance(node, Text) and not node.data.strip(WHITE)
