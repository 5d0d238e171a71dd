"""The HTML standard's tokenizer (13.2.5), reduced to where each token starts and ends.

Trees come from the parser; this module exists because that parser tells no positions. It follows the tree
construction stage only where that stage steers the tokenizer: raw text and foreign content.
"""

from __future__ import annotations

import re
from collections import Counter
from functools import cache
from sys import intern

from verse_tray.markup import names
from verse_tray.markup.names import fold_name
from verse_tray.markup.outer_elements import OuterElements
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.patterns import lazy

_SPACE = r"[\t\n\f\r ]"
_VALUE = r"(?:\"[^\"]*+\"|'[^']*+'|[^\t\n\f\r >\"'][^\t\n\f\r >]*+|(?=>))"
_ATTRIBUTE = (
    rf"(?:=[^\t\n\f\r />=]*+|[^\t\n\f\r />=]++)(?:(?={_SPACE}*+=){_SPACE}*+={_SPACE}*+{_VALUE}|(?!{_SPACE}*+=))"
)
_MARKUP = lazy(
    r"<(?:([A-Za-z][^\t\n\f\r />]*+)|/([A-Za-z][^\t\n\f\r />]*+)"
    r"|(!--)|(!\[CDATA\[)|(![Dd][Oo][Cc][Tt][Yy][Pp][Ee])|([!?]|/(?!\Z)))"
)
_REST_OF_TAG = lazy(rf"(?:[\t\n\f\r /]++|{_ATTRIBUTE})*+>")
_COMMENT_END = lazy(r"--!?>")
_ABRUPT_COMMENT = lazy(r"-?>")
_INSTRUCTION_TARGET = lazy(r"\?[A-Za-z_:]")
_SELF_CLOSING = rf"(?:[\t\n\f\r /]++|{_ATTRIBUTE})*?/>"  # rarely needed: compiled where it is
_FONT_BREAKOUT = lazy(r"[\t\n\f\r /](?:color|face|size)[\t\n\f\r />=]", re.IGNORECASE)
_HTML_ANNOTATION = lazy(r"encoding\s*=\s*[\"']?(?:text/html|application/xhtml\+xml)", re.IGNORECASE)
_SCRIPT_STEP = lazy(r"<!--|-->|<(/?)script(?=[\t\n\f\r />])", re.IGNORECASE)


def scan(text: str, context: str = "body") -> list[Token]:
    """Return the tokens of ``text`` in order; together with the gaps between tags they cover it whole.

    Args:
        text: Markup, decoded; line ends as they stand.
        context: Name of the HTML element in whose place a fragment is parsed.
    """
    tokens: list[Token] = []
    add = tokens.append
    new = tuple.__new__  # what Token() does, without the call in between
    search, rest_of_tag = _MARKUP.search, _REST_OF_TAG.match
    START, END, TEXT = Kind.START, Kind.END, Kind.TEXT
    raw_text, rcdata = names.RAW_TEXT, names.ESCAPABLE_RAW_TEXT
    foreign = _Foreign(tokens)
    at, length = 0, len(text)
    if context in raw_text or context in rcdata:
        return [Token(TEXT, 0, length, "", context in raw_text)] if text else []
    while at < length:
        found = search(text, at)
        if found is None:
            break
        start = found.start()
        which = found.lastindex
        if start > at:
            add(new(Token, (TEXT, at, start, "", False)))
        else:
            start = at  # the same number: one object less for each tag
        if which != 1 and which != 2:
            at = _add_declaration(tokens, text, start, which or 0, foreign)
            continue
        at = found.end() + 1
        if text[at - 1 : at] != ">":
            rest = rest_of_tag(text, at - 1)
            if rest is None:  # the end of the file stands inside the tag: the tag is dropped
                add(new(Token, (Kind.UNFINISHED, start, length, fold_name(found[which]), False)))
                return tokens
            at = rest.end()
        name = intern(fold_name(found[which]))
        if which == 2:
            add(new(Token, (END, start, at, name, False)))
            if foreign.stack:
                foreign.close(name)
            continue
        add(new(Token, (START, start, at, name, False)))
        if foreign.stack or name == "svg" or name == "math":
            if foreign.open(name, text[start:at]) != names.HTML:
                continue
        if name in raw_text or name in rcdata:
            stop = _raw_text_end(text, at, name)
            if stop > at:
                add(new(Token, (TEXT, at, stop, "", name in raw_text)))
            at = stop
    if at < length:
        add(new(Token, (TEXT, at, length, "", False)))
    return tokens


def _add_declaration(tokens: list[Token], text: str, start: int, which: int, foreign: _Foreign) -> int:
    """Add the token of a declaration, a comment or the like, and return where it ends."""
    kind, end = _declaration(text, start, which, bool(foreign.stack) and foreign.in_foreign())
    if kind is not Kind.CDATA:
        tokens.append(Token(kind, start, end, "", False))
        return end
    if end > start + 9:
        tokens.append(Token(kind, start + 9, end, "", True))
    return min(end + 3, len(text))


def _declaration(text: str, start: int, which: int, in_foreign: bool) -> tuple[Kind, int]:
    """Return kind and end of what starts with ``<!``, ``<?`` or ``</`` without a letter (13.2.5.41 and around)."""
    length = len(text)
    if which == 3:
        abrupt = _ABRUPT_COMMENT.match(text, start + 4)
        close = abrupt or _COMMENT_END.search(text, start + 4)
        return Kind.COMMENT, close.end() if close else length
    if which == 4 and in_foreign:
        close_at = text.find("]]>", start + 9)
        return Kind.CDATA, length if close_at < 0 else close_at
    if text.startswith("</>", start):
        return Kind.DROPPED, start + 3
    kind = Kind.DOCTYPE if which == 5 else Kind.COMMENT
    if _INSTRUCTION_TARGET.match(text, start + 1):
        kind = Kind.INSTRUCTION
    close_at = text.find(">", start + 2)
    return kind, length if close_at < 0 else close_at + 1


@cache
def _raw_end(name: str) -> re.Pattern[str]:
    return re.compile(rf"</{name}(?=[\t\n\f\r />])", re.IGNORECASE)


def _raw_text_end(text: str, at: int, name: str) -> int:
    """Return the offset of the end tag that closes a raw text element opened just before ``at``."""
    if name == "plaintext":
        return len(text)
    if name != "script":
        close = _raw_end(name).search(text, at)
        return close.start() if close else len(text)
    # script data escaped and double escaped states (13.2.5.17 to 13.2.5.31)
    escaped = double = False
    while step := _SCRIPT_STEP.search(text, at):
        sign = step.group()
        at = step.end()
        if sign == "<!--":
            escaped = True
            at -= 2  # its dashes may already be those of the closing "-->"
        elif sign == "-->":
            escaped = double = False
        elif step.group(1):
            if not double:
                return step.start()
            double = False
        elif escaped:
            double = True
    return len(text)


class _Foreign:
    """The open elements of foreign content, as far as the tokenizer has to know them."""

    def __init__(self, tokens: list[Token]) -> None:
        self.stack: list[tuple[str, str, bool]] = []  # namespace, name, an HTML integration point by its encoding
        self._count: Counter[str] = Counter()
        self._holding = 0  # how many of them hold HTML, so that no end tag in them ends anything around them
        self._outer = OuterElements(tokens)

    def in_foreign(self) -> bool:
        return self.stack[-1][0] != names.HTML

    def _namespace_for(self, name: str) -> str:
        if not self.stack:
            return names.child_namespace(names.HTML, "", name)
        namespace, parent, annotation = self.stack[-1]
        return names.child_namespace(namespace, parent, name, annotation)

    def _push(self, namespace: str, name: str, annotation: bool) -> None:
        self.stack.append((namespace, name, annotation))
        self._count[name] += 1
        self._holding += _holds_html(namespace, name)

    def _pop(self) -> str:
        namespace, name, _ = self.stack.pop()
        self._count[name] -= 1
        self._holding -= _holds_html(namespace, name)
        return name

    def open(self, name: str, tag: str) -> str:
        """Note a start tag and return the namespace of its element."""
        namespace = self._namespace_for(name)
        leaves = name in names.BREAKOUT or (name == "font" and _FONT_BREAKOUT.search(tag))
        if namespace != names.HTML and leaves:
            while self.stack and self._namespace_for(name) != names.HTML:
                self._pop()
            namespace = names.HTML
            if not self.stack:
                return namespace
        if namespace == names.HTML:
            closed = name in names.VOID or not self.stack
        else:
            closed = tag.endswith("/>") and re.compile(_SELF_CLOSING).fullmatch(tag, 1 + len(name)) is not None
        if not closed:
            self._push(namespace, name, name == "annotation-xml" and _HTML_ANNOTATION.search(tag) is not None)
        return namespace

    def close(self, name: str) -> None:
        """Note an end tag."""
        if name in ("p", "br") and self.in_foreign():  # both leave foreign content (13.2.6.5)
            while self.stack and self.in_foreign() and self._namespace_for(name) != names.HTML:
                self._pop()
        elif self._count[name]:
            while self._pop() != name:
                pass
        elif not self._holding and self._outer.closes(name):  # an element around ends, and with it what is in it
            self.stack.clear()
            self._count.clear()


def _holds_html(namespace: str, name: str) -> bool:
    if namespace == names.SVG:
        return name in names.SVG_INTEGRATION
    return namespace == names.MATHML and (name in names.MATHML_TEXT_INTEGRATION or name == "annotation-xml")
