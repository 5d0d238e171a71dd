"""What a visual pane does to a piece that it opens, and cleaners that work like one whenever they are run."""

from typing import Literal

from verse_tray.editors.record import Record


class Opening(Record, frozen=True, kw_only=True):
    """What is done before the filter."""

    paragraphs: bool = False
    """Whether blank lines in text outside blocks make paragraphs, and single line ends make line breaks."""
    white_space: Literal["keep", "fold"] = "keep"
    """Whether white space is folded into single spaces, outside ``pre`` and ``textarea``."""
    non_breaking_spaces: Literal["keep", "plain"] = "keep"
    """Whether non-breaking spaces become plain ones."""
    quotes: Literal["keep", "straight"] = "keep"
    """Whether curly quotes in text become straight ones."""
    merge_elements: tuple[str, ...] = ()
    """Elements that become one when two alike stand side by side."""
    nesting: Literal["keep", "repair"] = "keep"
    """Whether text-level elements around blocks are moved inside them, and stray list items get their list."""
    remove_empty_elements: tuple[str, ...] = ()
    """Elements that go when they hold neither text nor anything that shows."""
    trailing_breaks: Literal["keep", "drop"] = "keep"
    """What becomes of line breaks at the end of blocks."""
