"""Rich text in the visual pane: what a browser's own editing surface keeps of a paste (held against one by a test)."""

from __future__ import annotations

from collections.abc import Collection

from verse_tray.journeys.state import State, holds_something
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Comment, Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.style.cascade import cascade
from verse_tray.style.declarations import parse_declarations
from verse_tray.style.page_sheets import sheets_in

_DROPPED = frozenset("base embed link meta script style title".split())
_UNWRAPPED = frozenset(("applet", "object"))
_EMPTIED = frozenset(("canvas",))
_FOLLOWED = frozenset(("action", "formaction", "href", "src", "xlink:href"))


def as_rich_text(state: State, parts: Collection[str]) -> None:
    """Do to a paste what the editing surfaces of browsers do, or some ``parts`` of it (:class:`Paste`)."""
    if "styles" in parts and any(element.name == "style" for element in state.elements):
        _write_styles_into_elements(state)
        for comment in state.comments:
            _drop(state, comment, "A comment", Severity.NOTE)
    for element in state.elements:
        if not element.fate and ("code" if element.name == "script" else "elements") in parts:
            _element(state, element)
    for element in state.elements if "code" in parts else ():
        if not element.fate:  # of what goes, that is told already
            _attributes(state, element)
    for part, does in (("idle", _unwrap_idle), ("spaces", _plain_spaces), ("ends", _trim)):
        state.settle()
        if part in parts:
            does(state)


def _drop(state: State, node: Node, what: str, severity: Severity) -> None:
    message = f"{what} goes: the visual pane takes none from a paste."
    state.edits.drop(node, state.edits.change("pane/drop", message, severity, node))


def _element(state: State, element: Element) -> None:
    name = element.name
    if name in _DROPPED:
        grave = name == "script" or holds_something(element)
        severity = Severity.NOTE if name == "style" else Severity.ERROR if grave else Severity.WARNING
        _drop(state, element, f"<{name}>", severity)
    elif name in _UNWRAPPED and element.namespace == HTML:
        message = f"<{name}> goes and its contents stay: the visual pane takes none from a paste."
        state.edits.unwrap(element, state.edits.change("pane/unwrap", message, Severity.ERROR, element))
    elif name in _EMPTIED and element.children:
        message = f"What is in <{name}> goes: the visual pane leaves its tags only."
        state.edits.clear(element, state.edits.change("pane/empty", message, Severity.WARNING, element))


def _attributes(state: State, element: Element) -> None:
    for name, value in list(element.attributes.items()):
        if name.startswith("on"):
            effect, rule = "Nothing happens on this event", "pane/handler"
        elif name in _FOLLOWED and element.namespace != "mathml" and scheme_of(value) == "javascript":
            effect, rule = "It leads nowhere", "pane/address"
        elif name == "srcdoc" and element.name == "iframe":
            effect, rule = "The frame is empty", "pane/address"
        else:
            continue
        message = f"{name} on <{element.name}> goes: the visual pane takes no scripts from a paste. {effect}."
        change = state.edits.attribute_change(rule, message, Severity.ERROR, element, name)
        state.edits.set_attribute(element, name, None, [change])


def _write_styles_into_elements(state: State) -> None:
    """Write the rules of style elements into the style attributes of the elements that they reach."""
    elements = state.elements
    winners = cascade(state.tree, elements, sheets_in(state.tree)).winners
    for element in elements:
        won = {place: value for place, (value, _) in winners.get(element.key, {}).items() if " " not in place}
        if not won:
            continue
        for declaration in parse_declarations(element.attributes.get("style", "")):
            if declaration.name:  # it counts before important rules here
                won[declaration.name] = declaration.value
        style = " ".join(f"{name}: {value};" for name, value in won.items())
        if style != element.attributes.get("style"):
            message = f"The style that rules gave <{element.name}> is written into it, as style elements go."
            change: Change = state.edits.change("pane/style", message, Severity.NOTE, element)
            state.edits.set_attribute(element, "style", style, [change])


def _unwrap_idle(state: State) -> None:
    """Unwrap what says nothing: bare ``span``, and bare ``div`` that is all that its parent holds."""
    alone = {id(parent.children[0]) for parent in state.elements if len(parent.children) == 1}
    for element in state.elements:
        span = element.name == "span" and not element.attributes.get("style") and set(element.attributes) <= {"style"}
        if span or (element.name == "div" and not element.attributes and id(element) in alone):
            message = f"A <{element.name}> that says nothing goes and its contents stay. Readers see the same."
            state.edits.unwrap(element, state.edits.change("pane/unwrap", message, Severity.NOTE, element))


_SINGLE_SPACE = lazy(r"(?<=[^\s\xa0])\xa0(?=[^\s\xa0])")


def _plain_spaces(state: State) -> None:
    """Write plain spaces for single non-breaking ones between words."""
    for text, _ in state.texts():
        if found := _SINGLE_SPACE.search(text.data):
            message = "A non-breaking space between words becomes a plain one: the line may break there."
            change = state.edits.text_change("pane/space", message, Severity.WARNING, text, Span(*found.span()))
            state.edits.replace(text, [Text(_SINGLE_SPACE.sub(" ", text.data), text.key)], [change])


def _trim(state: State) -> None:
    """Drop white space at both ends of the paste."""
    children = state.tree.root.children
    kept = list(children)
    for end in (0, -1):
        if kept and isinstance(kept[end], Text):
            text = kept[end]
            assert isinstance(text, Text)
            data = text.data.lstrip(" \t\n\f\r") if end == 0 else text.data.rstrip(" \t\n\f\r")
            if data != text.data:
                kept[end : len(kept) if end else 1] = [Text(data, text.key)] if data else []
    if len(kept) != len(children) or any(a is not b for a, b in zip(kept, children, strict=True)):
        about = next((child for child in children if not isinstance(child, Comment)), children[0])
        message = "White space at the ends of the paste goes. Readers see the same."
        state.edits.rearrange(state.tree.root, kept, [state.edits.change("pane/trim", message, Severity.NOTE, about)])
