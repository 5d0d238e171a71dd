"""Empty paragraphs, list items or line breaks that only make space."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted
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
_BLOCKS = frozenset("p li div h1 h2 h3 h4 h5 h6 blockquote section".split())
_DOTS = frozenset(".·•-–—_*,:|")  # signs that stand for nothing where nobody can see them
_INVISIBLE = frozenset(("white", "#fff", "#ffffff", "transparent", "rgb(255, 255, 255)", "rgb(255,255,255)"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield one mistake for each run of empty blocks, of line breaks, and for texts parted by double line breaks."""
    for parent in [subject.piece.parsed.tree.root, *subject.elements]:
        run: list[Element] = []
        pairs: list[list[Element]] = []  # runs of two line breaks, with text on both sides
        kept = False  # whether a space that does not go stands between line breaks
        for child in [*parent.children, None]:
            if type(child) is Text and not child.data.strip(_SPACES):
                kept = kept or (bool(run) and "\xa0" in child.data)
                continue
            fills = type(child) is Element and (_is_empty(subject, child) or child.name == "br")
            if type(child) is Element and fills and (not run or child.name == run[0].name):
                run.append(child)
                continue
            if len(run) == _MOST_BREAKS and run[0].name == "br" and not kept and child is not None:
                pairs.append(run)
            else:
                yield from _told(subject, run, kept=kept)
            run, kept = [child] if type(child) is Element and fills else [], False
        if len(pairs) > 1:
            yield from _parted(subject, pairs)


def _parted(subject: Subject, pairs: list[list[Element]]) -> Iterator[Mistake]:
    """Yield a mistake for texts that are parted by double line breaks, again and again."""
    first, last = subject.span(pairs[0][0]), subject.span(pairs[0][-1])
    if first is not None and last is not None:
        yield Mistake(
            Span(first.start, last.end),
            f"Double line breaks part the text here and in {counted(len(pairs) - 1, 'more place')}: no margin of the "
            "site reaches them, and screen readers read one block. Make a paragraph, or a list item, of each part.",
        )


def _told(subject: Subject, run: list[Element], *, kept: bool) -> Iterator[Mistake]:
    run = [element for element in run if subject.span(element) is not None]  # not one that the parser made up
    if not run or (run[0].name == "br" and len(run) <= _MOST_BREAKS and not (kept and len(run) > 1)):
        return
    if run[0].name in _BLOCKS - {"li"} and not any(map(_has_height, run)):  # they have no height, and make no space
        return
    first, last = subject.span(run[0]), subject.span(run[-1])
    span = first if first is None or last is None else Span(first.start, last.end)
    yield Mistake(
        span,
        f"{_what(run, kept=kept)}: editors take such away, and every site shows it otherwise. Give the element before "
        'it a margin, such as style="margin-bottom: 24px".',
    )


def _what(run: list[Element], *, kept: bool) -> str:
    name, count = run[0].name, len(run)
    if name == "br":
        return "A space between line breaks makes an empty line" if kept else f"{count} line breaks in a row make space"
    if name == "li":
        one = "An empty list item makes space, with a bullet of its own"
        return one if count == 1 else f"{count} empty list items make space, with bullets of their own"
    kind = "paragraph" if name == "p" else f"<{name}>"
    empty = "An empty" if all(_shows_nothing(child) for child in run[0].children) else "An invisible"
    return f"{empty} {kind} makes space" if count == 1 else f"{count} {empty.split()[-1]} {kind}s make space"


def _is_empty(subject: Subject, element: Element) -> bool:
    if element.name not in _BLOCKS or any(name not in ("style", "align", "dir") for name in element.attributes):
        return False
    if element.name not in ("p", "li") and "style" in element.attributes:  # it may be drawn
        return _is_dot(subject, element)
    return all(_shows_nothing(child) for child in element.children) or _is_dot(subject, element)


def _is_dot(subject: Subject, element: Element) -> bool:
    """Tell whether all that an element holds is a sign or two in the colour of the ground."""
    texts = [child for child in element.children if type(child) is Text and child.data.strip(_SPACES)]
    inner = [child for child in element.children if type(child) is Element and not _shows_nothing(child)]
    if len(inner) == 1 and not texts and inner[0].name in ("span", "font", "b", "strong"):
        return _is_dot(subject, inner[0]) or (
            inner[0].attributes.get("color", "").lower() in _INVISIBLE and _holds_dot(inner[0])
        )
    if inner or "background" in element.attributes.get("style", ""):
        return False
    colour = subject.winners(element).get("color", ("",))[0].lower()
    return colour in _INVISIBLE and _holds_dot(element)


def _holds_dot(element: Element) -> bool:
    data = "".join(child.data for child in element.children if type(child) is Text).strip(_SPACES)
    return 0 < len(data) <= 2 and set(data) <= _DOTS


def _shows_nothing(node: Node) -> bool:
    if type(node) is Text:
        return not node.data.strip(_SPACES)
    return type(node) is Element and node.name == "br" and node.attributes == {}


def _has_height(element: Element) -> bool:
    return any(
        type(child) is Element or (type(child) is Text and child.data.strip(" \t\n\f\r")) for child in element.children
    )
