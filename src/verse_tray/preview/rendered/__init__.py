"""What an author would notice of a page in a browser: measured there, judged here."""

from verse_tray.preview.rendered.render import Rendered, render

__all__ = ["Rendered", "render"]
