"""Results remembered by what they were made from: an edit computes only what follows from it."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, is_dataclass
from typing import Any, Generic, TypeVar

import numpy as np

T = TypeVar("T")

# What is kept of all jobs together; the least lately used goes first.
MOST_BYTES = 128 * 2**20


@dataclass(frozen=True)
class Kept(Generic[T]):
    """A result and its number, which no other result ever gets: what is made of it is known by that."""

    value: T
    number: int


class Memo:
    """Results by name and inputs, bounded by their size; safe for threads that share it.

    Two threads may make the same at once: the first to come is kept.
    """

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        """Begin with nothing remembered."""
        self._most_bytes = most_bytes
        self._kept: OrderedDict[Hashable, tuple[Kept[Any], int]] = OrderedDict()
        self._bytes = 0
        self._count = 0
        self._lock = threading.Lock()
        self.made: list[str] | None = None

    def remember(
        self, name: str, inputs: tuple[Hashable, ...], make: Callable[[], T], *, of_kept: bool = False
    ) -> Kept[T]:
        """What ``make`` gives, or gave for equal inputs. ``inputs`` must say all that it depends on.

        ``of_kept``: it is put together of what is kept already, and weighs next to nothing more.
        """
        key = (name, *inputs)
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key][0]
        value = make()
        size = SMALL_BYTES if of_kept else size_of(value)
        with self._lock:
            if self.made is not None:
                self.made.append(name)
            if key not in self._kept:
                self._count += 1
                self._kept[key] = (Kept(value, self._count), size)
                self._bytes += size
            found = self._kept[key][0]
            while self._bytes > self._most_bytes and len(self._kept) > 1:
                _, (_, gone) = self._kept.popitem(last=False)
                self._bytes -= gone
        return found

    def forget(self) -> None:
        """Begin anew; numbers are not given again."""
        with self._lock:
            self._kept.clear()
            self._bytes = 0


# What a small part weighs, whatever it is: a number, a word, a working.
SMALL_BYTES = 200


def size_of(value: object) -> int:
    """About how many bytes a result holds: its arrays, and a little for every part besides.

    Of a row of parts the first stands for all: looking at each would take longer than making it.
    """
    if isinstance(value, np.ndarray):
        # Polygons and the like are objects beside the array.
        return int(value.nbytes) + (SMALL_BYTES * value.size if value.dtype == object else 0)
    if isinstance(value, tuple | list | dict):
        parts = list(value.values()) if isinstance(value, dict) else value
        return SMALL_BYTES + (len(parts) * size_of(parts[0]) if parts else 0)
    if is_dataclass(value):
        return SMALL_BYTES + sum(size_of(part) for part in vars(value).values())
    return SMALL_BYTES
