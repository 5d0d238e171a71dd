"""Limits on what a tree holds: levels, frames, pictures, the length of attributes and of inline pictures."""

from __future__ import annotations

from verse_tray.editors.profile import Limit
from verse_tray.journeys.limits.use import LimitUse, cut, size, told, use_of
from verse_tray.journeys.state import State
from verse_tray.markup.addresses import scheme_of, srcset_addresses
from verse_tray.markup.tree import Element, Tree
from verse_tray.model.findings import Change, Severity


class Counted:
    """A tree held against the limits of one stage."""

    def __init__(self) -> None:
        self.uses: list[LimitUse] = []
        """How much of each limit it uses."""
        self.warnings: list[Change] = []
        """What the editor warns of."""
        self.refused: LimitUse | None = None
        """The limit that refuses it."""


def count(state: State, limits: tuple[Limit, ...], counted: Counted) -> None:
    """Hold a tree against limits on what it holds, and take away what is too much where they say so."""
    for limit in limits:
        state.settle()
        use, beyond = _held(state, limit)
        counted.uses.append(use)
        if not use.exceeded:
            continue
        if limit.over == "refuse":
            counted.refused = use
            break
        for element, attribute in beyond:
            if not element.fate:
                _over(state, limit, use, element, attribute, counted.warnings)


def _held(state: State, limit: Limit) -> tuple[LimitUse, list[tuple[Element, str]]]:
    """Return how much of a limit is used, and the elements or attributes that are too much."""
    if limit.of == "piece":
        found = {"levels": _levels, "frames": _frames, "pictures": _pictures}[limit.unit](state.tree)
        if limit.unit == "levels":
            deepest = max((level for _, level in found), default=0)
            beyond = [(element, "") for element, level in found if level + limit.already == limit.most + 1]
            return use_of(limit, deepest), beyond
        return use_of(limit, len(found)), [(element, "") for element, _ in found[max(0, limit.most - limit.already) :]]
    largest = 0
    too_long = []
    for element in state.elements:
        for name, value in element.attributes.items():
            if limit.of == "inline-picture" and not _is_inline_picture(name, value):
                continue
            length = size(value, limit.unit)
            largest = max(largest, length)
            if length + limit.already > limit.most:
                too_long.append((element, name))
    return use_of(limit, largest), too_long


def _levels(tree: Tree) -> list[tuple[Element, int]]:
    found: list[tuple[Element, int]] = []
    stack = [(tree.root, 0)]
    while stack:
        parent, level = stack.pop()
        for child in reversed(parent.children):
            if type(child) is Element:
                stack.append((child, level + 1))
        if level:
            found.append((parent, level))
    return found


def _frames(tree: Tree) -> list[tuple[Element, int]]:
    return [(element, 0) for element in tree.elements() if element.name == "iframe"]


def _pictures(tree: Tree) -> list[tuple[Element, int]]:
    return [(element, 0) for element in tree.elements() if element.name == "img"]


def _is_inline_picture(name: str, value: str) -> bool:
    if name not in ("src", "srcset", "poster", "href", "xlink:href", "style", "background") or "data:" not in value:
        return False
    addresses = srcset_addresses(value) if name == "srcset" else [value]
    return name == "style" or any(scheme_of(each) == "data" for each in addresses)


def _over(state: State, limit: Limit, use: LimitUse, element: Element, attribute: str, warnings: list[Change]) -> None:
    """Do to one thing that is too much what the limit says."""
    edits = state.edits
    tag = f"<{element.name}>"
    if attribute:
        length = size(element.attributes[attribute], limit.unit) + limit.already
        what = f"{attribute} on {tag} is too long: {length:,} of at most {use.most:,} {limit.unit}"
    else:
        what = f"This {tag} is beyond what the editor allows: {told(use)}, and at most {use.most:,} pass"
    rule = f"limits/{limit.over}"
    if limit.over == "warn":
        about = edits.attribute_change if attribute else None
        message = f"The editor warns. {what}."
        if about is not None:
            warnings.append(about(rule, message, Severity.WARNING, element, attribute))
        else:
            warnings.append(edits.change(rule, message, Severity.WARNING, element))
    elif not attribute:
        edits.drop(element, edits.change(rule, f"{what}. It goes with all that is in it.", Severity.ERROR, element))
    elif limit.over == "drop" or not (left := cut(element.attributes[attribute], limit)):
        change = edits.attribute_change(rule, f"{what}. It goes.", Severity.ERROR, element, attribute)
        edits.set_attribute(element, attribute, None, [change])
    else:
        change = edits.attribute_change(rule, f"{what}. It is cut there.", Severity.ERROR, element, attribute)
        edits.set_attribute(element, attribute, left, [change])
