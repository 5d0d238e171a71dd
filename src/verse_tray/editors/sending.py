"""How pieces are sent into an editor; the keys are those of the table ``sending`` of ``site.toml``."""

from verse_tray.editors.record import Name, Record


class Sending(Record, frozen=True, kw_only=True):
    """How pieces are sent to a site over Micropub."""

    address: Name
    """Address of its front page, or of another that names its Micropub endpoint."""
    editor: Name
    """The editor that what is sent goes through: a name, or a folder or file beside this one."""
    token: Name
    """Where the token is: ``env:NAME``, ``file:PATH`` beside this file, or ``keyring:SERVICE``; never the token."""
    channel: str = ""
    """The channel that it goes into (``mp-channel``); left out, the site's usual."""
