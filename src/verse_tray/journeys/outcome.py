"""What readers get of a piece beside what they were to get: the readings of both pages, compared."""

from __future__ import annotations

from weakref import WeakKeyDictionary

from verse_tray.editors.load import Editor
from verse_tray.piece.view import View
from verse_tray.reading.compare import compare
from verse_tray.reading.differences import Comparison, Difference
from verse_tray.reading.frames import Frame, frame_of, framed, own_page
from verse_tray.reading.pairing import text_size
from verse_tray.reading.read import DESKTOP, PHONE, read
from verse_tray.reading.site import site_looks
from verse_tray.style.conditions import holds
from verse_tray.style.sheets import Sheet


def outcome(written: View, published: View, editor: Editor, theme: str | None = None) -> Comparison:
    """Compare what readers were to see in an editor's page with what they get there, on a desktop and a phone.

    Args:
        written: The written tree.
        published: The tree that readers get; its nodes have the keys of the written one.
        editor: The editor.
        theme: CSS of the site's theme; None for its usual one.
    """
    frame = frame_of(editor, theme)
    widths = (DESKTOP, PHONE) if _depends_on_width(written.sheets) else (DESKTOP,)
    found = [_at(width, written, published, frame) for width in widths]
    return found[0] if len(found) == 1 else _merged(*found)


def _at(width: int, written: View, published: View, frame: Frame) -> Comparison:
    if published is written or published.tree is written.tree:
        size = _text_of(written)
        found = Comparison(kept=size, of=size)
    else:
        before = read(framed(frame, written.tree, written.sheets), width)
        after = read(framed(frame, published.tree, published.sheets), width)
        found = compare(before, after)
        found.bounded = before.bounded or after.bounded
    if published.sheets and frame.way:
        was, now = site_looks(frame, (), width), site_looks(frame, published.sheets, width)
        for key, look in was.items():
            if now.get(key) != look:
                found.add(Difference("site", frame.name_of(key), key, 1, "", "", seen=True))
    return found


_SIZES: WeakKeyDictionary[View, int] = WeakKeyDictionary()


def _text_of(written: View) -> int:
    """Return how many characters of text a piece has, for the editors that leave it alone."""
    if written not in _SIZES:
        alone = read(framed(own_page(), written.tree, written.sheets), DESKTOP)
        _SIZES[written] = text_size(alone)
    return _SIZES[written]


def _depends_on_width(sheets: tuple[Sheet, ...]) -> bool:
    return any(holds(rule.around, None) is None for sheet in sheets for rule in sheet.rules if rule.around)


def _merged(desktop: Comparison, phone: Comparison) -> Comparison:
    """Return what is true of both windows: each difference once, and the worse of two counts."""
    told = {(each.kind, each.what, each.key) for each in desktop.differences}
    for each in phone.differences:
        if (each.kind, each.what, each.key) not in told:
            desktop.add(each)
    lost = max(desktop.of - desktop.kept, phone.of - phone.kept)
    desktop.kept, desktop.leaked = desktop.of - min(lost, desktop.of), max(desktop.leaked, phone.leaked)
    desktop.share = (desktop.share + phone.share) / 2
    desktop.alike = min(int(desktop.share * 100), desktop.alike if phone.alike == 100 else 99)
    desktop.bounded = desktop.bounded or phone.bounded
    return desktop
