"""Frames: by the host that they show, in a sandbox, of a size."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.markup.addresses import host_of
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop frames whose host the profile does not list, and force sandbox and size on the others."""
    record = state.record
    hosts, sandbox, size = record.frame_hosts, record.frame_sandbox, record.frame_size
    if hosts is None and sandbox is None and size.width is None and size.height is None:
        return
    edits = state.edits
    for element in state.elements:
        if element.name != "iframe" or element.namespace != "html" or element.fate:
            continue
        host = host_of(element.attributes.get("src", ""))
        if hosts is None or (host is not None and any(covers(listed, host) for listed in hosts)):
            if sandbox is not None:
                _sandbox(state, element, " ".join(sandbox))
            _size(state, element, "width", size.width)
            _size(state, element, "height", size.height)
            continue
        named = f"of {host}" if host else "without a host"
        allowed = f"it shows frames of {', '.join(hosts)} only" if hosts else "it shows none"
        message = f"A frame {named} goes: this editor does not allow it, {allowed}. Put a link in its place."
        edits.drop(element, edits.change("frames/host", message, Severity.ERROR, element))


def _sandbox(state: State, element: Element, tokens: str) -> None:
    if element.attributes.get("sandbox") == tokens:
        return
    allowed = tokens or "nothing at all: no scripts, no forms, no new windows"
    message = f"A frame gets a sandbox that allows {allowed}."
    change = state.edits.change("frames/sandbox", message, Severity.WARNING, element)
    state.edits.set_attribute(element, "sandbox", tokens, [change])


def _size(state: State, element: Element, name: str, value: str | None) -> None:
    if value is None or element.attributes.get(name) == value:
        return
    was = element.attributes.get(name)
    told = f", in place of {was}" if was else ""
    change = state.edits.change(
        "frames/size", f"A frame gets the {name} {value}{told}, whatever it shows.", Severity.WARNING, element
    )
    state.edits.set_attribute(element, name, value, [change])


def covers(listed: str, host: str) -> bool:
    """Tell whether a listed host, ``*.`` in front for any below it, stands for ``host``."""
    if listed.startswith("*."):
        return host.endswith(listed[1:])
    return host == listed
