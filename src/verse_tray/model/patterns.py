"""Regular expressions that are compiled when they are first used: a run uses some of the many, and each takes time."""

from __future__ import annotations

import re
from typing import Any, cast


class _Lazy:
    """Stands for a pattern until one of its methods is asked for; from then on it has them itself."""

    def __init__(self, source: str, flags: int) -> None:
        self._source = source
        self._flags = flags

    def __getattr__(self, name: str) -> Any:
        if name.startswith("__"):
            raise AttributeError(name)
        compiled = re.compile(self._source, self._flags)
        for each in ("search", "match", "fullmatch", "finditer", "findall", "split", "sub", "pattern"):
            setattr(self, each, getattr(compiled, each))
        return getattr(compiled, name)


def lazy(source: str, flags: int = 0) -> re.Pattern[str]:
    """Return a regular expression that is compiled when it is first used."""
    return cast(re.Pattern[str], _Lazy(source, flags))
