"""The JSON Schema of ``editor.toml``, made from the records."""

from __future__ import annotations

from typing import Any

from verse_tray.config.schema import described_schema
from verse_tray.editors.profile import FORMAT, Profile


def profile_schema() -> dict[str, Any]:
    """Return the schema (JSON Schema 2020-12) of a profile."""
    profile, parts = described_schema(Profile)
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
