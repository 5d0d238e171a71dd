"""A pause for the garbage collector while many nodes are made: its full runs would look at all and find nothing."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def collection_paused() -> Iterator[None]:
    """Pause cyclic garbage collection in the block."""
    if not gc.isenabled():
        yield
        return
    gc.disable()
    try:
        yield
    finally:
        gc.enable()
