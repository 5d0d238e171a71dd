"""Names of a piece within its scripts: in the strings that hold them, and as names of the whole page."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from verse_tray.edit.apart.own import Names
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.spans import Span
from verse_tray.script.syntax import ScriptTree

if TYPE_CHECKING:
    from tree_sitter import Node

_OF_CALLS = {
    "getElementById": "id", "querySelector": "selector", "querySelectorAll": "selector", "closest": "selector",
    "matches": "selector", "$": "selector", "jQuery": "selector", "getElementsByClassName": "class", "add": "class",
    "remove": "class", "toggle": "class", "contains": "class", "replace": "class", "addClass": "class",
    "removeClass": "class", "toggleClass": "class", "hasClass": "class", "getElementsByName": "group",
    "insertAdjacentHTML": "markup", "write": "markup",
}  # fmt: skip
"""What a string is that is given to a function of that name."""
_NO_NAMES = frozenset(
    "addEventListener removeEventListener createElement getAttribute hasAttribute removeAttribute getElementsByTagName "
    "Event CustomEvent getItem setItem log warn error alert createElementNS getPropertyValue append fetch import "
    "require toLocaleString matchMedia postMessage".split()
)
_OF_MEMBERS = {
    "className": "class", "id": "id", "htmlFor": "id", "innerHTML": "markup", "outerHTML": "markup",
    "animation": "animation", "animationName": "animation", "cssText": "style", "hash": "fragment",
}  # fmt: skip
"""What a string is that is assigned to a member of that name, or compared with it."""
_TEXTS = frozenset(
    "textContent innerText value title alt placeholder type key code tagName nodeName display visibility href src "
    "label text name".split()
)
_TAG_ATTRIBUTE = re.compile(r"\b([\w:-]+)(\s*=\s*\\?)([\"'])([^\"'\\]*)")


def renamed_script(
    text: str, names: Names, globals_: Mapping[str, str], told: list[tuple[int, str]], *, own: frozenset[str]
) -> str:
    """Return a script with the names of the piece set apart.

    Args:
        text: The script, or the code of a handler.
        names: The names of the piece.
        globals_: What the names that its scripts share through the page become.
        told: Is given places in the script, and what could not be done, or may be wrong, there.
        own: Names that the script declares itself, which stay.
    """
    tree = ScriptTree(text)
    splices: list[Splice] = []
    stack = [tree.root]
    while stack:
        node = stack.pop()
        if node.type in ("string", "template_string"):
            splices += _in_string(tree, node, names, told)
            stack += [child for child in node.children if child.type == "template_substitution"]
            continue
        if node.type == "comment":
            continue
        splices += _name(tree, node, names, globals_, told, own)
        stack += reversed(node.children)
    return Spliced(text, splices).text


def _name(
    tree: ScriptTree,
    node: Node,
    names: Names,
    globals_: Mapping[str, str],
    told: list[tuple[int, str]],
    own: frozenset[str],
) -> Iterator[Splice]:
    if node.type not in ("identifier", "shorthand_property_identifier", "property_identifier"):
        return
    name, span = tree.typed(node), tree.span(node)
    if node.type == "property_identifier":
        holder = node.parent.child_by_field_name("object") if node.parent is not None else None
        if name.startswith("on") and holder is not None and tree.typed(holder) in _PAGE and _is_assigned(node.parent):
            told.append((span.start, f"{name} is one for the whole page, where the last copy's counts: {_LISTEN}"))
        if name in globals_ and holder is not None and tree.typed(holder) in ("window", "globalThis", "self"):
            yield Splice(span, globals_[name])
    elif name in globals_ and name not in own:
        yield Splice(span, globals_[name] if node.type == "identifier" else f"{name}: {globals_[name]}")
    elif name in names.ids and name not in own and node.type == "identifier":
        told.append((span.start, f"{name} is an element's identifier used as a name: write getElementById instead"))


_PAGE = frozenset(("window", "document", "document.body", "self", "globalThis"))
_LISTEN = "write addEventListener instead"


def _is_assigned(node: Node | None) -> bool:
    return (
        node is not None
        and node.parent is not None
        and node.parent.type == "assignment_expression"
        and (left := node.parent.child_by_field_name("left")) is not None
        and left.id == node.id
    )


def _in_string(tree: ScriptTree, node: Node, names: Names, told: list[tuple[int, str]]) -> Iterator[Splice]:
    role, goes_on = _role(tree, node)
    whole = tree.span(node)
    inner = Span(whole.start + 1, whole.end - 1)
    parts = [child for child in node.children if child.type == "string_fragment"]
    typed = tree.typed(node)[1:-1]
    if node.type == "string" or not any(child.type == "template_substitution" for child in node.children):
        parts = []
        stretches = [(inner, typed, goes_on)] if typed else []
    else:
        last = node.children[-1].start_byte
        stretches = [(tree.span(part), tree.typed(part), part.end_byte != last or goes_on) for part in parts]
    for span, text, partial in stretches:
        new = _renamed(text, role, names, partial=partial)
        if new != text:
            if role == "unknown":
                told.append((span.start, f"“{text[:40]}” was taken for a name of the piece; see that it is one"))
            yield Splice(span, new)
        elif role in ("id", "class", "selector") and partial and text == "":
            told.append((span.start, "a name is put together here, so it was not set apart"))
    if role == "tags" and typed:
        told.append((inner.start, f"“{typed[:40]}” finds those of every copy"))


def _renamed(text: str, role: str, names: Names, *, partial: bool) -> str:
    if role == "id":
        return names.id(text, partial=partial)
    if role == "class":
        return names.classes_in(text, partial=partial)
    if role == "selector" and not text.lstrip().startswith("<"):
        return names.selector(text, partial=partial)
    if role == "group":
        return names.of_attribute("name", text)
    if role == "animation":
        return names.animations(text)
    if role == "style":
        return names.of_attribute("style", text)
    if role == "fragment":
        return names.of_attribute("href", text)
    if role.startswith("@"):
        return names.of_attribute(role[1:], text)
    if role == "text":
        return text
    if role in ("markup", "selector") or re.search(r"<[a-z]", text, re.IGNORECASE):
        return _TAG_ATTRIBUTE.sub(lambda m: f"{m[1]}{m[2]}{m[3]}{names.of_attribute(m[1].lower(), m[4])}", text)
    if names.known(text):
        return names.classes_in(text) if text not in names.ids else names.id(text)
    return names.selector(text) if re.match(r"[.#][\w-]", text) else text


_WITHIN = frozenset(
    "binary_expression parenthesized_expression ternary_expression template_substitution template_string".split()
)


def _role(tree: ScriptTree, node: Node) -> tuple[str, bool]:
    """Return what a string is for, and whether something is joined to its end."""
    goes_on = False
    at = node
    parent = node.parent
    while parent is not None and parent.type in _WITHIN:
        if parent.type == "binary_expression":
            operator = parent.child_by_field_name("operator")
            sign = tree.typed(operator) if operator is not None else ""
            if sign in ("==", "===", "!=", "!=="):
                other = next((child for child in parent.named_children if child.id != at.id), None)
                return _of_member(tree, other), goes_on
            left = parent.child_by_field_name("left")
            goes_on = goes_on or (sign == "+" and left is not None and left.id == at.id)
        at, parent = parent, parent.parent
    if parent is None:
        return "unknown", goes_on
    if parent.type == "arguments":
        return _of_call(tree, parent, at), goes_on
    if parent.type in ("assignment_expression", "augmented_assignment_expression"):
        return _of_member(tree, parent.child_by_field_name("left")), goes_on
    if parent.type == "subscript_expression":
        return "text", goes_on
    return "unknown", goes_on


def _of_member(tree: ScriptTree, node: Node | None) -> str:
    if node is None or node.type != "member_expression":
        return "unknown"
    member = node.child_by_field_name("property")
    name = "" if member is None else tree.typed(member)
    holder = node.child_by_field_name("object")
    if "dataset" in (name, "" if holder is None else tree.typed(holder).rpartition(".")[2]) or name in _TEXTS:
        return "text"
    return _OF_MEMBERS.get(name, "unknown")


def _of_call(tree: ScriptTree, arguments: Node, at: Node) -> str:
    call = arguments.parent
    called = None if call is None else call.child_by_field_name("function") or call.child_by_field_name("constructor")
    if called is None:
        return "unknown"
    name = tree.typed(called).rpartition(".")[2]
    given = arguments.named_children
    if name in ("getElementsByTagName", "querySelectorAll") and re.fullmatch(r"['\"`][a-z]+['\"`]", tree.typed(at)):
        return "tags"
    if name in _NO_NAMES:
        return "text"
    if name == "setAttribute" and len(given) == 2:
        return f"@{tree.typed(given[0]).strip(chr(34) + chr(39) + '`').lower()}" if given[1].id == at.id else "text"
    role = _OF_CALLS.get(name, "unknown")
    if name in ("add", "remove", "toggle", "contains", "replace") and "classList" not in tree.typed(called):
        return "unknown"
    return role
