"""A made-up archive: field notes of the Gannet Cove Shore Survey over many years, as people really write them."""

from __future__ import annotations

import random
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from xml.sax.saxutils import escape

_PLACES = "the slipway,North Ledge,the boulder field,Gull Stack,the mussel bed,East Pools,the old jetty".split(",")
_KINDS = "limpets,beadlet anemones,shore crabs,dog whelks,acorn barnacles,blennies,sea slaters,periwinkles".split(",")
_WEATHER = "a still morning,drizzle from six,a stiff westerly,bright sun,fog until ten,the first frost".split(",")
_SENTENCES = (
    "We began at {place} at {time} with {count} volunteers in {weather}.",
    "The pools at {place} held {count} {kind}, {more} than a year ago.",
    "Nobody had expected {kind} so far up the shore.",
    "Please wear boots with a grip: the weed at {place} is slippery after rain.",
    "The transect was walked twice, and both counts agreed within {more}.",
    "A photograph of each square is kept, so that anyone can count again.",
    "{count} squares were left out, as the tide came back early.",
)
_BEGINS = datetime(2012, 3, 1, 9, tzinfo=UTC)


def feed(count: int, seed: int = 7) -> Iterator[str]:
    """Yield the parts of an Atom feed (RFC 4287) with so many posts; the same for the same seed."""
    yield '<?xml version="1.0" encoding="utf-8"?>\n<feed xmlns="http://www.w3.org/2005/Atom">\n'
    yield "<id>https://notes.gannetcove.example/</id><title>Gannet Cove Field Notes</title>\n"
    yield "<updated>2026-11-01T09:00:00Z</updated><author><name>Gannet Cove Shore Survey</name></author>\n"
    for number, (title, markup) in enumerate(posts(count, seed), 1):
        date = (_BEGINS + timedelta(days=number * 5000 / max(1, count))).isoformat(timespec="seconds")
        address = f"https://notes.gannetcove.example/{date[:7].replace('-', '/')}/{number}"
        yield f'<entry><id>{address}</id><link href="{address}"/><title>{escape(title)}</title>'
        yield f"<published>{date}</published><updated>{date}</updated>"
        yield f'<content type="html">{escape(markup)}</content></entry>\n'
    yield "</feed>\n"


def posts(count: int, seed: int = 7) -> Iterator[tuple[str, str]]:
    """Yield titles and markup of posts of very different lengths, about 10 KB each."""
    rng = random.Random(seed)
    for number in range(count):
        title = f"Note {number + 1}: {rng.choice(_KINDS)} at {rng.choice(_PLACES)}"
        weights = _WEIGHTS[number * len(_WEIGHTS) // count]
        parts = [part(rng) for part in rng.choices(_PARTS, weights, k=rng.randint(4, 60))]
        yield title, f"<h2>{title}</h2>\n" + "\n".join(parts)


def _words(rng: random.Random, sentences: int = 4) -> str:
    said = []
    for _ in range(rng.randint(1, sentences)):
        values = {
            "place": rng.choice(_PLACES), "time": f"{rng.randint(5, 9)}:{rng.choice(('00', '15', '30'))}",
            "count": rng.randint(2, 90), "more": rng.randint(1, 9), "kind": rng.choice(_KINDS),
            "weather": rng.choice(_WEATHER),
        }  # fmt: skip
        said.append(rng.choice(_SENTENCES).format(**values))
    return " ".join(said)


def _paragraph(rng: random.Random) -> str:
    return f"<p>{_words(rng)}</p>"


def _styled(rng: random.Random) -> str:
    style = rng.choice(("text-align: center", "color: #1d4f53; font-weight: bold", "margin: 0 auto; max-width: 600px"))
    return f'<p style="{style}">{_words(rng, 2)} <a href="https://gannetcove.example/guide">The guide</a></p>'


def _table(rng: random.Random) -> str:
    rows = "".join(f"<tr><td>{place}</td><td>{rng.randint(0, 60)}</td></tr>" for place in rng.sample(_PLACES, 4))
    return f"<table><thead><tr><th>Place</th><th>Count</th></tr></thead><tbody>{rows}</tbody></table>"


def _picture(rng: random.Random) -> str:
    kind = rng.choice(_KINDS)
    file = f"https://pictures.gannetcove.example/{kind.replace(' ', '-')}.jpg"
    shown = f'<img src="{file}" alt="{kind}" width="640" height="420">'
    return f"<figure>{shown}<figcaption>{_words(rng, 1)}</figcaption></figure>"


def _film(rng: random.Random) -> str:
    return f'<iframe src="https://films.gannetcove.example/{rng.randint(1, 99)}" width="560" height="315"></iframe>'


def _code(rng: random.Random) -> str:
    box = f'<div class="tally" onclick="this.hidden=true">{rng.randint(1, 99)} counted</div>'
    return f"<style>.tally {{ background: #eef; padding: 8px }}</style>{box}<script>count({rng.randint(1, 9)})</script>"


def _pasted(rng: random.Random) -> str:
    style = "mso-margin-top-alt:auto;text-align:justify"
    return f'<P class=MsoNormal style="{style}"><FONT color=navy><B>{_words(rng, 2)}</b></font><o:p></o:p>'


def _list(rng: random.Random) -> str:
    return "<ul>" + "".join(f"<li>{each}</li>" for each in rng.sample(_KINDS, 3)) + "</ul>"


_PARTS = (_paragraph, _list, _table, _picture, _styled, _pasted, _film, _code)
_WEIGHTS = (  # by parts of the years: a word processor at first, then scripts and films, then neither
    (60, 8, 5, 7, 4, 8, 0, 0),
    (60, 8, 5, 7, 8, 4, 0.5, 0.3),
    (60, 8, 5, 8, 10, 1, 3, 3),
    (60, 8, 6, 9, 10, 0.2, 1, 1),
    (70, 9, 6, 9, 0.5, 0, 0.3, 0.05),
)
