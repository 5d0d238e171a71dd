"""Frames, by the host that they show."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.markup.addresses import host_of
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop frames whose host the profile does not list."""
    hosts = state.rules.save.frame_hosts
    if hosts is None:
        return
    pen = state.pen
    for element in state.elements:
        if element.name != "iframe" or element.namespace != "html":
            continue
        host = host_of(element.attributes.get("src", ""))
        if host is not None and any(_covers(listed, host) for listed in hosts):
            continue
        named = f"of {host}" if host else "without a host"
        allowed = f"it shows frames of {', '.join(hosts)} only" if hosts else "it shows none"
        message = f"A frame {named} goes: this editor does not allow it, {allowed}. Put a link in its place."
        pen.drop(element, pen.change("frames/host", message, Severity.ERROR, element))


def _covers(listed: str, host: str) -> bool:
    if listed.startswith("*."):
        return host.endswith(listed[1:])
    return host == listed
