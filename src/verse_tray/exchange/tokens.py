"""Tokens: where they are kept, and a value that nothing prints by accident."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from verse_tray.model.errors import InputError, not_installed

_LONGEST = 8_192  # characters


class Token:
    """A token for one site. It is shown as three dots wherever somebody shows it."""

    __slots__ = ("_secret",)

    def __init__(self, secret: str) -> None:
        self._secret = secret

    @property
    def header(self) -> str:
        """The value of the header ``Authorization`` (RFC 6750, 2.1)."""
        return f"Bearer {self._secret}"

    def __repr__(self) -> str:
        return "…"

    def __reduce__(self) -> str:
        raise TypeError("a token is not written down")


def read_token(where: str, folder: Path) -> Token:
    """Read a token.

    Args:
        where: ``env:NAME`` for a variable of the environment, ``file:PATH`` for a file that only its owner may read,
            ``keyring:SERVICE`` for the system's key store (its user is called ``verse-tray``).
        folder: The folder that a path is relative to.

    Raises:
        InputError: there is none, it is no token, or others may read the file; it says what to do.
    """
    kind, colon, name = where.partition(":")
    if not colon or not name or kind not in ("env", "file", "keyring"):
        raise InputError(
            f"token {where!r}: say where it is: env:NAME for a variable of the environment, file:PATH for a file, or "
            "keyring:SERVICE. The token itself is never written into a file of settings."
        )
    if kind == "env":
        secret = os.environ.get(name, "")
        if not secret:
            raise InputError(f"token: the environment has no variable {name}. Set it to the token of the site.")
    elif kind == "file":
        secret = _of_file(folder / name)
    else:
        secret = _of_keyring(name)
    secret = secret.strip()
    if not secret or len(secret) > _LONGEST or not all("\x21" <= sign <= "\x7e" for sign in secret):
        raise InputError(f"token {where}: what is there is no token: one word of ASCII was expected.")
    return Token(secret)


def _of_file(path: Path) -> str:
    try:
        with path.open("rb") as file:
            rights = os.fstat(file.fileno()).st_mode
            if os.name == "posix" and stat.S_IMODE(rights) & 0o077:
                raise InputError(f"{path}: others may read this token. Keep it to yourself: chmod 600 {path}")
            return file.read(_LONGEST + 2).decode("ascii", "replace")
    except (OSError, ValueError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise InputError(f"{path}: the token cannot be read: {reason}.") from None


def _of_keyring(service: str) -> str:
    try:
        import keyring  # type: ignore[import-not-found,unused-ignore]
    except ImportError as error:
        raise InputError(not_installed("A token in the system's key store", error, "keyring")) from None
    try:
        found = keyring.get_password(service, "verse-tray")
    except Exception as error:  # each key store has faults of its own
        raise InputError(f"token keyring:{service}: the key store does not give it: {error}") from None
    if not found:
        raise InputError(f"token keyring:{service}: the key store has none for the user verse-tray.")
    return str(found)
