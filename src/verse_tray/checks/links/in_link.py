"""A link inside a link: browsers end the first one where the second begins."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The first link ends where the second begins, so what follows leads elsewhere or nowhere.",
    advice="End the first link before the second begins, or make one link of both.",
    bad='<p><a href="https://gannetcove.example/walks">Book the <a href="https://gannetcove.example">walk</a> '
    "now</a></p>",
    good='<p><a href="https://gannetcove.example/walks">Book the walk now</a></p>',
)
_BOUNDS = frozenset("td th caption applet marquee object template".split())
"""Elements inside which a link may begin anew."""


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each link that begins while another is open."""
    open_links: list[tuple[Token, list[Token]]] = []  # and the links that began inside each
    ended: list[tuple[Token, list[Token]]] = []
    for token in subject.tokens:
        if token.kind is Kind.START and token.name == "a":
            if open_links:
                open_links[-1][1].append(token)
                ended.append(open_links.pop())
            open_links.append((token, []))
        elif token.kind is Kind.END and token.name == "a":
            if open_links:
                open_links.pop()
            elif ended:
                outer, inner = ended.pop()
                yield _mistake(subject, outer, inner, token)
                ended.clear()
        elif token.kind is Kind.START and token.name in _BOUNDS:
            open_links.clear()
            ended.clear()


def _mistake(subject: Subject, outer: Token, inner: list[Token], end: Token) -> Mistake:
    line, column = subject.source.place(outer.start)
    return Mistake(
        Span(inner[0].start, inner[0].end),
        f"This link begins inside the link of {line}:{column}, so browsers end that one here, and what follows is no "
        "part of it. End the first link before the second, or make one link of both.",
        covers=(Span(end.start, end.end), Span(outer.start, outer.end)),
    )
