"""Feeds that general-purpose libraries write, read by an audit: every entry has to come back to the letter.

``pip install feedgen feedgenerator PyRSS2Gen; python bench/auditing_feeds.py``
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from datetime import UTC, datetime
from importlib import import_module
from pathlib import Path

from verse_tray.audit.sources.told import posts
from verse_tray.demo.archive import posts as made_posts

HOME = "https://notes.gannetcove.example/"
DAY = datetime(2026, 3, 1, tzinfo=UTC)
AWKWARD = (
    "<p>a &amp; b &lt; c &copy; é 😀</p>", "<pre>x]]>y</pre>", "<p title='\"'>q</p>\n\n<p>r", "plain < text & more",
    "<!-- note --><b>bold</b>", "<p>&#160;nbsp \u00a0 here</p>",
)  # fmt: skip
Entries = list[tuple[str, str]]


def feedgen(entries: Entries, folder: Path) -> None:
    """Write Atom and RSS."""
    feed = import_module("feedgen.feed").FeedGenerator()
    feed.id(HOME)
    feed.title("Field Notes")
    feed.link(href=HOME)
    feed.description("Field notes")
    for number, (title, markup) in enumerate(entries):
        entry = feed.add_entry(order="append")
        entry.id(f"{HOME}{number}")
        entry.title(title)
        entry.link(href=f"{HOME}{number}")
        entry.content(markup, type="html")
        entry.updated(DAY)
        entry.published(DAY)
    feed.atom_file(str(folder / "feedgen.atom"))
    feed.rss_file(str(folder / "feedgen.rss"))


def feedgenerator(entries: Entries, folder: Path) -> None:
    """Write Atom and RSS."""
    module = import_module("feedgenerator")
    for kind, name in ((module.Atom1Feed, "feedgenerator.atom"), (module.Rss201rev2Feed, "feedgenerator.rss")):
        feed = kind(title="Field Notes", link=HOME, description="Field notes")
        for number, (title, markup) in enumerate(entries):
            feed.add_item(
                title=title, link=f"{HOME}{number}", description=markup, content=markup, pubdate=DAY, updateddate=DAY,
                unique_id=f"{HOME}{number}",
            )  # fmt: skip
        with (folder / name).open("w", encoding="utf-8") as file:
            feed.write(file, "utf-8")


def rss2gen(entries: Entries, folder: Path) -> None:
    """Write RSS, the markup in its description."""
    module = import_module("PyRSS2Gen")
    items = [
        module.RSSItem(title=title, link=f"{HOME}{number}", description=markup, guid=f"{HOME}{number}", pubDate=DAY)
        for number, (title, markup) in enumerate(entries)
    ]
    feed = module.RSS2(title="Field Notes", link=HOME, description="Field notes", items=items)
    with (folder / "rss2gen.rss").open("wb") as file:
        feed.write_xml(file, "utf-8")


WRITERS: tuple[Callable[[Entries, Path], None], ...] = (feedgen, feedgenerator, rss2gen)


def lines(markup: str) -> str:
    """Return markup as XML hands it on: line ends are one sign (XML 1.0, 2.11)."""
    return markup.replace("\r\n", "\n")


if __name__ == "__main__":
    entries = [(f"Note {number}", markup) for number, markup in enumerate(AWKWARD)] + list(made_posts(300))
    with tempfile.TemporaryDirectory() as place:
        for write in WRITERS:
            write(entries, Path(place))
        for path in sorted(Path(place).iterdir()):
            found = {post.address: post for post in posts(str(path))}
            same = sum(
                found[f"{HOME}{number}"].markup.strip() == lines(markup).strip()
                for number, (_, markup) in enumerate(entries)
                if f"{HOME}{number}" in found
            )
            dated = sum(post.date.startswith("2026-03-01") for post in found.values())
            print(f"{path.name}: {same} of {len(entries)} entries to the letter, {dated} with their date")
