"""Random journeys of hostile pieces: ``python bench/hard_journeys.py [COUNT] [SEED]``.

Random markup goes through every stand-in with its variants and through random valid profiles, with the engine's own
digest of edits on. Told is every exception, every unsound result, and every piece of code that is left although the
profile forbids it: it has to be gone where the editor cleans until it is, and told where it cleans once.
"""

from __future__ import annotations

import random
import sys
import time
import traceback
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from support.editors import editor
from support.markup import ATTRIBUTES, LOOSE, NAMES, TEXTS, VALUES
from support.soundness import KEPT, STRICT, assert_clean_or_told, assert_sound
from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.editors.store import profile_toml
from verse_tray.journeys.contract import Watch
from verse_tray.journeys.journey import journey
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

FOREIGN = "svg math mtext mglyph annotation-xml title desc foreignObject style script mi".split()
HANDLERS = ("onerror=go()", "onload='go()'", "onclick=x", "encoding=text/html", "language=jscript")
HIDDEN = ("<!--</style>", "--></style>", "<img src=x onerror=go()>", '<p title="</style><img src onerror=go()>">')
CHOICES: dict[str, tuple[Any, ...]] = {
    "comments": (True, False),
    "cleans": ("once", "until-safe"),
    "scripts": ("keep", "drop", "neutralise"),
    "styleElements": ("keep", "drop", "front"),
    "elements": (KEPT, [*KEPT, "svg", "math", "style", "title"], ["p"]),
    "removeElements": (["script"], ["svg"], ["annotation-xml"]),
    "replaceWithChildrenElements": (["template"], ["noscript", "textarea"], ["svg", "math"]),
    "escapeElements": (["b"], ["iframe", "title"]),
    "emptyElements": (["textarea"], ["style"], ["svg"]),
    "otherElements": ("drop", "unwrap", "escape", "keep"),
    "renameElements": ({"b": "strong"}, {"svg": "span"}),
    "attributes": (["href", "src", "style", "title"], ["aria-*", "class"], []),
    "removeAttributes": (["encoding"], ["class"]),
    "eventHandlers": (True, False),
    "classPrefix": ("k-",),
    "idPrefix": ("u-",),
    "stylePrefix": (".post",),
    "addresses": (
        {"schemes": ["https"]},
        {"relative": False},
        {"secure": True, "base": "https://a.example/"},
        {"schemes": ["https"], "inPlace": "#", "gates": {"href": "https://out.example/?to="}},
    ),
    "styles": (
        {"properties": ["color"]},
        {"removeFunctions": ["url"]},
        {"syntax": {"*": "<length>+ | <color>"}, "wholeAttribute": True},
        {"writes": "tight"},
    ),
    "removeClasses": (["a*"],),
    "needAttributes": ({"a": ["href"], "img": ["src"], "svg": ["style"]},),
    "setAttributes": ([{"name": "rel", "value": "x", "elements": ["a"]}, {"name": "dir", "value": "auto"}],),
    "booleanAttributes": ("empty", "repeat", "bare"),
    "betweenTags": ("drop",),
    "beyond16Bits": ("keep", "drop", "cut"),
    "writes": ("as-typed", "tags-anew", "tokens-anew", "anew"),
    "voidTags": ("slash", "tight-slash"),
    "textSigns": ({'"': "&quot;", "\u00a0": "\u00a0"},),
    "valueSigns": ({"'": "&#39;"},),
    "attributeOrder": ("sorted",),
    "references": ("named", "numeric"),
    "attributeSyntax": ({"width": "<integer>", "id": "<custom-ident>"},),
    "looseText": ("paragraphs",),
    "blockGap": ("", "\n\n"),
    "escapeWith": ("name",),
    "paragraphs": (True,),
    "whiteSpace": ("fold",),
    "removeEmptyElements": (["b", "i", "p", "span"],),
    "mergeElements": (["b", "i"],),
    "nesting": ("repair",),
    "trailingBreaks": ("drop",),
    "quotes": ("straight",),
    "nonBreakingSpaces": ("plain",),
    "addressLinks": (True,),
    "typography": ("curly",),
    "linkRel": (["nofollow"],),
    "linkTarget": ("_blank",),
}


def stand_ins() -> list[Editor]:
    """Return every stand-in and its variants."""
    found = [load_editor(name) for name in known_editors()]
    return found + [load_editor(f"{each.name}:{variant}") for each in found for variant in each.profile.variants]


def random_editor(rng: random.Random) -> Editor:
    """Return an editor with random keys in its stages."""

    def some(most: int, among: tuple[str, ...] = tuple(sorted(CHOICES))) -> dict[str, Any]:
        keys = rng.sample(among, rng.randint(0, min(most, len(among))))
        return {key: rng.choice(CHOICES[key]) for key in keys}

    save = {**(STRICT if rng.random() < 0.3 else {}), **some(8)}
    if not ({"elements", "removeElements"} - save.keys()) and rng.random() < 0.5:
        save.pop("removeElements")
    more = {"publish": some(4)} if rng.random() < 0.4 else {}
    if rng.random() < 0.4:  # what saving would write back again, opening does not take here
        more["reopen"] = some(3, ("beyond16Bits", "comments", "eventHandlers"))
    return editor({**save, "writes": rng.choice(("as-typed", "anew"))}, **more)


def random_markup(rng: random.Random) -> str:
    """Return random markup of some 2 to 16 parts."""
    parts = []
    for _ in range(rng.randint(2, 16)):
        kind = rng.random()
        name = rng.choice(FOREIGN if rng.random() < 0.4 else NAMES)
        if kind < 0.45:
            given = [
                rng.choice(HANDLERS) if rng.random() < 0.4 else f'{rng.choice(ATTRIBUTES)}="{rng.choice(VALUES)}"'
                for _ in range(rng.randint(0, 2))
            ]
            parts.append(f"<{' '.join((name, *given))}{rng.choice(('>', '/>', ' >'))}")
        elif kind < 0.7:
            parts.append(f"</{name}>")
        else:
            parts.append(rng.choice(rng.choice((TEXTS, LOOSE, HIDDEN))))
    return "".join(parts)


def main() -> None:
    """Run as many journeys as asked for, and say how many fell."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    rng = random.Random(seed)
    Watch.on = True
    named = stand_ins()
    fallen, done, started = 0, 0, time.perf_counter()
    while done < count:
        markup = random_markup(rng)
        piece = Piece(Source(markup))
        try:
            into = rng.sample(named, 4) + [random_editor(rng) for _ in range(2)]
        except Exception:  # a profile that is none: its faults are told, and that is all
            continue
        for each in into:
            done += 1
            try:
                made = journey(piece, each, reopened=rng.choice((0, 1, 2)))
                assert_sound(made)
                for stage, rules in each.lists.items():
                    if stage in ("save", "publish") and not each.profile.publish.fill:
                        assert_clean_or_told(made, stage, rules, code_only=True)
            except Exception as error:
                fallen += 1
                if fallen <= 20:
                    where = traceback.extract_tb(error.__traceback__)[-1]
                    print(f"{each.name} {profile_toml(each.profile)!r} {markup!r}")
                    print(f"   {error!r:.300} {where.name}:{where.lineno}")
    print(f"{done:,} journeys, seed {seed}: {fallen} fell; {time.perf_counter() - started:.0f} s")


if __name__ == "__main__":
    main()
