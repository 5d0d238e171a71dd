"""Faults in the grammar of a script, told by a script engine that reads it and runs nothing of it."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import storable

_STOP = "throw 0;"  # the engine reads all of a script before it runs the first statement, and this one ends it
_PLACE = lazy(r"at <input>:(\d+):(\d+)")
_MOST_SIGNS = 8_000_000


class ScriptFault(Struct, frozen=True):
    """Where and why a script cannot be read."""

    offset: int
    """Offset in the script, 0-based."""
    reason: str
    """What the engine says of it."""


def script_fault(text: str, *, module: bool = False, body: bool = False) -> ScriptFault | None:
    """Return the first fault in the grammar (ECMAScript) of a script; None for a script that can be read.

    Args:
        text: The script.
        module: Whether it is read as a module.
        body: Whether it is the body of a function, as the value of an event handler is.
    """
    import _quickjs as quickjs  # the engine itself: the package around it loads pools of threads

    if len(text) > _MOST_SIGNS or "\0" in text:
        return None
    front, end = (f"{_STOP}(function(event){{", "\n})") if body else (_STOP, "")
    context = quickjs.Context()
    context.set_memory_limit(1_000_000_000)
    source = front + storable(text) + end
    try:
        if module:
            context.module(source)
        else:
            context.eval(source)
    except quickjs.JSException as error:
        said = str(error)
        if not said.startswith("SyntaxError"):
            return None
        reason = said.partition("\n")[0].removeprefix("SyntaxError: ")
        if "Could not find export" in reason or ("import" in reason.lower() and "module" in reason.lower()):
            return None
        place = _PLACE.search(said)
        if place is None:
            return ScriptFault(0, reason)
        offset = _offset(source, int(place[1]), int(place[2]), len(front), len(text))
        if offset >= len(text.rstrip()):
            reason = "it ends before it is complete"
        return ScriptFault(offset, reason)
    except RecursionError:
        return None
    return None


def _offset(source: str, line: int, column: int, front: int, length: int) -> int:
    """Return the offset in the script of a place that the engine names: its columns count bytes of UTF-8."""
    starts = [0, *(match.end() for match in _LINE_END.finditer(source))]
    start = starts[min(max(line, 1), len(starts)) - 1]
    passed = source[start : start + column].encode("utf-8", "replace")[: column - 1].decode("utf-8", "ignore")
    return min(max(start + len(passed) - front, 0), length)


_LINE_END = lazy("\r\n|[\n\r\u2028\u2029]")
