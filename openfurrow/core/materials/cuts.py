"""What the saw cuts in one array: every length of steel, how many of it, alike ones together."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.posts import Posts, depth_step_m
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.quantities import UnitSystem, tape_step_m
from openfurrow.core.rows.stands import counted, named
from openfurrow.core.structures.members import Piece
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.rails import rails_of_tables

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

POSTS_KEY, LINES_KEY = "post", "purlin"


@dataclass(frozen=True, kw_only=True)
class Cut:
    """Pieces of one length; ``where`` says which they are, ``of_table`` each one's table.

    ``title`` is what the material list calls the sticks, ``stocks_m`` their lengths: none where the
    pieces come cut. ``of_table`` is empty where it is not known.
    """

    key: str
    title: str
    item: str
    profile: str
    kg_per_m: float
    length_m: float
    count: int
    where: str
    stocks_m: tuple[float, ...]
    of_table: Integers

    @property
    def from_stick(self) -> bool:
        """Whether it is cut here, from a stick that is long enough.

        Where the front of a table would stand in the ground a leg of it is no piece: that is a stop.
        """
        return bool(self.stocks_m) and 0 < self.length_m <= max(self.stocks_m) + 1e-9


def _alike(marks: Floats, step_m: float) -> list[tuple[float, Integers]]:
    """Lengths in whole marks of the tape, the longest first, with the pieces of each."""
    return [
        (round(float(mark * step_m), 6), np.flatnonzero(marks == mark))
        for mark in np.unique(marks)[::-1]
    ]


def _numbers(which: Integers, each: str) -> str:
    """Posts, or others, by their numbers, runs joined: 1 to 4, 7."""
    breaks = np.flatnonzero(np.diff(which) > 1) + 1
    runs = [part + 1 for part in np.split(which, breaks)]
    words = [str(run[0]) if run.size == 1 else f"{run[0]} to {run[-1]}" for run in runs]
    more = f" and {len(words) - 6} more runs" if len(words) > 6 else ""
    return f"{each}{'s' if which.size > 1 else ''} {', '.join(words[:6])}{more}"


def cut_list(
    structure: StructurePlan,
    posts: Posts,
    frame: FramePlan,
    givens: FrameGivens,
    units: UnitSystem,
    called: Callable[[int], str] = counted,
) -> tuple[Cut, ...]:
    """Posts, beams, struts and pieces of purlin; ``called`` names a table.

    Posts are rounded up to what depths are called out in, and driven to their level, so that none comes
    short. The rest is cut to the nearest of the finest marks of the tape in ``units``: what every other
    screen writes.
    """
    tables, step_m = structure.supports.places.of_table, depth_step_m(units)
    word = "post" if posts.masses_kg is None else "leg"
    cuts = [
        Cut(
            key=POSTS_KEY,
            title=f"{word.capitalize()} stock",
            item=word,
            profile=posts.post.name,
            kg_per_m=posts.post.mass_kg_per_m,
            length_m=length,
            count=which.size,
            where=_numbers(which, "post"),
            stocks_m=givens.post_stocks_m,
            of_table=tables[which],
        )
        for length, which in _alike(np.ceil(posts.lengths_m / step_m - 1e-6), step_m)
        if posts.steel is not None
    ]
    for piece in structure.members.pieces:
        of = _tables_of(piece, structure)
        cuts += _cuts_of(piece, of, givens, tape_step_m(units))
    return (*cuts, *_lines(structure, frame, givens, tape_step_m(units), called))


def _tables_of(piece: Piece, structure: StructurePlan) -> Integers:
    """The table of each of them; none where that is not known."""
    places = structure.supports.places
    if piece.each in ("post", "bent"):
        found = places.of_table[places.role == 0]
    elif piece.each == "rail":
        found = np.repeat(np.arange(structure.posts.line_of.size), rails_of_tables(structure.posts))
    else:
        return np.empty(0, dtype=np.int64)
    return found if found.size == piece.lengths_m.size else np.empty(0, dtype=np.int64)


def _cuts_of(piece: Piece, of: Integers, givens: FrameGivens, step_m: float) -> Iterator[Cut]:
    """Pieces of one kind; what ends in bolts is cut as much longer as it runs on past them."""
    more_m = 2 * givens.beyond_bolt_m if piece.bolted and piece.from_stick else 0.0
    for length, which in _alike(np.rint((piece.lengths_m + more_m) / step_m), step_m):
        yield Cut(
            key=piece.key,
            title=f"{piece.title} stock",
            item=piece.cut,
            profile=piece.profile,
            kg_per_m=piece.mass_kg_per_m,
            length_m=length,
            count=which.size,
            where=f"every {piece.each}" if piece.key == "beam" else _numbers(which, piece.each),
            stocks_m=givens.piece_stocks_m if piece.from_stick else (),
            of_table=of[which] if of.size else of,
        )


def _lines(
    structure: StructurePlan,
    frame: FramePlan,
    givens: FrameGivens,
    step_m: float,
    called: Callable[[int], str],
) -> list[Cut]:
    """The pieces of purlins: to the nearest mark of the tape, but never longer than a stick."""
    members, longest_m = structure.members, round(max(givens.stocks_m), 6)
    wanted: dict[float, tuple[list[str], list[Integers]]] = {}
    for cut in frame.cuts:
        to_mark = np.rint(np.array(cut.pieces.lengths_m) / step_m) * step_m
        pieces = np.minimum(np.round(to_mark, 6), longest_m)
        for length in np.unique(pieces).tolist():
            at = np.flatnonzero(pieces == length) + 1
            where, of = wanted.setdefault(length, ([], []))
            whose = "each line" if len(frame.cuts) == 1 else _lines_of(cut.tables, called)
            where.append(f"piece {', '.join(map(str, at.tolist()))} of {whose}")
            of.append(np.repeat(cut.tables, members.stock.lines * at.size))
    return [
        Cut(
            key=LINES_KEY,
            title=members.stock.title,
            item=members.stock.cut,
            profile=members.purlin.section.name,
            kg_per_m=members.purlin.section.mass_kg_per_m,
            length_m=length,
            count=sum(one.size for one in of),
            where="; ".join(where),
            stocks_m=givens.stocks_m,
            of_table=np.concatenate(of),
        )
        for length, (where, of) in sorted(wanted.items(), reverse=True)
    ]


def _lines_of(tables: Integers, called: Callable[[int], str]) -> str:
    return f"the lines of {named(tuple(tables.tolist()), 'table', called)}"
