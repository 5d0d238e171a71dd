"""What a mark stands in within a script (ECMAScript), told from its syntax tree."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context
from verse_tray.script.faults import script_fault
from verse_tray.script.syntax import ScriptTree, is_readable

if TYPE_CHECKING:
    from tree_sitter import Node

_UNREADABLE = "the script around it cannot be read"
_EXPRESSIONS = frozenset(
    "arguments array arrow_function assignment_expression augmented_assignment_expression assignment_pattern "
    "await_expression binary_expression for_in_statement pair parenthesized_expression return_statement "
    "sequence_expression "
    "subscript_expression switch_case template_substitution ternary_expression throw_statement unary_expression "
    "variable_declarator computed_property_name yield_expression".split()
)
_LISTS = frozenset(("array", "arguments", "template_substitution", "computed_property_name"))
_LONGEST = 50_000  # signs of a string that is read as markup
_NAMES = frozenset(("left", "name", "key", "object", "parameter", "function"))
_RUNNING = frozenset(("eval", "setTimeout", "setInterval", "Function", "execScript", "importScripts"))
_MARKUP = re.compile(r"<[A-Za-z!/]")


class ScriptText:
    """A script, with letters in place of its marks."""

    def __init__(self, text: str, *, module: bool = False, body: bool = False, json: bool = False) -> None:
        """Read it.

        Args:
            text: The script.
            module: Whether it is a module.
            body: Whether it is the body of a function, as a handler's value is.
            json: Whether it is JSON, which only holds values.
        """
        front = "(" if json else ""
        self._text = f"{front}{text}{')' if json else ''}"
        self._shift = len(front)
        self._value = Context.JSON_VALUE if json else Context.SCRIPT_VALUE
        readable = is_readable(text) and script_fault(self._text, module=module, body=body) is None
        self._tree = ScriptTree(self._text) if readable else None

    def context(self, hole: Span) -> tuple[Context, str]:
        """Return what a mark stands in, and why no value can stand there, if so."""
        if self._tree is None:
            return Context.NOWHERE, _UNREADABLE
        hole = Span(hole.start + self._shift, hole.end + self._shift)
        node = self._tree.at(hole)
        parent = node.parent
        if node.type == "comment" or node.type == "html_comment":
            return Context.CODE_COMMENT, ""
        if parent is None or parent.type == "ERROR" or node.type == "ERROR":
            return Context.NOWHERE, _UNREADABLE
        if node.type in ("string_fragment", "string", "template_string"):
            return self._in_string(node if node.type != "string_fragment" else parent, hole)
        if node.type == "identifier" and self._tree.span(node) == hole:
            if parent.type in _LISTS:  # of these there can be very many
                return self._value, ""
            field = next(
                (parent.field_name_for_child(n) for n, c in enumerate(parent.children) if c.id == node.id), None
            )
            named = field in _NAMES and (field, parent.type) not in (("left", "binary_expression"),)
            if parent.type in _EXPRESSIONS and not named:
                return self._value, ""
        return Context.NOWHERE, "in a script a value can stand within quotes, or where an expression stands by itself"

    def _in_string(self, string: Node, hole: Span) -> tuple[Context, str]:
        parent = string.parent
        assert self._tree is not None
        if string.end_byte - string.start_byte > _LONGEST:
            return Context.NOWHERE, "the string is too long to be read"
        if self._text[hole.start - 1] == "\\":
            return Context.NOWHERE, "the sign before it gives its first one another meaning"
        if parent is not None and parent.type == "call_expression":  # a template with a function in front of it
            return Context.NOWHERE, "a function in front of the string reads it in its own way"
        if parent is not None and parent.type == "arguments" and parent.parent is not None:
            called = parent.parent.child_by_field_name("function") or parent.parent.child_by_field_name("constructor")
            name = "" if called is None else self._tree.typed(called)
            if name.rpartition(".")[2] in _RUNNING:
                return Context.NOWHERE, "the string is run as a script"
        return Context.SCRIPT, ""

    def markup_around(self, hole: Span) -> tuple[str, Span] | None:
        """Return the markup that the string around a mark holds, and the mark's place in it; None for none."""
        assert self._tree is not None
        hole = Span(hole.start + self._shift, hole.end + self._shift)
        node = self._tree.at(hole)
        while node.type not in ("string", "template_string"):
            assert node.parent is not None
            node = node.parent
        whole = self._tree.span(node)
        typed = self._text[whole.start + 1 : whole.end - 1]
        if not _MARKUP.search(typed):
            return None
        front = re.sub(r"\\(.)", r"\1", self._text[whole.start + 1 : hole.start], flags=re.DOTALL)
        behind = re.sub(r"\\(.)", r"\1", self._text[hole.end : whole.end - 1], flags=re.DOTALL)
        middle = self._text[hole.start : hole.end]
        return front + middle + behind, Span(len(front), len(front) + len(middle))
