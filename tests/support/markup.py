"""Random markup for property tests: plausible, broken and hostile in one."""

from __future__ import annotations

import random

from hypothesis import strategies as st

NAMES = (
    "a b i font nobr p div span section ul li table tbody tr td th h2 img br input svg math title desc foreignObject "
    "mi annotation-xml Éa İ style script textarea template select option pre iframe button form custom-tag body html"
).split()
ATTRIBUTES = (
    "class id style href É x\0y İ src onclick data-x title alt colspan xlink:href viewbox CLASS a=b =x < srcset target"
).split(" ")
VALUES = (
    "a", "x y", "color: red; position: fixed", "background: url(x;y); --a: b !important", "javascript:alert(1)", "",
    "java&#9;script:alert(1)", "https://example.org/?a=1&b=2", "&quot;", "&amp;copy=1", "picture.png", "a\r\nb", "é😀",
)  # fmt: skip
TEXTS = (
    "text ", " ", "\n", "\r\n", "a < b", "&amp;", "&copy &notit; &#32;", "&#x20;x", "é 😀 x", "\0", "<", "</", "&",
    "]]>", "\tq", "\ufdd0", "\ufdd15\ufdd2",
)  # fmt: skip
LOOSE = (
    "<!-- note -->", "<!---->", "<!-->", "<!--a--!>", "<!doctype html>", "<?php x?>", "<!x>", "</>", "</ x>", "<!--",
    "<![CDATA[a]]>", "<a href='x", "</p>", "</br>", "</body>", "<p", "<script><!--<script></script>",
)  # fmt: skip

QUOTES = ('"', "'", "")


def _typed(name: str, value: str, quote: str) -> str:
    if not quote and (not value or set(value) & set(" \r\n\"'>")):
        return name
    return f"{name}={quote}{value}{quote}"


_attribute = st.builds(_typed, st.sampled_from(ATTRIBUTES), st.sampled_from(VALUES), st.sampled_from(QUOTES))


@st.composite
def _start_tag(draw: st.DrawFn) -> str:
    attributes = draw(st.lists(_attribute, max_size=3))
    ending = draw(st.sampled_from((">", " >", "/>")))
    return "<" + " ".join((draw(st.sampled_from(NAMES)), *attributes)) + ending


_end_tag = st.sampled_from(NAMES).map(lambda name: f"</{name}>")
_part = st.one_of(_start_tag(), _start_tag(), _end_tag, _end_tag, st.sampled_from(TEXTS), st.sampled_from(LOOSE))

fragments = st.lists(_part, max_size=14).map("".join)
"""Fragments of up to 14 parts."""


def collected(count: int) -> list[str]:
    """Return a number of random fragments of such parts, the same at each run; sooner than they are drawn above."""
    chance = random.Random(count)
    return ["".join(_any_part(chance) for _ in range(chance.randrange(15))) for _ in range(count)]


def _any_part(chance: random.Random) -> str:
    kind = chance.randrange(6)
    if kind < 2:
        attributes = [_any_attribute(chance) for _ in range(chance.randrange(4))]
        return "<" + " ".join((chance.choice(NAMES), *attributes)) + chance.choice((">", " >", "/>"))
    return f"</{chance.choice(NAMES)}>" if kind < 4 else chance.choice((TEXTS, LOOSE)[kind - 4])


def _any_attribute(chance: random.Random) -> str:
    return _typed(chance.choice(ATTRIBUTES), chance.choice(VALUES), chance.choice(QUOTES))
