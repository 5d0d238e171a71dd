"""Single changes of a profile that are worth trying where cells stay unexplained."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from copy import deepcopy
from typing import Any, NamedTuple

from verse_tray.editors.profile import Paste
from verse_tray.learning.held import Draft, tags_in
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.style.declarations import parse_declarations

_FLAGS: tuple[tuple[str, Any], ...] = (
    ("writes", "as-typed"), ("writes", "tags-anew"), ("writes", "tokens-anew"), ("writes", "anew"),
    ("cleans", "until-safe"),
    ("paragraphs", True), ("nesting", "repair"), ("whiteSpace", "fold"), ("nonBreakingSpaces", "plain"),
    ("quotes", "straight"), ("trailingBreaks", "drop"), ("betweenTags", "drop"), ("addressLinks", True),
    ("typography", "curly"), ("typographyInCode", True),
    ("booleanAttributes", "empty"), ("booleanAttributes", "repeat"), ("booleanAttributes", "bare"),
    ("beyond16Bits", "drop"),
    ("beyond16Bits", "cut"), ("comments", False), ("eventHandlers", False), ("dataAttributes", False),
    ("mergeElements", ["b", "i", "strong", "em"]), ("mergeElements", ["strong", "em"]), ("mergeElements", ["b", "i"]),
    ("looseText", "paragraphs"), ("scripts", "neutralise"), ("styleElements", "front"), ("frameHosts", []),
)  # fmt: skip
"""Keys with the values that are tried, and the default."""
_ELEMENT_LISTS = ("elements", "removeElements", "replaceWithChildrenElements", "escapeElements", "emptyElements")
EMPTIES = tuple("p div span b i em strong u a li ul td h2 h3 small section blockquote".split())
"""Elements that may go when they hold nothing."""


class Move(NamedTuple):
    """One change of a draft."""

    told: str
    """What it is, to try none twice."""
    draft: Draft
    """The draft that comes of it."""


def moves(draft: Draft, stage: str, cells: Iterable[tuple[str, str]]) -> Iterator[Move]:
    """Yield changes to try.

    Args:
        draft: The draft as it is.
        stage: The table that they change.
        cells: The unexplained cells: what was sent, and what came back.
    """
    table = draft.get(stage, {})
    for key, value in _FLAGS:
        if table.get(key) != value:
            yield _with(draft, stage, key, value)
        elif key in table:
            yield _with(draft, stage, key, None)
    if draft.get("paste", {}).get("pane") == "visual-rich":
        parts = list(draft["paste"].get("rich", Paste().rich))
        for part in parts:
            paste = {**draft["paste"], "rich": [each for each in parts if each != part]}
            yield Move(f"paste.rich - {part}", {**draft, "paste": paste})
    told: set[str] = set()
    for sent, got in cells:
        for move in _of_cell(draft, stage, sent, got):
            if move.told not in told:
                told.add(move.told)
                yield move


def _with(draft: Draft, stage: str, key: str, value: Any) -> Move:
    """Return the draft with a key set; None takes it out."""
    table = {name: each for name, each in draft.get(stage, {}).items() if name != key}
    if value is not None and value not in ({}, ()):
        table[key] = value
    return Move(f"{stage}.{key} = {value}", {**draft, stage: table})


def _of_cell(draft: Draft, stage: str, sent: str, got: str) -> Iterator[Move]:
    table = draft.get(stage, {})
    names = tags_in(sent)
    for name in names:
        yield from _element(draft, stage, name)
        if name in EMPTIES or f"></{name}>" in sent:
            yield _toggled(draft, stage, "removeEmptyElements", name)
        if sent.count(f"<{name}") > 1:
            yield _toggled(draft, stage, "mergeElements", name)
    for element in parse_fragment(sent).tree.elements():
        for name, value in element.attributes.items():
            yield from _attribute(draft, stage, element.name, name, value)
            if name == "style":
                yield from _declarations(draft, stage, value)
            if name == "class" and ("classes" in table or "removeClasses" in table):
                for each in value.split():
                    yield _toggled(draft, stage, "classes" if "classes" in table else "removeClasses", each)
            if name in ("href", "src", "action", "cite", "data") and (scheme := scheme_of(value)):
                yield from _scheme(draft, stage, name, scheme)
    for new in tags_in(got):
        if new not in names and names:
            renamed = {**table.get("renameElements", {}), names[0]: new}
            yield _with(draft, stage, "renameElements", renamed)


def _element(draft: Draft, stage: str, name: str) -> Iterator[Move]:
    """Yield drafts in which another list names an element."""
    table = draft.get(stage, {})
    kept = {key: [each for each in table.get(key, []) if _name(each) != name] for key in _ELEMENT_LISTS}
    now = next((key for key in _ELEMENT_LISTS if len(kept[key]) != len(table.get(key, []))), None)
    for key in (*_ELEMENT_LISTS, None):
        if key != now and not (key == "elements" and "elements" not in table):
            lists = {**kept, **({key: [*kept[key], name]} if key else {})}
            new = {**{k: v for k, v in table.items() if k not in lists}, **{k: v for k, v in lists.items() if v}}
            if "elements" in table:
                new["elements"] = lists["elements"]
            yield Move(f"{stage}.{key} + {name}", {**draft, stage: new})
    if name in table.get("renameElements", {}):
        yield _with(draft, stage, "renameElements", {k: v for k, v in table["renameElements"].items() if k != name})
    if name in table.get("needAttributes", {}):
        yield _with(draft, stage, "needAttributes", {k: v for k, v in table["needAttributes"].items() if k != name})


def _name(element: Any) -> str:
    return element if isinstance(element, str) else str(element["name"])


def _attribute(draft: Draft, stage: str, element: str, name: str, value: str) -> Iterator[Move]:
    table = draft.get(stage, {})
    if "attributes" in table:
        yield _toggled(draft, stage, "attributes", name)
    else:
        yield _toggled(draft, stage, "removeAttributes", name)
    for index, each in enumerate(table.get("elements", [])):
        if _name(each) == element:
            own = {"name": element} if isinstance(each, str) else each
            for key in ("attributes", "removeAttributes"):
                if key == "attributes" and key not in own and "attributes" not in table:
                    continue  # a list of its own would take everything else away
                listed = own.get(key, [])
                new = [n for n in listed if n != name] if name in listed else [*listed, name]
                changed = {**own, key: new}
                if not new and key == "removeAttributes":
                    del changed[key]
                elements = [*table["elements"]]
                elements[index] = changed if len(changed) > 1 else element
                yield Move(f"{element} {key} {name}", {**draft, stage: {**table, "elements": elements}})


def _toggled(draft: Draft, stage: str, key: str, name: str) -> Move:
    listed = draft.get(stage, {}).get(key, [])
    new = [each for each in listed if each != name] if name in listed else [*listed, name]
    if not new and key not in ("attributes", "classes"):
        return Move(f"{stage}.{key} - {name}", _with(draft, stage, key, None).draft)
    sign = "-" if name in listed else "+"
    return Move(f"{stage}.{key} {sign} {name}", _with(draft, stage, key, new).draft)


def _declarations(draft: Draft, stage: str, style: str) -> Iterator[Move]:
    rules = draft.get(stage, {}).get("styles", {})

    def changed(told: str, **keys: Any) -> Move:
        new = {key: value for key, value in {**rules, **keys}.items() if value not in (None, [], {})}
        return Move(f"{stage}.styles {told}", _with(draft, stage, "styles", new or None).draft)

    for writes in ("spaced", "tight", None):
        if rules.get("writes") != writes:
            yield changed(f"writes {writes}", writes=writes)
    yield changed("whole", wholeAttribute=None if rules.get("wholeAttribute") else True)
    for each in parse_declarations(style):
        key = "properties" if "properties" in rules else "removeProperties"
        listed = rules.get(key, [])
        new = [name for name in listed if name != each.name] if each.name in listed else [*listed, each.name]
        yield changed(f"{key} {each.name}", **{key: new})
        for function in set(re.findall(r"([a-z-]+)\(", each.value.lower())):
            listed = rules.get("removeFunctions", [])
            new = [name for name in listed if name != function] if function in listed else [*listed, function]
            yield changed(f"function {function}", removeFunctions=new)
        for kind in ("syntax", "values"):
            if each.name in rules.get(kind, {}):
                left = {name: value for name, value in rules[kind].items() if name != each.name}
                yield changed(f"{kind} {each.name}", **{kind: left})


def _scheme(draft: Draft, stage: str, attribute: str, scheme: str) -> Iterator[Move]:
    rules = draft.get(stage, {}).get("addresses", {})

    def changed(told: str, **keys: Any) -> Move:
        new = {key: value for key, value in {**rules, **keys}.items() if value not in (None, {})}
        return Move(f"{stage}.addresses {told}", _with(draft, stage, "addresses", new or None).draft)

    key = "schemes" if "schemes" in rules else "removeSchemes"
    listed = rules.get(key, [])
    new = [name for name in listed if name != scheme] if scheme in listed else [*listed, scheme]
    yield changed(f"{key} {scheme}", **{key: new or None})
    own = deepcopy(rules.get("attributes", {}))
    if attribute in own:
        listed = own.pop(attribute)
        yield changed(f"no own {attribute}", attributes=own)
        new = [name for name in listed if name != scheme] if scheme in listed else [*listed, scheme]
        yield changed(f"own {attribute} {scheme}", attributes={**own, attribute: new})
    elif "schemes" in rules:
        yield changed(f"own {attribute} {scheme}", attributes={**own, attribute: [*rules["schemes"], scheme]})
    yield changed("relative", relative=None if rules.get("relative") is False else False)
