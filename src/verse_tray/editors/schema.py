"""The JSON Schema of ``editor.toml``, made from the records."""

from __future__ import annotations

import ast
import inspect
from typing import Any

import msgspec

from verse_tray.editors.profile import FORMAT, Profile


def profile_schema() -> dict[str, Any]:
    """Return the schema (JSON Schema 2020-12) of a profile."""
    records = _records(Profile)
    (whole,), parts = msgspec.json.schema_components([Profile], ref_template="#/$defs/{name}")
    for name, part in parts.items():
        for key, said in _said(records[name]).items():
            if key in part["properties"]:
                part["properties"][key]["description"] = said
    profile = parts.pop("Profile")
    assert whole == {"$ref": "#/$defs/Profile"}
    profile["required"] = ["format"]
    profile["anyOf"] = [{"required": ["title", "summary"]}, {"required": ["extends"]}]
    # a variant is what differs: the same keys, none of them needed
    own = {key: value for key, value in profile["properties"].items() if key not in ("format", "variants", "extends")}
    parts["Variant"] = {"title": "Variant", "type": "object", "properties": own, "additionalProperties": False}
    profile["properties"]["variants"]["additionalProperties"] = {"$ref": "#/$defs/Variant"}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Editor profile, {FORMAT}",
        **{key: value for key, value in profile.items() if key != "title"},
        "$defs": parts,
    }


def _records(kind: Any) -> dict[str, type[msgspec.Struct]]:
    """Return the records that a type holds, by name."""
    found: dict[str, type[msgspec.Struct]] = {}
    stack = [kind]
    while stack:
        each = stack.pop()
        if isinstance(each, type) and issubclass(each, msgspec.Struct) and each.__name__ not in found:
            found[each.__name__] = each
            stack += [field.type for field in msgspec.structs.fields(each)]
        stack += getattr(each, "__args__", ())
    return found


def _said(record: type[msgspec.Struct]) -> dict[str, str]:
    """Return what stands under each field of a record and of those that it builds on, by key."""
    keys = {field.name: field.encode_name for field in msgspec.structs.fields(record)}
    said: dict[str, str] = {}
    for each in reversed(record.__mro__):
        if not (issubclass(each, msgspec.Struct) and each.__module__.startswith("verse_tray.")):
            continue
        (tree,) = ast.parse(inspect.getsource(each)).body
        assert isinstance(tree, ast.ClassDef)
        for field, below in zip(tree.body, tree.body[1:], strict=False):
            if isinstance(field, ast.AnnAssign) and isinstance(field.target, ast.Name) and isinstance(below, ast.Expr):
                text = " ".join(str(ast.literal_eval(below.value)).split())
                said[keys[field.target.id]] = text.replace("``", "`")
    return said
