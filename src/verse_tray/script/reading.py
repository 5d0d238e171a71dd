"""What a script asks of the page and of other scripts, told from its syntax tree; nothing of it is run."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, Literal

from msgspec import Struct

from verse_tray.model.spans import Span
from verse_tray.script.syntax import ScriptTree, is_readable

if TYPE_CHECKING:
    from tree_sitter import Node

How = Literal["id", "first", "all", "class"]
"""By its identifier; the first, or all, that a selector matches; all of a class."""


class Sought(Struct, frozen=True):
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


class Declared(Struct, frozen=True):
    """A name that a script declares for the whole page."""

    lexical: bool
    """Whether by ``let``, ``const`` or ``class``, which take each name once."""
    span: Span
    """Place of the name in the script."""


class ScriptReading(Struct, frozen=True):
    """What is known of a script."""

    sought: tuple[Sought, ...] = ()
    """The elements that it looks for."""
    used: dict[str, Span] = {}
    """Names of others that it needs at once, each with the first place."""
    called: dict[str, Span] = {}
    """Functions of others that it calls by their bare name, at any time."""
    declared: dict[str, Declared] = {}
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
_NAMED = frozenset("variable_declarator function_declaration function_expression class_declaration".split())
_PARTS = {"catch_clause": "parameter", "for_in_statement": "left"}
"""Nodes that bind what is in one of their fields; those of ``_NAMED`` bind their name."""
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
    bound, calls, assigned = _gathered(tree)
    walk = _AtOnce(tree)
    called: dict[str, Span] = {}
    for call in calls:
        function = call.child_by_field_name("function")
        if function is not None and function.type == "identifier" and (name := tree.typed(function)) not in bound:
            called.setdefault(name, tree.span(function))
    return ScriptReading(
        tuple(_sought(tree, calls, walk.calls)),
        {name: span for name, span in walk.used.items() if name not in bound},
        called,
        dict(_declared(tree)),
        bound,
        frozenset(_made(tree, assigned, bound)),
    )


def _gathered(tree: ScriptTree) -> tuple[frozenset[str], list[Node], list[Node]]:
    """Return the names that a script binds anywhere, its calls and its assignments.

    One walk: for most scripts it takes less time than it takes to make a query ready.
    """
    bound: set[str] = set()
    calls: list[Node] = []
    assigned: list[Node] = []
    stack = [tree.root]
    while stack:
        node = stack.pop()
        kind, children = node.type, node.named_children
        stack += children[::-1]
        if kind == "call_expression":
            calls.append(node)
        elif kind == "assignment_expression":
            assigned.append(node)
        else:
            for binding in _bindings(node, kind, children):
                bound.update(tree.typed(each) for each in _identifiers(binding))
    return frozenset(bound), calls, assigned


def _bindings(node: Node, kind: str, children: list[Node]) -> list[Node]:
    """Return what a node binds, be it a name or a pattern."""
    if kind in _NAMED or kind in _PARTS:
        part = node.child_by_field_name(_PARTS.get(kind, "name"))
        return [] if part is None else [part]
    if kind == "formal_parameters":
        return [each for each in children if not each.is_error]
    if kind == "import_specifier":
        return [node]
    if kind in ("import_clause", "namespace_import"):
        return [each for each in children if each.type == "identifier"]
    if kind == "arrow_function":
        part = node.child_by_field_name("parameter")
        return [part] if part is not None and part.type == "identifier" else []
    return []


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


def _sought(tree: ScriptTree, calls: list[Node], at_once: set[int]) -> list[Sought]:
    found = []
    for call in calls:
        function, arguments = call.child_by_field_name("function"), call.child_by_field_name("arguments")
        if function is None or arguments is None or arguments.type != "arguments" or not arguments.named_children:
            continue
        text = arguments.named_children[0]
        texts: tuple[str, ...] = ("string",)
        if function.type == "member_expression":
            function, texts = function.child_by_field_name("property"), ("string", "template_string")
        if function is None or function.type not in ("identifier", "property_identifier") or text.type not in texts:
            continue
        how = _HOW.get(tree.typed(function))
        inner = tree.typed(text)[1:-1]
        if how is None or not inner.strip() or "${" in inner or "\\" in inner or inner.lstrip().startswith("<"):
            continue
        span = tree.span(text)
        found.append(Sought(how, inner, Span(span.start + 1, span.end - 1), call.id in at_once))
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


def _made(tree: ScriptTree, assigned: list[Node], bound: frozenset[str]) -> set[str]:
    found = set()
    for each in assigned:
        left = each.child_by_field_name("left")
        if left is None:
            continue
        if left.type == "identifier":
            if (name := tree.typed(left)) not in bound:
                found.add(name)
        elif left.type == "member_expression":
            of, name_of = left.child_by_field_name("object"), left.child_by_field_name("property")
            if of is not None and name_of is not None and name_of.type == "property_identifier":
                if of.type == "identifier" and tree.typed(of) in _WINDOW:
                    found.add(tree.typed(name_of))
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
