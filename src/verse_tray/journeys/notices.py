"""What an author should know of an editor though it changes nothing in the markup."""

from __future__ import annotations

from collections import Counter

from verse_tray.editors.load import Editor
from verse_tray.journeys.fixpoint import Fixpoint
from verse_tray.journeys.stages import Stage
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Change, Severity
from verse_tray.piece.locations import AttributeLocation, NodeLocation
from verse_tray.piece.piece import Piece
from verse_tray.piece.view import View
from verse_tray.style.declarations import parse_declarations

STAND_IN_ELEMENTS = frozenset("audio canvas embed iframe object script video".split())
"""Elements in whose place some editors show a grey box."""
_UNSEEN = frozenset(("script", "style", "link", "meta", "img", "iframe"))
_SHOWING = frozenset("audio button canvas embed hr iframe img input object progress select svg textarea video".split())


def on_paste(editor: Editor, piece: Piece) -> list[Change]:
    """Tell of regions: one paste reaches one of them, and several copies clash."""
    regions = editor.profile.regions
    if len(regions) < 2:
        return []
    names = f"{', '.join(regions[:-1])} and {regions[-1]}"
    message = f"This page has a region each for {names}: paste the piece into each, or some readers do not get it."
    told = [Change("regions/each", "paste", message, Severity.NOTE)]
    for element in piece.written_view.elements:
        if element.name == "script":
            message = (
                f"This script will stand on the page {len(regions)} times and run as often; what it declares with let "
                "or const cannot be declared twice. Put it into one region only."
            )
            place = NodeLocation(piece, element.key)
            told.append(Change("regions/script-twice", "paste", message, Severity.WARNING, place))
        if name := element.attributes.get("id"):
            message = (
                f"The identifier {name} will stand on the page {len(regions)} times, once in each region: links and "
                "scripts find the first one only. Give each copy another, or use a class."
            )
            place = NodeLocation(piece, element.key)
            told.append(Change("regions/identifier-twice", "paste", message, Severity.WARNING, place))
    return told


def in_the_editor(editor: Editor, stage: Stage) -> list[Change]:
    """Tell where the editor's own view of a stored piece differs from what readers get."""
    view, told = editor.profile.view, []
    if view.shows == "notice":
        words = f" (“{view.notice}”)" if view.notice else ""
        message = f"The editor shows a notice{words} in place of the piece. That says nothing of the published page."
        return [Change("view/notice", "save", message, Severity.NOTE)]
    wanted = STAND_IN_ELEMENTS if view.shows == "stand-ins" else ("script",)
    folded = stage.markup.lower()
    if not any(f"<{name}" in folded for name in wanted):
        return []
    from verse_tray.journeys.steps.scripts import INERT

    elements = stage.tree.elements()
    names = Counter(element.name for element in elements if element.namespace == HTML)
    if view.shows == "stand-ins":
        boxed = [f"{count} <{name}>" for name, count in names.items() if name in STAND_IN_ELEMENTS]
        if boxed:
            message = f"The editor shows grey boxes for {', '.join(boxed)}. Look at the published page to judge them."
            told.append(Change("view/stand-ins", "save", message, Severity.NOTE))
    box = editor.profile.box
    runs = box is None or "allow-scripts" in box.sandbox
    scripts = [e for e in elements if e.name == "script" and e.attributes.get("type") != INERT]
    if scripts and runs and view.scripts == "still":
        message = "Scripts do not run in the editor: what they do shows on the published page only."
        told.append(Change("view/scripts-still", "save", message, Severity.NOTE))
    return told


def on_guesses(editor: Editor, piece: Piece) -> list[Change]:
    """Tell where what becomes of a piece is a guess: the editor was learned, and nobody asked it about a name."""
    known = editor.profile.learned
    if known is None:
        return []
    told: dict[tuple[str, str], Change] = {}
    elements, attributes, properties = map(frozenset, (known.elements, known.attributes, known.properties))

    def guess(kind: str, name: str, place: NodeLocation | AttributeLocation) -> None:
        message = (
            f"What becomes of {kind} {name} is a guess: this editor was learned, and no probe asked about it. "
            "verse-tray learn next asks more; learn begin --like PIECE asks what your pieces hold."
        )
        told.setdefault((kind, name), Change("learned/guess", "paste", message, Severity.NOTE, place))

    for element in piece.written_view.tree.elements():
        if element.name not in elements:
            guess("the element", element.name, NodeLocation(piece, element.key))
        for name, value in element.attributes.items():
            if name not in attributes:
                guess("the attribute", name, AttributeLocation(piece, element.key, name, "", None))
            for each in parse_declarations(value) if name == "style" else ():
                if each.name and each.name not in properties:
                    guess("the property", each.name, AttributeLocation(piece, element.key, name, value, each.span))
    return list(told.values())


def never_safe(stage: str) -> Change:
    """Tell of a piece in which code comes alive again however often it is cleaned."""
    message = (
        "However often the editor cleans the piece, code that it forbids comes alive in it, so it refuses the piece. "
        "Take that code out."
    )
    return Change("writing/never-safe", stage, message, Severity.ERROR)


def on_fixpoint(fixpoint: Fixpoint) -> list[Change]:
    """Tell of a piece that is changed each time it is opened and saved."""
    return [] if fixpoint.comes else [Change("reopen/never-rests", "reopen", fixpoint.told, Severity.WARNING)]


def on_the_page(editor: Editor, piece: Piece, published: View) -> list[Change]:
    """Tell what the published page makes of the piece beyond its markup."""
    profile, told = editor.profile, []
    if profile.publish.asked:
        message = "Saved is not published: readers get the piece only once you publish the page."
        told.append(Change("publish/asked", "publish", message, Severity.NOTE))
    if (box := profile.box) is not None:
        allowed = f"allows {', '.join(box.sandbox)}" if box.sandbox else "allows no scripts, forms or new windows"
        message = (
            f"The page shows the piece in a frame of {box.width} × {box.height} pixels that {allowed}: no styles of "
            "the page reach it, and what is longer scrolls inside."
        )
        told.append(Change("box/frame", "publish", message, Severity.NOTE))
        told += _muted(piece, published, box.sandbox)
    if published.elements and not shows_something(published):
        invisible = Counter(
            element.name
            for element in published.elements
            if element.name in ("script", "style", "link", "meta", "img", "iframe")
        )
        if invisible:
            held = ", ".join(f"{count} <{name}>" for name, count in invisible.items())
            message = f"Nothing of this shows on the page, and it is there all the same: {held}."
            told.append(Change("view/nothing-to-see", "publish", message, Severity.NOTE))
    return told


def _muted(piece: Piece, published: View, sandbox: tuple[str, ...]) -> list[Change]:
    from verse_tray.journeys.survival.behaviour import muted_by

    told = []
    for element in published.elements:
        token = muted_by(element, sandbox)
        if token:
            message = (
                f"<{element.name}> does nothing in this box: its sandbox lacks {token}. Leave it out, or use a place "
                "without a box."
            )
            place = NodeLocation(piece, element.key) if element.key else None
            told.append(Change("box/muted", "publish", message, Severity.ERROR, place))
    return told


def shows_something(view: View) -> bool:
    """Tell whether readers see anything of a tree: text, a picture, a control."""
    if any(visible and text.data.strip() for text, visible in view.texts):
        return True
    return any(element.name in _SHOWING and not _is_pixel(element) for element in view.elements)


def _is_pixel(element: Element) -> bool:
    """Tell whether a picture or a frame is a single pixel, as tracking snippets have them."""
    sizes = (element.attributes.get("width"), element.attributes.get("height"))
    return all(size in ("0", "1") for size in sizes)
