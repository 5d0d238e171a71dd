"""Addresses: made absolute and secure, and by their scheme, whatever it is disguised as."""

from __future__ import annotations

from collections.abc import Iterator
from urllib.parse import quote

from verse_tray.editors.filters import Addresses, Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.frames import covers
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES, clean, host_of, is_followed, scheme_of, srcset_addresses
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed

_NOTHING = Addresses()


def run(state: State) -> None:
    """Rewrite addresses, and take away attributes whose address has a scheme that is not let through."""
    rules = state.record.addresses
    if rules == _NOTHING:
        return
    for element in state.elements:
        if ADDRESS_ATTRIBUTES.isdisjoint(element.attributes):
            continue
        for name in [each for each in element.attributes if each in ADDRESS_ATTRIBUTES]:
            if rules.secure or rules.base is not None:
                _rewrite(state, rules, element, name)
            _filter(state, rules, element, name)
            if name in rules.gates and name in element.attributes:
                _gate(state, rules.gates[name], element, name)


def _gate(state: State, gate: str, element: Element, name: str) -> None:
    """Put a gate in front of the addresses of hosts."""
    value = element.attributes[name]
    changes = []
    for address in dict.fromkeys(_addresses(element, name)):
        if scheme_of(address) in ("http", "https") and host_of(address) and not address.startswith(gate):
            value = value.replace(address, gate + quote(clean(address), safe=""))
            message = f"{name} on <{element.name}> leads over {gate}: readers get there by way of this host."
            changes.append(state.edits.attribute_change("addresses/gate", message, Severity.NOTE, element, name))
    if changes:
        state.edits.set_attribute(element, name, value, changes)


def _addresses(element: Element, name: str) -> list[str]:
    value = element.attributes[name]
    return srcset_addresses(value) if name == "srcset" else [value]


def _rewrite(state: State, rules: Addresses, element: Element, name: str) -> None:
    value = element.attributes[name]
    changes = []
    for address in dict.fromkeys(_addresses(element, name)):
        scheme = scheme_of(address)
        if scheme is None and rules.base is not None and address and not address.startswith("#"):
            from urllib.parse import urljoin

            try:
                new = urljoin(rules.base, clean(address))
            except ValueError:
                continue
            rule, told = "addresses/absolute", "it had no scheme, and this editor makes it absolute"
        elif scheme == "http" and rules.secure:
            new = "https" + clean(address)[4:]
            rule, told = "addresses/secure", "this editor writes https: for http:"
        else:
            continue
        if new != address and address in value:
            value = value.replace(address, new)
            message = f"{name} on <{element.name}> becomes {new}: {told}."
            changes.append(state.edits.attribute_change(rule, message, Severity.NOTE, element, name))
    if changes:
        state.edits.set_attribute(element, name, value, changes)


def _filter(state: State, rules: Addresses, element: Element, name: str) -> None:
    for address in _addresses(element, name):
        reason = (
            _reason(rules, element, name, scheme_of(address))
            or _strange_form(rules, address)
            or _strange_host(rules, name, address)
        )
        if reason is None:
            continue
        if element.attributes[name] == rules.in_place:
            continue
        becomes = "goes" if rules.in_place is None else f"becomes {rules.in_place}"
        message = f"{name} on <{element.name}> {becomes}: {reason}."
        if element.name == "img":
            message += " Readers see the alternative text in place of the picture."
        elif element.name == "a":
            message += " The text stays, but it leads nowhere."
        change = state.edits.attribute_change("addresses/scheme", message, Severity.ERROR, element, name)
        state.edits.set_attribute(element, name, rules.in_place, [change])
        break


def form_of(address: str) -> str:
    """Return the form of an address without a scheme (URL standard, "relative-URL string")."""
    typed = clean(address)
    forms = (("//", "scheme-relative"), ("/", "path-absolute"), ("?", "query"), ("#", "fragment"))
    return next((form for front, form in forms if typed.startswith(front)), "path-relative")


def _strange_form(rules: Addresses, address: str) -> str | None:
    """Return why an address without a scheme goes that has none of the forms that are kept, or None."""
    if rules.forms is None or scheme_of(address) is not None or form_of(address) in rules.forms:
        return None
    return f"of addresses without a scheme this editor keeps {listed(rules.forms, 9) or 'none'}"


def _strange_host(rules: Addresses, name: str, address: str) -> str | None:
    """Return why an address goes whose host is none of those that are kept, or None."""
    hosts, host = rules.hosts.get(name), host_of(address)
    if hosts is None or host is None or any(covers(each, host) for each in hosts):
        return None
    return f"this editor keeps {name} of {', '.join(hosts) or 'no host'} only, and this one is of {host}"


def _reason(rules: Addresses, element: Element, name: str, scheme: str | None) -> str | None:
    """Return why an address goes, or None when it stays."""
    listed = rules.attributes.get(name)
    if listed is not None:
        if scheme is not None and scheme in listed:
            return None
        kept = " and ".join(f"{each}:" for each in listed) or "no address at all"
        given = f"this one is {scheme}:" if scheme else "this one has no scheme"
        return f"this editor keeps {kept} in {name}, and {given}"
    if scheme is None:
        return None if rules.relative else "this editor keeps no address without a scheme"
    if scheme in rules.remove_schemes and is_followed(element.namespace, element.name, name):
        return f"this editor takes {scheme}: addresses away"
    if rules.schemes is None or scheme in rules.schemes:
        return None
    return f"this editor keeps no {scheme}: addresses, only {', '.join(f'{each}:' for each in rules.schemes)}"


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    rules = record.addresses
    if rules.schemes is not None:
        yield "addresses", f"Only {_schemes(rules.schemes)}."
    for name, schemes in rules.attributes.items():
        yield "addresses", f"In {name} only {_schemes(schemes)}."
    if not rules.relative:
        yield "addresses", "Addresses without a scheme go."
    if rules.remove_schemes:
        yield "addresses", f"Links lose {_schemes(rules.remove_schemes)} addresses."
    if rules.secure:
        yield "addresses", "http: becomes https:."
    if rules.base is not None:
        yield "addresses", f"Those without a scheme become absolute, below {rules.base}."
    if rules.in_place is not None:
        yield "addresses", f"{rules.in_place} stands in the place of those that are not kept."
    if rules.forms is not None:
        yield "addresses", f"Without a scheme only: {', '.join(rules.forms) or 'none'}."
    for name, hosts in rules.hosts.items():
        yield "addresses", f"{name} only of {', '.join(hosts) or 'no host'}."
    for name, gate in rules.gates.items():
        yield "addresses", f"Those of hosts in {name} lead over {gate}."


def _schemes(schemes: tuple[str, ...]) -> str:
    return ", ".join(f"{scheme}:" for scheme in schemes)


STEP = Step(
    "addresses",
    run,
    keys=("addresses",),
    told=_sentences,
    guide=(
        (
            "`addresses`",
            "`schemes` that are kept; whether `relative` addresses are, and of which `forms` (`scheme-relative`, "
            "`path-absolute`, `path-relative`, `query`, `fragment`); `attributes` with schemes of "
            "their own; `removeSchemes` where a click would follow them; `secure`: `http:` becomes "
            "`https:`; `base`: relative ones become absolute; `inPlace`: what stands in the place of a refused one; "
            "`hosts`: by attribute, those that are kept; `gates`: by attribute, an address in front of those of hosts",
            "all as they are",
        ),
    ),
    sample=(
        '<a href="http://far.example/y">far</a> <a href="/near">near</a> <a href="javascript:x()">odd</a>\n'
        '<img src="http://pictures.gannetcove.example/a.png" alt="a">\n'
    ),
)
