"""What an author should know of what readers see, beside the changes that an editor makes."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.load import Editor
from verse_tray.model.findings import Change, Severity
from verse_tray.model.phrasing import listed
from verse_tray.piece.locations import NodeLocation
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View
from verse_tray.reading.differences import Comparison, Difference
from verse_tray.reading.frames import frame_of
from verse_tray.reading.site import Reach, rules_that_reach

_LOOKS = {
    "colour": "the colour of text", "ground": "what is behind text", "size": "the size of letters",
    "bold": "how bold letters are", "slanted": "whether letters lean", "family": "the kind of letters",
    "lines": "lines under or through text", "align": "where lines stand", "spacing": "the space between letters",
    "leading": "the height of lines", "shadow": "the shadow of letters", "case": "capitals and small letters",
}  # fmt: skip
_MOST = 4  # kinds of differences that are named in one sentence


def remarks(comparison: Comparison, piece: Piece, editor: Editor, published: View) -> Iterator[Change]:
    """Yield what the comparison of two readings tells the author, as findings of the stage ``publish``."""
    yield from _site(comparison, piece, editor, published)
    yield from _joined(comparison, piece)
    yield from _shown(comparison, piece)
    yield from _summary(comparison, piece)
    if comparison.bounded:
        message = (
            "There are too many style rules for so many elements: what they do to the look is not worked out, and only "
            "counted by name. Fewer rules, or a smaller piece, are looked at in full."
        )
        yield Change("reading/too-many-rules", "publish", message, Severity.WARNING)


def _site(comparison: Comparison, piece: Piece, editor: Editor, published: View) -> Iterator[Change]:
    names = list(dict.fromkeys(each.what for each in comparison.differences if each.kind == "site"))
    if not names:
        return
    styles = [element for element in piece.written_view.elements if element.name == "style"]
    for reach in rules_that_reach(frame_of(editor), published.sheets) or [Reach("a rule", names)]:
        message = (
            f"This piece changes the site around it: {reach.selectors} matches {listed(reach.names)} of the page as "
            "well, and readers see the site otherwise. Name a class of your own in front, as in "
            f".my-piece {reach.selectors}."
        )
        place = NodeLocation(piece, styles[0].key) if styles else None
        yield Change("reading/changes-site", "publish", message, Severity.ERROR, place)


def _joined(comparison: Comparison, piece: Piece) -> Iterator[Change]:
    for each in comparison.differences:
        if each.kind == "layout" and each.what == "joined":
            message = f"Words run together: readers see “{each.was}{each.now}”, as what stood between them went."
            yield Change("reading/run-together", "publish", message, Severity.ERROR, _place(piece, each))


def _shown(comparison: Comparison, piece: Piece) -> Iterator[Change]:
    written = {text.key for text, visible in piece.written_view.texts if visible}
    words: dict[int, list[str]] = {}
    for each in comparison.differences:
        if each.kind == "leaked" and each.key in written:
            words.setdefault(each.key, []).append(each.now)
    for key, found in words.items():
        told = " ".join(found)
        message = (
            f"This was not to be seen, and readers see it: “{told[:60]}{'…' if len(told) > 60 else ''}”. What hid it "
            "does not reach the page; take it out of the piece."
        )
        yield Change("reading/hidden-shown", "publish", message, Severity.ERROR, NodeLocation(piece, key))


def _summary(comparison: Comparison, piece: Piece) -> Iterator[Change]:
    """Tell in one sentence what a person would see of the look, however many changes it comes from."""
    kinds: dict[str, list[Difference]] = {}
    for each in comparison.differences:
        if each.seen and (name := _kind(each)):
            kinds.setdefault(name, []).append(each)
    if not kinds:
        return
    ordered = sorted(kinds.items(), key=lambda item: -sum(each.size for each in item[1]))
    told = [f"{name} ({_example(found)})" for name, found in ordered[:_MOST]]
    if len(ordered) > _MOST:
        told.append(f"{len(ordered) - _MOST} more")
    message = f"Readers see this piece otherwise, {comparison.alike} of 100 alike: {listed(told)}."
    yield Change("reading/looks-different", "publish", message, Severity.WARNING, _place(piece, ordered[0][1][0]))


def _kind(each: Difference) -> str:
    if each.kind == "look":
        return _LOOKS[each.what]
    if each.kind == "box":
        return {"gone": "boxes gone", "new": "boxes that nobody made"}.get(each.what, f"the {each.what} of boxes")
    if each.kind == "layout" and each.what == "place":
        return "what stands beside or below what"
    if each.kind == "media":
        return f"{each.what} gone" if not each.now else f"the {each.what} of pictures"
    return {"made": "signs and words that styles make", "meaning": "the signs before items"}.get(each.kind, "")


def _example(found: list[Difference]) -> str:
    first = found[0]
    count = f"{len(found)} places" if len(found) > 1 else "1 place"
    if first.was and first.now and len(first.was) + len(first.now) < 50 and first.kind != "layout":
        return f"{count}, as {first.was} to {first.now}"
    if first.kind == "layout":
        return f"{count}, as {_RELATIONS[first.was]} to {_RELATIONS[first.now]}"
    return count


_RELATIONS = {
    "line": "in one line", "joined": "without a space", "row": "side by side", "below": "below", "lifted": "over it",
}  # fmt: skip


def _place(piece: Piece, each: Difference) -> NodeLocation | None:
    return NodeLocation(piece, each.key) if each.key > 0 else None
