"""Lists of things, which have no number of their own: which is still which after someone's work."""

from dataclasses import dataclass
from difflib import SequenceMatcher

from openfurrow.core.givens import Givens

Things = tuple[Givens, ...]


@dataclass(frozen=True)
class Changes:
    """What one side made of a list: each thing as it is now (None: taken out), and what was put in.

    ``added[k]`` stands before the thing that was number k; the last after all of them.
    """

    now: tuple[Givens | None, ...]
    added: tuple[Things, ...]


def _is_same(old: Givens, new: Givens) -> bool:
    """Whether a thing that reads differently is still that thing: half of what was said of it stays."""
    plain, was, now = type(old)().model_dump(), old.model_dump(), new.model_dump()
    said = [name for name in was if was[name] != plain[name]]
    return 2 * sum(1 for name in said if was[name] == now[name]) >= len(said)


def changes_of(base: Things, side: Things) -> Changes:
    """How one list became the other."""
    now: list[Givens | None] = list(base)
    added: list[Things] = [()] * (len(base) + 1)
    for tag, i, i_end, j, j_end in SequenceMatcher(None, base, side, autojunk=False).get_opcodes():
        if tag == "equal":
            continue
        for number in range(i, i_end):
            at = next((k for k in range(j, j_end) if _is_same(base[number], side[k])), None)
            if at is None:
                now[number] = None
                continue
            now[number], added[number], j = side[at], side[j:at], at + 1
        added[i_end] = side[j:j_end]
    return Changes(tuple(now), tuple(added))
