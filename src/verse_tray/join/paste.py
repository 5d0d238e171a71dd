"""Parts into one paste: libraries, styles, markup, own scripts, each in its place and wrapper."""

from __future__ import annotations

import re

from msgspec import Struct, field

from verse_tray.checks.styles.bracket_missing import lonely_bracket
from verse_tray.join.compile import compile_nested
from verse_tray.join.document import take_apart
from verse_tray.join.kinds import PartKind, tell_kind
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import escape_attribute
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.style.values import without_strings


class Joined(Struct):
    """Parts, sorted and made safe, in the order in which they have to stand."""

    libraries: list[str] = field(default_factory=list)
    """Tags that load libraries: sheets and scripts."""
    styles: list[str] = field(default_factory=list)
    """CSS."""
    markup: list[str] = field(default_factory=list)
    """HTML."""
    scripts: list[tuple[str, bool]] = field(default_factory=list)
    """JavaScript, and whether it is a module."""
    notes: list[str] = field(default_factory=list)
    """What the author should know."""

    def fragment(self) -> str:
        """Return one fragment: libraries, styles, markup, own scripts."""
        return "\n".join([*self.libraries, *self._style(), *self.markup, *self._script()]) + "\n"

    def document(self) -> str:
        """Return one whole document."""
        head = ['<meta charset="utf-8">', '<meta name="viewport" content="width=device-width, initial-scale=1">']
        head += [*self.libraries, *self._style()]
        lines = [
            "<!DOCTYPE html>",
            "<html>",
            "<head>",
            *head,
            "</head>",
            "<body>",
            *self.markup,
            *self._script(),
            "</body>",
        ]
        return "\n".join([*lines, "</html>"]) + "\n"

    def slots(self) -> dict[str, str]:
        """Return the parts by the file each goes into, in the order in which they are pasted."""
        scripts = "\n".join(text for text, _ in self.scripts)
        files = {
            "1-head.html": "\n".join(self.libraries),
            "2-styles.css": "\n".join(self.styles),
            "3-markup.html": "\n".join(self.markup),
            "4-script.js": scripts,
        }
        return {name: text.rstrip() + "\n" for name, text in files.items() if text.strip()}

    def _style(self) -> list[str]:
        return (
            ["<style>\n" + "\n".join(text.strip("\r\n") for text in self.styles) + "\n</style>"] if self.styles else []
        )

    def _script(self) -> list[str]:
        """Return script elements; scripts behind one another share one, a module has its own."""
        tags: list[str] = []
        for text, module in self.scripts:
            opening = '<script type="module">' if module else "<script>"
            body = text.strip("\r\n")
            if tags and not module and tags[-1].startswith("<script>"):
                tags[-1] = tags[-1].removesuffix("\n</script>") + f"\n;\n{body}\n</script>"
            else:
                tags.append(f"{opening}\n{body}\n</script>")
        return tags


def join(parts: list[Source], libraries: list[str]) -> Joined:
    """Sort parts by what they are, and make each safe to stand where it will.

    Args:
        parts: The parts, in the order in which those of one kind have to stand.
        libraries: Addresses of libraries in order: sheets (``.css``) and scripts.

    Raises:
        InputError: a part cannot be read by browsers, or a library's address has no secure scheme.
    """
    tags = [_library(address) for address in libraries]
    joined = Joined(libraries=sorted(tags, key=lambda tag: tag.startswith("<script")))  # sheets first, else in order
    for part in parts:
        kind = tell_kind(part)
        if kind in (PartKind.NESTED, PartKind.INDENTED):
            css = compile_nested(part, indented=kind is PartKind.INDENTED)
            joined.styles.append(safe_style(css))
            joined.notes.append(f"{part.name}: compiled from {kind} to CSS.")
        elif kind is PartKind.CSS:
            _refuse_broken(part)
            joined.styles.append(safe_style(part.text))
        elif kind in (PartKind.SCRIPT, PartKind.MODULE):
            safe = safe_script(part.text)
            if safe != part.text:
                joined.notes.append(f"{part.name}: end tags inside the script are written with a backslash now.")
            joined.scripts.append((safe, kind is PartKind.MODULE))
        elif kind is PartKind.DOCUMENT:
            apart = take_apart(part)
            joined.libraries += [tag for tag in apart.head if _loads(tag)]
            joined.markup += [tag for tag in apart.head if not _loads(tag)]
            joined.markup.append(apart.body)
            joined.notes += [f"{part.name}: left out {what}." for what in apart.left_out]
        else:
            joined.markup.append(part.text.strip("\r\n"))
    return joined


def _loads(tag: str) -> bool:
    return re.match(r"<link\b|<script\b[^>]*\ssrc\s*=", tag, re.IGNORECASE) is not None


def _library(address: str) -> str:
    if scheme_of(address) not in ("https", None) or (scheme_of(address) is None and not address.startswith("//")):
        raise InputError(f"--library {address}: write the whole address of the library, with https:// in front.")
    path = re.split(r"[?#]", address)[0].lower()
    value = escape_attribute(address)
    if path.endswith(".css") or "/css" in path.rpartition("/")[0] + path.rpartition("/")[2][:4]:
        return f'<link rel="stylesheet" href="{value}">'
    return f'<script src="{value}"></script>'


def _refuse_broken(part: Source) -> None:
    found = lonely_bracket(without_strings(part.text))
    if found is not None:
        line, column = part.place(found[0])
        raise InputError(f"{part.name}:{line}:{column}: {found[1][0].lower()}{found[1][1:]}")


def safe_script(text: str) -> str:
    """Write what would end a script element, or change how it ends, so that it does not (HTML standard, 4.12.1.3)."""
    return re.sub(r"<(?=/script|script)|<(?=!--)", _guarded, text, flags=re.IGNORECASE)


def _guarded(match: re.Match[str]) -> str:
    follower = match.string[match.end()]
    return "<\\" if follower in "/!" else "\\x3C"


def safe_style(text: str) -> str:
    """Write what would end a style element so that it does not."""
    return re.sub(r"<(?=/style)", "<\\\\", text, flags=re.IGNORECASE)
