"""An editor from a configuration of the HTML Sanitizer API (a W3C/WHATWG standard built into browsers)."""

from __future__ import annotations

from typing import Any

from verse_tray.editors.configuration import configuration_faults
from verse_tray.editors.filters import HTML_NAMESPACE, SVG_NAMESPACE, XLINK_NAMESPACE
from verse_tray.editors.load import Editor, read_profile
from verse_tray.model.errors import ProfileError

# "remove unsafe": what the safe methods take away whatever the configuration says
_UNSAFE = [
    *({"name": name, "namespace": HTML_NAMESPACE} for name in ("script", "frame", "iframe", "object", "embed")),
    {"name": "script", "namespace": SVG_NAMESPACE},
    {"name": "use", "namespace": SVG_NAMESPACE},
]


def adopt(sanitizer_configuration: dict[str, Any], *, safe: bool = True, name: str = "adopted") -> Editor:
    """Return the editor that a ``SanitizerConfig`` describes.

    Args:
        sanitizer_configuration: The configuration, as decoded from JSON.
        safe: Whether it stands for the safe methods (``setHTML``), which drop scripts, frames, embedded objects, event
            handlers and ``javascript:`` addresses even when they are allowed, or for the unsafe ones.
        name: Name of the editor.

    Raises:
        ProfileError: the configuration is not valid.
    """
    config = sanitizer_configuration
    faults = configuration_faults(config, safe=safe)
    if faults:
        raise ProfileError(name, faults)
    save: dict[str, Any] = {
        "writes": "anew",
        "comments": bool(config.get("comments", not safe)),
        "dataAttributes": bool(config.get("dataAttributes", "attributes" in config and not safe)),
        "eventHandlers": not safe,
    }
    unsafe = {(e["name"], e["namespace"]) for e in _UNSAFE} if safe else set()
    for key in ("elements", "removeElements", "replaceWithChildrenElements"):
        if key in config:
            named = [_element(item) for item in config[key]]
            save[key] = [e for e in named if (e["name"], e["namespace"]) not in unsafe]
    if safe and "elements" not in config:
        save["removeElements"] = [*save.get("removeElements", []), *_UNSAFE]
    for key in ("attributes", "removeAttributes"):
        if key in config:
            save[key] = [_attribute(item) for item in config[key]]
    if safe:
        save["addresses"] = {"removeSchemes": ["javascript"]}
    data = {
        "title": name,
        "summary": f"Adopted from an HTML Sanitizer API configuration ({'safe' if safe else 'unsafe'} methods).",
        "save": save,
    }
    return Editor(name, read_profile(data, name))


def _element(item: str | dict[str, Any]) -> dict[str, Any]:
    if isinstance(item, str):
        return {"name": item, "namespace": HTML_NAMESPACE}
    element = {"name": item["name"], "namespace": item.get("namespace") or HTML_NAMESPACE}
    for key in ("attributes", "removeAttributes"):
        if key in item:
            element[key] = [_attribute(each) for each in item[key]]
    return element


def _attribute(item: str | dict[str, Any]) -> str:
    if isinstance(item, str):
        return item
    prefix = "xlink:" if item.get("namespace") == XLINK_NAMESPACE else ""
    return f"{prefix}{item['name']}"
