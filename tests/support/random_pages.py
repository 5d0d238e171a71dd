"""Pages made at random, with styles in every form, to hold the cascade against a browser."""

from __future__ import annotations

from random import Random

_NAMES = "div p span a ul li b em h2 section table td button small code".split()
_CLASSES = "pool wrack tide rock crab".split()
_SELECTORS = [
    "div", "p", "li, em", ".pool", ".wrack", "p.tide", ".pool .wrack", ".rock > p", "section *", "div + p", "h2 ~ p",
    "#north", "[title]", "[title^=Low]", "a:link", "a:hover", "a:not(:hover)", ":is(.pool, :hover)", ":where(.tide) p",
    "li:first-child", "li:nth-child(2n)", "p:nth-last-of-type(1)", "div:has(> p)", "p:empty", "*", ":root .rock",
    "body p", ".a\\:b", "p:nth-child(1 of .tide)", ":is(.rock, :nosuch)", "p::before", ".rock:not(.tide, .crab)",
]  # fmt: skip
_SAYINGS = [
    "color: #234567", "color: teal", "color: rgb(10 20 30 / 50%)", "color: currentcolor", "color: nosuch",
    "color: oklch(60% 0.1 200)", "background: #eef", "background: none", "background: linear-gradient(#fff, #ccc)",
    "background-color: rgba(1, 2, 3, .4)", "margin: 4px", "margin: 1em 2em", "margin-left: 10px", "margin: 10 px",
    "margin-inline: 7px 3px", "margin: min(4px, 1em)", "padding: 5px 6px", "padding-left: 2em", "padding: -4px",
    "padding-block-end: 3px", "border: 1px solid red", "border-left: 4px double", "border-color: blue",
    "border-style: dashed dotted", "border: none", "border-radius: 6px 3px", "font: italic bold 15px/1.4 Georgia",
    "font-size: 1.2em", "font-size: larger", "font-size: 80%", "font-size: small", "font-weight: bolder",
    "font-weight: 550", "font-family: monospace", "font-style: oblique", "line-height: 1.7", "line-height: 20px",
    "line-height: 140%", "text-align: center", "text-align: centre", "text-decoration: underline dotted red",
    "text-decoration: none", "text-transform: uppercase", "letter-spacing: .1em", "text-indent: 1em",
    "white-space: pre-wrap", "white-space: nowrap", "display: flex", "display: grid", "display: inline-block",
    "display: nosuch", "float: left", "position: absolute", "opacity: 50%", "visibility: hidden", "overflow-x: auto",
    "list-style: square inside", "list-style: none", "box-shadow: 0 1px 3px #0003", "transform: rotate(2deg)",
    "vertical-align: middle", "cursor: pointer", "flex: 1 1 120px", "gap: 8px 4px", "color: inherit", "all: unset",
    "margin: initial", "font: inherit", "display: revert", "border: inherit", "color: unset", "background: inherit",
    "color: var(--ink)", "background: var(--none, #fed)", "padding: var(--gap) calc(var(--gap) * 2)",
    "margin: var(--nothing)", "border: var(--wide) solid var(--ink)", "--gap: 6px", "--ink: purple", "--wide: 2px",
    "--ink: var(--ink)", "font-size: calc(1em + 2px)",
]  # fmt: skip
_AROUND = [
    "@media screen", "@media print", "@media (min-width: 600px)", "@media (width < 600px)", "@supports (display: grid)",
    "@supports not (display: grid)", "@layer low", "@layer high", "@layer high.inner", "@layer", "@scope (.rock)",
]  # fmt: skip
_NESTED = ["& .tide", "> p", "&.rock", ".crab &", "span", "& + &", "@media screen", ":is(&, .crab) em"]


def page(seed: int) -> str:
    """Return a page; the same for the same seed."""
    random = Random(seed)
    sheets = "".join(f"<style>{_sheet(random)}</style>" for _ in range(random.choice((1, 1, 2))))
    return f"<!DOCTYPE html>{sheets}{''.join(_element(random, 0) for _ in range(5))}"


def _sheet(random: Random) -> str:
    rules = ["@layer high, low;"] if random.random() < 0.3 else []
    if random.random() < 0.5:
        rules.append(":root { --gap: 9px; --ink: #714; font-size: 18px }")
    for _ in range(random.randint(4, 12)):
        around = random.choice(_AROUND) if random.random() < 0.3 else ""
        rule = _rule(random, nests="@scope" not in around)  # nested in one, a selector is not bound to it once more
        rules.append(f"{around} {{ {rule} }}" if around else rule)
    return "\n".join(rules)


def _rule(random: Random, *, nests: bool) -> str:
    inner = ""
    if nests and random.random() < 0.2:
        inner = f"; {random.choice(_NESTED)} {{ {_said(random, 2)} }} {_said(random, 1)}"
    return f"{random.choice(_SELECTORS)} {{ {_said(random, random.randint(1, 4))}{inner} }}"


def _said(random: Random, count: int) -> str:
    return "; ".join(f"{each} !important" if random.random() < 0.1 else each for each in random.sample(_SAYINGS, count))


def _element(random: Random, depth: int) -> str:
    name = random.choice(_NAMES)
    attributes = f' class="{" ".join(random.sample(_CLASSES, random.randint(0, 2)))}"'
    if random.random() < 0.2:
        attributes += random.choice((' title="Low water"', " id=north", ' dir="rtl"', " class=a:b"))
    if random.random() < 0.25:
        attributes += f' style="{_said(random, 2)}"'
    if name == "a":
        attributes += ' href="https://example.org/"'
    inner = (
        ""
        if depth > 3 or name in ("a", "h2", "button", "li")
        else "".join(_element(random, depth + 1) for _ in range(random.randint(0, 3)))
    )
    if name == "table":
        return f"<table{attributes}><tr><th>six</th><td>{inner}</td></tr></table>"
    return f"<{name}{attributes}>six {inner}</{name}>"
