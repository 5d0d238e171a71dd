"""Parts into one paste: libraries, styles, markup, own scripts, each in its place and wrapper."""

from __future__ import annotations

import re
from collections.abc import Mapping

from msgspec import Struct, field

from verse_tray.checks.find import find
from verse_tray.checks.markup.text_swallowed import never_ended
from verse_tray.checks.styles.bracket_missing import lonely_bracket
from verse_tray.join.compile import compile_nested
from verse_tray.join.document import take_apart
from verse_tray.join.kinds import PartKind, tell_kind
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.names import HTML
from verse_tray.markup.serialise import escape_attribute, escape_text
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import own_text
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.style.values import without_strings


class Sheet(Struct, frozen=True):
    """Styles: a text, or a tag that has to stay one."""

    text: str
    is_tag: bool = False


class Body(Struct, frozen=True):
    """Markup, and what the body around it had for attributes."""

    text: str
    around: dict[str, str] = {}

    @property
    def boxed(self) -> str:
        """The markup in a box that stands for the body; as it is, where the body had no attributes."""
        return f"<div{_attributes(self.around)}>\n{self.text}\n</div>" if self.around else self.text


class Joined(Struct):
    """Parts, sorted and made safe, in the order in which they have to stand."""

    libraries: list[str] = field(default_factory=list)
    """Tags that load libraries: sheets and scripts."""
    sheets: list[Sheet] = field(default_factory=list)
    """Styles."""
    markup: list[Body] = field(default_factory=list)
    """HTML."""
    scripts: list[tuple[str, bool]] = field(default_factory=list)
    """JavaScript, and whether it is a module."""
    title: str = ""
    """Title of a document; empty for none."""
    language: str = ""
    """Language of a document; empty for none."""
    notes: list[str] = field(default_factory=list)
    """What the author should know."""

    def fragment(self) -> str:
        """Return one fragment: libraries, styles, markup, own scripts."""
        markup = [body.boxed for body in self.markup]
        return "\n".join([*self.libraries, *self._style(), *markup, *self._script()]) + "\n"

    def document(self) -> str:
        """Return one whole document."""
        head = ['<meta charset="utf-8">', '<meta name="viewport" content="width=device-width, initial-scale=1">']
        head += [f"<title>{escape_text(self.title)}</title>"] if self.title else []
        head += [*self.libraries, *self._style()]
        alone = self.markup[0] if len(self.markup) == 1 else None
        lines = [
            "<!DOCTYPE html>",
            f"<html{_attributes({'lang': self.language} if self.language else {})}>",
            "<head>",
            *head,
            "</head>",
            f"<body{_attributes(alone.around if alone else {})}>",
            *([alone.text] if alone else [body.boxed for body in self.markup]),
            *self._script(),
            "</body>",
        ]
        return "\n".join([*lines, "</html>"]) + "\n"

    def slots(self) -> dict[str, str]:
        """Return the parts by the file each goes into, in the order in which they are pasted."""
        scripts = "\n".join(text for text, _ in self.scripts)
        files = {
            "1-head.html": "\n".join([*self.libraries, *(sheet.text for sheet in self.sheets if sheet.is_tag)]),
            "2-styles.css": "\n".join(sheet.text for sheet in self.sheets if not sheet.is_tag),
            "3-markup.html": "\n".join(body.boxed for body in self.markup),
            "4-script.js": scripts,
        }
        return {name: text.rstrip() + "\n" for name, text in files.items() if text.strip()}

    def _style(self) -> list[str]:
        """Return style elements and links; sheets behind one another share one element."""
        tags: list[str] = []
        shared = False
        for sheet in self.sheets:
            text = sheet.text.strip("\r\n")
            if sheet.is_tag:
                tags.append(text)
            elif shared:
                tags[-1] = f"{tags[-1].removesuffix('</style>')}{text}\n</style>"
            else:
                tags.append(f"<style>\n{text}\n</style>")
            shared = not sheet.is_tag
        return tags

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
    kinds = [tell_kind(part) for part in parts]
    lifts = len(parts) > 1 and any(kind in (PartKind.CSS, PartKind.NESTED, PartKind.INDENTED) for kind in kinds)
    for part, kind in zip(parts, kinds, strict=True):
        if kind in (PartKind.NESTED, PartKind.INDENTED):
            css = compile_nested(part, indented=kind is PartKind.INDENTED)
            joined.sheets.append(Sheet(safe_style(css)))
            joined.notes.append(f"{part.name}: compiled from {kind} to CSS.")
        elif kind is PartKind.CSS:
            _refuse_broken(part)
            joined.sheets.append(Sheet(safe_style(part.text)))
        elif kind in (PartKind.SCRIPT, PartKind.MODULE):
            safe = safe_script(part.text)
            if safe != part.text:
                joined.notes.append(f"{part.name}: end tags inside the script are written with a backslash now.")
            joined.scripts.append((safe, kind is PartKind.MODULE))
        else:
            _add_markup(joined, part, kind, lifts=lifts, alone=len(parts) == 1)
    return joined


def _add_markup(joined: Joined, part: Source, kind: PartKind, *, lifts: bool, alone: bool) -> None:
    """Add HTML; its own styles go among the sheets where those of other parts are there, so that the order counts."""
    if not alone:
        hold_ended(part)
        joined.notes += left_open(part)
    text = part.text.strip("\r\n")
    prologue = _PROLOGUE.match(text)
    if prologue is not None:
        text = text[prologue.end() :]
        joined.notes.append(f"{part.name}: left out the XML declaration, which is no HTML.")
    around: dict[str, str] = {}
    if kind is PartKind.DOCUMENT:
        apart = take_apart(Source(text, part.name))
        for each in apart.head:
            if each.kind == "load":
                joined.libraries.append(each.tag)
            elif each.kind == "script":
                joined.markup.append(Body(each.tag))
            else:
                joined.sheets.append(Sheet(each.tag if each.css is None else each.css, each.css is None))
        text, around = apart.body, apart.around
        joined.title, joined.language = joined.title or apart.title, joined.language or apart.language
        joined.notes += [f"{part.name}: left out {what}." for what in apart.left_out]
        if around:
            joined.notes.append(f"{part.name}: a box around its contents stands for its body: {', '.join(around)}.")
    elif _LIST.match(text) and "<" not in text:
        joined.notes.append(
            f"{part.name}: this is a list without tags, which browsers show in one line. Make one of it first: "
            f"verse-tray make list -{'' if part.name == '-' else f' < {part.name}'}"
        )
    if lifts:
        styles, text = _lifted(text)
        joined.sheets += styles
    joined.markup.append(Body(text, around))


def left_open(part: Source) -> list[str]:
    """Return what a part leaves open, so that what stands behind it would stand inside."""
    missing = [each.finding for each in find(Piece(part)) if each.finding.rule == "markup/end-tag-missing"]
    return [f"{part.name}:{each.line}:{each.column}: {each.message}" for each in missing[:_MOST_TOLD]]


def hold_ended(part: Source) -> None:
    """Refuse markup that would swallow what stands behind it.

    Raises:
        InputError: with the place of what never ends.
    """
    if (token := never_ended(part.text)) is not None:
        line, column = part.place(token.start)
        raise InputError(
            f"{part.name}:{line}:{column}: nothing ends this {f'<{token.name}>' if token.name else 'comment'}, so it "
            "would swallow what is joined behind it. End it."
        )


def _lifted(text: str) -> tuple[list[Sheet], str]:
    """Return the style elements of a fragment, and the rest of it."""
    if "<style" not in text.lower():
        return [], text
    piece = Piece(Source(text))
    sheets, splices = [], []
    for element in Subject(piece).each("style"):
        outer = piece.source_map.outer_span(element)
        if outer is not None and element.namespace == HTML:
            typed = text[outer.start : outer.end]
            sheets.append(Sheet(typed if element.attributes else own_text(element), bool(element.attributes)))
            splices.append(Splice(outer, ""))
    return sheets, Spliced(text, splices).text.strip("\r\n")


_MOST_TOLD = 3
_PROLOGUE = lazy(r"\s*<\?xml[^>]*\?>\s*", re.IGNORECASE)
_LIST = lazy(r"(?:[ \t]*(?:[-*•]|\d{1,3}[.)])[ \t]+\S.*(?:\n+|\Z)){2,}")


def _attributes(values: Mapping[str, str]) -> str:
    return "".join(f' {name}="{escape_attribute(value)}"' for name, value in values.items())


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
