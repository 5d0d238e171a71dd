"""What is typed at the end of a piece in the visual pane: text, Enter and Shift+Enter, as browsers take them."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import BLOCKS, INVISIBLE
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity

ENTER, SHIFT_ENTER = "Enter", "Shift+Enter"
_HEADINGS = frozenset(("h1", "h2", "h3", "h4", "h5", "h6"))
_BREAKING = frozenset(("pre", "listing", "td", "th", "caption"))
"""Blocks in which Enter makes a line break."""
_LISTS = frozenset(("ul", "ol"))
"""Lists that Enter in an empty item ends; anywhere else an item is a line like others."""


def run(state: State) -> None:
    """Type the keys that the journey was given: ``Enter``, ``Shift+Enter``, or text."""
    if not state.keys:
        return
    caret = _Caret(state)
    for key in state.keys:
        if key == ENTER:
            caret.enter()
        elif key == SHIFT_ENTER:
            caret.break_line()
        else:
            caret.write(key)


class _Caret:
    """The place behind what was there, or was typed, last."""

    def __init__(self, state: State) -> None:
        self.state = state
        self.path: list[Element] = [state.tree.root]
        """The elements around the caret, outermost first."""
        self.at = len(state.tree.root.children)
        """How many children of the innermost one stand before it."""
        self.placeholder: Element | None = None
        """The line break that keeps the empty line behind the caret open."""
        last: list[Node] | None = None
        stack: list[list[Node]] = [[state.tree.root]]
        while stack and last is None:  # the last child first: the first text found is the last one of the piece
            path = stack.pop()
            inner = path[-1]
            if isinstance(inner, Text):
                last = path
            elif isinstance(inner, Element) and inner.name not in INVISIBLE:
                stack += [[*path, child] for child in inner.children if isinstance(child, Element) or _solid(child)]
        if last is not None:
            self.path = [each for each in last if isinstance(each, Element)]
            self.at = _index(self.path[-1], last[-1]) + 1

    def write(self, text: str) -> None:
        """Type text."""
        self._leave_link()
        children = list(self.path[-1].children)
        if self.placeholder is not None:
            children.remove(self.placeholder)
            self.placeholder = None
        children.insert(self.at, Text(text, 0, ""))  # the author's own: none of it leaked
        self._edit(self.path[-1], children, "typing/text", f"“{text}” is typed at the end.")
        self.at += 1

    def break_line(self) -> None:
        """Press Shift+Enter."""
        self._leave_link()
        children = list(self.path[-1].children)
        children.insert(self.at, Element("br"))
        self.at += 1
        if self.placeholder is None:
            self.placeholder = Element("br")
            children.insert(self.at, self.placeholder)
        self._edit(self.path[-1], children, "typing/break", "Shift+Enter makes a line break at the end.")

    def _leave_link(self) -> None:
        # what is typed behind a link is not part of it; a line within one that holds whole blocks is
        while any(element.name == "a" for element in self.path[self._depth() + 1 :]):
            inner = self.path.pop()
            self.at = _index(self.path[-1], inner) + 1

    def _depth(self) -> int:
        """Return at which place of the path the innermost block stands: 0, the root, where there is none."""
        return max((i for i, each in enumerate(self.path) if each.name in BLOCKS), default=0)

    def enter(self) -> None:
        """Press Enter."""
        depth = self._depth()
        block = self.path[depth]
        if block.name in _BREAKING:
            self.break_line()
            return
        item = depth - 1 if self.path[depth - 1].name == "li" and block is self.path[depth - 1].children[-1] else depth
        if self.path[item].name == "li":
            if self.placeholder is not None and self.path[item - 1].name in _LISTS and self._is_all(self.path[item]):
                self._leave_list(item)
                return
            depth = item
        line: list[Element] = []
        for element in self.path[depth:]:
            if element is self.state.tree.root or element.name in _HEADINGS:
                line.append(Element("div"))
            elif element.name != "a":
                line.append(Element(element.name, element.namespace, dict(element.attributes)))
        parent = self.path[max(0, depth - 1)] if depth else self.state.tree.root
        behind = self.path[depth] if depth else (self.path[1] if len(self.path) > 1 else None)
        number = _index(parent, behind) + 1 if behind is not None else self.at + (self.placeholder is not None)
        what = f"a new <{line[0].name}>, like the one before it" if line[0].attributes else f"a new <{line[0].name}>"
        children = list(parent.children)
        children.insert(number, line[0])
        self._open(self.path[: max(1, depth)], line)
        self._edit(parent, children, "typing/enter", f"Enter makes {what}.")

    def _is_all(self, element: Element) -> bool:
        """Tell whether the open empty line is all that an element holds."""
        while element.children and isinstance(element.children[0], Element) and len(element.children) == 1:
            element = element.children[0]
        return element is self.placeholder

    def _leave_list(self, item: int) -> None:
        """Press Enter in an empty list item: the line behind the list is what is left of it."""
        entry, whole, parent = self.path[item], self.path[item - 1], self.path[item - 2]
        message = "Enter in an empty list item ends the list."
        left = [child for child in whole.children if child is not entry]
        if parent.name == "li" and item >= 3:  # an inner list moves out of its item
            outer, line = self.path[item - 3], Element("li")
            self._edit(whole, left, "typing/enter", message)
            kept = [child for child in parent.children if child is not whole]
            self._edit(parent, kept, "typing/enter", "The inner list stands behind its item, no longer in it.")
            children, behind, added = list(outer.children), parent, [whole, line]
            around = self.path[: item - 2]
        else:
            outer, line = parent, Element("div")
            self._edit(whole, left, "typing/enter", message)
            children, behind, added = list(outer.children), whole, [line]
            around = self.path[: item - 1]
        number = _index(outer, behind) + 1
        children[number:number] = added
        kept_open = [each for each in self.path[item + 1 :] if each.name not in BLOCKS and each.name != "a"]
        self._open(around, [line, *(Element(each.name, attributes=dict(each.attributes)) for each in kept_open)])
        self._edit(outer, children, "typing/enter", f"A new <{line.name}> stands behind it.")

    def _open(self, around: list[Element], line: list[Element]) -> None:
        """Put the caret into a new line: elements inside one another, and a line break that keeps it open."""
        self.placeholder = Element("br")
        for outer, inner in zip(line, [*line[1:], self.placeholder], strict=True):
            outer.children = [inner]
        self.path = [*around, *line]
        self.at = 0

    def _edit(self, parent: Element, children: list[Node], rule: str, message: str) -> None:
        about = next((each for each in reversed([*self.path, parent]) if each.key), parent)
        self.state.edits.rearrange(parent, children, [self.state.edits.change(rule, message, Severity.NOTE, about)])


def _index(parent: Element, child: Node) -> int:
    return next(index for index, each in enumerate(parent.children) if each is child)


def _solid(node: Node) -> bool:
    return isinstance(node, Text) and bool(node.data.strip())


STEP = Step(
    "typing",
    run,
)
