"""Answers kept as they were sent: packed once, sent again, and not at all to who has them."""

import gzip
import hashlib
import threading
from collections import OrderedDict
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path

from fastapi import Request, Response

Key = tuple[object, ...]
MOST_BYTES = 96_000_000
# Level 4 costs a quarter of the usual 9 and its answers are a twentieth longer.
PACKING = 4


@cache
def build() -> str:
    """The program as it stands: what another build wrote is not what this one would write."""
    digest = hashlib.sha256()
    root = Path(str(files("openfurrow")))
    for path in sorted([*root.rglob("*.py"), *root.rglob("*.csv")]):
        digest.update(path.read_bytes())
    return digest.hexdigest()


@dataclass(frozen=True)
class Kept:
    """One answer, plain and packed, with its tag."""

    tag: str
    plain: bytes
    packed: bytes


class KeptAnswers:
    """The answers asked for lately, up to so many bytes."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        """None yet."""
        self._most, self._size = most_bytes, 0
        self._found: OrderedDict[Key, Kept] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Key) -> Kept | None:
        """What is kept under a key; None where nothing is."""
        with self._lock:
            if key in self._found:
                self._found.move_to_end(key)
            return self._found.get(key)

    def keep(self, key: Key, plain: bytes) -> Kept:
        """Keep an answer; those not asked for longest make room."""
        made = Kept(self.tag(key), plain, gzip.compress(plain, PACKING))
        with self._lock:
            if key not in self._found:
                self._found[key] = made
                self._size += len(made.plain) + len(made.packed)
            while self._size > self._most and len(self._found) > 1:
                _, gone = self._found.popitem(last=False)
                self._size -= len(gone.plain) + len(gone.packed)
        return made

    @staticmethod
    def tag(key: Key) -> str:
        """The entity tag of what is under a key, the same on every server of this build."""
        # Weak: packed and plain are the same answer.
        return f'W/"{hashlib.sha256(repr((build(), key)).encode()).hexdigest()[:32]}"'

    def is_known(self, request: Request, key: Key) -> bool:
        """Whether who asks says to have it."""
        return self.tag(key) in request.headers.get("if-none-match", "").split(", ")

    def answer(self, request: Request, key: Key, kept: Kept | None) -> Response:
        """The answer, or 304 where it is known; ``kept`` None only for what is known."""
        if kept is None or (kept.tag == self.tag(key) and self.is_known(request, key)):
            return Response(status_code=304, headers=_revalidated(self.tag(key)))
        packs = "gzip" in request.headers.get("accept-encoding", "")
        headers = _revalidated(kept.tag) | ({"Content-Encoding": "gzip"} if packs else {})
        return Response(
            kept.packed if packs else kept.plain, media_type="application/json", headers=headers
        )


def _revalidated(tag: str) -> dict[str, str]:
    return {"ETag": tag, "Cache-Control": "private, no-cache", "Vary": "Accept-Encoding, Cookie"}


KEPT = KeptAnswers()
