"""White space that stands by itself between two tags."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.steps.white_space import PRESERVING
from verse_tray.markup.names import RAW_TEXT
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity

_WHITE = " \t\n\f\r"
_KEEPING = PRESERVING | RAW_TEXT


def run(state: State) -> None:
    """Take away the texts that are nothing but white space, with a tag on each side."""
    if state.record.between_tags != "drop":
        return
    state.settle()
    root = state.tree.root
    stack: list[Element] = [root]
    while stack:
        around = stack.pop()
        children: list[Node] = around.children
        for number, child in enumerate(children):
            if type(child) is Element:
                stack += [child] if child.name not in _KEEPING else []
            elif type(child) is Text and child.means is None and child.data and not child.data.strip(_WHITE):
                outside = around is root and number in (0, len(children) - 1)
                gap = around is root and state.record.loose_text == "paragraphs"  # it is written anew in any case
                if not outside and not gap and all(type(each) is Element for each in _beside(children, number)):
                    message = "White space between two tags goes. Words and pictures beside it stand closer."
                    state.edits.drop(child, state.edits.change("between-tags/drop", message, Severity.NOTE, child))


def _beside(children: list[Node], number: int) -> list[Node]:
    """Return the nodes before and behind one, as far as there are any."""
    return [*children[max(0, number - 1) : number], *children[number + 1 : number + 2]]


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.between_tags == "drop":
        yield "white space", "That between two tags goes."


STEP = Step(
    "between-tags",
    run,
    keys=("between_tags",),
    told=_sentences,
    guide=(
        (
            "`betweenTags`",
            "`drop`: white space that stands by itself between two tags goes",
            "`keep`",
        ),
    ),
    sample="<p><b>between</b> <i>tags</i></p>\n",
)
