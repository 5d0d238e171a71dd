"""Custom properties: what ``var()`` stands for on an element (CSS Custom Properties Level 1), and sums of one unit."""

from __future__ import annotations

import ast
import operator
import re
from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

import tinycss2

from verse_tray.model.patterns import lazy
from verse_tray.style.source import too_nested

Environment = Mapping[str, str]
"""Custom properties of an element with their values."""

_LONGEST = 20_000  # signs that one value may become: each var() may name two others


def substituted(value: str, environment: Environment) -> str | None:
    """Return a value with every ``var()`` resolved; None where it is invalid at computed-value time."""
    if "var(" not in value.lower():
        return value
    return _resolved(value, environment.get)


def environment_of(parent: Environment, declared: Mapping[str, str]) -> Environment:
    """Return the custom properties of an element.

    Args:
        parent: Those of the element around it.
        declared: Those that win on it, as declared.
    """
    if not declared:
        return parent
    found = dict(parent)
    done: dict[str, str | None] = {}
    busy: list[str] = []
    circular: set[str] = set()

    def value_of(name: str) -> str | None:
        if name in busy:
            circular.update(busy[busy.index(name) :])
            return None
        if name in done:
            return done[name]
        if name not in declared:
            return parent.get(name)
        raw = declared[name]
        lowered = raw.lower()
        value: str | None
        if lowered in ("inherit", "unset", "revert", "revert-layer"):
            value = parent.get(name)
        elif lowered == "initial" or len(busy) > 50:
            value = None
        else:
            busy.append(name)
            value = _resolved(raw, value_of) if "var(" in lowered else raw
            busy.pop()
        done[name] = None if name in circular else value
        return done[name]

    for name in declared:
        value = value_of(name)
        if value is None or name in circular:
            found.pop(name, None)
        else:
            found[name] = value
    return found


def _resolved(value: str, value_of: Callable[[str], str | None]) -> str | None:
    if too_nested(value):
        return None
    found = _of_tokens(_tokens(value), value_of)
    return None if found is None or len(found) > _LONGEST else " ".join(found.split())


@lru_cache(maxsize=1024)
def _tokens(value: str) -> list[Any]:
    return list(tinycss2.parse_component_value_list(value, skip_comments=True))


def _of_tokens(tokens: list[Any], value_of: Callable[[str], str | None]) -> str | None:
    pieces: list[str] = []
    for token in tokens:
        piece: str | None
        if token.type == "function" and token.lower_name == "var":
            piece = _of_reference(token.arguments, value_of)
            if piece is not None and pieces and pieces[-1][-1:].isalnum():
                piece = f" {piece}"
        elif token.type == "function":
            inner = _of_tokens(token.arguments, value_of)
            piece = None if inner is None else f"{token.name}({inner})"
        elif token.type in ("() block", "[] block"):
            inner = _of_tokens(token.content, value_of)
            piece = None if inner is None else f"{token.type[0]}{inner}{token.type[1]}"
        else:
            piece = token.serialize()
        if piece is None or sum(map(len, pieces)) > _LONGEST:
            return None
        pieces.append(piece)
    return "".join(pieces)


def _of_reference(arguments: list[Any], value_of: Callable[[str], str | None]) -> str | None:
    comma = next((n for n, token in enumerate(arguments) if token == ","), None)
    name = tinycss2.serialize(arguments[:comma]).strip()
    found = value_of(name)
    if found is None and comma is not None:
        return _of_tokens(arguments[comma + 1 :], value_of)
    return found


_BEGINS = lazy(r"(?<![\w-])calc\(", re.IGNORECASE)
_BRACKET = lazy(r"[()]")
_MOST_TERMS = 200  # signs of a sum that is worked out
_UNITS = lazy(r"(?<=[\d.])(px|em|rem|%|pt|vw|vh|deg|ch|ex)")
_ALONE = lazy(r"[\d.+*/()\s-]+")
_OPERATORS: dict[type, Callable[[float, float], float]] = {
    ast.Add: operator.add, ast.Sub: operator.sub, ast.Mult: operator.mul, ast.Div: operator.truediv,
}  # fmt: skip


def summed(value: str) -> str:
    """Return a value with each ``calc()`` whose terms have one unit, or none, worked out."""
    pieces: list[str] = []
    at = 0
    while (begin := _BEGINS.search(value, at)) is not None:
        end = _end_of(value, begin.end())
        terms = value[begin.end() : end]
        number = _sum(terms) if end >= 0 and len(terms) <= _MOST_TERMS else None
        if number is None:
            break
        pieces += [value[at : begin.start()], number]
        at = end + 1
    return "".join([*pieces, value[at:]])


def _end_of(value: str, at: int) -> int:
    """Return where the bracket ends that was opened before ``at``; -1 for nowhere."""
    depth = 1
    for bracket in _BRACKET.finditer(value, at):
        depth += 1 if bracket[0] == "(" else -1
        if not depth:
            return bracket.start()
    return -1


@lru_cache(maxsize=1024)
def _sum(terms: str) -> str | None:
    units = set(_UNITS.findall(terms.lower()))
    bare = _UNITS.sub("", terms.lower()).replace("calc", "")
    if len(units) > 1 or not _ALONE.fullmatch(bare) or bare.count("(") > 20:
        return None
    try:
        number = _evaluated(ast.parse(bare.strip(), mode="eval").body)
    except (SyntaxError, ValueError, ZeroDivisionError, OverflowError, RecursionError):
        return None
    return f"{number:.6g}{units.pop() if units else ''}"


def _evaluated(node: ast.expr) -> float:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return float(node.value)
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATORS:
        return _OPERATORS[type(node.op)](_evaluated(node.left), _evaluated(node.right))
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
        value = _evaluated(node.operand)
        return -value if isinstance(node.op, ast.USub) else value
    raise ValueError("no sum")
