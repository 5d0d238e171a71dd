"""What an editor keeps, told by sending small pieces through it: all stages count, and no profile is read."""

from __future__ import annotations

import msgspec

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.serialise import escape_attribute
from verse_tray.style.declarations import parse_declarations

SIZES = frozenset(("characters", "utf-16", "bytes"))
"""Units of the size of a text."""
_AROUND = {
    "tr": "<table><tbody>{}</tbody></table>",
    "td": "<table><tbody><tr>{}</tr></tbody></table>",
    "th": "<table><tbody><tr>{}</tr></tbody></table>",
    **dict.fromkeys(
        ("caption", "colgroup", "thead", "tfoot"), "<table>{}<tbody><tr><td>word</td></tr></tbody></table>"
    ),
    "tbody": "<table>{}</table>",
    "col": "<table><colgroup>{}</colgroup><tbody><tr><td>word</td></tr></tbody></table>",
    "li": "<ul>{}</ul>",
    "dt": "<dl>{}<dd>word</dd></dl>",
    "dd": "<dl><dt>word</dt>{}</dl>",
    "summary": "<details>{}</details>",
    "figcaption": "<figure>{}</figure>",
}
"""What an element has to stand in, for browsers to read it at all."""
_INSIDE = {
    "table": "<tbody><tr><td>{}</td></tr></tbody>",
    **dict.fromkeys(("thead", "tbody", "tfoot"), "<tr><td>{}</td></tr>"),
    "tr": "<td>{}</td>",
    "colgroup": "<col>",
    "col": "",
    "ul": "<li>{}</li>",
    "ol": "<li>{}</li>",
    "dl": "<dt>{}</dt><dd>word</dd>",
}


def without_limits(editor: Editor) -> Editor:
    """Return an editor that takes pieces of any size: what is refused, or cut, tells nothing about anything else."""
    limits = tuple(e for e in editor.profile.limits if e.of != "piece" or e.unit not in SIZES or e.over == "warn")
    if len(limits) == len(editor.profile.limits):
        return editor
    return editor.with_(profile=msgspec.structs.replace(editor.profile, limits=limits))


class Probe:
    """Asks an editor."""

    def __init__(self, editor: Editor) -> None:
        self.editor = without_limits(editor)
        self._kept: dict[tuple[str, str, str, tuple[tuple[str, str], ...]], bool] = {}
        self._dropped: dict[str, bool] = {}

    def keeps(self, name: str, style: str = "", inner: str = "word", **attributes: str) -> bool:
        """Tell whether an element stays under its name, or one that the editor writes for it, with all that it has.

        Args:
            name: Its name.
            style: The declarations that have to stay, each.
            inner: The markup in it.
            attributes: Attributes that have to stay, with their values.
        """
        asked = name, style, inner, tuple(attributes.items())
        if asked not in self._kept:
            self._kept[asked] = self._keeps(*asked)
        return self._kept[asked]

    def drops(self, name: str) -> bool:
        """Tell whether an element of a name goes with all that is in it."""
        if name not in self._dropped:
            self._dropped[name] = self._drops(name)
        return self._dropped[name]

    def _keeps(self, name: str, style: str, inner: str, attributes: tuple[tuple[str, str], ...]) -> bool:
        given = [*attributes, *([("style", style)] if style else [])]
        trip = self._trip(name, inner, "".join(f' {key}="{escape_attribute(value)}"' for key, value in given))
        wanted = next((each for each in trip.piece.parsed.tree.elements() if each.name == name), None)
        if wanted is None:  # it cannot stand alone
            return False
        found = next((each for each in trip.published.elements() if each.key == wanted.key), None)
        if found is None or any(found.attributes.get(key) != value for key, value in attributes):
            return False
        left = {each.name for each in parse_declarations(found.attributes.get("style", "")) if each.value}
        return all(each.name in left for each in parse_declarations(style))

    def _drops(self, name: str) -> bool:
        trip = self._trip(name, "held", "")  # columns hold no words: none go with them
        return "held" in trip.piece.source.text and "held" not in trip.stages[-1].markup

    def _trip(self, name: str, inner: str, typed: str) -> Journey:
        around = _AROUND.get(name, "{}<p>word</p>" if name in BLOCKS else "<p>word {} word</p>")
        return journey(around.format(f"<{name}{typed}>{_INSIDE.get(name, '{}').format(inner)}</{name}>"), self.editor)

    def first_kept(self, *names: str) -> str:
        """Return the first of some elements that stays; nothing where none does."""
        return next((name for name in names if self.keeps(name)), "")
