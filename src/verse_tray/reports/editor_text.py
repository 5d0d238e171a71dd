"""An editor in plain sentences."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.editors.filters import Element
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Limit, Profile, Save
from verse_tray.journeys.limits import UNIT_NAMES


def editor_text(editor: Editor) -> Iterator[RenderableType]:
    """Yield what to print about an editor."""
    profile = editor.profile
    yield Text.assemble((editor.name, "bold"), f"  {profile.title}")
    yield Text(f"{profile.summary}\n")
    table = Table(box=None, show_header=False, padding=(0, 2, 0, 0), pad_edge=False)
    table.add_column(style="bold", no_wrap=True)
    table.add_column()
    for heading, sentence in _sentences(profile):
        table.add_row(heading, sentence)
    yield table


def _sentences(profile: Profile) -> Iterator[tuple[str, str]]:
    save = profile.save
    yield "paste", "Into the source pane, which takes the markup as it is."
    yield from _element_sentences(save)
    yield "attributes", _attributes(save)
    yield "addresses", _addresses(save)
    yield "styles", _styles(save)
    if save.frame_hosts is not None:
        yield "frames", f"Only of {_list(save.frame_hosts)}." if save.frame_hosts else "None."
    yield "comments", "Kept." if save.comments else "They go."
    anew = (
        "Everything is written anew, as browsers do." if save.writes == "anew" else "What stays, stays as you typed it."
    )
    yield "writing", anew
    yield "limits", " ".join(_limit(limit) for limit in profile.limits) or "None."


def _element_sentences(save: Save) -> Iterator[tuple[str, str]]:
    if save.elements is None:
        kept = "All are kept" + (", but for the ones below." if save.remove_elements else ".")
    else:
        after = {
            "drop": "go with their contents",
            "unwrap": "go and leave their contents",
            "escape": "become visible text",
        }
        kept = f"Kept: {_list(_names(save.elements))}. Others {after[save.other_elements]}."
    yield "elements", kept
    gone = list(_names(save.remove_elements))
    if save.scripts == "drop":
        gone.insert(0, "script")
    if save.style_elements == "drop":
        gone.insert(0, "style")
    if gone:
        yield "", f"Gone with their contents: {_list(gone)}."
    if save.replace_with_children_elements:
        yield "", f"Gone, contents left: {_list(_names(save.replace_with_children_elements))}."
    if save.escape_elements:
        yield "", f"Shown as text: {_list(_names(save.escape_elements))}."


def _names(elements: Iterable[Element]) -> list[str]:
    return [each if isinstance(each, str) else each.name for each in elements]


def _attributes(save: Save) -> str:
    parts = ["All are kept." if save.attributes is None else f"On every element: {_list(save.attributes)}."]
    if save.remove_attributes:
        parts.append(f"Gone: {_list(save.remove_attributes)}.")
    own = [e for e in save.elements or () if not isinstance(e, str) and e.attributes]
    if own:
        parts.append("Besides: " + "; ".join(f"{e.name} keeps {_list(e.attributes or ())}" for e in own) + ".")
    if save.attributes is not None:
        parts.append("data- attributes " + ("are kept." if save.data_attributes else "go."))
    parts.append("Event handlers are kept." if save.event_handlers else "Event handlers go.")
    return " ".join(parts)


def _addresses(save: Save) -> str:
    rules = save.addresses
    parts = ["Every scheme." if rules.schemes is None else f"Only {_list([f'{s}:' for s in rules.schemes])}."]
    parts += [f"In {name} only {_list([f'{s}:' for s in schemes])}." for name, schemes in rules.attributes.items()]
    if not rules.relative:
        parts.append("Addresses without a scheme go.")
    if rules.remove_schemes:
        parts.append(f"Links lose {_list([f'{s}:' for s in rules.remove_schemes])} addresses.")
    return " ".join(parts)


def _styles(save: Save) -> str:
    rules = save.styles
    parts = ["all properties." if rules.properties is None else f"only {_list(rules.properties)}."]
    if rules.remove_properties:
        parts.append(f"Gone: {_list(rules.remove_properties)}.")
    parts += [f"{name} only as {_list(values)}." for name, values in rules.values.items()]
    if rules.remove_functions:
        parts.append(f"No values with {_list([f'{name}()' for name in rules.remove_functions])}.")
    kept = "" if save.style_elements == "drop" else " Style elements stay as they are."
    return "In style attributes: " + " ".join(parts) + kept


def _limit(limit: Limit) -> str:
    over = {"refuse": "more is refused", "cut": "the rest is cut off", "warn": "more only brings a warning"}[limit.over]
    return f"{limit.most:,} {UNIT_NAMES[limit.unit]} {limit.measure}; {over}."


def _list(names: Iterable[str]) -> str:
    return ", ".join(names)
