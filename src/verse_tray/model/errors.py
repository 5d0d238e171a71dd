"""Errors for input that cannot be used at all. The command line turns each into one message and exit code 2."""

from __future__ import annotations

from msgspec import Struct


class VerseTrayError(Exception):
    """Input, options or a profile that cannot be used; its text is a whole message for the author."""


class InputError(VerseTrayError):
    """A piece that cannot be read: missing, a folder, not text, too large."""


class OutputError(VerseTrayError):
    """A place that cannot be written to."""


class BrowserError(VerseTrayError):
    """No browser is at hand, or it did not do what was asked."""


def not_installed(what: str, error: ImportError, extra: str) -> str:
    """Return what an author is told when a package of an extra is missing: what needs it, and how to get it."""
    return f"{what} needs the package {error.name}. Install it with: pip install 'verse-tray[{extra}]'"


class UnknownEditorError(VerseTrayError):
    """An editor's name that nobody has defined."""


class ProfileFault(Struct, frozen=True):
    """One mistake in a profile, or in another file of settings."""

    path: str
    """Dotted path of the key, such as ``save.elements[3].name``; empty for the file as a whole."""
    message: str
    """What is wrong and what was expected."""
    line: int | None = None
    """Line in the profile, 1-based, where it is known."""
    column: int | None = None
    """Column in the profile, 1-based, where it is known."""


class SettingsError(VerseTrayError):
    """A file of settings that cannot be used; carries every fault at once."""

    def __init__(self, where: str, faults: list[ProfileFault], what: str) -> None:
        self.where = where
        """The file, as the user named it."""
        self.faults = tuple(faults)
        """All faults, in the order of the file."""
        rows = []
        for fault in faults:
            place = "" if fault.line is None else f":{fault.line}:{fault.column}"
            path = f"{fault.path}: " if fault.path else ""
            rows.append(f"{where}{place}: {path}{fault.message}")
        super().__init__("\n".join([f"this {what} cannot be used:", *rows]))


class ProfileError(SettingsError):
    """A profile that cannot be used."""

    def __init__(self, where: str, faults: list[ProfileFault]) -> None:
        super().__init__(where, faults, "editor profile")


class UnknownSiteError(VerseTrayError):
    """A site, or something of one, that nobody has described."""


class ContractError(AssertionError):
    """A step broke the contract of the engine (an edit without a change, or the reverse): a fault of ours."""
