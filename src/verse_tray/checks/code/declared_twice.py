"""A name that two scripts of a page declare, at least one of them with ``let``, ``const`` or ``class``."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.script.kinds import script_kind

RULE = Rule(
    Severity.ERROR,
    readers="Browsers refuse the second script: nothing of it runs.",
    advice="Use another name, or put each script into a block of its own: { … }.",
    bad="<p id=a></p><script>const low = '06:12';</script><p id=b></p><script>const low = '18:40';</script>",
    good="<p id=a></p><script>{ const low = '06:12'; }</script><p id=b></p><script>{ const low = '18:40'; }</script>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each script, modules left out, that declares a name which is taken."""
    if len(subject.scripts) < 2:
        return
    taken: dict[str, tuple[bool, Span | None]] = {}
    for code, reading in subject.script_readings:
        if script_kind(code.element.attributes) == "module":
            continue
        clashes = [
            (name, declared)
            for name, declared in reading.declared.items()
            if name in taken and (declared.lexical or taken[name][0])
        ]
        if clashes:
            name, declared = clashes[0]
            first = taken[name][1]
            where = "before" if first is None else "at {}:{}".format(*subject.source.place(first.start))
            yield Mistake(
                code.at(declared.span),
                f"“{name}” is declared {where} already, so browsers refuse this script: nothing of it runs. Use "
                "another name, or put each script into a block of its own: { … }.",
            )
            continue
        for name, declared in reading.declared.items():
            taken.setdefault(name, (declared.lexical, code.at(declared.span)))
