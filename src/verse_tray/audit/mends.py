"""What can be done about the rules that hurt pieces, and which ways of fitting do it."""

from __future__ import annotations

from typing import NamedTuple


class Mend(NamedTuple):
    """What can be done about a rule."""

    sentence: str
    """What, for an author."""
    strategies: tuple[str, ...] = ()
    """Ways of fitting that do it where it can be done; none where nothing but the author can."""


_OTHERS = Mend("Use elements that the editor keeps.", ("other-elements", "headings-as-words", "rows-as-lines"))
_STYLES = Mend("Write the look in a form that the editor keeps.", ("kept-forms", "tags-for-looks"))
_CLASSES = Mend("Write the look into style attributes.", ("rules-in-elements",))
_SCRIPT = Mend("Show at once what the script would show, and leave it out.", ("shown-without-script",))
_ADDRESS = Mend("Write whole addresses that begin with https:.", ("secure-addresses",))
MENDS: dict[str, Mend] = {
    "elements/unwrap": _OTHERS,
    "elements/drop": _OTHERS,
    "elements/empty": _OTHERS,
    "elements/escape": _OTHERS,
    "attributes/drop": Mend("Write what it does as a style, or leave it out.", ("styles-for-attributes",)),
    "attributes/handler": Mend("Put a link where a click leads somewhere; leave it out else.", ("links-for-clicks",)),
    "attribute-values/drop": Mend("Use a value that the editor keeps, or leave it out."),
    "styles/declaration": _STYLES,
    "styles/written": _STYLES,
    "style-elements/drop": _CLASSES,
    "style-elements/front": _CLASSES,
    "classes/drop": _CLASSES,
    "classes/selectors": _CLASSES,
    "scripts/drop": _SCRIPT,
    "scripts/neutralise": _SCRIPT,
    "frames/host": Mend("Put a link in its place.", ("links-for-frames",)),
    "box/frame": Mend("Put a link in its place.", ("links-for-frames",)),
    "limits/refuse": Mend("Shorten it, or part it into several pastes; fitting does both."),
    "limits/cut": Mend("Shorten it, or part it into several pastes; fitting does both."),
    "addresses/scheme": _ADDRESS,
    "addresses/gate": _ADDRESS,
    "addresses/secure": _ADDRESS,
    "characters/drop": Mend("Leave such signs out.", ("signs-left-out",)),
    "characters/cut": Mend("Leave such signs out.", ("signs-left-out",)),
    "readers/class-unknown": Mend("Bring the style along, or leave the class out."),
    "readers/hidden-shown": Mend("Leave out what is hidden.", ("hidden-left-out",)),
    "empties/drop": Mend("Put something into empty elements that draw something.", ("held-empties",)),
    "players/link": Mend("Mark links that are to stay links.", ("marked-links",)),
    "view/notice": Mend("Put a link in its place.", ("links-for-frames",)),
}
"""What can be done, by rule; for a rule that is not here, its message says it."""


def mend_of(rule: str) -> str:
    """Return what can be done about a rule, in a sentence or two; empty where its message says it."""
    found = MENDS.get(rule)
    if found is None:
        return ""
    does = f" verse-tray fit does that where it can ({', '.join(found.strategies)})." if found.strategies else ""
    return found.sentence + does
