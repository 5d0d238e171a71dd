"""Pictures of the drawings in a piece, drawn by a browser, for editors that keep no drawings."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.load import Editor
from verse_tray.fitting.icons import Icon, Icons
from verse_tray.journeys.journey import journey
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.preview.browser.session import Session
from verse_tray.preview.browser.viewport import Box
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import page

_SCALE = 2  # pixels of a picture for each of the page: most screens have more than one
_LARGEST = 2_000  # CSS pixels of a side
_ALONE = """number => {
  const drawings = [...document.querySelectorAll('svg')].filter(each => !each.parentElement.closest('svg'));
  const sheet = document.getElementById('tray-alone') ?? document.head.appendChild(document.createElement('style'));
  sheet.id = 'tray-alone';
  sheet.textContent = `* { visibility: hidden !important; background: none !important; box-shadow: none !important }
    [data-tray-alone], [data-tray-alone] * { visibility: visible !important }`;
  for (const each of drawings) each.toggleAttribute('data-tray-alone', each === drawings[number]);
  const box = drawings[number].getBoundingClientRect();
  return [box.x + scrollX, box.y + scrollY, box.width, box.height];
}"""


class Drawn(NamedTuple):
    """What was drawn."""

    icons: Icons
    """The pictures by the markup of the drawings."""
    files: dict[str, bytes]
    """The files, PNG, by their names."""


def drawn_icons(piece: Piece, editors: Sequence[Editor], at: str, stem: str) -> Drawn:
    """Draw the drawings of a piece that one of the editors does not keep.

    Args:
        piece: The piece.
        editors: The editors.
        at: Address of the folder in which the pictures will be.
        stem: What the names of the files begin with.

    Raises:
        BrowserError: there is no browser, or it failed.
    """
    subject = Subject(piece)
    kept = [{e.key for e in journey(piece, editor).published.elements()} for editor in editors]
    outermost = [e for e in subject.each("svg") if not any(around.name == "svg" for around in subject.around(e))]
    wanted = [(n, e) for n, e in enumerate(outermost) if any(e.key not in keys for keys in kept)]
    icons: dict[str, Icon] = {}
    files: dict[str, bytes] = {}
    if not wanted:
        return Drawn(icons, files)
    shown = page(plain_editor(), "", piece.parsed.tree, LocalPictures()).html
    with Session() as session:
        session.open(shown, 1280)
        session.settle()
        for number, element in wanted:
            typed = subject.typed(piece.source_map.outer_span(element))
            x, y, width, height = session.evaluate(_ALONE, number)
            if typed in icons or not typed or not 1 <= width <= _LARGEST or not 1 <= height <= _LARGEST:
                continue
            name = f"{stem}-icon-{len(files) + 1}.png"
            files[name] = session.cut_out(Box(x, y, width, height), _SCALE)
            icons[typed] = Icon(f"{at.rstrip('/')}/{name}", round(width), round(height))
    return Drawn(icons, files)
