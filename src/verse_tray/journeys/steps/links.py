"""``rel`` and ``target`` on links."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.frames import covers
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.addresses import host_of, scheme_of
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Change, Severity


def run(state: State) -> None:
    """Give every link to another host the link types and the window that the profile names."""
    record = state.record
    if not record.link_rel and record.link_target is None:
        return
    for element in state.elements:
        if element.name != "a" or element.namespace == "mathml":
            continue
        href = element.attributes.get("href", element.attributes.get("xlink:href"))
        if href is None or scheme_of(href) not in ("http", "https"):
            continue
        host = host_of(href) or ""
        if any(covers(own, host) for own in record.own_hosts):
            continue
        rel = element.attributes.get("rel", "")
        missing = [each for each in record.link_rel if each not in rel.lower().split()]
        if missing:
            message = f"The link to {host} gets rel “{' '.join(missing)}”. Readers see no difference."
            _set(state, element, "rel", " ".join([*rel.split(), *missing]), "links/rel", message, Severity.NOTE)
        target = record.link_target
        if target is not None and element.attributes.get("target") != target:
            where = "in a new window" if target == "_blank" else f"in {target}"
            message = f"The link to {host} opens {where}: this editor gives every link that target."
            _set(state, element, "target", target, "links/target", message, Severity.NOTE)


def _set(state: State, element: Element, name: str, value: str, rule: str, message: str, severity: Severity) -> None:
    change: Change = state.edits.change(rule, message, severity, element)
    state.edits.set_attribute(element, name, value, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    gets = [f"rel “{' '.join(record.link_rel)}”"] if record.link_rel else []
    gets += [f"target “{record.link_target}”"] if record.link_target is not None else []
    if gets:
        but = f", but those to {', '.join(record.own_hosts)}" if record.own_hosts else ""
        yield "links", f"They get {' and '.join(gets)}{but}."


STEP = Step(
    "links",
    run,
    keys=(
        "link_rel",
        "link_target",
        "own_hosts",
    ),
    told=_sentences,
    guide=(
        (
            "`linkRel`, `linkTarget`",
            "what links are given, but those to `ownHosts`",
            "nothing",
        ),
    ),
    sample='<a href="http://far.example/z">far</a>\n',
)
