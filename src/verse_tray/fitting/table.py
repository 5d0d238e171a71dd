"""The strategies in the order in which they are tried: each sees what those before it have written."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from verse_tray.fitting.draft import Draft
from verse_tray.fitting.strategies import (
    attributes_for_looks,
    breaks_for_blocks,
    capitals_written,
    captions_above,
    columns_as_table,
    floats_as_table,
    headings_as_words,
    held_empties,
    hidden_left_out,
    icons_as_pictures,
    kept_forms,
    lines_for_code,
    lines_in_blocks,
    links_for_clicks,
    links_for_frames,
    links_for_pictures,
    lost_left_out,
    made_text,
    marked_links,
    names_for_scripts,
    other_elements,
    quotes_written,
    rows_as_lines,
    rules_in_elements,
    secure_addresses,
    shown_without_script,
    signs_left_out,
    site_classes,
    styles_for_attributes,
    tags_for_looks,
)
from verse_tray.markup.splice import Splice


class Strategy(NamedTuple):
    """One way of rewriting a piece."""

    name: str
    """Its name."""
    sentence: str
    """What it did, for an author."""
    rewrite: Callable[[Draft], Iterator[Splice]]
    """Yields what changes a text; nothing where it has nothing to do."""


STRATEGIES: tuple[Strategy, ...] = tuple(
    Strategy(each.NAME, each.SENTENCE, each.rewrite)
    for each in (
        names_for_scripts,  # while names stand in rules, and before anything is put in place of scripts
        icons_as_pictures,  # while the drawings are as they were drawn
        shown_without_script,  # before hidden parts are left out, and the rules that hide them are written elsewhere
        links_for_clicks,
        hidden_left_out,  # before anything is written that would bring it to light
        made_text,  # while the rules that make it are there
        capitals_written,
        breaks_for_blocks,
        rules_in_elements,  # before the looks that are in elements become other things
        columns_as_table,  # while the looks of columns are known, and before divisions become other elements
        floats_as_table,
        captions_above,  # while the table is one
        secure_addresses,  # before what goes with them is given up
        links_for_frames,
        links_for_pictures,
        marked_links,
        headings_as_words,
        rows_as_lines,
        lines_for_code,
        lines_in_blocks,
        signs_left_out,
        quotes_written,
        other_elements,
        styles_for_attributes,
        kept_forms,
        site_classes,
        tags_for_looks,
        attributes_for_looks,
        held_empties,  # when everything that draws something has its own style
    )
)

LAST = Strategy(lost_left_out.NAME, lost_left_out.SENTENCE, lost_left_out.rewrite)
"""What is done at the end, to a piece that was rewritten."""
