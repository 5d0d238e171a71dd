"""Frames: by the host that they show, in a sandbox, of a size."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
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
    below = listed.startswith("*.")
    name = listed.removeprefix("*.")
    if not name.isascii():
        name = host_of(f"https://{name}") or name
    return host.endswith(f".{name}") if below else host == name


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.frame_hosts is not None:
        yield "frames", f"Only of {', '.join(record.frame_hosts)}." if record.frame_hosts else "None."
    if record.frame_sandbox is not None:
        yield "frames", f"Each gets a sandbox that allows {', '.join(record.frame_sandbox) or 'nothing'}."
    size = record.frame_size
    sizes = [f"{name} {value}" for name, value in (("width", size.width), ("height", size.height)) if value]
    if sizes:
        yield "frames", f"Each gets the {' and the '.join(sizes)}."


STEP = Step(
    "frames",
    run,
    keys=(
        "frame_hosts",
        "frame_sandbox",
        "frame_size",
    ),
    told=_sentences,
    guide=(
        (
            "`frameHosts`",
            "hosts that an `iframe` may show; `*.host` for any below it",
            "all",
        ),
        (
            "`frameSandbox`",
            "tokens of the `sandbox` that every frame is given",
            "the author's",
        ),
        (
            "`frameSize`",
            "`width` and `height` that every frame is given",
            "the author's",
        ),
    ),
    sample=(
        '<iframe src="https://maps.gannetcove.example/slipway" width="10"></iframe><iframe '
        'src="https://far.example"></iframe>\n'
        '<iframe src="https://maps.gannetcove.example/pools"></iframe>\n'
    ),
)
