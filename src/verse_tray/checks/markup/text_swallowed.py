"""Text that vanishes in a comment, a frame or a field that never ends."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import ESCAPABLE_RAW_TEXT, RAW_TEXT
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.scan import scan
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.piece.view import View, solid

RULE = Rule(
    Severity.ERROR,
    readers="Everything from there on is gone, the rest of the page with it.",
    advice="End the comment with -->, or write the element's end tag where it ends.",
    bad="<p>Low water at six.</p><!-- to be checked <p>Bring a lamp.</p>",
    good="<p>Low water at six.</p><!-- to be checked --><p>Bring a lamp.</p>",
)
_CODE = frozenset(("style", "script"))
_TAG = lazy(r"<[a-zA-Z]")
_QUOTED = 60


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake where text vanishes up to the end of the piece, with its beginning and its size."""
    text = subject.source.text
    for token in subject.tokens[-2:]:  # what never ends is the last tag, or comment, and at most a text in it
        start = _swallows_from(token, text)
        if start is None:
            continue
        shown = _shown(text[start:])
        if not any(map(str.isalnum, shown)):
            continue
        what, how = _told(token, text)
        quoted = f"“{shown[:_QUOTED]}{'…' if len(shown) > _QUOTED else ''}”"
        span = Span(token.start, min(token.end, token.start + 40) if token.kind is Kind.COMMENT else token.end)
        yield Mistake(
            span,
            f"{what} never ends, so all that follows {_fate(token)}: {quoted}, "
            f"{counted(solid(shown), 'character')}. {how}",
            covers=(span,),
        )


def swallowed(subject: Subject) -> str:
    """Return what stands in the piece and vanishes, as typed."""
    text = subject.source.text
    starts = [start for token in subject.tokens[-2:] if (start := _swallows_from(token, text)) is not None]
    return text[starts[0] :] if starts else ""


def never_ended(text: str) -> Token | None:
    """Return the tag, comment or element at the end of a text that swallows whatever stands behind the text."""
    for token in scan(text)[-2:]:
        if token.kind is Kind.UNFINISHED or _swallows_from(token, text) is not None:
            return token
        if token.kind is Kind.START and token.name in RAW_TEXT and token.end == len(text):
            return token
    return None


def _swallows_from(token: Token, text: str) -> int | None:
    """Return where the text begins that a token swallows; None for one that ends."""
    if token.kind is Kind.COMMENT:
        ended = token.end < len(text) or text.endswith(("-->", "--!>"))
        return None if ended else token.start + 4
    if token.kind is not Kind.START or token.name not in RAW_TEXT | ESCAPABLE_RAW_TEXT:
        return None
    if token.name in _CODE:  # what stands before the first tag is code
        found = _TAG.search(text, token.end)
        return found.start() if found else None
    return token.end


def _fate(token: Token) -> str:
    return "stands in that field, tags and all" if token.name == "textarea" else "vanishes"


def _shown(markup: str) -> str:
    texts = View(parse_fragment(markup).tree).texts
    return " ".join(" ".join(text.data for text, visible in texts if visible).split())


def _told(token: Token, text: str) -> tuple[str, str]:
    if token.kind is Kind.COMMENT:
        return "This comment", "Write --> where it ends."
    name = token.name
    slash = f" A slash at the end of its tag does not end <{name}>." if text[token.end - 2] == "/" else ""
    return f"<{name}>", f"Write </{name}> where it ends.{slash}"
