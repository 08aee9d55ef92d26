"""Long columns of numbers as text: differences from step to step, which are small and pack well."""

import base64
import zlib

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def pack(parts: Floats, size: str) -> str:
    """Whole numbers, (columns, steps), as text; ``size`` is that of their differences, ``<i2``."""
    steps_up = np.diff(parts, axis=1, prepend=0).astype(size)
    return base64.b64encode(zlib.compress(steps_up.tobytes(), 9)).decode()


def unpack(text: str, shape: tuple[int, int], size: str, what: str) -> Floats:
    """The numbers again, (columns, steps). Raises ValueError for text that none were packed into."""
    whole = np.dtype(size).itemsize * shape[0] * shape[1]
    try:
        # No more than it should hold, whatever it says.
        content = zlib.decompressobj().decompress(base64.b64decode(text, validate=True), whole + 1)
    except (ValueError, zlib.error):
        raise ValueError(f"the {what} cannot be read: bring the file again") from None
    if len(content) != whole:
        raise ValueError(f"the {what} is not as long as it says: bring the file again")
    steps_up = np.frombuffer(content, dtype=size).reshape(shape)
    return np.cumsum(steps_up, axis=1, dtype=np.dtype(size)).astype(np.float64)
