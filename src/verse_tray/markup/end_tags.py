"""Where elements end, and which tags ended up in no tree: worked out when somebody asks.

The parser tells neither. Tree and tokens are walked side by side: when everything inside an element has been passed,
the next end tag either bears its name, or belongs to an element around it (then this one's was left out), or closes
nothing at all.
"""

from __future__ import annotations

from typing import Literal, NamedTuple

from verse_tray.markup.names import FORMATTING, fold_name
from verse_tray.markup.places import Places
from verse_tray.markup.scan import Kind, Token
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.spans import Span


class ReadingNote(NamedTuple):
    """Something that reading left out or could not tell."""

    kind: Literal["too-deep", "too-many-attributes", "formatting-pile", "tag-ignored", "tag-unfinished", "no-positions"]
    """Which of them."""
    span: Span | None
    """Where, or None for the text as a whole."""


_ENDED_BY_FORM = frozenset("dd dt li optgroup option p rb rp rt rtc".split())
"""Elements whose end the end tag of a form implies."""


class EndTags(NamedTuple):
    """The answer of :func:`place_end_tags`."""

    spans: dict[int, Span]
    """Place of each end tag, by the key of its element."""
    placed: frozenset[int]
    """Numbers of the tags that the tree shows."""


def place_end_tags(tree: Tree, places: Places, tokens: list[Token]) -> EndTags:
    """Find the end tag of every element of a tree that has not been edited yet."""
    numbers = {token[1]: number for number, token in enumerate(tokens)}
    start_of, end_of = places.start, places.end
    shown = places.starts if places.exactness == "exact" else numbers.keys()
    forms: list[Element] = []  # those that are open: </form> leaves what is open in one open (HTML standard, 13.2.6.4.7)
    spans: dict[int, Span] = {}
    placed: set[int] = set()
    open_names: dict[str, int] = {}
    count = len(tokens)
    at = 0  # number of the first token behind the last one passed
    stack: list[Node | tuple[Element, str]] = [*reversed(tree.root.children)]
    while stack:
        node = stack.pop()
        if type(node) is not tuple:
            assert isinstance(node, Node)
            start = start_of(node.key)
            if start >= 0:
                number = numbers[start]
                placed.add(number)
                stop = end_of(node.key)
                while tokens[number][2] < stop and number + 1 < count:  # a run of several that flowed together
                    number += 1
                at = number + 1
            if type(node) is Element:
                name = fold_name(node.name)
                if name == "form":
                    forms.append(node)
                open_names[name] = open_names.get(name, 0) + 1
                stack.append((node, name))
                if node.children:
                    stack.extend(node.children[::-1])
            continue
        element, name = node
        open_names[name] -= 1
        if name == "form" and element not in forms:  # its end tag was passed
            continue
        number = at
        while number < count:
            kind, start, end, token_name, _ = tokens[number]
            if kind is not Kind.END:
                if kind is Kind.TEXT and number > at and number not in placed:
                    number += 1  # white space between end tags, which stands elsewhere in the tree
                    continue
                if kind is Kind.START and start not in shown:  # one that browsers dropped, such as a form in a form
                    number += 1
                    continue
                break
            if token_name == "form" and name != "form" and forms and name not in _ENDED_BY_FORM:
                form = forms.pop()
                if start_of(form.key) >= 0:
                    spans[form.key] = Span(start, end)
                placed.add(number)
                number += 1
                at = number
                continue
            if token_name == name:
                if name == "form":
                    forms.pop()
                if start_of(element.key) >= 0:
                    spans[element.key] = Span(start, end)
                placed.add(number)
                at = number + 1
                break
            if open_names.get(token_name):
                break
            number += 1
            at = number  # an end tag that closes nothing: pass it
    return EndTags(spans, frozenset(placed))


def ignored_tags(
    tokens: list[Token], placed: frozenset[int], left_out: frozenset[int], *, marked_all: bool
) -> list[ReadingNote]:
    """Return a note for each tag that the tokenizer or the tree construction threw away.

    Args:
        tokens: All tokens.
        placed: Numbers of those that the tree shows.
        left_out: Numbers of those that the parser never saw.
        marked_all: Whether formatting tags could be told apart; of those that could not, nothing is said.
    """
    notes = []
    for number, (kind, start, end, name, _) in enumerate(tokens):
        if kind is Kind.DROPPED or kind is Kind.UNFINISHED:
            notes.append(ReadingNote("tag-ignored" if kind is Kind.DROPPED else "tag-unfinished", Span(start, end)))
        elif (kind is Kind.START or kind is Kind.END) and number not in placed and number not in left_out:
            if marked_all or name not in FORMATTING:
                notes.append(ReadingNote("tag-ignored", Span(start, end)))
    return notes
