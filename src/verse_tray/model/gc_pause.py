"""A pause for the garbage collector while many nodes are made: its runs would look at all and find nothing."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def collection_paused() -> Iterator[None]:
    """Pause cyclic garbage collection in the block.

    What was made meanwhile counts as old afterwards: trees hold no cycles, and looking through all of them once at the
    end would cost what the pause has saved.
    """
    if not gc.isenabled():
        yield
        return
    gc.disable()
    try:
        yield
    finally:
        if not gc.get_freeze_count():  # else somebody keeps objects frozen on purpose
            gc.freeze()
            gc.unfreeze()
        gc.enable()
