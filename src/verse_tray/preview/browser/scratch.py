"""Where programs that we start leave their temporary files."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def temporary_files_in(folder: str) -> Iterator[None]:
    """See to it that a program which is started in the block keeps its temporary files in a folder."""
    usual = os.environ.get("TMPDIR")
    os.environ["TMPDIR"] = folder
    try:
        yield
    finally:
        if usual is None:
            del os.environ["TMPDIR"]
        else:
            os.environ["TMPDIR"] = usual
