"""Read from a browser what it knows of CSS properties, and write it into the table of the package.

Run it by hand when a new browser is to be followed: ``python tools/read_properties.py``. Words that may be values are
taken from the browser's own file; each is tried on each property with ``CSS.supports``.
"""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

from playwright.sync_api import sync_playwright

from verse_tray.preview.browser.find import find_browser
from verse_tray.style.properties import PROPERTIES

TABLE = Path(__file__).parent.parent / "src/verse_tray/style/property_table.json"
_BINARY = ("/usr/lib/chromium/chromium", "/usr/lib/chromium/chrome")
_WORD = re.compile(rb"-?[a-z][a-z0-9-]{1,38}")

PROBES = {
    "length": "1px",
    "negative": "-1px",
    "percentage": "1%",
    "zero": "0",
    "integer": "2",
    "number": "1.5",
    "below": "-2",
    "colour": "#123456",
    "address": "url(x)",
    "image": "linear-gradient(red,blue)",
    "string": '"x"',
    "time": "1s",
    "angle": "1deg",
    "share": "1fr",
    "own": "zzqx",
}
"""A value of each type."""
FUNCTIONS = (
    "attr(x) blur(1px) brightness(1) circle(1px) contrast(1) counter(a) cubic-bezier(0,0,1,1) drop-shadow(1px|1px|red) "
    "ellipse(1px|1px) element(#a) fit-content(1px) grayscale(1) hue-rotate(1deg) image-set(url(x)|1x) inset(1px) "
    "invert(1) matrix(1,0,0,1,0,0) minmax(1px,1fr) opacity(1) path('M0|0') perspective(1px) polygon(0|0,1px|1px) "
    "ray(1deg) rect(1px|1px|1px|1px) repeat(2,1fr) rotate(1deg) saturate(1) scale(1) scaleX(1) sepia(1) skew(1deg) "
    "steps(2) symbols('a') translate(1px) translateX(1px) translate3d(1px,1px,1px) "
    "xywh(0|0|1px|1px) linear(0,1) "
    "view() scroll() anchor-size(width) anchor(top) stylistic(a) cross-fade(url(x),url(y)) "
    "-webkit-gradient(linear,0|0,0|1)"
)

READ = """([names, words, probes, functions]) => {
  const known = names.filter(n => CSS.supports(n, 'inherit')), at = document.createElement('p'), found = {};
  document.body.append(at);
  const child = document.createElement('i'); at.append(child);
  for (const name of known) {
    at.style.cssText = ''; at.style.setProperty(name, 'unset');
    const own = [...at.style];
    const entry = {longhands: own};
    if (own.length === 1 && own[0] === name) {
      entry.types = Object.keys(probes).filter(k => CSS.supports(name, probes[k]));
      entry.words = entry.types.includes('own') ? [] : words.filter(w => CSS.supports(name, w));
      const taken = functions.filter(f => CSS.supports(name, f.replaceAll('|', ' ')));
      entry.functions = taken.map(f => f.split('(')[0]);
      const alone = [...entry.types.map(k => probes[k]), ...entry.words.slice(0, 40)];
      entry.several = alone.some(a => alone.some(b => [' ', ', '].some(s => CSS.supports(name, a + s + b))));
      const start = getComputedStyle(at).getPropertyValue(name);
      const other = [...entry.types.map(k => probes[k]), ...entry.words.slice(0, 60)].find(v => {
        at.style.cssText = 'display:block;border:1px solid;position:relative'; at.style.setProperty(name, v);
        return getComputedStyle(at).getPropertyValue(name) !== start; });
      if (other !== undefined) {
        at.style.cssText = 'display:block;border:1px solid;position:relative'; at.style.setProperty(name, other);
        const here = getComputedStyle(at).getPropertyValue(name);
        child.style.cssText = ''; const mine = getComputedStyle(child).getPropertyValue(name);
        child.style.setProperty(name, 'inherit'); const taken = getComputedStyle(child).getPropertyValue(name);
        child.style.setProperty(name, 'initial'); const plain = getComputedStyle(child).getPropertyValue(name);
        entry.inherited = mine === taken && taken !== plain;
      }
    }
    found[name] = entry;
  }
  return found; }"""


def main() -> None:
    """Write the table."""
    binary = next(Path(each) for each in _BINARY if Path(each).exists())
    words = sorted({each.decode() for each in _WORD.findall(binary.read_bytes())})
    words = [word for word in words if "--" not in word and not word.endswith("-")]
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=find_browser(), chromium_sandbox=False)
        tab = browser.new_page()
        tab.set_content("<!DOCTYPE html><body>")
        tab.set_default_timeout(0)
        names = sorted({*PROPERTIES, "grid-gap", "word-wrap", "-webkit-line-clamp", "-webkit-text-fill-color"})
        wide = {"inherit", "initial", "unset", "revert", "revert-layer"}
        usable = tab.evaluate(
            "([n, w]) => w.filter(x => n.some(p => CSS.supports(p, x) && !CSS.supports(p, 'zzqx')))", [names, words]
        )
        found = tab.evaluate(READ, [names, [w for w in usable if w not in wide], PROBES, FUNCTIONS.split()])
        browser.close()
    TABLE.write_text(as_text(_table(found)), encoding="utf-8")


def as_text(table: dict[str, Any]) -> str:
    """Return the table as JSON with a property a line."""
    parts = []
    for name, part in sorted(table.items()):
        rows = [f"{json.dumps(key)}: {json.dumps(part[key])}" for key in sorted(part)] if isinstance(part, dict) else []
        parts.append(f"{json.dumps(name)}: " + ("{\n" + ",\n".join(rows) + "\n}" if rows else json.dumps(part)))
    return "{\n" + ",\n".join(parts) + "\n}\n"


def _table(found: dict[str, Any]) -> dict[str, Any]:
    shorthands, aliases, values = {}, {}, {}
    for name, entry in found.items():
        longhands = entry["longhands"]
        if name == "all":
            continue
        if longhands == [name]:
            words = "" if len(entry["words"]) > 120 else " ".join(entry["words"])  # names of colours are told by type
            values[name] = [" ".join(entry["types"]), words, " ".join(entry["functions"]), entry["several"]]
        elif len(longhands) == 1:
            aliases[name] = longhands[0]
        elif longhands:
            shorthands[name] = " ".join(longhands)
    inherited = sorted(name for name, entry in found.items() if entry.get("inherited"))
    return {"shorthands": shorthands, "aliases": aliases, "inherited": " ".join(inherited), "values": values}


if __name__ == "__main__":
    main()
