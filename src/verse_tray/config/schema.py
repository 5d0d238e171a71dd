"""JSON Schemas (2020-12) of files of settings, made from their records."""

from __future__ import annotations

import ast
import inspect
from typing import Any

import msgspec


def described_schema(record: type[msgspec.Struct]) -> tuple[dict[str, Any], dict[str, Any]]:
    """Return the schema of a record, and those of the records that it holds, by name.

    What stands under a field in the code is its description.
    """
    records = _records(record)
    _, parts = msgspec.json.schema_components([record], ref_template="#/$defs/{name}")
    for name, part in parts.items():
        for key, said in _said(records[name]).items():
            if key in part["properties"]:
                part["properties"][key]["description"] = said
    return parts.pop(record.__name__), parts


def whole_schema(record: type[msgspec.Struct], title: str) -> dict[str, Any]:
    """Return the schema of a file of settings as a document."""
    whole, parts = described_schema(record)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": title,
        **{key: value for key, value in whole.items() if key != "title"},
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
