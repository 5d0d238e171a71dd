"""A code sample: markup shown as text."""

from __future__ import annotations

import re

from msgspec.structs import replace

from verse_tray.make.builder import Builder, Made, Styles, Terms
from verse_tray.make.survive import form as form_
from verse_tray.markup.serialise import escape_text
from verse_tray.markup.tree import Node
from verse_tray.model.errors import InputError

FORMS = (
    form_("block", "a block", "tag:pre"),
    form_("lines", "lines with breaks and spaces that stay"),
)
"""The forms of a code sample, the best first."""


def make_code(
    text: str, styles: Styles | Terms, *, language: str = "", form: str = "block", name: str | None = None
) -> Made:
    """Make a code sample; every sign that markup gives a meaning to is escaped, and white space stays.

    Raises:
        InputError: there is nothing in it.
    """
    text = text.replace("\r\n", "\n").strip("\n").expandtabs(4)
    if not text.strip():
        raise InputError("a code sample needs a text.")
    if not re.fullmatch(r"[\w+#.-]*", language):
        raise InputError(f"--language {language!r}: expected one word, such as html or c++.")
    build = Builder("code", styles, text, name=name)
    kind = {"class_": f"language-{language}"} if language else {}
    if form == "lines":
        lines: list[Node | str] = []
        for number, line in enumerate(text.split("\n")):
            blanks = len(line) - len(line.lstrip())
            lines += [*([build.element("br")] if number else []), "\xa0" * blanks + line.lstrip()]
        return build.made(build.element("p", build.element("code", *lines, **kind), look="font-family: monospace"))
    look = "padding: 12px 14px; overflow-x: auto; background: #f1f7f6; border-radius: 6px"
    mark = "\ue002"  # stands for the text while the rest is laid out, since nothing of it may move
    code = build.element("code", mark, **kind)
    made = build.made(build.element("pre", code, look=look, role="whole", tabindex="0"))
    return replace(made, markup=made.markup.replace(mark, escape_text(text)))
