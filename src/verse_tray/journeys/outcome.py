"""What readers get of a piece beside what they were to get: the readings of both pages, compared."""

from __future__ import annotations

from weakref import WeakKeyDictionary

from verse_tray.editors.load import Editor
from verse_tray.journeys.survival.text import count_text
from verse_tray.piece.view import View
from verse_tray.reading.compare import compare
from verse_tray.reading.differences import Comparison, Difference
from verse_tray.reading.frames import Frame, frame_of, framed, own_page
from verse_tray.reading.pairing import text_size
from verse_tray.reading.read import DESKTOP, PHONE, read
from verse_tray.reading.records import Reading
from verse_tray.reading.same import look_the_same
from verse_tray.reading.site import site_looks
from verse_tray.style.cascade import looks_upward_only
from verse_tray.style.conditions import holds
from verse_tray.style.sheets import Sheet


def outcome(written: View, published: View, editor: Editor) -> Comparison:
    """Compare what readers were to see in an editor's page with what they get there, on a desktop and a phone.

    Args:
        written: The written tree.
        published: The tree that readers get; its nodes have the keys of the written one.
        editor: The editor.
    """
    frame = frame_of(editor)
    if max(len(written.elements), len(published.elements)) > MOST_READ:
        return _counted(written, published)
    if not published.tree.root.children:
        return _nothing_left(written)
    alike = _is_read_alike(written, published, frame)
    found = _alone(written) if alike else _at(DESKTOP, written, published, frame)
    _add_site(found, DESKTOP, published, frame)
    if found.harmed or not depends_on_width(written.sheets):  # what is seen on a desktop says enough
        return found
    same = alike or (found.share == 1.0 and written.sheets == published.sheets)
    on_phone = _alone(written) if same else _at(PHONE, written, published, frame)
    _add_site(on_phone, PHONE, published, frame)
    return _merged(found, on_phone)


MOST_READ = 60_000
"""Elements of the largest piece whose look is read; of a larger one the text alone is counted, and that is told."""


def _counted(written: View, published: View) -> Comparison:
    """Return what can be told of a piece that is too large to be read: its text."""
    text, leaked = count_text(written, published)
    share = text.kept / text.of if text.of else 1.0
    alike = 100 if published is written else min(99, int(share * 100))
    return Comparison(alike=alike, share=share, kept=text.kept, of=text.of, leaked=leaked, bounded=True)


def _nothing_left(written: View) -> Comparison:
    """Return what comes of a piece of which nothing reaches the page."""
    size = text_size(_reading_alone(written))
    if not size and not _reading_alone(written).media and not _reading_alone(written).boxes:
        return Comparison()
    found = Comparison(alike=0, share=0.0, of=size)
    found.add(Difference("text", "all", 0, size, "", "", seen=True))
    return found


def _at(width: int, written: View, published: View, frame: Frame) -> Comparison:
    before = read(framed(frame, written), width)
    after = read(framed(frame, published), width)
    found = compare(before, after)
    found.bounded = before.bounded or after.bounded
    return found


def _add_site(found: Comparison, width: int, published: View, frame: Frame) -> None:
    if published.sheets and frame.way:
        was, now = site_looks(frame, (), width), site_looks(frame, published.sheets, width)
        for key, look in was.items():
            if now.get(key) != look:
                found.add(Difference("site", frame.name_of(key), key, 1, "", "", seen=True))


_ALONE: WeakKeyDictionary[View, Reading] = WeakKeyDictionary()


def _reading_alone(written: View) -> Reading:
    """Return the reading of a piece in a page with nothing else in it, which all editors share."""
    if written not in _ALONE:
        _ALONE[written] = read(framed(own_page(), written), DESKTOP)
    return _ALONE[written]


def _alone(written: View) -> Comparison:
    """Return what comes of comparing a piece with itself."""
    size = text_size(_reading_alone(written))
    return Comparison(kept=size, of=size)


def _is_read_alike(written: View, published: View, frame: Frame) -> bool:
    """Tell whether nothing that can be seen has changed, so that no reading is needed."""
    if published is written or published.tree is written.tree:
        return True
    if written.sheets != published.sheets or not look_the_same(written.tree, published.tree):
        return False
    if not all(map(looks_upward_only, (*written.sheets, *frame.sheets))):  # a script that goes may be a first child
        return False
    return not _reading_alone(written).hidden  # what scripts bring forth goes with them


def depends_on_width(sheets: tuple[Sheet, ...]) -> bool:
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
