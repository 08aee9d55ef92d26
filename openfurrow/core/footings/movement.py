"""How far a footing moves sideways in the ground, and its post at the head: a beam on springs.

Springs stand at the nodes of the beam: in sand they grow with depth (Terzaghi 1955), in clay they go
with its strength (Davisson 1970). They are for loads that come and go slowly: storms that rock a post
for hours loosen its top.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_most, within
from openfurrow.core.codes import constant, table
from openfurrow.core.codes.section import Section
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
class Bends:
    """How stiff what stands in the ground is, and the post above it, E I each.

    ``top_m`` is how far the first stands above the ground: concrete, or the head of a screw.
    """

    below_n_m2: float
    above_n_m2: float
    top_m: float = 0.0


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
    soil: Soil, stiff_n_m2: float, depth_m: float, loads: tuple[float, float], loose_m: float = 0.0
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
    beam = (stiff_n_m2 / long**3) * np.array(
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


def driven_bends(posts: Posts) -> Bends:
    """A post by itself, as rust leaves it."""
    stiff = steel_n_m2(thinned(posts.post, posts.lost_m))
    return Bends(below_n_m2=stiff, above_n_m2=stiff)


def steel_n_m2(profile: Section) -> float:
    """E I of a profile about its strong axis."""
    return profile.elastic_pa * profile.inertia_m4


def moves_of(posts: Posts, kinds: Kinds, stiff: Bends, loose_m: float) -> tuple[Moves, Moves]:
    """The post that moves furthest at the ground, and the one whose bolt does.

    Of each soil those that are pushed, and those that are tipped, most are looked at.
    """
    found = []
    for soil in np.unique(kinds.soil_of).tolist():
        mine = np.flatnonzero(kinds.soil_of == soil).tolist()
        for asks in (_push_n, _tips_n_m):
            worst = max(mine, key=lambda one: float(asks(posts.kinds[one]).max()))
            kind = posts.kinds[worst]
            case = int(asks(kind).argmax())
            found.append(_moves(kind, case, stiff, float(kinds.high_m[worst]), loose_m))
    return (
        max(found, key=lambda one: one.ground_m),
        max(found, key=lambda one: one.head_m),
    )


def _push_n(kind: SizedKind) -> Floats:
    return np.abs(kind.loads.push_n)


def _tips_n_m(kind: SizedKind) -> Floats:
    return np.abs(kind.loads.tipping_n_m)


def _moves(kind: SizedKind, case: int, stiff: Bends, high_m: float, loose_m: float) -> Moves:
    """A post of a kind in one case; above the ground it bends besides."""
    # Strength combinations of the metric school carry the wind's factor.
    factor = 1.0 if kind.ground.pack == "us" else constant("metric", "variable_factor").value
    push = float(_push_n(kind)[case]) / factor
    moment = float(_tips_n_m(kind)[case]) / factor
    ground, turn = sways(kind.soil, stiff.below_n_m2, kind.depth_m, (push, moment), loose_m)
    # What holds the post up to its own top only turns with it.
    free, bolt = max(high_m - stiff.top_m, 0.0), moment - push * high_m
    bends = (push * free**3 / 3 + bolt * free**2 / 2) / stiff.above_n_m2
    return Moves(
        ground_m=ground,
        head_m=ground + turn * high_m + bends,
        high_m=high_m,
        push_n=push,
        moment_n_m=moment,
        kind=kind,
    )


def _loads(moves: Moves) -> tuple[Input, ...]:
    return (
        Input("P", "push at ground", moves.push_n, "force"),
        Input("M", "moment at ground", moves.moment_n_m, "moment"),
        Input("d", "its depth", moves.kind.depth_m, "tape"),
    )


def movement_answers(moves: tuple[Moves, Moves]) -> tuple[Answer, ...]:
    """At the ground and at the bolt, each for the post that moves furthest there."""
    ground, head = moves
    return (
        Answer(
            "footings",
            "moves_ground",
            "Moves at the ground",
            Working(
                "y_0",
                "",
                _loads(ground),
                ground.ground_m,
                "thickness",
                SPRINGS,
                "Once, under the load that moves it most. Storms that rock it for hours loosen its "
                "top: that is not looked at, nor how far tests moved.",
            ),
        ),
        Answer(
            "footings",
            "moves_head",
            "Moves at the bolt",
            Working(
                "y_h",
                "",
                (*_loads(head), Input("h", "bolt above the ground", head.high_m, "tape")),
                head.head_m,
                "thickness",
                SPRINGS,
                "As it moves and turns in the ground, and bends above it.",
            ),
        ),
    )


def movement_checks(moves: tuple[Moves, Moves], givens: FootingsGivens) -> tuple[Check, ...]:
    """Whether heads move no further than was said that they may, and the ground line no further than
    the doubled bearing of the us school takes it to.
    """
    ground, head = moves
    found = []
    if ground.kind.ground.movement > 1:
        found.append(
            within(
                "footings",
                "half_inch",
                "Posts move no further at the ground than doubled bearing allows",
                ground.ground_m,
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
            head.head_m,
            givens.head_moves_m,
            "thickness",
            remedy="A stiffer post, closer posts, a lower table; going deeper helps little.",
            source=SPRINGS,
            given="footings.head_moves_m",
        ),
    )
