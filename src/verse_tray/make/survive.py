"""The form of a piece that survives an editor: each is tried in it, and what goes is left out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from msgspec import Struct
from msgspec.structs import replace

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.make.builder import Made, Part
from verse_tray.make.terms import Loss, Styles, Terms
from verse_tray.markup.tree import Element, own_text
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Verdict
from verse_tray.model.phrasing import listed
from verse_tray.piece.piece import Piece
from verse_tray.style.declarations import parse_declarations
from verse_tray.style.property_table import are_one
from verse_tray.style.sheets import parse_sheet

_ROUNDS = 5


class Form(Struct, frozen=True):
    """One way of making a piece."""

    name: str
    """What it is called."""
    needs: frozenset[tuple[str, str]]
    """Kinds and names of what has to survive for it to be what it is."""
    words: str
    """What readers get, for the note that says why it was chosen: “it is …”."""


def form(name: str, words: str, *needs: str) -> Form:
    """Return a form; what it needs is written ``tag:iframe``, ``property:display``, ``attribute:border``."""
    pairs = (need.partition(":") for need in needs)
    return Form(name, frozenset((kind, what) for kind, _, what in pairs), words)


class _Tried(Struct):
    form: Form
    made: Made
    verdict: Verdict
    lost: frozenset[Loss]
    missing: frozenset[tuple[str, str]]


def made_for(
    editor: Editor, forms: Sequence[Form], build: Callable[[str, Terms], Made], styles: Iterable[Styles]
) -> Made:
    """Return the first form of a piece that readers of an editor's page get as it was meant; else the best there is.

    Args:
        editor: The editor.
        forms: The forms of the piece, the best first.
        build: Makes it in a form, under terms.
        styles: Where its look may go, the best place first.
    """
    tried: list[_Tried] = []
    places = list(styles)
    for each in forms:
        for place in places:
            made = _tried(editor, each, build, place)
            if made is None:
                continue
            tried.append(made)
            if not made.missing and made.verdict in (Verdict.INTACT, Verdict.REWRITTEN):
                return _told(editor, made, tried, forms)
    if not tried and places == [Styles.NONE]:  # browsers read it otherwise, in every form
        return build(forms[-1].name, Terms(Styles.NONE))
    if not tried:
        plain = made_for(editor, forms, build, (Styles.NONE,))
        return replace(plain, notes=(f"{editor.name} keeps no style element, so its look is left out.", *plain.notes))
    best = min(tried, key=lambda one: (bool(one.missing), one.verdict.rank, tried.index(one)))
    return _told(editor, best, tried, forms)


def _tried(editor: Editor, one: Form, build: Callable[[str, Terms], Made], place: Styles) -> _Tried | None:
    """Return a piece in one form without what does not survive; None where its look cannot go there at all."""
    lost: frozenset[Loss] = frozenset()
    made = build(one.name, Terms(place))
    for _ in range(_ROUNDS):
        trip = journey(Piece(Source(made.markup)), editor)
        if trip.refused:  # nothing can be told of what would survive
            break
        found = _losses(made, trip, place)
        if found is None:
            return None
        if found <= lost:
            break
        lost |= found
        made = build(one.name, Terms(place, lost))
    missing = frozenset(need for need in one.needs if any((loss.kind, loss.name) == need for loss in lost))
    if place is Styles.NONE:
        missing |= {need for need in one.needs if need[0] == "property"}
    return _Tried(one, made, trip.verdict, lost, missing)


def _losses(made: Made, trip: Journey, place: Styles) -> frozenset[Loss] | None:
    """Return what an editor takes away of a piece; None where it takes the whole look, or reads another piece."""
    if any(each.rule.startswith("characters/") for each in trip.findings) and max(made.markup) > "\uffff":
        return frozenset([Loss("sign", "", "")])  # what comes behind it may be gone for no other reason
    written = [e for e in trip.piece.parsed.tree.elements() if e.name not in ("style", "script")]
    pairs = _paired(made, written)
    if pairs is None:
        return None
    kept = {element.key: element for element in trip.published.elements()}
    found: set[Loss] = set()
    inside: set[int] = set()  # what lies in something that goes: it may go for no other reason
    for part, element in pairs:
        now = kept.get(element.key)
        if now is None:
            if element.key not in inside:
                found.add(Loss("tag", part.name, part.tag))
            inside |= {child.key for child in element.children}
            continue
        for name, value in part.attributes.items():
            if name == "style":
                names = {each.name for each in parse_declarations(now.attributes.get("style", ""))}
                found |= {Loss("property", part.name, each) for each in _gone(value, names)}
            elif name == "class" and place is Styles.ELEMENT:
                if not now.attributes.get("class", "").endswith(value):
                    return None
            elif name not in now.attributes:
                found.add(Loss("attribute", part.name, name))
    if place is Styles.ELEMENT and "<style>" in made.markup:
        rules = _rule_losses(made, trip, kept)
        if rules is None:
            return None
        found |= rules
    if "<script>" in made.markup and (trip.survival.behaviour.lost or trip.verdict is Verdict.BROKEN):
        found.add(Loss("script", "", ""))
    return frozenset(found)


def _paired(made: Made, written: list[Element]) -> list[tuple[Part, Element]] | None:
    """Return each part with the element that browsers read; None where they read other ones."""
    pairs = []
    elements = iter(written)
    for part in made.parts:
        element = next(elements, None)
        while element is not None and element.name != part.tag and element.name in ("tbody", "colgroup"):
            element = next(elements, None)  # one that browsers put in by themselves
        if element is None or element.name != part.tag:
            return None
        pairs.append((part, element))
    return pairs if next(elements, None) is None else None


def _gone(look: str, names: set[str]) -> list[str]:
    """Return the properties of a look that are not among names, whatever their longhands are called."""
    declared = [each.name for each in parse_declarations(look)]
    return [name for name in declared if not any(are_one(name, other) for other in names)]


def _rule_losses(made: Made, trip: Journey, kept: dict[int, Element]) -> set[Loss] | None:
    """Return what of a style element's rules goes; None where the element does."""
    written = next(e for e in trip.piece.parsed.tree.elements() if e.name == "style")
    now = kept.get(written.key)
    if now is None or not own_text(now).strip():
        return None
    names = {part.attributes["class"]: part.name for part in made.parts if "class" in part.attributes}
    rules = parse_sheet(own_text(now)).rules
    found: set[Loss] = set()
    for rule in parse_sheet(own_text(written)).rules:
        end = rule.selectors.split()[-1].lstrip(".")
        same = [each for each in rules if each.selectors.endswith(end) and bool(each.condition) == bool(rule.condition)]
        if not same:
            if end in names and not rule.condition:
                return None
            found.add(Loss("rule", rule.selectors, rule.condition))
            continue
        left = {declared.name for each in same for declared in each.declarations}
        look = "; ".join(f"{each.name}: {each.value}" for each in rule.declarations)
        gone = _gone(look, left)
        if end in names and not rule.condition:
            found |= {Loss("property", names[end], name) for name in gone}
        elif gone:
            found.add(Loss("rule", rule.selectors, rule.condition))
    return found


def _told(editor: Editor, chosen: _Tried, tried: list[_Tried], forms: Sequence[Form]) -> Made:
    """Return a piece with a line that says why it is what it is, where the editor takes something away."""
    others: dict[str, frozenset[tuple[str, str]]] = {}
    for one in tried:
        if one.form is not chosen.form and one.missing:
            others[one.form.name] = min(others.get(one.form.name, one.missing), one.missing, key=len)
    missing = {_called(kind, name) for lacks in others.values() for kind, name in lacks}
    if chosen.form is not forms[0]:
        why = f"{editor.name} takes away {listed(sorted(missing), 4)}, so it" if missing else f"For {editor.name} it"
        note = f"{why} is {chosen.form.words}."
    else:
        gone = sorted({_called(loss.kind, loss.name) for loss in chosen.lost})
        if not gone:
            return chosen.made
        note = f"Left out what {editor.name} takes away: {listed(gone, 6)}."
    return replace(chosen.made, notes=(*chosen.made.notes, note))


_CALLED = {
    "rule": "styles for states and narrow screens",
    "script": "scripts",
    "sign": "signs beyond 16 bits",
}


def _called(kind: str, name: str) -> str:
    return _CALLED.get(kind, f"<{name}>" if kind == "tag" else name)
