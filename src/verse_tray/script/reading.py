"""What a script asks of the page and of other scripts, told from its syntax tree; nothing of it is run."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, Literal, NamedTuple

from verse_tray.model.spans import Span
from verse_tray.script.syntax import ScriptTree, is_readable

if TYPE_CHECKING:
    from tree_sitter import Node

How = Literal["id", "first", "all", "class"]
"""By its identifier; the first, or all, that a selector matches; all of a class."""


class Sought(NamedTuple):
    """Elements that a script looks for."""

    how: How
    name: str
    """The identifier, the selector, or the class."""
    span: Span
    """Place of the name in the script."""
    at_once: bool
    """Whether it looks as soon as it runs, and not when something happens, or only if something is the case."""


def selector_of(sought: Sought) -> str:
    """Return the selector that matches what a script looks for."""
    if sought.how == "id":
        return f'[id="{_quoted(sought.name)}"]'
    if sought.how == "class":
        return "".join(f'[class~="{_quoted(name)}"]' for name in sought.name.split())
    return sought.name


def _quoted(name: str) -> str:
    return name.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\a ")


class Declared(NamedTuple):
    """A name that a script declares for the whole page."""

    lexical: bool
    """Whether by ``let``, ``const`` or ``class``, which take each name once."""
    span: Span
    """Place of the name in the script."""


class ScriptReading(NamedTuple):
    """What is known of a script."""

    sought: tuple[Sought, ...] = ()
    """The elements that it looks for."""
    used: dict[str, Span] = {}  # noqa: RUF012 (a record of this module's, never changed)
    """Names of others that it needs at once, each with the first place."""
    called: dict[str, Span] = {}  # noqa: RUF012
    """Functions of others that it calls by their bare name, at any time."""
    declared: dict[str, Declared] = {}  # noqa: RUF012
    """Names that it declares for the whole page."""
    bound: frozenset[str] = frozenset()
    """Names that it binds anywhere: declared ones, parameters, what is caught."""
    made: frozenset[str] = frozenset()
    """Names that it makes known otherwise: by assigning them, or as members of the window."""


_HOW: dict[str, How] = {
    "getElementById": "id",
    "querySelector": "first",
    "querySelectorAll": "all",
    "getElementsByClassName": "class",
    "closest": "first",
    "$": "all",
    "jQuery": "all",
}
_SOUGHT = """
(call_expression function: (member_expression property: (property_identifier) @how)
  arguments: (arguments . [(string) (template_string)] @text)) @call
(call_expression function: (identifier) @how arguments: (arguments . (string) @text)) @call
"""
_BOUND = """
(variable_declarator name: (_) @name)
(function_declaration name: (_) @name)
(function_expression name: (_) @name)
(class_declaration name: (_) @name)
(formal_parameters (_) @name)
(arrow_function parameter: (identifier) @name)
(catch_clause parameter: (_) @name)
(import_specifier) @name
(import_clause (identifier) @name)
(namespace_import (identifier) @name)
(for_in_statement left: (_) @name)
"""
_MADE = """
(assignment_expression left: (member_expression object: (identifier) @of property: (property_identifier) @name))
(assignment_expression left: (identifier) @name)
"""
_CALLED = "(call_expression function: (identifier) @name)"
_WINDOW = frozenset(("window", "globalThis", "self", "top", "parent"))
_FUNCTIONS = frozenset(
    "function_declaration function_expression arrow_function generator_function generator_function_declaration "
    "method_definition class_body".split()
)
_PERHAPS = frozenset("if_statement try_statement switch_statement ternary_expression optional_chain".split())


@lru_cache(maxsize=64)
def read_script(text: str) -> ScriptReading:
    """Return what a script asks of others; of one that is too long or too deep, nothing."""
    if not is_readable(text):
        return ScriptReading()
    tree = ScriptTree(text)
    bound = _names(tree, _BOUND)
    walk = _AtOnce(tree)
    called: dict[str, Span] = {}
    for match in tree.matches(_CALLED):
        name = tree.typed(match["name"][0])
        if name not in bound:
            called.setdefault(name, tree.span(match["name"][0]))
    return ScriptReading(
        tuple(_sought(tree, walk.calls)),
        {name: span for name, span in walk.used.items() if name not in bound},
        called,
        dict(_declared(tree)),
        bound,
        frozenset(_made(tree, bound)),
    )


def _names(tree: ScriptTree, query: str) -> frozenset[str]:
    """Return the identifiers in what a query captures as ``name``."""
    found: set[str] = set()
    for match in tree.matches(query):
        found.update(tree.typed(each) for each in _identifiers(match["name"][0]))
    return frozenset(found)


def _identifiers(node: Node) -> list[Node]:
    """Return the names that a binding, be it a pattern, binds."""
    found, stack = [], [node]
    while stack:
        each = stack.pop()
        if each.type in ("identifier", "shorthand_property_identifier_pattern"):
            found.append(each)
        elif each.type not in _FUNCTIONS:
            stack += each.named_children
    return found


def _sought(tree: ScriptTree, at_once: set[int]) -> list[Sought]:
    found = []
    for match in tree.matches(_SOUGHT):
        how = _HOW.get(tree.typed(match["how"][0]))
        text = match["text"][0]
        inner = tree.typed(text)[1:-1]
        if how is None or not inner.strip() or "${" in inner or "\\" in inner or inner.lstrip().startswith("<"):
            continue
        span = tree.span(text)
        found.append(Sought(how, inner, Span(span.start + 1, span.end - 1), match["call"][0].id in at_once))
    return found


def _declared(tree: ScriptTree) -> list[tuple[str, Declared]]:
    found = []
    for node in tree.root.children:
        if node.type in ("lexical_declaration", "variable_declaration"):
            targets = [each.child_by_field_name("name") for each in node.named_children if "declarator" in each.type]
        elif node.type in ("function_declaration", "class_declaration", "generator_function_declaration"):
            targets = [node.child_by_field_name("name")]
        else:
            continue
        lexical = node.type in ("lexical_declaration", "class_declaration")
        for target in targets:
            for name in _identifiers(target) if target is not None else ():
                found.append((tree.typed(name), Declared(lexical, tree.span(name))))
    return found


def _made(tree: ScriptTree, bound: frozenset[str]) -> set[str]:
    found = set()
    for match in tree.matches(_MADE):
        name = tree.typed(match["name"][0])
        if "of" in match:
            if tree.typed(match["of"][0]) in _WINDOW:
                found.add(name)
        elif name not in bound:
            found.add(name)
    return found


class _AtOnce:
    """A walk through what runs as soon as a script does: functions only where they are called on the way."""

    def __init__(self, tree: ScriptTree) -> None:
        self._tree = tree
        self.calls: set[int] = set()
        """The calls on the way."""
        self.used: dict[str, Span] = {}
        """Names on the way that have to be there."""
        self._bodies: dict[str, Node] = {}
        self._stack = [tree.root]
        for node in tree.root.children:
            if node.type == "function_declaration":
                name, body = node.child_by_field_name("name"), node.child_by_field_name("body")
                if name is not None and body is not None:
                    self._bodies[tree.typed(name)] = body
        while self._stack:
            self._visit(self._stack.pop())

    def _visit(self, node: Node) -> None:
        if node.type in _FUNCTIONS or node.type in _PERHAPS:
            return
        if node.type == "call_expression":
            self.calls.add(node.id)
            self._call(node.child_by_field_name("function"), node.child_by_field_name("arguments"))
            return
        if node.type == "new_expression":
            self._need(node.child_by_field_name("constructor"))
        elif node.type == "member_expression":
            self._need(node.child_by_field_name("object"))
        elif node.type == "binary_expression" and node.child_by_field_name("operator").type in ("&&", "||", "??"):  # type: ignore[union-attr]
            self._stack.append(node.named_children[0])
            return
        self._stack += reversed(self._reached(node) if node.type == "statement_block" else node.named_children)

    def _reached(self, block: Node) -> list[Node]:
        """Return the statements of a block up to the first that may leave it."""
        found: list[Node] = []
        for child in block.named_children:
            typed = self._tree.typed(child) if child.type in _PERHAPS else ""
            if "return" in typed or "throw" in typed:
                break
            found.append(child)
            if child.type in ("return_statement", "throw_statement"):
                break
        return found

    def _call(self, function: Node | None, arguments: Node | None) -> None:
        if arguments is not None:
            for each in arguments.named_children:
                self._need(each)
            self._stack += reversed(arguments.named_children)
        while function is not None and function.type == "parenthesized_expression" and function.named_children:
            function = function.named_children[0]
        if function is None:
            return
        self._need(function)
        if function.type in ("function_expression", "arrow_function"):
            body = function.child_by_field_name("body")
        elif function.type == "identifier":
            body = self._bodies.pop(self._tree.typed(function), None)
        else:
            body = function
        if body is not None:
            self._stack.append(body)

    def _need(self, node: Node | None) -> None:
        if node is not None and node.type == "identifier":
            self.used.setdefault(self._tree.typed(node), self._tree.span(node))
