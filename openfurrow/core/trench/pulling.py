"""Drawing wires through a run, from either end: the pull, and the press against a bend."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.route import Route

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]
Toward = Literal["the building", "the array"]
# No wire and no hand pulls so hard: more is said of no pull.
BEYOND_N = 1e9


@dataclass(frozen=True)
class Piece:
    """A straight of the run, ``rise_m`` from its beginning to its end, or a bend by ``turn_deg``."""

    length_m: float = 0.0
    rise_m: float = 0.0
    turn_deg: float = 0.0


@dataclass(frozen=True)
class Drawn:
    """A pull from one end: at the far end, and where a bend presses the wires hardest."""

    toward: Toward
    tension_n: float
    sidewall_n_per_m: float


@dataclass(frozen=True)
class Limits:
    """What the wires stand: a pull on their copper, and a press against a bend."""

    tension_n: float
    sidewall_n_per_m: float

    def used(self, drawn: Drawn) -> float:
        """How much of it a pull uses, the worse of both."""
        pull = drawn.tension_n / self.tension_n
        return max(pull, drawn.sidewall_n_per_m / self.sidewall_n_per_m)


@dataclass(frozen=True)
class Pulls:
    """The run pulled from either end, the easier one first, and the best place for one box.

    ``box_at_m`` is that along the ground from the array, with a box there the harder of both pulls uses
    ``with_box`` of what the wires stand; None where the run is too short to be parted.
    """

    easier: Drawn
    harder: Drawn
    limits: Limits
    box_at_m: float | None
    with_box: float

    @property
    def used(self) -> float:
        """How much of what the wires stand the easier pull uses."""
        return self.limits.used(self.easier)


def pieces_of(route: Route, up_at_array_m: float, up_at_wall_m: float) -> tuple[Piece, ...]:
    """Down at the array, along the ground with its bends, and up at the wall."""
    level = [math.dist(a, b) for a, b in pairwise(zip(route.east_m, route.north_m, strict=True))]
    rises = [float(b - a) for a, b in pairwise(route.level_m)]
    straights = [Piece(math.hypot(run, rise), rise) for run, rise in zip(level, rises, strict=True)]
    # A way from the wall itself has no straight: it goes down and up again.
    straights = straights or [Piece()]
    found = [Piece(up_at_array_m, -up_at_array_m), Piece(turn_deg=90.0)]
    for straight, turn in zip(straights, (*route.turns_deg, None), strict=True):
        found.append(straight)
        if turn is not None:
            found.append(Piece(turn_deg=turn))
    return (*found, Piece(turn_deg=90.0), Piece(up_at_wall_m, up_at_wall_m))


def turned_round(pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """The same from its other end."""
    return tuple(replace(one, rise_m=-one.rise_m) for one in reversed(pieces))


def crowding(wires: int, wire_m: float, inside_m: float) -> float:
    """How much harder wires rub that wedge each other against the wall.

    Three that lie as in a cradle by their place in the pipe, more by what is usual for four and more.
    Source: IEEE 576 practice, from memory.
    """
    if wires < 3:
        return 1.0
    if wires > 3:
        return constant("common", "crowd_of_four").value
    room = max(inside_m - wire_m, 0.5 * wire_m)
    return 1 + 4 / 3 * (wire_m / room) ** 2


@dataclass(frozen=True)
class Rope:
    """What is pulled: its weight, how it rubs, and how tightly it is bent."""

    weight_n_per_m: float
    friction: float
    radius_m: float

    def through(self, pieces: Sequence[Piece], passes: Sequence[Truths]) -> tuple[Floats, Floats]:
        """Follow many pulls at once from the first piece to the last: the end, and the press in bends.

        ``passes`` says of each piece which of the pulls go through it. On a straight that climbs by an
        angle a the pull grows by w L (mu cos a + sin a), and never falls below nought; in a bend by
        exp(mu theta), and presses the wires against it with T / R. The first of the wire is fed in with
        some of its own weight behind it. Source: IEEE 525 and 576 practice.
        """
        feed_m = constant("common", "pull_feed_m").value
        tension = np.full(passes[0].size, self.weight_n_per_m * self.friction * feed_m)
        sidewall = np.zeros(tension.size)
        for piece, here in zip(pieces, passes, strict=True):
            if piece.length_m:
                level = math.sqrt(max(piece.length_m**2 - piece.rise_m**2, 0.0))
                more = self.weight_n_per_m * (self.friction * level + piece.rise_m)
                tension = np.where(here, np.maximum(tension + more, 0.0), tension)
            elif piece.turn_deg:
                grown = tension * math.exp(self.friction * math.radians(piece.turn_deg))
                tension = np.where(here, np.minimum(grown, BEYOND_N), tension)
                sidewall = np.where(here, np.maximum(sidewall, tension / self.radius_m), sidewall)
        return tension, sidewall


def drawn(pieces: Sequence[Piece], rope: Rope, toward: Toward) -> Drawn:
    """One pull through all of the pieces."""
    ((tension,), (sidewall,)) = rope.through(pieces, [np.ones(1, dtype=bool)] * len(pieces))
    return Drawn(toward, float(tension), float(sidewall))


def _easier_used(
    pieces: Sequence[Piece], passes: Sequence[Truths], rope: Rope, limits: Limits
) -> Floats:
    """Of many parts of the run how much the easier of both ways uses."""
    ways = (
        rope.through(pieces, passes),
        rope.through(turned_round(pieces), list(reversed(passes))),
    )
    used = [
        np.maximum(tension / limits.tension_n, sidewall / limits.sidewall_n_per_m)
        for tension, sidewall in ways
    ]
    return np.minimum(*used)


def _best_box(pieces: Sequence[Piece], rope: Rope, limits: Limits) -> tuple[float | None, float]:
    """Where along the ground one box leaves least to do, and how much that uses; None where none fits.

    It takes up a bend, or stands in the middle of a straight.
    """
    halves: list[Piece] = []
    for piece in pieces[1:-1]:
        half = Piece(piece.length_m / 2, piece.rise_m / 2)
        halves += [half, half] if piece.length_m else [piece]
    halves = [pieces[0], *halves, pieces[-1]]
    at = np.cumsum([0.0, *(one.length_m for one in halves[1:-1])])
    # The first part ends before one piece, the second begins with another: a bend between is taken up.
    ends, begins, places = [], [], []
    for number, piece in enumerate(halves[2:-2], start=2):
        if piece.turn_deg or (halves[number - 1] is piece and piece.length_m):
            ends.append(number)
            begins.append(number + 1 if piece.turn_deg else number)
            places.append(float(at[number - 1]))
    if not ends:
        return None, math.inf
    order = range(len(halves))
    first = [np.array(ends) > number for number in order]
    second = [np.array(begins) <= number for number in order]
    used = np.maximum(
        _easier_used(halves, first, rope, limits), _easier_used(halves, second, rope, limits)
    )
    best = int(used.argmin())
    return places[best], float(used[best])


def pulls_of(pieces: Sequence[Piece], pull: Pull, inside_m: float, radius_m: float) -> Pulls:
    """The run from either end, and where one box helps most."""
    friction = constant("common", "pulling_friction").value
    rope = Rope(
        pull.mass_kg_per_m * STANDARD_GRAVITY_M_S2,
        friction * crowding(pull.conductors, pull.wire_m, inside_m),
        radius_m,
    )
    limits = Limits(
        constant("common", "pull_per_copper_pa").value * pull.copper_m2,
        constant("common", "sidewall_n_per_m").value,
    )
    ways = (drawn(pieces, rope, "the building"), drawn(turned_round(pieces), rope, "the array"))
    easier, harder = sorted(ways, key=limits.used)
    box_at_m, with_box = _best_box(pieces, rope, limits)
    return Pulls(
        easier=easier,
        harder=harder,
        limits=limits,
        box_at_m=box_at_m,
        with_box=limits.used(easier) if box_at_m is None else with_box,
    )


def jams(pull: Pull, inside_m: float) -> float | None:
    """How many times across three wires the pipe is; None where more or fewer are drawn."""
    oval = constant("common", "bend_oval").value
    return oval * inside_m / pull.wire_m if pull.conductors == 3 else None
