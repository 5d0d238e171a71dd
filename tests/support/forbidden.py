"""What a stage of a profile forbids, looked for in markup with rules of its own: the steps are not asked."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Lists, is_event_handler
from verse_tray.journeys.steps.classes import is_listed
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES, host_of, scheme_of, srcset_addresses
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Comment, Element
from verse_tray.style.declarations import parse_declarations


def forbidden(markup: str, rules: Lists) -> list[str]:
    """Return what stands in markup, as browsers read it, although a stage takes it away."""
    return [each for node in parse_fragment(markup).tree.nodes() for each in _of_node(node, rules)]


def _of_node(node: object, rules: Lists) -> Iterator[str]:
    record = rules.record
    if isinstance(node, Comment) and not record.comments:
        yield node.markup
    if not isinstance(node, Element):
        return
    own = (node.name == "script" and record.scripts) or (node.name == "style" and record.style_elements)
    if own == "drop" or (not own and rules.element(node.namespace, node.name) not in ("keep", "empty")):
        yield f"<{node.name}>"
    if node.name in record.rename_elements and node.namespace == "html":
        yield f"<{node.name}> not renamed"
    if node.name == "iframe" and record.frame_hosts is not None:
        host = host_of(node.attributes.get("src", "")) or ""
        if not any(host == each or (each[:2] == "*." and host.endswith(each[1:])) for each in record.frame_hosts):
            yield f"frame of {host}"
    for name, value in node.attributes.items():
        given = any((each.name, each.value) == (name, value) for each in record.set_attributes)
        if (rules.attribute_cause(node.namespace, node.name, name) and not given) or (
            not record.event_handlers and is_event_handler(name)
        ):
            yield f"{name} on <{node.name}>"
        if name in ADDRESS_ATTRIBUTES:
            yield from _of_address(name, value, record)
        if name == "style":
            yield from _of_style(value, record)
        if name == "class" and record.classes is not None:
            yield from (f"class {each}" for each in value.split() if not is_listed(each, record.classes))


def _of_address(name: str, value: str, record: Filter) -> Iterator[str]:
    rules = record.addresses
    for address in srcset_addresses(value) if name == "srcset" else [value]:
        scheme = scheme_of(address)
        listed = rules.attributes.get(name, rules.schemes)
        if (listed is not None and scheme is not None and scheme not in listed) or (
            scheme is None and (not rules.relative or name in rules.attributes)
        ):
            yield f"{name}={address}"


def _of_style(value: str, record: Filter) -> Iterator[str]:
    rules = record.styles
    for declaration in parse_declarations(value):
        name = declaration.name
        if (rules.properties is not None and name not in rules.properties) or name in rules.remove_properties:
            yield f"style {name}"
        if any(f"{each}(" in declaration.value.lower() for each in rules.remove_functions):
            yield f"style {declaration.value}"
