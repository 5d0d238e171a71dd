"""A code sample: markup shown as text."""

from __future__ import annotations

from verse_tray.make.builder import Builder, Made, Styles
from verse_tray.markup.serialise import escape_text
from verse_tray.model.errors import InputError


def make_code(text: str, styles: Styles, *, language: str = "", name: str | None = None) -> Made:
    """Make a code sample; every sign that markup gives a meaning to is escaped, and white space stays.

    Raises:
        InputError: there is nothing in it.
    """
    text = text.replace("\r\n", "\n").strip("\n").expandtabs(4)
    if not text.strip():
        raise InputError("a code sample needs a text.")
    build = Builder("code", styles, text, name=name)
    look = "padding: 12px 14px; overflow-x: auto; background: #f1f7f6; border-radius: 6px"
    mark = "\ue002"  # stands for the text while the rest is laid out, since nothing of it may move
    code = build.element("code", mark, **({"class_": f"language-{language}"} if language else {}))
    made = build.made(build.element("pre", code, look=look, role="whole", tabindex="0"))
    return Made(made.markup.replace(mark, escape_text(text)), made.css, made.notes)
