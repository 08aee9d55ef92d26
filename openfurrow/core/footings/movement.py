"""How far a post moves sideways in the ground and at its head: a beam on springs of the soil.

Springs stand at the nodes of the beam: in sand they grow with depth (Terzaghi 1955), in clay they go
with its strength (Davisson 1970). They are for loads that come and go slowly: storms that rock a post
for hours loosen its top.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_most, within
from openfurrow.core.codes import constant, table
from openfurrow.core.codes.section import STEEL_MODULUS_PA, Section
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts, SizedKind
from openfurrow.core.members.rust import thinned
from openfurrow.core.site.soil import Soil, SoilLayer
from openfurrow.core.structures.supports import Kinds
from openfurrow.core.working import Answer, Input, Source, Working

Floats = NDArray[np.float64]
ELEMENTS = 40
SPRINGS = Source("beam on springs: Terzaghi (1955) in sand, Davisson (1970) in clay", "from memory")


@dataclass(frozen=True, kw_only=True)
class Moves:
    """One post under one load: how far it moves at the ground and at its bolt, ``high_m`` above it."""

    ground_m: float
    head_m: float
    high_m: float
    push_n: float
    moment_n_m: float
    kind: SizedKind


def springs_pa(soil: Soil, depth_m: Floats, loose_m: float) -> Floats:
    """Stiffness of the soil along a post, N/m for each metre and metre moved; none in a loose top."""
    bottoms = np.array([layer.bottom_m for layer in soil.layers[:-1]])
    which = np.searchsorted(bottoms, depth_m - 1e-9, side="left")
    wet = np.zeros(depth_m.shape, dtype=bool) if soil.water_m is None else depth_m > soil.water_m
    found = np.zeros(depth_m.shape)
    for number, layer in enumerate(soil.layers):
        mine = which == number
        found[mine] = _layer_pa(layer, depth_m[mine], wet[mine])
    return np.where(depth_m > loose_m, found, 0.0)


def _layer_pa(layer: SoilLayer, depth_m: Floats, wet: NDArray[np.bool_]) -> Floats:
    if layer.cohesion_pa > 0:
        return np.full(depth_m.shape, constant("common", "clay_spring").value * layer.cohesion_pa)
    rates = table("common", "soil_springs")
    row = rates.row("soil_class", layer.soil_class)
    dry, under = (rates.number(name, row) for name in ("dry_n_m3", "wet_n_m3"))
    return np.asarray(np.where(wet, under, dry) * depth_m)


def sways(
    soil: Soil, profile: Section, depth_m: float, loads: tuple[float, float], loose_m: float = 0.0
) -> tuple[float, float]:
    """How far the ground line moves and how much it turns (rad), under a push and a moment there."""
    long = depth_m / ELEMENTS
    at = np.linspace(0.0, depth_m, ELEMENTS + 1)
    share = np.full(at.shape, long)
    share[[0, -1]] = long / 2
    # The spring of an end stands for the half element beside it.
    middle = at.copy()
    middle[0], middle[-1] = long / 4, depth_m - long / 4
    size = 2 * (ELEMENTS + 1)
    stiff = np.zeros((size, size))
    beam = (STEEL_MODULUS_PA * profile.inertia_m4 / long**3) * np.array(
        [
            [12, 6 * long, -12, 6 * long],
            [6 * long, 4 * long**2, -6 * long, 2 * long**2],
            [-12, -6 * long, 12, -6 * long],
            [6 * long, 2 * long**2, -6 * long, 4 * long**2],
        ]
    )
    for number in range(ELEMENTS):
        part = slice(2 * number, 2 * number + 4)
        stiff[part, part] += beam
    down = np.arange(0, size, 2)
    stiff[down, down] += springs_pa(soil, middle, loose_m) * share
    force = np.zeros(size)
    # Depth is counted down: what tips the head forward turns the beam the other way.
    force[0], force[1] = loads[0], -loads[1]
    moved = np.linalg.solve(stiff, force)
    return float(moved[0]), float(-moved[1])


def moves_of(posts: Posts, kinds: Kinds, loose_m: float) -> Moves:
    """The post whose head moves furthest of those that bear most in each soil."""
    left = thinned(posts.post, posts.lost_m)
    bending = STEEL_MODULUS_PA * left.inertia_m4
    found = []
    for soil in np.unique(kinds.soil_of).tolist():
        mine = np.flatnonzero(kinds.soil_of == soil).tolist()
        worst = max(mine, key=lambda one: float(np.abs(posts.kinds[one].loads.tipping_n_m).max()))
        kind, high = posts.kinds[worst], float(kinds.high_m[worst])
        case = int(np.abs(kind.loads.tipping_n_m).argmax())
        # Strength combinations of the metric school carry the wind's factor.
        factor = 1.0 if kind.ground.pack == "us" else constant("metric", "variable_factor").value
        push = abs(float(kind.loads.push_n[case])) / factor
        moment = abs(float(kind.loads.tipping_n_m[case])) / factor
        ground, turn = sways(kind.soil, left, kind.depth_m, (push, moment), loose_m)
        bolt = moment - push * high
        bends = push * high**3 / (3 * bending) + bolt * high**2 / (2 * bending)
        found.append(
            Moves(
                ground_m=ground,
                head_m=ground + turn * high + bends,
                high_m=high,
                push_n=push,
                moment_n_m=moment,
                kind=kind,
            )
        )
    return max(found, key=lambda one: one.head_m)


def movement_answers(moves: Moves) -> tuple[Answer, ...]:
    """At the ground and at the bolt, under the load that tips it most."""
    loads = (
        Input("P", "push at ground", moves.push_n, "force"),
        Input("M", "moment at ground", moves.moment_n_m, "moment"),
        Input("d", "its depth", moves.kind.depth_m, "tape"),
    )
    return (
        Answer(
            "footings",
            "moves_ground",
            "Moves at the ground",
            Working(
                "y_0",
                "",
                loads,
                moves.ground_m,
                "thickness",
                SPRINGS,
                "Under the load that tips it most, once. Storms that rock it for hours loosen its top: "
                "that is not looked at, nor how far tests moved.",
            ),
        ),
        Answer(
            "footings",
            "moves_head",
            "Moves at the bolt",
            Working(
                "y_h",
                "",
                (*loads, Input("h", "bolt above the ground", moves.high_m, "tape")),
                moves.head_m,
                "thickness",
                SPRINGS,
                "As it moves and turns in the ground, and bends above it.",
            ),
        ),
    )


def movement_checks(moves: Moves, givens: FootingsGivens) -> tuple[Check, ...]:
    """Whether heads move no further than was said that they may, and the ground line no further than
    the doubled bearing of the us school takes it to.
    """
    found = []
    if moves.kind.ground.movement > 1:
        found.append(
            within(
                "footings",
                "half_inch",
                "Posts move no further at the ground than doubled bearing allows",
                moves.ground_m,
                constant("us", "movement_allows_m"),
                "thickness",
                most=True,
                remedy="A stiffer post or closer posts; or take the bearing as it is printed.",
                given="footings.half_inch_moves",
                otherwise="look",
            )
        )
    if givens.head_moves_m is None:
        return tuple(found)
    return (
        *found,
        at_most(
            "footings",
            "moves",
            "Bolts move no further than they may",
            moves.head_m,
            givens.head_moves_m,
            "thickness",
            remedy="A stiffer post, closer posts, a lower table; going deeper helps little.",
            source=SPRINGS,
            given="footings.head_moves_m",
        ),
    )
