"""An identifier that two elements have."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Links and scripts that name it reach only the first of the two.",
    advice="Give each element an identifier of its own.",
    bad='<h2 id="walks">Walks</h2><p id="walks">Every second Saturday.</p>',
    good='<h2 id="walks">Walks</h2><p id="walk-days">Every second Saturday.</p>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the second and each further element of one identifier."""
    for name, elements in subject.identifiers.items():
        if len(elements) < 2:
            continue
        elements = [e for e in elements if not any(around.name == "template" for around in subject.around(e))]
        if len(elements) < 2:  # what stands in a template is no part of the page
            continue
        first = subject.span(elements[0])
        where = "" if first is None else " of {}:{}".format(*subject.source.place(first.start))
        for element in elements[1:]:
            yield Mistake(
                subject.attribute_span(element, "id"),
                f"The element{where} has the identifier “{name}” already: links and scripts reach only that one. Give "
                "this one another.",
            )
