"""A pause for the garbage collector while many nodes are made: its runs would look at all and find nothing."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager

_frozen_by_others = False  # asked until it is so: to count them, the interpreter goes through all of them


@contextmanager
def collection_paused() -> Iterator[None]:
    """Pause cyclic garbage collection in the block.

    What was made meanwhile counts as old afterwards: trees hold no cycles, and looking through all of them once at the
    end would cost what the pause has saved.
    """
    global _frozen_by_others
    if not gc.isenabled():
        yield
        return
    gc.disable()
    try:
        yield
    finally:
        _frozen_by_others = _frozen_by_others or bool(gc.get_freeze_count())
        if not _frozen_by_others:  # else somebody keeps objects frozen on purpose
            gc.freeze()
            gc.unfreeze()
        gc.enable()
