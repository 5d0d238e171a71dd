"""Tags written anew one by one, as those do who read a text tag by tag: none that is missing is made up."""

from __future__ import annotations

from verse_tray.markup.attributes import attribute_spans
from verse_tray.markup.names import SERIALISED_AS_VOID
from verse_tray.markup.references import decode
from verse_tray.markup.scan import scan
from verse_tray.markup.serialise import Form, escape_text, start_tag
from verse_tray.markup.tokens import Kind, Token
from verse_tray.markup.tree import Element
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.model.spans import Span


def retype(text: str, form: Form, *, text_too: bool) -> tuple[str, dict[int, int]]:
    """Write the tags of a text anew.

    Args:
        text: The text.
        form: How tags and signs are written.
        text_too: Whether what stands between tags is written anew as well.

    Returns:
        The new text, and where each token begins in it, by where it began.
    """
    parts: list[str] = []
    starts: dict[int, int] = {}
    length = at = 0
    for token in scan(text):
        between = text[at : token.start]
        starts[token.start] = length + len(between)
        written = _written(text, token, form, text_too=text_too)
        parts += (between, written)
        length += len(between) + len(written)
        at = token.end
    parts.append(text[at:])
    return "".join(parts), starts


def _value(typed: str) -> str:
    return decode(typed, attribute=True)[0].replace("\0", "\ufffd")  # as tokenizers read it


def _written(text: str, token: Token, form: Form, *, text_too: bool) -> str:
    typed = text[token.start : token.end]
    if token.kind == Kind.START:
        found = attribute_spans(text, Span(token.start, token.end))
        values = {
            name: "" if each.value is None else _value(text[each.value.start : each.value.end])
            for name, each in found.items()
        }
        tag = start_tag(Element(token.name, attributes=values), form)
        closed = typed.endswith("/>") and token.name not in SERIALISED_AS_VOID and token.name not in ELEMENTS
        return f"{tag[:-1]}/>" if closed else tag  # in drawings and formulas the slash ends the element
    if token.kind == Kind.END:
        return f"</{token.name}>"
    if token.kind == Kind.TEXT and text_too and not token.raw:
        return escape_text(decode(typed, attribute=False)[0], form.references, form.text_signs)
    return typed
