"""What an author should know of what readers see, beside the changes that an editor makes."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.editors.load import Editor
from verse_tray.journeys.survival.behaviour import code_led_astray, names_of
from verse_tray.markup.tree import own_text
from verse_tray.model.findings import SCRIPT_ASTRAY, Change, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import listed
from verse_tray.piece.locations import KnownLocation, NodeLocation
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.piece.view import View
from verse_tray.reading.differences import Comparison, Difference
from verse_tray.reading.frames import frame_of
from verse_tray.reading.site import Reach, rules_that_reach
from verse_tray.style.names import names_in
from verse_tray.style.selectors import selector_under
from verse_tray.style.sheets import split_selectors

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
    yield from _astray(piece, published)
    yield from _unknown_classes(piece, editor, published)
    yield from _summary(comparison, piece)
    if comparison.bounded:
        message = (
            "This piece has too many elements, or too many style rules for them: what it looks like is not worked out, "
            "and counted by name only. Fewer rules, or a smaller piece, are looked at in full."
        )
        yield Change("readers/too-large", "publish", message, Severity.WARNING)


def _site(comparison: Comparison, piece: Piece, editor: Editor, published: View) -> Iterator[Change]:
    names = list(dict.fromkeys(each.what for each in comparison.differences if each.kind == "site"))
    if not names:
        return
    styles = [element for element in piece.written_view.elements if element.name == "style"]
    places = {
        rule.selectors: KnownLocation(span)
        for code, sheet in reversed(Subject(piece).sheets)
        for rule in reversed(sheet.rules)
        if (span := code.at(rule.span)) is not None
    }
    for reach in rules_that_reach(frame_of(editor), published.sheets) or [Reach("a rule", names)]:
        message = (
            f"This piece changes the site around it: {reach.selectors} matches {listed(reach.names)} of the page as "
            f"well, and readers see the site otherwise. {_way_out(reach.selectors)}"
        )
        place = places.get(reach.selectors) or (NodeLocation(piece, styles[0].key) if styles else None)
        yield Change("readers/changes-site", "publish", message, Severity.ERROR, place)


def _way_out(selectors: str) -> str:
    """Return how to write selectors so that they stay within the piece."""
    parts = [part.strip() for part in split_selectors(selectors)]
    own = [_OWN if _ROOT.fullmatch(part) else selector_under(part, _OWN) for part in parts]
    return f"Put the piece into an element with a class of your own, and write {', '.join(dict.fromkeys(own))}."


_OWN = ".my-piece"
_ROOT = lazy(r"html|body|:root|\*", re.IGNORECASE)


def _joined(comparison: Comparison, piece: Piece) -> Iterator[Change]:
    for each in comparison.differences:
        if each.kind == "layout" and each.what == "joined":
            message = (
                f"Words run together: readers see “{each.was}{each.now}”, as what stood between them went. Write a "
                "space between them."
            )
            yield Change("readers/run-together", "publish", message, Severity.ERROR, _place(piece, each))


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
        yield Change("readers/hidden-shown", "publish", message, Severity.ERROR, NodeLocation(piece, key))


def _astray(piece: Piece, published: View) -> Iterator[Change]:
    known = names_of(published)
    for (key, handler), names in code_led_astray(piece.written_view, published).items():
        what = f"The code of {handler}" if handler else "This script"
        them = "it" if len(names) == 1 else "them"
        longer = all(any(other != name and other.endswith(name) for other in known) for name in names)
        message = (
            f"{what} names {listed(names[:_MOST])}, and the page has {them} under another name"
            f"{'' if longer else ' or not at all'}: it does nothing there. "
        ) + (
            "Write the names as the page has them; verse-tray fit does that."
            if longer
            else "Look for the element in another way, such as by a data- attribute."
        )
        yield Change(SCRIPT_ASTRAY, "publish", message, Severity.ERROR, NodeLocation(piece, key))


def _unknown_classes(piece: Piece, editor: Editor, published: View) -> Iterator[Change]:
    """Tell once of classes that go to the page and that nothing there has a style for."""
    used: dict[str, int] = {}
    code: list[str] = []
    for element in published.elements:
        for name, value in element.attributes.items():
            if name == "class" and element.key:  # what the site itself puts there, it knows
                for each in value.split():
                    used.setdefault(each, element.key)
            elif name.startswith("on"):
                code.append(value)
        if element.name == "script":
            code.append(own_text(element))
    known = set(frame_of(editor).styled).union(*map(_WORDS.findall, code))
    for sheet in (*piece.written_view.sheets, *published.sheets):  # of what goes, that is told already
        for rule in sheet.rules:
            known.update(name.name for name in names_in(rule.selectors))
    unknown = [name for name in used if name not in known]
    if not unknown:
        return
    typed = {name for each in piece.written_view.elements for name in each.attributes.get("class", "").split()}
    told = [name if name in typed else _as_typed(name, typed) for name in unknown[:_MOST]]
    more = f" and {len(unknown) - _MOST} more" if len(unknown) > _MOST else ""
    message = (
        f"Nothing on the page has a style for {'the class' if len(unknown) == 1 else 'the classes'} "
        f"{', '.join(told) + more if more else listed(told)}. Columns, icons and the like that such a class makes on "
        "other sites are not there: bring the style along, or leave the class out."
    )
    place = NodeLocation(piece, used[unknown[0]])
    yield Change("readers/class-unknown", "publish", message, Severity.WARNING, place)


def _as_typed(name: str, typed: set[str]) -> str:
    """Return a class as the author wrote it, without the prefix that an editor has put in front of it."""
    return max((own for own in typed if name.endswith(own)), key=len, default=name)


_WORDS = lazy(r"[\w-]+")


def _summary(comparison: Comparison, piece: Piece) -> Iterator[Change]:
    """Tell in one sentence what a person would see of the look, however many changes it comes from."""
    ordered = _seen(comparison)
    if ordered:
        told = listed(seen_otherwise(comparison))
        message = (
            f"Readers see this piece otherwise, {comparison.alike} of 100 alike: {told}. verse-tray preview shows both."
        )
        yield Change("readers/looks-different", "publish", message, Severity.WARNING, _place(piece, ordered[0][1][0]))


def seen_otherwise(comparison: Comparison) -> list[str]:
    """Return what a person would see of the look, each kind with an example, the largest first."""
    ordered = _seen(comparison)
    told = [f"{name} ({_example(found)})" for name, found in ordered[:_MOST]]
    return [*told, f"{len(ordered) - _MOST} more"] if len(ordered) > _MOST else told


def _seen(comparison: Comparison) -> list[tuple[str, list[Difference]]]:
    kinds: dict[str, list[Difference]] = {}
    for each in comparison.differences:
        if each.seen and (name := _kind(each)):
            kinds.setdefault(name, []).append(each)
    return sorted(kinds.items(), key=lambda item: -sum(each.size for each in item[1]))


def _kind(each: Difference) -> str:
    if each.kind == "look":
        return _LOOKS[each.what]
    if each.kind == "box":
        return _BOXES[each.what]
    if each.kind == "layout":
        return _LAYOUTS.get(each.what, "")  # what runs together is told by itself
    if each.kind == "media":
        return f"{each.what} gone" if not each.now else f"the {each.what} of pictures"
    return _OTHERS.get(each.kind, "") if each.kind != "hidden" or each.what == "shown" else ""


_BOXES = {
    "gone": "boxes gone", "new": "boxes that nobody made", "ground": "the ground of boxes",
    "border": "the borders of boxes", "padding": "the space within boxes", "radius": "the corners of boxes",
    "shadow": "the shadow of boxes", "turned": "how boxes are turned", "picture": "the picture behind boxes",
    "extent": "the size of empty boxes", "width": "the width of boxes",
}  # fmt: skip
_LAYOUTS = {"place": "what stands beside or below what", "gap": "the space between neighbours"}
_OTHERS = {
    "made": "signs and words that styles make", "meaning": "the signs before items",
    "hidden": "text that was to open on a click",
}  # fmt: skip


def _example(found: list[Difference]) -> str:
    first = found[0]
    count = f"{len(found)} places" if len(found) > 1 else "1 place"
    if first.was and first.now and len(first.was) + len(first.now) < 50 and first.what != "place":
        return f"{count}, as {first.was} to {first.now}"
    if first.what == "place":
        return f"{count}, as {_RELATIONS[first.was]} to {_RELATIONS[first.now]}"
    return count


_RELATIONS = {
    "line": "in one line", "joined": "without a space", "row": "side by side", "below": "below", "lifted": "over it",
}  # fmt: skip


def _place(piece: Piece, each: Difference) -> NodeLocation | None:
    return NodeLocation(piece, each.key) if each.key > 0 else None
