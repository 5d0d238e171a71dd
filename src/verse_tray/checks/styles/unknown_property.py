"""A property that CSS does not know."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import MOST_GUESSES, nearest
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.properties import PROPERTIES

RULE = Rule(
    Severity.WARNING,
    readers="The declaration does not count.",
    advice="Write the property's name as CSS does.",
    bad='<p style="colour: #1d4f53">Wear boots.</p>',
    good='<p style="color: #1d4f53">Wear boots.</p>',
)
_SAID_OTHERWISE = {
    said: meant
    for meant, names in {
        "color": "colour text-color text-colour font-color font-colour foreground foreground-color",
        "background-color": "background-colour bg-color bgcolor back-color color-background",
        "background": "bg",
        "background-image": "background-img bg-image image",
        "border-color": "border-colour",
        "border-width": "border-size border-thickness line-width",
        "border-radius": "corner-radius corners radius box-radius border-round",
        "font-family": "text-font text-family fontfamily",
        "font-size": "text-size fontsize",
        "font-style": "text-style italic",
        "font-weight": "text-weight weight bold font-bold text-bold",
        "text-align": "align align-text font-align text-alignment",
        "text-decoration": "underline font-decoration",
        "text-indent": "text-indentation indent",
        "line-height": "line-space line-spacing font-height",
        "letter-spacing": "letter-space text-spacing",
        "vertical-align": "valign",
        "justify-content": "justify",
        "box-shadow": "shadow",
        "opacity": "transparency",
        "margin-inline": "margin-x",
        "margin-block": "margin-y",
        "padding-inline": "padding-x",
        "padding-block": "padding-y",
    }.items()
    for said in names.split()
}
"""What authors say for a property, by the name that they write."""


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first declaration of each unknown property; those of one maker's browser are left out."""
    told: set[str] = set()
    for declared in subject.declared_anywhere:
        name = declared.declaration.name
        if not name or name in PROPERTIES or name in told or name.startswith(("-", "mso-", "*", "_")):
            continue
        told.add(name)
        near = _SAID_OTHERWISE.get(name) or (nearest(name, PROPERTIES, 0.7) if len(told) < MOST_GUESSES else None)
        span = declared.span
        place = None if span is None else Span(span.start, min(span.end, span.start + len(name)))
        yield Mistake(
            place, f"CSS knows no property {name[:40]}, so it does nothing{f'; did you mean {near}?' if near else '.'}"
        )
