"""Drawing wires through a run, from either end: the pull, and the press against a bend."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from openfurrow.core.codes import constant
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.route import Route

Toward = Literal["the building", "the array"]
# Wires that lie between these many times their own diameter across may wedge where three are drawn.
JAMS_FROM, JAMS_TO = 2.8, 3.2
# A pipe that is bent is a little wider across its bend than it is high.
OVAL = 1.05


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
        return 1.4
    room = max(inside_m - wire_m, 0.5 * wire_m)
    return 1 + 4 / 3 * (wire_m / room) ** 2


def drawn(
    pieces: Sequence[Piece], weight_n_per_m: float, friction: float, radius_m: float, toward: Toward
) -> Drawn:
    """Follow the pull from the first piece to the last.

    On a straight that climbs by an angle a it grows by w L (mu cos a + sin a), and never falls below
    nought; in a bend by exp(mu theta), and presses the wires against it with T / R. The first of the
    wire is fed in with some of its own weight behind it. Source: IEEE 525 and 576 practice.
    """
    feed_m = constant("common", "pull_feed_m").value
    tension, sidewall = weight_n_per_m * friction * feed_m, 0.0
    for piece in pieces:
        if piece.length_m:
            level = math.sqrt(max(piece.length_m**2 - piece.rise_m**2, 0.0))
            tension += weight_n_per_m * (friction * level + piece.rise_m)
            tension = max(tension, 0.0)
        elif piece.turn_deg:
            tension *= math.exp(friction * math.radians(piece.turn_deg))
            sidewall = max(sidewall, tension / radius_m)
    return Drawn(toward, tension, sidewall)


def pulls_of(pieces: Sequence[Piece], pull: Pull, inside_m: float, radius_m: float) -> Pulls:
    """The run from either end, and where one box helps most."""
    weight = pull.mass_kg_per_m * STANDARD_GRAVITY_M_S2
    friction = constant("common", "pulling_friction").value
    friction *= crowding(pull.conductors, pull.wire_m, inside_m)
    limits = Limits(
        constant("common", "pull_per_copper_pa").value * pull.copper_m2,
        constant("common", "sidewall_n_per_m").value,
    )

    def both(part: Sequence[Piece]) -> tuple[Drawn, Drawn]:
        ways = (
            drawn(part, weight, friction, radius_m, "the building"),
            drawn(turned_round(part), weight, friction, radius_m, "the array"),
        )
        first, second = sorted(ways, key=limits.used)
        return first, second

    easier, harder = both(pieces)
    # Where a bend is the box takes it up; two straights in a row never are.
    options = []
    for at in range(2, len(pieces) - 2):
        if pieces[at].turn_deg:
            parts = (pieces[:at], pieces[at + 1 :])
            used = max(limits.used(both(part)[0]) for part in parts)
            options.append((used, sum(one.length_m for one in pieces[1:at])))
        elif pieces[at].length_m:
            half = Piece(pieces[at].length_m / 2, pieces[at].rise_m / 2)
            parts = ((*pieces[:at], half), (half, *pieces[at + 1 :]))
            used = max(limits.used(both(part)[0]) for part in parts)
            options.append((used, sum(one.length_m for one in pieces[1:at]) + half.length_m))
    best = min(options, default=None)
    return Pulls(
        easier=easier,
        harder=harder,
        limits=limits,
        box_at_m=None if best is None else best[1],
        with_box=limits.used(easier) if best is None else best[0],
    )


def jams(pull: Pull, inside_m: float) -> float | None:
    """How many times across three wires the pipe is; None where more or fewer are drawn."""
    return OVAL * inside_m / pull.wire_m if pull.conductors == 3 else None
