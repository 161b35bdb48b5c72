"""Garbage collection paused during work that allocates hundreds of thousands of objects and frees none meanwhile."""

from __future__ import annotations

import gc
import threading
from collections.abc import Iterator
from contextlib import contextmanager

_at_work = 0
_counted = threading.Lock()


@contextmanager
def gc_paused() -> Iterator[None]:
    """Python looks for no garbage meanwhile: of a car of years it would look through all of it again and again,
    a quarter of the work. As a decorator it ends once what was made is let go."""
    global _at_work
    with _counted:
        _at_work += 1
        gc.disable()
    try:
        yield
    finally:
        with _counted:
            _at_work -= 1
            if not _at_work:
                gc.enable()
