"""An element without the end tag that it needs, or one that ends after the element around it."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.markup.text_swallowed import swallowed
from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import ESCAPABLE_RAW_TEXT, HTML, RAW_TEXT, SERIALISED_AS_VOID
from verse_tray.markup.round_trip import ends_paragraph
from verse_tray.markup.tokens import Kind, Token
from verse_tray.markup.vocabulary import ELEMENTS, END_TAG_OPTIONAL
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The element goes on to the end of what is around it, or of the page: all that follows looks like it.",
    advice="Write its end tag where the element ends.",
    bad="<div><p>Bring a <strong>lamp and boots.</p></div>",
    good="<div><p>Bring a <strong>lamp</strong> and boots.</p></div>",
)
_HEADINGS = frozenset(("h1", "h2", "h3", "h4", "h5", "h6"))
_FOREIGN = frozenset(("svg", "math"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each start tag that no end tag answers, and for each that is answered too late."""
    if subject.piece.parsed.cap_notes:  # told there: thousands of missing end tags are one mistake
        return
    stack: list[Token] = []
    open_count: dict[str, int] = {}
    late: dict[str, list[Token]] = {}
    text = subject.source.text
    foreign = 0
    dropped = {note.span.start for note in subject.notes("tag-ignored") if note.span is not None}
    for token in subject.tokens:
        name = token.name
        if token.kind is Kind.START and token.start not in dropped:  # as a form in a form is
            if name in SERIALISED_AS_VOID or ((foreign or name in _FOREIGN) and text[token.end - 2] == "/"):
                continue
            foreign += name in _FOREIGN
            _begin(token, stack, open_count)
        elif token.kind is Kind.END:
            if name in _HEADINGS and (other := _open_heading(stack, open_count)) is not None and other.name != name:
                yield _other_heading(other, token)
                name = other.name  # browsers end the innermost heading, whatever its rank
            if open_count.get(name):
                for last in _ended(stack, name):
                    open_count[last.name] -= 1
                    foreign -= last.name in _FOREIGN
                    if last.name != name:
                        late.setdefault(last.name, []).append(last)
            elif late.get(name):
                started = late[name].pop()
                yield _crossed(subject, started, token)
    left = [token for tokens in late.values() for token in tokens] + stack
    missing: dict[str, list[Token]] = {}
    vanished = swallowed(subject).lower()
    for token in sorted(left, key=lambda token: token.start):
        if vanished and f"</{token.name}" in vanished:  # it would end there
            continue
        if token.name not in END_TAG_OPTIONAL and not _is_unknown(subject, token.name):
            missing.setdefault(token.name, []).append(token)
    for tokens in missing.values():
        yield _missing(tokens)


def _begin(token: Token, stack: list[Token], open_count: dict[str, int]) -> None:
    """Note an element that begins; a paragraph in front of a block ends without a tag."""
    if stack and stack[-1].name == "p" and ends_paragraph(token.name):
        open_count[stack.pop().name] -= 1
    stack.append(token)
    open_count[token.name] = open_count.get(token.name, 0) + 1


def _ended(stack: list[Token], name: str) -> list[Token]:
    """Take away what the end tag of an open element ends: the innermost of its name, and all that began since."""
    at = next(at for at in range(len(stack) - 1, -1, -1) if stack[at].name == name)
    if name == "form":  # what is open inside stays open (HTML standard, 13.2.6.4.7)
        return [stack.pop(at)]
    ended = stack[at:][::-1]
    del stack[at:]
    return ended


def _is_unknown(subject: Subject, name: str) -> bool:
    """Tell whether another rule says already that HTML knows no such element."""
    return name not in ELEMENTS and "-" not in name and any(e.namespace == HTML for e in subject.named.get(name, ()))


def _open_heading(stack: list[Token], open_count: dict[str, int]) -> Token | None:
    if not any(open_count.get(name) for name in _HEADINGS):
        return None
    return next(token for token in reversed(stack) if token.name in _HEADINGS)


def _other_heading(started: Token, ended: Token) -> Mistake:
    return Mistake(
        Span(ended.start, ended.end),
        f"</{ended.name}> stands where <{started.name}> should end; browsers end that heading here all the same. Write "
        f"</{started.name}>.",
        covers=(Span(ended.start, ended.end),),
    )


def _crossed(subject: Subject, started: Token, ended: Token) -> Mistake:
    line, column = subject.source.place(ended.start)
    return Mistake(
        Span(started.start, started.end),
        f"<{started.name}> is ended at {line}:{column}, after the element around it has ended. Browsers end it "
        "earlier, and ignore that end tag. End elements in the reverse order of their beginnings.",
        covers=(Span(ended.start, ended.end),),
    )


def _missing(tokens: list[Token]) -> Mistake:
    token = tokens[0]
    more = f", here and in {counted(len(tokens) - 1, 'more place')}" if len(tokens) > 1 else ""
    page = ", the rest of the page included" if token.name in RAW_TEXT | ESCAPABLE_RAW_TEXT else ""
    return Mistake(
        Span(token.start, token.end),
        f"The end tag </{token.name}> is missing{more}: the element goes on to the end of what is around it{page}. "
        f"Write </{token.name}> where it ends.",
    )
