"""What the saw cuts: every length of steel, how many of it, alike ones together."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.posts import Posts
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.rows.stands import counted, named
from openfurrow.core.structures.members import Members

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class Cut:
    """Pieces of one length; ``where`` says which they are."""

    item: str
    profile: str
    length_m: float
    count: int
    where: str


def _alike(lengths_m: Floats, step_m: float) -> list[tuple[float, Integers]]:
    """Lengths rounded up to a mark of the tape, the longest first, with the pieces of each."""
    rounded = np.ceil(lengths_m / step_m - 1e-6).astype(np.int64)
    return [
        (float(mark * step_m), np.flatnonzero(rounded == mark)) for mark in np.unique(rounded)[::-1]
    ]


def _numbers(which: Integers, each: str) -> str:
    """Posts, or others, by their numbers, runs joined: 1 to 4, 7."""
    breaks = np.flatnonzero(np.diff(which) > 1) + 1
    runs = [part + 1 for part in np.split(which, breaks)]
    words = [str(run[0]) if run.size == 1 else f"{run[0]} to {run[-1]}" for run in runs]
    more = f" and {len(words) - 6} more runs" if len(words) > 6 else ""
    return f"{each}{'s' if which.size > 1 else ''} {', '.join(words[:6])}{more}"


def cut_list(
    members: Members,
    posts: Posts,
    frame: FramePlan,
    step_m: float,
    post_step_m: float,
    called: Callable[[int], str] = counted,
) -> tuple[Cut, ...]:
    """Posts, beams, struts and pieces of purlin; ``called`` names a table.

    ``step_m`` is the finest mark of the tape, ``post_step_m`` that of posts, which are then driven to
    their levels: lengths are rounded up, so that nothing comes short.
    """
    word = "post" if posts.masses_kg is None else "leg"
    cuts = [
        Cut(word, posts.post.name, length, which.size, _numbers(which, "post"))
        for length, which in _alike(posts.lengths_m, post_step_m)
    ]
    for piece in members.pieces:
        # Of beams, which differ by nothing, the length as it was found.
        alike = [(piece.longest_m, np.arange(piece.lengths_m.size))]
        if np.ptp(piece.lengths_m) or piece.key != "beam":
            alike = _alike(piece.lengths_m, step_m)
        cuts += [
            Cut(
                piece.cut,
                piece.profile,
                length,
                which.size,
                f"every {piece.each}" if piece.key == "beam" else _numbers(which, piece.each),
            )
            for length, which in alike
        ]
    wanted: dict[float, tuple[int, list[str]]] = {}
    for cut in frame.cuts:
        pieces = np.round(np.array(cut.pieces.lengths_m), 4)
        for length in np.unique(pieces).tolist():
            at = np.flatnonzero(pieces == length) + 1
            count, where = wanted.get(length, (0, []))
            of = "each line" if len(frame.cuts) == 1 else _lines_of(cut.tables, called)
            words = f"piece {', '.join(map(str, at.tolist()))} of {of}"
            wanted[length] = (count + at.size * cut.lines, [*where, words])
    cuts += [
        Cut(members.stock.cut, members.purlin.section.name, length, count, "; ".join(where))
        for length, (count, where) in sorted(wanted.items(), reverse=True)
    ]
    return tuple(cuts)


def _lines_of(tables: Integers, called: Callable[[int], str]) -> str:
    return f"the lines of {named(tuple(tables.tolist()), 'table', called)}"
