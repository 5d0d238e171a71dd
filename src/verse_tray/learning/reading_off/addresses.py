"""Addresses: which stay, and what becomes of the others."""

from __future__ import annotations

import re
from typing import Any
from urllib.parse import quote

from verse_tray.journeys.steps.addresses import form_of
from verse_tray.learning.facts.fates import Facts, Kept
from verse_tray.markup.addresses import host_of, scheme_of

_LINK, _PICTURE = ("a", "href"), ("img", "src")
_RUNNING = ("javascript", "data", "vbscript", "file")
"""Schemes that are taken away by name."""


def read_addresses(facts: Facts, out: dict[str, Any]) -> None:
    """Put the keys about addresses into a filter."""
    links, pictures = _by_scheme(facts, _LINK), _by_scheme(facts, _PICTURE)
    if not any(links.values()) and not any(pictures.values()):
        return
    rules: dict[str, Any] = {}
    gates = {each[1]: gate for each in (_LINK, _PICTURE) if (gate := _gate(facts.attributes.get(each, [])))}
    if gates:
        rules["gates"] = gates
        links, pictures = _all_kept(links), _all_kept(pictures)
    if base := _base(facts):
        rules["base"] = base
    rows = [row for each in (_LINK, _PICTURE) for row in facts.attributes.get(each, [])]
    secure = any(row.sent.startswith("http:") and row.got == "https" + row.sent[4:] for row in rows)
    if secure:
        rules["secure"] = True
    relative = [found[""] for found in (links, pictures) if "" in found]
    if relative and not any(relative):
        rules["relative"] = False
    else:
        _forms(rules, rows)
    _schemes(rules, links, pictures, secure)
    links_to_code = [row for row in facts.attributes.get(_LINK, []) if scheme_of(row.sent) == "javascript"]
    odd = {row.got for row in links_to_code if row.got and row.got != row.sent}
    if len(odd) == 1 and scheme_of(instead := odd.pop()) is None:
        rules["inPlace"] = instead
    if rules:
        out["addresses"] = rules


def _all_kept(found: dict[str, str | None]) -> dict[str, str | None]:
    """Return the same schemes as if each address had stayed: behind a gate nobody sees what became of them."""
    return {scheme: f"{scheme}:" if scheme else "x" for scheme in found}


def _by_scheme(facts: Facts, which: tuple[str, str]) -> dict[str, str | None]:
    """Return what came back of the first address of each scheme; empty for relative ones."""
    found: dict[str, str | None] = {}
    gone = facts.gone_with.get(which, []) if facts.first(which[0]) == "keep" else []
    for row in [*facts.attributes.get(which, []), *gone]:
        scheme = scheme_of(row.sent)
        if row.sent and not (scheme is None and row.sent.startswith(("#", "//", "?"))):
            found.setdefault(scheme or "", row.got)
    return found


def _forms(rules: dict[str, Any], rows: list[Kept]) -> None:
    """Put in the forms of addresses without a scheme that stay, where others go."""
    stays: dict[str, bool] = {}
    for row in rows:
        if row.sent and scheme_of(row.sent) is None:
            form = form_of(row.sent)
            stays[form] = stays.get(form, False) or row.got is not None
    if stays and not all(stays.values()):
        rules["forms"] = [form for form, stay in stays.items() if stay]


def _schemes(
    rules: dict[str, Any], links: dict[str, str | None], pictures: dict[str, str | None], secure: bool
) -> None:
    both = {**{scheme: got for scheme, got in pictures.items() if scheme not in links}, **links}
    both.pop("", None)

    def stays(scheme: str, got: str | None) -> bool:
        return got is not None and (scheme_of(got) == scheme or (scheme == "http" and secure))

    kept = [scheme for scheme, got in both.items() if stays(scheme, got)]
    gone = [scheme for scheme in both if scheme not in kept]
    if not gone:
        return
    if "tide" in kept or ("tide" not in both and len(gone) <= 2):
        rules["removeSchemes"] = [each for each in gone if each in _RUNNING]
        return
    rules["schemes"] = [each for each in kept if not (each == "http" and secure)]
    own = [scheme for scheme, got in pictures.items() if scheme and stays(scheme, got)]
    tested = {each for each in pictures if each}
    if tested and ("" not in pictures or pictures[""] is None or rules.get("relative") is False):
        own_differs = {each for each in rules["schemes"] if each in tested} != {each for each in own if each != "http"}
        if own_differs or (pictures.get("") is None and "" in pictures and links.get("")):
            rules["attributes"] = {"src": own}
    elif "data" in own and "data" not in rules["schemes"]:
        rules["schemes"].append("data")


def _gate(rows: list[Kept]) -> str:
    """Return what stands in front of the encoded addresses of hosts."""
    for row in rows:
        encoded = quote(row.sent, safe="")
        if row.got and len(encoded) > 8 and row.got.endswith(encoded) and len(row.got) > len(encoded) + 8:
            return row.got[: -len(encoded)]
    return ""


def _base(facts: Facts) -> str:
    """Return the address that relative ones were made absolute with."""
    bases = set()
    for row in facts.attributes.get(_LINK, []):
        if row.got and scheme_of(row.sent) is None and scheme_of(row.got) and not row.sent.startswith(("//", "#", "?")):
            bases.add(re.sub(r"(x/y\.html|x)$", "", row.got).rstrip("/") + "/")
    base = bases.pop() if len(bases) == 1 else ""
    return base if base and host_of(base) else ""
