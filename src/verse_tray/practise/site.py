"""What can be done with entries: written, opened again, published, changed, deleted."""

from __future__ import annotations

from datetime import date
from typing import Any

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.editors.page import themed_frame
from verse_tray.markup.serialise import escape_attribute
from verse_tray.model.phrasing import as_slug
from verse_tray.place.page import boxed
from verse_tray.practise import channels
from verse_tray.practise.store import Entry, Store

USUAL = "blog-post"
"""The editor of posts that name none."""


class Refused(Exception):
    """Something that the site does not do; its text says why."""


class Site:
    """The practice site."""

    def __init__(self, store: Store, day: date) -> None:
        """Take what it keeps, and which day it is there."""
        self.store = store
        """What it keeps."""
        self.day = day
        """Which day it is."""

    def editor(self, channel: str, role: str = "author") -> Editor:
        """Return an editor as it is on the site's day."""
        return channels.editor_of(channel, role, self.day)

    def new(
        self,
        channel: str,
        text: str,
        slug: str,
        properties: dict[str, list[Any]],
        *,
        state: str = "draft",
        role: str = "author",
        visual: bool = False,
    ) -> Entry:
        """Make an entry.

        Raises:
            Refused: its editor takes no such text.
        """
        entry = Entry(as_slug(slug or _name_of(properties) or channel, "entry"), channel, properties=properties)
        self._write(entry, text, role, visual=visual)
        self._set_state(entry, state)
        return self.store.add(entry)

    def save(self, entry: Entry, text: str, role: str, *, visual: bool = False) -> None:
        """Save a text that was pasted into a pane; what is published stays as it is until it is published again.

        Raises:
            Refused: the editor takes no such text.
        """
        self._write(entry, text, role, visual=visual)
        self.store.change(entry)

    def replace(self, entry: Entry, text: str | None, properties: dict[str, list[Any]], state: str) -> None:
        """Take other contents, properties and state, and show them to readers at once where it is published.

        Raises:
            Refused: the editor takes no such text.
        """
        if text is not None:
            self._write(entry, text, "author")
        entry.properties = properties
        self._set_state(entry, state)
        self.store.change(entry)

    def open_again(self, entry: Entry, role: str) -> None:
        """Open an entry in the visual pane of its editor and save it as it is there."""
        entry.stored = channels.opened_again(entry.stored, self.editor(entry.channel, role))
        self.store.change(entry)

    def publish(self, entry: Entry, role: str = "author") -> None:
        """Publish what is stored."""
        self._set_state(entry, "published", role)
        self.store.change(entry)

    def delete(self, entry: Entry, *, deleted: bool = True) -> None:
        """Delete an entry, or bring it back."""
        entry.deleted = deleted
        self.store.change(entry)

    def _write(self, entry: Entry, text: str, role: str, *, visual: bool = False) -> None:
        """Send a text through the editor of an entry, and put it there."""
        if entry.channel in channels.BY_BROWSER and not visual:
            raise Refused("This editor cleans in the browser: use its page.")
        if entry.channel in channels.BY_BROWSER:
            entry.sent, entry.stored = text, text
            return
        kept = channels.saved(text, self.editor(entry.channel, role), visual=visual)
        if kept.refused:
            raise Refused(kept.refused)
        entry.sent, entry.stored = text, kept.text

    def _set_state(self, entry: Entry, state: str, role: str = "author") -> None:
        entry.state = state
        if state == "published":
            by_browser = entry.channel in channels.BY_BROWSER
            editor = self.editor(entry.channel, role)
            entry.published = entry.stored if by_browser else channels.published(entry.stored, editor)

    def page(self, entry: Entry) -> str:
        """Return the page that readers get of an entry."""
        editor = self.editor(entry.channel)
        photos = "".join(
            f'<p><img src="{escape_attribute(url)}" alt="{escape_attribute(alt)}"></p>' for url, alt in _photos(entry)
        )
        shown = boxed(editor, entry.published + photos)
        frame = themed_frame(editor, editor.theme)
        return frame.replace(PIECE_MARK, shown, 1).replace(PIECE_MARK, "")


def _photos(entry: Entry) -> list[tuple[str, str]]:
    found = []
    for each in entry.properties.get("photo", []):
        if isinstance(each, dict):
            found.append((str(each.get("value", "")), str(each.get("alt", ""))))
        else:
            found.append((str(each), ""))
    return found


def _name_of(properties: dict[str, list[Any]]) -> str:
    return str((properties.get("name") or [""])[0])
