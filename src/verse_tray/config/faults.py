"""What is wrong with a file of settings: every fault at once, in words, told by its JSON Schema (2020-12)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any, NamedTuple

from verse_tray.config.toml_text import locate
from verse_tray.model.errors import ProfileFault
from verse_tray.model.phrasing import nearest

if TYPE_CHECKING:
    from jsonschema import ValidationError

_WORDS = {
    "string": "text",
    "array": "a list",
    "object": "a table",
    "integer": "a whole number",
    "number": "a number",
    "boolean": "true or false",
}
_TYPES: tuple[tuple[type, str], ...] = (
    *((bool, "boolean"), (str, "string"), (int, "integer"), (float, "number")),
    *((list, "array"), (tuple, "array"), (dict, "object")),
)
_Steps = tuple[str | int, ...]


class _Fault(NamedTuple):
    steps: _Steps
    message: str
    rank: int
    """Order among faults of one line: unknown keys, wrong values, missing keys."""
    schema: dict[str, Any] | None
    """What should stand there; None where nothing should."""


def find_faults(data: dict[str, Any], schema: dict[str, Any], text: str) -> list[ProfileFault]:
    """Return every fault of settings, in the order of their lines.

    Args:
        data: The settings as a mapping; it is mended on the way, so hand in a copy.
        schema: Their schema.
        text: Their TOML text, searched for the lines; may be empty.
    """
    from jsonschema import Draft202012Validator  # takes longer to load than a profile to read, and few are faulty

    check = _Check(schema)
    found = [fault for error in Draft202012Validator(schema).iter_errors(data) for fault in check.faults(error, ())]
    for fault in found:
        check.mend(data, fault)
    placed = []
    for fault in found:
        path = _dotted(fault.steps)
        line, column = locate(text, _dotted(fault.steps[:-1]) if fault.rank == 2 else path)
        placed.append((line or 0, fault.rank, ProfileFault(path, fault.message, line, column)))
    return [fault for _, _, fault in sorted(placed, key=lambda each: each[:2])]


class _Check:
    """Tells what a validator's errors mean."""

    def __init__(self, schema: dict[str, Any]) -> None:
        self._definitions = schema.get("$defs", {})
        self._missing: set[_Steps] = set()

    def faults(self, error: ValidationError, around: _Steps) -> Iterator[_Fault]:
        """Yield the faults that an error stands for; ``around`` is the path of what it is relative to."""
        steps: _Steps = (*around, *error.relative_path)
        schema: dict[str, Any] = error.schema
        value: Any = error.instance
        known: dict[str, Any] = schema.get("properties", {})
        if error.validator == "additionalProperties":
            for key in value:
                if key not in known:
                    near = nearest(key, known)
                    hint = f"did you mean {near}?" if near else f"known here are {', '.join(known)}"
                    yield _Fault((*steps, key), f"unknown key; {hint}", 0, None)
        elif error.validator == "required":
            for key in schema["required"]:  # the validator tells of each apart, and of which in words only
                if key not in value and (*steps, key) not in self._missing:
                    self._missing.add((*steps, key))
                    yield _Fault((*steps, key), "this key is missing", 2, known[key])
        elif error.validator == "anyOf":
            yield from self._choice(error, schema, steps)
        else:
            yield _Fault(steps, f"expected {self._expected(schema, value)}", 1, schema)

    def _choice(self, error: ValidationError, schema: dict[str, Any], steps: _Steps) -> Iterator[_Fault]:
        """Yield the faults of the choice that was meant, by the kind of the value."""
        kind = _kind(error.instance)
        for index, choice in enumerate(map(self._resolved, schema["anyOf"])):
            if choice.get("type", kind) == kind:
                for inner in error.context or ():
                    if inner.schema_path[0] == index:
                        yield from self.faults(inner, steps)
                return
        yield _Fault(steps, f"expected {self._expected(schema, error.instance)}", 1, schema)

    def _resolved(self, schema: dict[str, Any]) -> dict[str, Any]:
        reference: str | None = schema.get("$ref")
        if reference is None:
            return schema
        found: dict[str, Any] = self._definitions[reference.rpartition("/")[2]]
        return found

    def _expected(self, schema: dict[str, Any], value: Any) -> str:
        """Return in words what should stand in the place of a value."""
        choices = [self._resolved(each) for each in schema.get("anyOf", [schema])]
        if (allowed := choices[0].get("enum")) is not None:
            return "one of " + ", ".join(allowed)
        words = [_WORDS[each["type"]] for each in choices if each.get("type") in _WORDS]
        kind = _kind(value)
        if len(choices) == 1 and choices[0].get("type") == kind:  # the kind is right, the value is not
            if "minimum" in schema:
                return f"{words[0]}, {schema['minimum']} or more"
            return f"{words[0]} that is not empty"
        return f"{' or '.join(words)}, got {_WORDS.get(kind, kind)}"

    def mend(self, data: Any, fault: _Fault) -> None:
        """Put something valid in the place of a fault, so that what comes next can be looked at too."""
        *around, last = fault.steps
        holder = data
        for step in around:
            holder = holder[step]
        if fault.schema is None:
            del holder[last]
        else:
            holder[last] = self._example(fault.schema)

    def _example(self, schema: dict[str, Any]) -> Any:
        schema = self._resolved(schema.get("anyOf", [schema])[0])
        if "enum" in schema:
            return schema["enum"][0]
        if schema["type"] == "object":
            return {key: self._example(schema["properties"][key]) for key in schema.get("required", ())}
        return {"string": "x", "integer": 1, "number": 1.0, "boolean": True, "array": []}[schema["type"]]


def _kind(value: Any) -> str:
    return next((name for kind, name in _TYPES if isinstance(value, kind)), f"a {type(value).__name__}")


def _dotted(steps: _Steps) -> str:
    return "".join(f"[{step}]" if isinstance(step, int) else f".{step}" for step in steps).lstrip(".")
