"""Turns at what only a few may do at once."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from openfurrow.store.errors import Busy


@contextmanager
def turn(at: threading.Semaphore, wait_s: float, busy: str) -> Iterator[None]:
    """A turn, given back afterwards. Raises Busy with those words where none comes in time."""
    if not at.acquire(timeout=wait_s):
        raise Busy(busy)
    try:
        yield
    finally:
        at.release()
