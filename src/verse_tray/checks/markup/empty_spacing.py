"""Empty paragraphs, list items or line breaks that only make space."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.NOTE,
    readers="The space differs from site to site, editors take empty elements away, and screen readers announce them.",
    advice="Give the element around or before it a margin: verse-tray adjust FILE --on p --set margin-bottom=24px.",
    bad="<p>Wear boots.</p><p>&nbsp;</p><p>&nbsp;</p><p>Bring a lamp.</p>",
    good='<p style="margin-bottom: 36px">Wear boots.</p><p>Bring a lamp.</p>',
)
_SPACES = " \t\n\f\r\xa0\u200b"
_MOST_BREAKS = 2


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield one mistake for each run of empty paragraphs or items, and of more than two line breaks."""
    for parent in [subject.piece.parsed.tree.root, *subject.elements]:
        run: list[Element] = []
        for child in [*parent.children, None]:
            if type(child) is Text and not child.data.strip(_SPACES):
                continue
            if type(child) is Element and (_is_empty(child) or child.name == "br"):
                if not run or (child.name == run[0].name):
                    run.append(child)
                    continue
            yield from _told(subject, run)
            run = [child] if type(child) is Element and (_is_empty(child) or child.name == "br") else []


def _told(subject: Subject, run: list[Element]) -> Iterator[Mistake]:
    run = [element for element in run if subject.span(element) is not None]  # not one that the parser made up
    if not run or (run[0].name == "br" and len(run) <= _MOST_BREAKS):
        return
    if len(run) == 1 and run[0].name == "p" and not _has_height(run[0]):  # nobody used it as spacing
        return
    first, last = subject.span(run[0]), subject.span(run[-1])
    span = first if first is None or last is None else Span(first.start, last.end)
    name, count = run[0].name, len(run)
    if name == "br":
        what = f"{count} line breaks in a row make space"
    elif name == "li":
        what = (
            f"{'An empty list item' if count == 1 else f'{count} empty list items'} makes space, with a bullet of its "
            "own"
        )
        what = (
            what if count == 1 else what.replace("makes", "make").replace("a bullet of its own", "bullets of their own")
        )
    else:
        what = "An empty paragraph makes space" if count == 1 else f"{count} empty paragraphs make space"
    yield Mistake(
        span,
        f"{what}: editors take such away, and every site shows it otherwise. Give the element before it a margin, "
        "such as "
        'style="margin-bottom: 24px".',
    )


def _is_empty(element: Element) -> bool:
    if element.name not in ("p", "li") or any(name not in ("style", "align", "dir") for name in element.attributes):
        return False
    return all(_shows_nothing(child) for child in element.children)


def _shows_nothing(node: Node) -> bool:
    if type(node) is Text:
        return not node.data.strip(_SPACES)
    return type(node) is Element and node.name == "br" and node.attributes == {}


def _has_height(element: Element) -> bool:
    return any(type(child) is Element or (type(child) is Text and "\xa0" in child.data) for child in element.children)
