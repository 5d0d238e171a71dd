"""A file of settings read into its record, or refused with every fault at once."""

from __future__ import annotations

from copy import deepcopy
from pathlib import Path
from typing import TypeVar

import msgspec

from verse_tray.config.toml_text import NotTomlError, parse_toml
from verse_tray.model.errors import ProfileFault, SettingsError
from verse_tray.model.inputs import read_file

R = TypeVar("R", bound=msgspec.Struct)


def read_settings(path: Path, record: type[R], what: str) -> tuple[R, str]:
    """Read a TOML file into a record, and return it with the file's text.

    Args:
        path: The file.
        record: The record.
        what: What the file is, for messages: ``site``.

    Raises:
        SettingsError: it cannot be used; every fault is named.
    """
    try:
        text = read_file(path).decode("utf-8")
    except UnicodeDecodeError as error:
        fault = ProfileFault("", f"byte {error.start} is not UTF-8; save it as UTF-8")
        raise SettingsError(str(path), [fault], what) from None
    except (OSError, ValueError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise SettingsError(str(path), [ProfileFault("", reason)], what) from None
    try:
        data = parse_toml(text)
    except NotTomlError as error:
        raise SettingsError(str(path), [error.fault], what) from None
    try:
        return msgspec.convert(data, record), text
    except msgspec.ValidationError:
        from verse_tray.config.faults import find_faults

        faults = find_faults(deepcopy(data), msgspec.json.schema(record), text)
        raise SettingsError(str(path), faults, what) from None
