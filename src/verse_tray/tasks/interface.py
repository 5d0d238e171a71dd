"""The Python interface: what the commands do, on texts in place of files. The package offers these names as its own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from pathlib import Path

from verse_tray.edit.layout import LaidOut
from verse_tray.edit.layout import compact as lay_out_small
from verse_tray.edit.layout import neaten as lay_out
from verse_tray.edit.values import Value, find_values
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import Editor
from verse_tray.fields.fill import Filled, Template
from verse_tray.fields.marks import mark_form
from verse_tray.journeys.journey import journey
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.sheet import NARROW, WIDE, Shown, sheet
from verse_tray.reports.results import PieceResult
from verse_tray.style.colours import Form
from verse_tray.tasks.adjust import Adjusted, AdjustRequest
from verse_tray.tasks.adjust import adjust as adjust_piece
from verse_tray.tasks.check import CheckRequest
from verse_tray.tasks.check import check as check_pieces

Markup = str | Source | Piece
"""A piece: markup, a file's text with its name, or a piece that was read before."""


def check(
    markup: Markup,
    editors: Iterable[str | Editor] = ("all",),
    *,
    silenced: Iterable[str] = (),
    reopened: int = 1,
    region: int | None = None,
) -> PieceResult:
    """Find the mistakes of a piece, and what each editor keeps of it; the same as ``verse-tray check``.

    >>> result = verse_tray.check("<p onclick=go()>Low water</p>", ["blog-post", "sidebar-box"])
    >>> [(journey.editor.name, journey.verdict.value) for journey in result.journeys]
    [('blog-post', 'damaged'), ('sidebar-box', 'intact')]
    >>> result.worst.value
    'damaged'

    Args:
        markup: The piece.
        editors: Editors, their names or paths; none at all for its mistakes alone.
        silenced: Rules about mistakes that are not to look; ``all`` for every rule.
        reopened: How often it is opened in the visual pane and saved again.
        region: Width in CSS pixels of the region that will hold it, if that is known.

    Raises:
        UnknownEditorError, ProfileError: see :func:`load_editor`.
        UnknownRuleError: a silenced rule does not exist.
    """
    request = CheckRequest(_editors(editors), tuple(silenced), reopened, region)
    return next(check_pieces([_piece(markup)], request))


def fill(markup: Markup, values: Mapping[str, str], *, mark: str = "{{NAME}}", blank: bool = False) -> Filled:
    """Fill the marks of a piece with values, each written for the place where it stands; as ``verse-tray fill``.

    >>> filled = verse_tray.fill("<p title='{{name}}'>Dear {{name}}</p>", {"name": "Maren O'Tide"})
    >>> print(filled.text)
    <p title='Maren O&#39;Tide'>Dear Maren O'Tide</p>

    Args:
        markup: The piece.
        values: Values by the names of fields.
        mark: Form of the marks, with NAME where the field's name stands.
        blank: Whether a missing value leaves nothing, and not its mark.

    Raises:
        InputError: the form does not say where the name stands.
    """
    return Template(_piece(markup).source, mark_form(mark)).fill(dict(values), blank=blank)


def values(markup: Markup) -> list[Value]:
    """Return the values of a piece that are worth changing; as ``verse-tray adjust`` lists them.

    >>> [(value.name, value.value) for value in verse_tray.values("<p style='color: teal'>x</p>")]
    [('p-color', 'teal'), ('p-text', 'x')]

    Args:
        markup: The piece.
    """
    return find_values(_piece(markup))


def adjust(
    markup: Markup, settings: Mapping[str, str], *, on: str | None = None, colours: Form | None = None
) -> Adjusted:
    """Set values of a piece and nothing else; as ``verse-tray adjust --set``.

    >>> verse_tray.adjust("<p style='color: teal'>x</p>", {"p-color": "#123"}).text
    "<p style='color: #123'>x</p>"

    Args:
        markup: The piece.
        settings: Values by their names, or by what they are now; with ``on`` declarations, or attributes with @ in
            front.
        on: Selector of the elements on which they are set.
        colours: Form in which every colour is written: ``hex``, ``rgb``, ``hsl``, ``name``.

    Raises:
        InputError: there is no such value or element, or a new value cannot stand in its place.
    """
    return adjust_piece(_piece(markup), AdjustRequest(dict(settings), on, colours))


def neaten(markup: Markup, *, width: int = 100, compact: bool = False) -> LaidOut:
    """Lay a piece out for reading, or small, without changing what readers get; as ``verse-tray neaten``.

    >>> print(verse_tray.neaten("<ul><li>limpet<li>crab</ul>").text)
    <ul>
      <li>limpet</li>
      <li>crab</li>
    </ul>
    <BLANKLINE>

    Args:
        markup: The piece.
        width: Longest line, in columns.
        compact: Whether no white space is left that means nothing.
    """
    source = _piece(markup).source
    return lay_out_small(source) if compact else lay_out(source, width=width)


def preview_sheet(
    markup: Markup,
    editors: Iterable[str | Editor] = ("all",),
    *,
    widths: Iterable[int] = (WIDE, NARROW),
    home: Path | None = None,
    folders: Iterable[Path] = (),
) -> str:
    """Return one HTML page with every view of a piece; as ``verse-tray preview -o`` writes it.

    >>> page = verse_tray.preview_sheet("<p>Low water</p>", ["blog-post"], widths=[375])
    >>> page.startswith("<!DOCTYPE html>"), 'data-row="blog-post"' in page
    (True, True)

    Args:
        markup: The piece.
        editors: Editors, their names or paths.
        widths: Widths of the views in CSS pixels.
        home: Folder that the relative addresses of its pictures start from.
        folders: Folders with copies of its pictures.

    Raises:
        UnknownEditorError, ProfileError: see :func:`load_editor`.
    """
    piece = _piece(markup)
    journeys = [journey(piece, editor) for editor in _editors(editors)]
    made = sheet(journeys, LocalPictures(home, tuple(folders), stored=True), Shown(widths=tuple(widths)))
    return made.decode("utf-8")


def _piece(markup: Markup) -> Piece:
    if isinstance(markup, Piece):
        return markup
    return Piece(markup if isinstance(markup, Source) else Source(markup))


def _editors(editors: Iterable[str | Editor]) -> tuple[Editor, ...]:
    found: list[Editor] = []
    for each in editors:
        found += [each] if isinstance(each, Editor) else chosen_editors([each])
    return tuple(found)
