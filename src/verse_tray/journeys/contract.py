"""The contract of the steps, held against what they did: nothing is altered but by an edit, and every edit is told.

Only in tests and while a fault is looked for: every node is looked at before the first step and after each.
"""

from __future__ import annotations

from typing import Any

from msgspec import Struct

from verse_tray.journeys.edits import Edit, Edits
from verse_tray.markup.tree import Comment, Element, Node, Text, Tree
from verse_tray.model.errors import ContractError

_SETTLES = frozenset(("drop", "unwrap", "replace", "escape", "front"))
_TAKES_ALL = _SETTLES - {"unwrap"}


class _Seen(Struct, frozen=True):
    node: Node
    own: dict[str, Any]
    children: list[Node]
    fate: str


class Watch:
    """Watches a tree while steps run, one after the other: between them nothing is to be altered either."""

    on = False
    """Whether every step of every journey is watched."""

    def __init__(self, tree: Tree, edits: Edits) -> None:
        self._tree = tree
        self._edits = edits
        self._begin(_seen(tree.root))

    def _begin(self, before: dict[int, _Seen]) -> None:
        """Hold what the next step does against this."""
        self._first = len(self._edits.log)
        self._changes_before = len(self._edits.changes)
        self._before = before
        self._log: list[Edit] = []

    def verify(self, step: str) -> None:
        """Hold what a step made of the tree against the edits made since the last one, and them against their changes.

        Raises:
            ContractError: the step ``step`` altered something without an edit, or told what it did not do.
        """
        self._log = list(self._edits.log[self._first :])
        now = _seen(self._tree.root)
        self._changes_belong(step)
        if self._log or now != self._before:  # not so after most steps
            self._is_explained(step, now)
        self._begin(now)

    def _is_explained(self, step: str, now: dict[int, _Seen]) -> None:
        self._nodes_are_known(step, now)
        self._each_is_there_once(step, now)
        self._own_is_explained(step)
        self._children_are_explained(step)
        parents = [_parents(self._before), _parents(now)]
        for edit in self._log:
            self._is_told(step, edit, parents)

    def _changes_belong(self, step: str) -> None:
        told = {id(change) for edit in self._log for change in edit.changes}
        fresh = self._edits.changes[self._changes_before :]
        if not all(id(change) in told for change in fresh):
            raise ContractError(f"{step} reported a change that belongs to no edit")

    def _nodes_are_known(self, step: str, now: dict[int, _Seen]) -> None:
        """Hold that what is new in the tree was put in by an edit."""
        put_in = {number for edit in self._log for node in edit.nodes for number in _seen(node)}
        for number, seen in now.items():
            if number not in self._before and number not in put_in and number not in self._edits.added:
                raise ContractError(f"{step} put {_named(seen.node)} in without an edit")

    @staticmethod
    def _each_is_there_once(step: str, now: dict[int, _Seen]) -> None:
        """Hold that no node stands in two places, of which readers would get it twice."""
        placed: set[int] = set()
        for child in (child for seen in now.values() for child in seen.children):
            if id(child) in placed:
                raise ContractError(f"{step} put {_named(child)} in two places")
            placed.add(id(child))

    def _own_is_explained(self, step: str) -> None:
        """Hold that names, attributes, texts and fates are what the edits made of them."""
        expected = {number: dict(seen.own) for number, seen in self._before.items()}
        for edit in self._log:
            own = expected.get(id(edit.node))
            if own is None:
                continue
            if edit.kind == "attribute":
                own["attributes"] = {k: v for k, v in own["attributes"].items() if k != edit.attribute}
                if edit.value is not None:
                    own["attributes"][edit.attribute] = edit.value
            elif edit.kind == "rename":
                own["name"] = edit.value
        fated = self._may_be_fated()
        for number, seen in self._before.items():
            if _own(seen.node) != expected[number]:
                raise ContractError(f"{step} altered {_named(seen.node)} without an edit")
            if seen.node.fate != seen.fate and number not in fated:
                raise ContractError(f"{step} decided on {_named(seen.node)} without an edit")

    def _may_be_fated(self) -> set[int]:
        fated: set[int] = set()
        for edit in self._log:
            if edit.kind in _SETTLES:
                fated.add(id(edit.node))
            if edit.kind in _TAKES_ALL:
                fated.update(_seen(edit.node))
                fated.update(self._inside(edit.node))
        return fated

    def _inside(self, node: Node) -> set[int]:
        found: set[int] = set()
        stack = [node]
        while stack:
            seen = self._before.get(id(stack.pop()))
            if seen is not None:
                found.update(map(id, seen.children))
                stack += seen.children
        return found

    def _children_are_explained(self, step: str) -> None:
        """Hold that every element holds what the edits left in it, settled or not yet."""
        lists: dict[int, tuple[int, list[Node]]] = {
            number: (-1, seen.children) for number, seen in self._before.items()
        }
        for index, edit in enumerate(self._log):
            if edit.kind == "children":
                lists[id(edit.node)] = (index, list(edit.nodes))
        fronts = [edit.node for edit in self._log if edit.kind == "front"]
        for number, seen in self._before.items():
            if not isinstance(seen.node, Element):
                continue
            since, children = lists[number]
            front = fronts if seen.node is self._tree.root else []
            if not any(self._agree(seen.node.children, children, lists, first, front) for first in {-1, since}):
                raise ContractError(f"{step} rearranged what {_named(seen.node)} holds without an edit")

    def _agree(
        self,
        actual: list[Node],
        expected: list[Node],
        lists: dict[int, tuple[int, list[Node]]],
        since: int,
        front: list[Node],
    ) -> bool:
        """Tell whether two lists are the same once all is carried out; some of it may be carried out already."""
        left, right = (list(map(id, self._settled(each, lists, since))) for each in (actual, expected))
        return left == right or left == [*map(id, front), *right] or list(map(id, actual)) == list(map(id, expected))

    def _settled(self, children: list[Node], lists: dict[int, tuple[int, list[Node]]], since: int) -> list[Node]:
        """Return what is left of a list when the fates decided behind edit number ``since`` are carried out."""
        fates = {id(edit.node): edit for edit in self._log[since + 1 :] if edit.kind in _SETTLES}
        for edit in self._edits.log[: self._first]:  # decided by a step before, and not carried out by then
            before = self._before.get(id(edit.node))
            pending = before.fate != "" if before is not None else id(edit.node) in self._edits.added
            if edit.kind in _SETTLES and pending:
                fates.setdefault(id(edit.node), edit)
        found: list[Node] = []
        stack = children[::-1]
        while stack:
            node = stack.pop()
            fate = fates.get(id(node))
            if fate is None:
                found.append(node)
                continue
            held = lists.get(id(node), (0, []))[1]
            if fate.kind == "unwrap":
                stack += held[::-1]
            elif fate.kind == "replace":
                stack += fate.nodes[::-1]
            elif fate.kind == "escape":
                stack += [*fate.nodes[1:], *held[::-1], fate.nodes[0]]
        return found

    def _is_told(self, step: str, edit: Edit, parents: list[dict[int, Node]]) -> None:
        """Hold that each change of an edit bears the step's name, and is about the node, what holds it or is in it."""
        about: set[int] = {edit.node.key}
        for parent_of in parents:
            node: Node | None = edit.node
            while node is not None:
                about.add(node.key)
                node = parent_of.get(id(node))
        for inner in (*_seen(edit.node).values(), *(seen for node in edit.nodes for seen in _seen(node).values())):
            about.add(inner.node.key)
        about.update(self._before[number].node.key for number in self._inside(edit.node))
        about.update(node.key for node in edit.taken)
        on_the_way = (each.nodes for each in self._log if each.kind == "children" and each.node is edit.node)
        about.update(node.key for nodes in on_the_way for node in nodes)
        for change in edit.changes:
            if not change.rule.startswith(f"{step}/"):
                raise ContractError(f"{step} reported the rule {change.rule}")
            key = getattr(change.location, "key", None)
            if key is None:
                raise ContractError(f"{step} reported {change.rule} without a place")
            if key not in about:
                raise ContractError(f"{step} edited {_named(edit.node)} and reported {change.rule} about another node")


def _seen(node: Node) -> dict[int, _Seen]:
    """Return a node and all that is in it, by ``id``; what is held here cannot pass its number on to another."""
    found: dict[int, _Seen] = {}
    stack = [node]
    while stack:
        each = stack.pop()
        children = list(each.children) if isinstance(each, Element) else []
        found[id(each)] = _Seen(each, _own(each), children, each.fate)
        stack += children
    return found


def _own(node: Node) -> dict[str, Any]:
    if isinstance(node, Text):
        return {"data": node.data, "key": node.key, "means": node.means}
    if isinstance(node, Comment):
        return {"kind": node.kind, "markup": node.markup, "key": node.key}
    return {"name": node.name, "namespace": node.namespace, "attributes": dict(node.attributes), "key": node.key}


def _parents(seen: dict[int, _Seen]) -> dict[int, Node]:
    return {id(child): each.node for each in seen.values() for child in each.children}


def _named(node: Node) -> str:
    if isinstance(node, Element):
        return f"<{node.name}>" if node.name else "the piece"
    return f"the text {node.data[:20]!r}" if isinstance(node, Text) else "a comment"
