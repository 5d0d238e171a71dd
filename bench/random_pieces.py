"""Random pieces in the ways in which people write them, for what is held against many of them."""

from __future__ import annotations

import random

_WORDS = "tide pool count crab limpet anemone shore north cove survey bring boots low water “spring” it's 5 &".split()
_STYLES = (
    "color:red",
    "color: #2f6f73; font-weight: bold",
    "text-align:center",
    "margin: 0 auto; padding: 8px",
    "display:flex; gap:12px",
    "background:#eef;border:1px solid #ccc",
    "position:absolute;top:0",
    "font-size:1.2em;line-height:1.5",
    "width:50%;float:left",
    "background-image:url(https://pictures.gannetcove.example/a.png)",
    "max-width:600px",
    "border-radius: 8px",
)
_CLASSES = ("note", "wide", "lead", "shop-card", "btn btn-main", "c1")
_TEXT_LEVEL = "b i em strong u s small code mark sub sup span".split()
_BLOCK = "p div h2 h3 blockquote section".split()


class Writer:
    """Writes pieces, the same for the same seed."""

    def __init__(self, seed: int) -> None:
        self._rng = random.Random(seed)

    def piece(self, size: int = 890) -> str:
        """Return a piece of about so many characters."""
        text = ""
        while len(text) < size:
            text += self._block() + self._rng.choice(("\n", "\n", "\n\n", "", " "))
        return text

    def _words(self, most: int = 6) -> str:
        rng = self._rng
        words = " ".join(rng.choice(_WORDS).replace("&", "&amp;") for _ in range(rng.randint(1, most)))
        return words + rng.choice(("", "", "", "", "&nbsp;", " &copy;", " é", " ..."))

    def _attributes(self) -> str:
        rng = self._rng
        found = ""
        if rng.random() < 0.3:
            found += f' class="{rng.choice(_CLASSES)}"'
        if rng.random() < 0.35:
            found += f' style="{rng.choice(_STYLES)}"'
        if rng.random() < 0.12:
            found += rng.choice(
                (' id="top"', ' title="A title"', ' lang="en"', ' data-kind="crab"', ' onclick="go()"', ' role="note"',
                 ' aria-label="shore"', ' align="center"', ' dir="ltr"')
            )  # fmt: skip
        return found

    def _inline(self, depth: int = 0) -> str:
        rng = self._rng
        roll = rng.random()
        if depth > 2 or roll < 0.4:
            return self._words()
        if roll < 0.7:
            name = rng.choice(_TEXT_LEVEL)
            return f"<{name}{self._attributes()}>{self._inline(depth + 1)}</{name}>"
        if roll < 0.85:
            href = rng.choice(
                ("https://www.gannetcove.example/counts", "http://example.org/x", "/tides", "mailto:shore@example.org",
                 "#top", "tel:123", "javascript:go()", "https://films.gannetcove.example/watch?film=low")
            )  # fmt: skip
            more = rng.choice(("", "", ' target="_blank"', ' rel="nofollow"'))
            return f'<a href="{href}"{more}{self._attributes()}>{self._words(3)}</a>'
        if roll < 0.93:
            src = rng.choice(("https://pictures.gannetcove.example/a.png", "http://example.org/a.png", "a.png"))
            return f'<img src="{src}" alt="{self._words(2)}" width="{rng.choice((120, 300))}"{self._attributes()}>'
        return f"{self._words(3)}<br>{self._words(3)}"

    def _block(self) -> str:
        rng = self._rng
        roll = rng.random()
        inner = " ".join(self._inline() for _ in range(rng.randint(1, 3)))
        if roll < 0.55:
            name = rng.choice(_BLOCK)
            return f"<{name}{self._attributes()}>{inner}</{name}>"
        if roll < 0.7:
            name = rng.choice(("ul", "ol"))
            items = "".join(f"<li{self._attributes()}>{self._inline()}</li>" for _ in range(rng.randint(1, 3)))
            return f"<{name}{self._attributes()}>{items}</{name}>"
        if roll < 0.8:
            cells = "".join(f"<td{self._attributes()}>{self._inline()}</td>" for _ in range(2))
            return f'<table{self._attributes()} border="1"><tbody><tr>{cells}</tr></tbody></table>'
        if roll < 0.84:
            return rng.choice(
                (
                    "<p></p>",
                    "<hr>",
                    "<p>&nbsp;</p>",
                    "<!-- a note -->",
                    "<div><br></div>",
                    '<i class="c1"></i>',
                    "<p><b></b></p>",
                )
            )
        if roll < 0.9:
            return rng.choice(
                ('<iframe src="https://films.gannetcove.example/e" width="400"></iframe>', "<script>go()</script>",
                 "<style>.note{color:red}</style>", "<form><input name=a><button>Go</button></form>",
                 "<center>middle</center>", '<font color="red">old</font>', "<details><summary>A</summary>b</details>")
            )  # fmt: skip
        return inner
