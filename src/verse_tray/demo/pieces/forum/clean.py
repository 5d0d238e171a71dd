"""The volunteers' forum of the Gannet Cove Shore Survey: what its post box makes of a text. Its rules stand nowhere.

python clean.py < sent.html > stored.html
"""

from __future__ import annotations

import html
import re
import sys
from html.parser import HTMLParser

KEPT = frozenset("a b blockquote br code em h3 i img li ol p pre s span strong u ul".split())
MUTED = frozenset("script style iframe object form svg select textarea template title noscript".split())
WITHOUT_END = frozenset(("br", "img"))
PROPERTIES = frozenset(("color", "text-align", "font-weight"))
RENAMED = {"b": "strong", "i": "em", "h1": "h3", "h2": "h3"}


class Cleaner(HTMLParser):
    """Writes tag by tag what it lets through."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.out: list[str] = []
        self.muted: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in MUTED:
            self.muted.append(tag)
        tag = RENAMED.get(tag, tag)
        if self.muted or tag not in KEPT:
            return
        values = {name: value or "" for name, value in attrs}
        kept: dict[str, str] = {name: values[name] for name in ("href", "src", "alt", "title") if name in values}
        if re.match(r"\s*(javascript|data|vbscript):", kept.get("href", ""), re.IGNORECASE):
            kept["href"] = "#"
        if style := styles(values.get("style", "")):
            kept["style"] = style
        if tag == "a" and kept.get("href", "").startswith("http"):
            kept["rel"] = "nofollow"
        written = "".join(f' {name}="{html.escape(value)}"' for name, value in kept.items())
        self.out.append(f"<{tag}{written}{' /' if tag in WITHOUT_END else ''}>")

    def handle_endtag(self, tag: str) -> None:
        if self.muted and tag == self.muted[-1]:
            self.muted.pop()
            return
        tag = RENAMED.get(tag, tag)
        if not self.muted and tag in KEPT and tag not in WITHOUT_END:
            self.out.append(f"</{tag}>")

    def handle_data(self, data: str) -> None:
        if not self.muted:
            self.out.append(html.escape(data, quote=False))


def styles(value: str) -> str:
    """Return the declarations that are let through."""
    pairs = [each.split(":", 1) for each in value.split(";") if ":" in each]
    return "; ".join(f"{name.strip()}: {what.strip()}" for name, what in pairs if name.strip() in PROPERTIES)


def clean(markup: str) -> str:
    """Return what is stored of a text."""
    cleaner = Cleaner()
    cleaner.feed(markup)
    cleaner.close()
    return "".join(cleaner.out)


if __name__ == "__main__":
    sys.stdout.write(clean(sys.stdin.read()))
