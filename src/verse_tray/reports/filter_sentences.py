"""What one stage of an editor filters, in plain sentences; nothing is said of what stays as it is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from verse_tray.editors.filters import Element, Filter, NewName


def sentences(record: Filter) -> Iterator[tuple[str, str]]:
    """Yield pairs of what a sentence is about and the sentence."""
    yield from _elements(record)
    for heading, told in (
        ("attributes", _attributes(record)),
        ("classes, names", _names(record)),
        ("addresses", _addresses(record)),
        ("styles", _styles(record)),
        ("frames", _frames(record)),
    ):
        if told:
            yield heading, " ".join(told)
    if not record.comments:
        yield "comments", "They go."
    if record.beyond16_bits != "keep":
        ends = {"drop": "They are dropped.", "cut": "The text ends at the first one."}[record.beyond16_bits]
        yield "emoji", f"{ends} (All characters beyond 16 bits.)"


def listed(names: Iterable[str]) -> str:
    """Return names behind one another."""
    return ", ".join(names)


def _called(elements: Iterable[Element]) -> list[str]:
    return [each if isinstance(each, str) else each.name for each in elements]


def _elements(record: Filter) -> Iterator[tuple[str, str]]:
    after = {
        "drop": "go with their contents",
        "unwrap": "go and leave their contents",
        "escape": "become visible text",
    }
    told = []
    if record.elements is not None:
        told.append(f"Kept: {listed(_called(record.elements))}. Others {after[record.other_elements]}.")
    gone = list(_called(record.remove_elements))
    gone[:0] = ["script"] * (record.scripts == "drop") + ["style"] * (record.style_elements == "drop")
    for names, what in (
        (gone, "Gone with their contents"),
        (_called(record.replace_with_children_elements), "Gone, contents left"),
        (_called(record.escape_elements), "Shown as text"),
        (_called(record.empty_elements), "Emptied"),
    ):
        if names:
            told.append(f"{what}: {listed(names)}.")
    for old, new in record.rename_elements.items():
        name, style = (new.name, new.style) if isinstance(new, NewName) else (new, "")
        told.append(f"{old} becomes {name}{f' with the style “{style}”' if style else ''}.")
    if record.scripts == "neutralise":
        told.append("Scripts stay in the markup and never run.")
    if record.style_elements == "front":
        told.append("Style elements move to the front.")
    for number, sentence in enumerate(told):
        yield "" if number else "elements", sentence


def _attributes(record: Filter) -> list[str]:
    told = [] if record.attributes is None else [f"On every element: {listed(record.attributes)}."]
    if record.remove_attributes:
        told.append(f"Gone: {listed(record.remove_attributes)}.")
    own = [e for e in record.elements or () if not isinstance(e, str) and e.attributes]
    if own:
        told.append("Besides: " + "; ".join(f"{e.name} keeps {listed(e.attributes or ())}" for e in own) + ".")
    if record.attributes is not None:
        told.append("data- attributes " + ("are kept." if record.data_attributes else "go."))
    if not record.event_handlers:
        told.append("Event handlers go.")
    return told


def _names(record: Filter) -> list[str]:
    told = [] if record.classes is None else [f"Classes: only {listed(record.classes)}."]
    if record.class_prefix:
        told.append(f"Classes get {record.class_prefix} in front.")
    if record.id_prefix:
        told.append(f"Identifiers get {record.id_prefix} in front.")
    return told


def _addresses(record: Filter) -> list[str]:
    rules = record.addresses
    told = [] if rules.schemes is None else [f"Only {listed(f'{s}:' for s in rules.schemes)}."]
    told += [f"In {name} only {listed(f'{s}:' for s in schemes)}." for name, schemes in rules.attributes.items()]
    if not rules.relative:
        told.append("Addresses without a scheme go.")
    if rules.remove_schemes:
        told.append(f"Links lose {listed(f'{s}:' for s in rules.remove_schemes)} addresses.")
    if rules.secure:
        told.append("http: becomes https:.")
    if rules.base is not None:
        told.append(f"Those without a scheme become absolute, below {rules.base}.")
    return told


def _styles(record: Filter) -> list[str]:
    rules = record.styles
    told = [] if rules.properties is None else [f"In style attributes only {listed(rules.properties)}."]
    if rules.remove_properties:
        told.append(f"Gone from style attributes: {listed(rules.remove_properties)}.")
    told += [f"{name} only as {listed(values)}." for name, values in rules.values.items()]
    if rules.remove_functions:
        told.append(f"No values with {listed(f'{name}()' for name in rules.remove_functions)}.")
    if record.style_prefix:
        told.append(f"Selectors in style elements get {record.style_prefix} in front.")
    return told


def _frames(record: Filter) -> list[str]:
    told = []
    if record.frame_hosts is not None:
        told.append(f"Only of {listed(record.frame_hosts)}." if record.frame_hosts else "None.")
    if record.frame_sandbox is not None:
        told.append(f"Each gets a sandbox that allows {listed(record.frame_sandbox) or 'nothing'}.")
    sizes = [f"{n} {v}" for n, v in (("width", record.frame_size.width), ("height", record.frame_size.height)) if v]
    if sizes:
        told.append(f"Each gets the {' and the '.join(sizes)}.")
    return told
