"""Fill hostile values into every place of a piece and read them back: ``python bench/filled_values.py [COUNT] [SEED]``.

The places stand in ``tests/data/filling.toml``. A browser parses what was filled in: no element, attribute, rule or
property may be there that is not there with a harmless value, and what is read back is the value. Scripts and handlers
are read by the script parser: no other statement or expression, and the engine finds the value. A value may be refused.
"""

from __future__ import annotations

import json
import random
import re
import sys
import tomllib
from pathlib import Path
from typing import Any

import _quickjs as quickjs

from verse_tray.fields.fill import Template
from verse_tray.fields.marks import mark_form
from verse_tray.markup.parse import parse_fragment
from verse_tray.model.decoding import Source
from verse_tray.preview.browser import Session
from verse_tray.script.syntax import ScriptTree

PLACES: list[tuple[str, str, bool]] = [
    (row[0], row[1], row[2])
    for row in tomllib.loads((Path(__file__).parents[1] / "tests/data/filling.toml").read_text("utf-8"))["places"]
]
PIECES = (
    "a b c é 漢 🦀 ' \" ` < > & = / \\ { } ( ) [ ] ; : , . - -- --> <!-- ]]> */ /* // \n \r \t \x0c \u2028 \xa0 ${ # %"
    " %41 @ ! + * ? | ~ ^ </script> </style> </p> <b> onclick= javascript: JavaScript: data:text/html, https:// &lt;"
    " &#60; &amp lt; p; url( expression( @import !important red 12 -5 0 px 1e9 {{x}} alert(1) true null \\u0041 \\n"
    " __proto__ a.example.org mail@a.example vbscript: \x01 \x7f \ufeff \u202e"
).split(" ")
READ = r"""([rows, how]) => rows.map((html) => {
  const d = new DOMParser().parseFromString(html, 'text/html');
  const base = 'https://base.example', one = (name) => d.querySelector(name), part = decodeURIComponent;
  const url = () => new URL(one('a').getAttribute('href'), base + '/');
  const walk = (node) => [...node.childNodes].filter((each) => each.nodeType !== 3).map((each) => [each.nodeName,
    [...(each.attributes ?? [])].map((a) => a.name).sort(), ...walk(each)]);
  const inner = () => new DOMParser().parseFromString(one('iframe').srcdoc, 'text/html').body.firstChild;
  const sheets = [...d.querySelectorAll('style')].filter((s) => s instanceof HTMLStyleElement).map((s) => {
    const sheet = new CSSStyleSheet(); sheet.replaceSync(s.textContent); return [...sheet.cssRules]; });
  const rule = () => sheets[0][0];
  const string = (text) => text.slice(1, -1).replace(/\\([0-9a-f]{1,6}) ?|\\(.)/gi, (_, hex, sign) =>
    hex ? String.fromCodePoint(parseInt(hex, 16)) : sign);
  const runs = [...d.querySelectorAll('*')].flatMap((e) => [...e.attributes]).filter((a) =>
    /^[\s\x00-\x20]*(javascript|vbscript|data):/i.test(a.value) && !a.value.startsWith("javascript:go('{{v}}')")
    && !/^(title|alt)$/.test(a.name)).length;
  const frames = [...d.querySelectorAll('iframe[srcdoc]')].map((f) => walk(new DOMParser().parseFromString(f.srcdoc,
    'text/html')));
  const noscript = [...d.querySelectorAll('noscript')].map((n) => n.textContent.includes('</noscript'));
  const styled = (e) => { const made = document.createElement('p').style; made.cssText = e.getAttribute('style');
    return made; };
  const declared = [...d.querySelectorAll('[style]')].map((e) => [...styled(e)]);
  let value = null;
  try { value = how ? eval(how) : null; } catch (error) { value = 'cannot be read: ' + error; }
  return { shape: JSON.stringify([walk(d), sheets.map((s) => s.map((r) => r.constructor.name)), frames, noscript]),
    properties: [...declared.flat(), ...sheets.flat().flatMap((r) => [...(r.style ?? [])])], runs, value };
})"""


def main() -> int:
    """Fill, compare, print, and return 1 where something broke out or came back as something else."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 500
    chance = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    form = mark_form("{{NAME}}")
    fallen = refused = 0
    with Session() as session:
        session.open("<!DOCTYPE html><body>", 400, policy="default-src 'none'; script-src 'unsafe-eval'")
        for piece, how, trimmed in PLACES:
            template = Template(Source(piece), form)
            harmless = template.fill({"v": "a7"}).text
            values = ["".join(chance.choices(PIECES, k=chance.randint(1, 5))) for _ in range(count)]
            made = [template.fill({"v": value}) for value in values]
            rows = [harmless, *(each.text for each in made)]
            plain, *read = session.evaluate(READ, [rows, how])
            for value, filled, found in zip(values, made, read, strict=True):
                whole = filled.count == len(template.marks)
                refused += not whole
                why = _another_page(piece, filled.text, plain, found) if whole else ""
                meant = re.sub(r"\r\n?", "\n", value)
                meant = meant.strip() if trimmed else meant
                why = why or (_read_back(piece, meant, filled.text, found["value"]) if whole else "")
                if found["runs"] > plain["runs"]:
                    why = "an address that runs"
                if why:
                    fallen += 1
                    if fallen <= 20:
                        print(f"{piece}\n  {value!r}\n  {filled.text!r}\n  {why}")
    print(f"{count * len(PLACES):,} values in {len(PLACES)} places: {refused:,} refused, {fallen:,} fallen")
    return bool(fallen)


def _another_page(piece: str, text: str, plain: dict[str, Any], found: dict[str, Any]) -> str:
    """Return what is there that a harmless value does not bring; empty for nothing."""
    if found["shape"] != plain["shape"] and not re.search(r"<(?:p |h)\{\{", piece):
        return f"another page: {found['shape']} for {plain['shape']}"
    declared = tuple(re.findall(r"[\w-]+(?=:)", piece))
    others = [name for name in found["properties"] if not name.startswith(declared)]
    if others and "{{v}}: 1px" not in piece:
        return f"other properties: {others}"
    if _has_script(piece):
        for made, meant in zip(_scripts(text), _scripts(_with_literals(piece)), strict=False):
            if _shape(made) != _shape(meant):
                return f"another script: {made}"
    return ""


def _read_back(piece: str, meant: str, text: str, value: str | None) -> str:
    """Return what is read where a value was filled in, if it is another; empty for the same."""
    if "srcdoc" in piece:
        meant = f"{meant}|{meant}"
    if value is not None and value != meant:
        return f"read back: {value!r}"
    if not _has_script(piece) or "o.a" in piece or "<p title" in piece:
        return ""
    for script in _scripts(text):
        engine = quickjs.Context()
        engine.eval("var n;")
        read = engine.eval(f"JSON.stringify(({script}).m)" if "ld+json" in piece else f"{script}\nJSON.stringify(n)")
        if read not in (engine.eval(f"JSON.stringify({literal})") for literal in (_literal(meant), json.dumps(meant))):
            return f"the script finds {read}"
    return ""


def _has_script(piece: str) -> bool:
    return re.search(r"<script|onclick=", piece) is not None and "<svg" not in piece


def _with_literals(piece: str) -> str:
    """Return a piece with a word within quotes, and a string elsewhere, in place of its marks."""
    if "onfocus" in piece:
        return piece.replace("n = {{v}}", 'n = "seven"').replace("{{v}}", "seven")
    within = re.sub(r"(['\"`>])\{\{v\}\}", r"\1seven", piece)
    return within.replace("{{v}}", "'seven'")


def _literal(value: str) -> str:
    plain = value in ("true", "false", "null") or re.fullmatch(r"-?(?:0|[1-9]\d*)", value)
    return value if plain else json.dumps(value)


def _scripts(text: str) -> list[str]:
    found = []
    for element in parse_fragment(text).tree.elements():
        if element.name == "script":
            found.append("".join(getattr(child, "data", "") for child in element.children))
        found += [value for name, value in element.attributes.items() if name.startswith("on")]
    return found


def _shape(script: str) -> list[str]:
    """Return the kinds of what a script is made of; strings are one kind, and so are the literals."""
    found, stack = [], [ScriptTree(f"({script})" if script.lstrip().startswith("{") else script).root]
    while stack:
        node = stack.pop()
        inner = node.named_children[0] if node.type == "parenthesized_expression" else node
        number = inner.type == "unary_expression" and inner.named_children[0].type == "number"
        kind = "literal" if number or node.type in ("number", "string", "true", "false", "null") else node.type
        if kind == "comment":
            continue
        found.append(kind)
        if kind != "literal":
            stack += [child for child in node.children if child.type not in ("string_fragment", "escape_sequence")]
    return found


if __name__ == "__main__":
    sys.exit(main())
