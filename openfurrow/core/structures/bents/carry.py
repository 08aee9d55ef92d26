"""What posts and members of two post lines feel: every kind of bent, every case, every bound."""

import itertools
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.frames import FrameForces, PlaneFrame, seen_above, solved
from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.structures.bents.shape import (
    BACK,
    BACK_FOOT,
    FEET,
    FRONT_FOOT,
    FRONT_LOW,
    UNITS,
    BentShape,
    Foot,
    frames_of,
    unit_loads,
)
from openfurrow.core.structures.strain import Strain, strain_of
from openfurrow.core.structures.supports import Kinds, Reactions

Floats = NDArray[np.float64]

# Posts that differ by less are as high as each other.
HAIR_M = 1e-6


@dataclass(frozen=True, kw_only=True)
class Bents:
    """The bents of every kind, solved under unit loads: (kinds, bounds, units, ...).

    A bound is a front and a back post at their greatest or least height, with ``feet`` in one way;
    ``bounds`` says which in words. Forces at the feet are those at the ground, wherever they are held.
    """

    kinds: Kinds
    feet: tuple[Foot, ...]
    frames: PlaneFrame
    forces: FrameForces

    @property
    def bounds(self) -> tuple[str, ...]:
        """What the names of cases end in."""
        return tuple(FEET[foot] for foot in self.feet)

    def each(self, values: Floats) -> Floats:
        """Values of all frames, kind by kind and bound by bound."""
        return np.asarray(values.reshape(self.kinds.count, len(self.feet), *values.shape[1:]))


def bents_of(shape: BentShape, kinds: Kinds, ways: tuple[Foot, ...] = tuple(FEET)) -> Bents:
    """Solve the bents of every kind, with feet in each of ``ways``.

    Without a brace a bent stands only where the ground holds feet. Stiff posts in stiff ground and in
    ground that gives share otherwise: both ends are looked at.
    """
    heights = [
        np.column_stack((front, back))
        for front, back in itertools.product(
            *(
                # On even ground a kind has one height: once is enough.
                (kinds.highs_m[:, role], kinds.lows_m[:, role])
                if float((kinds.highs_m - kinds.lows_m)[:, role].max()) > HAIR_M
                else (kinds.highs_m[:, role],)
                for role in (0, 1)
            )
        )
    ]
    ways = tuple(way for way in ways if way != "turns" or shape.brace is not None)
    reveals = np.stack([height for height in heights for _ in ways], axis=1).reshape(-1, 2)
    feet = ways * len(heights)
    every = np.tile(np.array(feet), kinds.count)
    below = np.where(every == "held below", constant("common", "fixity_m").value, 0.0)
    frames = frames_of(shape, reveals, every != "turns", below)
    posts = np.array([FRONT_FOOT, BACK_FOOT]), np.array([FRONT_LOW, BACK])
    seen, forces = seen_above(frames, solved(frames, unit_loads(shape)), posts, below)
    return Bents(kinds=kinds, feet=feet, frames=seen, forces=forces)


def factors(loads: TableLoads, combined: Combinations, dead_kg_per_m2: Floats) -> Floats:
    """How much of each of `UNITS` acts, (kinds, combinations x wind cases, units).

    ``dead_kg_per_m2`` is the weight of the table over each kind.
    """
    wind, cases = loads.wind, len(loads.wind.front_pa)
    per_case = np.stack(
        (
            (combined.wind[:, None] * wind.front_pa).ravel(),
            (combined.wind[:, None] * wind.back_pa).ravel(),
            np.repeat(combined.dead, cases) * STANDARD_GRAVITY_M_S2,
            np.repeat(combined.snow, cases) * loads.snow_pa,
            np.repeat(combined.snow_back, cases) * loads.snow_pa,
        ),
        axis=-1,
    )
    found = np.repeat(per_case[None], len(dead_kg_per_m2), axis=0)
    found[:, :, 2] *= dead_kg_per_m2[:, None]
    return np.asarray(found)


def under_loads(
    bents: Bents, acting: Floats, values: Floats, row_m: Floats | float | None = None
) -> Floats:
    """Values of unit loads under all cases, (kinds, bounds, cases, ...), for each kind's share.

    Or for ``row_m`` of the row instead.
    """
    by_unit = bents.each(values)
    shape = by_unit.shape
    flat = acting[:, None] @ by_unit.reshape(*shape[:3], -1)
    found = flat.reshape(*shape[:2], acting.shape[1], *shape[3:])
    share = bents.kinds.tributary_m if row_m is None else np.full(bents.kinds.count, row_m)
    return np.asarray(found * share.reshape(-1, *([1] * (found.ndim - 1))))


def weight_alone(loads: TableLoads, size_of: NDArray[np.int64]) -> Floats:
    """The `factors` of a table's own weight and nothing else, (kinds, 1, units)."""
    found = np.zeros((len(size_of), 1, len(UNITS)))
    found[:, 0, UNITS.index("weight")] = loads.dead_of_kg_per_m2[size_of] * STANDARD_GRAVITY_M_S2
    return found


def reactions(bents: Bents, acting: Floats, loads: TableLoads) -> Reactions:
    """What each kind of post asks of the ground; ``acting`` are the `factors` of strength."""
    kinds, every = bents.kinds, np.arange(bents.kinds.count)
    feet = bents.forces.reactions[:, :, [FRONT_FOOT, BACK_FOOT]]
    both = under_loads(bents, acting, feet)
    # What holds a foot is what it asks for, turned about: (kinds, bounds, cases, x z turning).
    own = both[every, :, :, kinds.role]
    names = loads.case_names()

    def flat(values: Floats) -> Floats:
        return np.asarray(values.reshape(kinds.count, -1))

    weight = under_loads(bents, weight_alone(loads, kinds.size_of), feet)[every, :, 0, kinds.role, 1]
    nothing = flat(np.zeros_like(own[..., 0]))
    return Reactions(
        names=tuple(f"{name}{bound}" for bound in bents.bounds for name in names),
        bounds=len(bents.bounds),
        down_n=flat(own[..., 1]),
        across_n=flat(-own[..., 0]),
        moment_n_m=flat(own[..., 2]),
        along_n=nothing,
        along_moment_n_m=nothing,
        twist_n_m=nothing,
        # Of the bounds the one under which the post is lightest, with the least share of its kind.
        dead_n=np.maximum(weight.min(axis=1) * kinds.least_tributary_m / kinds.tributary_m, 0.0),
    )


def strains(bents: Bents, acting: Floats, loads: TableLoads) -> tuple[Strain, ...]:
    """The bent that is pressed hardest of all, and the one that is lifted hardest if any is."""
    feet = bents.forces.reactions[:, :, [FRONT_FOOT, BACK_FOOT], 1]
    # Whatever feet do, all of them bear the same together: of those that are alike the first is drawn.
    up = np.round(under_loads(bents, acting, feet).sum(axis=-1), 3)
    names = loads.case_names()
    found = [_strain(bents, acting, names, "Pressed hardest", int(up.argmax()))]
    if float(up.min()) < 0:
        found.append(_strain(bents, acting, names, "Lifted hardest", int(up.argmin())))
    return tuple(found)


def _strain(bents: Bents, acting: Floats, names: tuple[str, ...], words: str, at: int) -> Strain:
    """One bent in one case: ``at`` counts kinds, bounds and cases."""
    bounds = len(bents.feet)
    frame, case = divmod(at, acting.shape[1])
    kind, bound = divmod(frame, bounds)
    share = acting[kind, case] * float(bents.kinds.tributary_m[kind])

    def summed(values: Floats) -> Floats:
        return np.tensordot(share, values[frame], axes=1)[None, None]

    parts = {one.name: summed(getattr(bents.forces, one.name)) for one in fields(FrameForces)}
    only = replace(bents.frames, joints_m=bents.frames.joints_m[frame : frame + 1])
    said = f"{words}: {names[case]}{bents.bounds[bound]}"
    return strain_of(said, only, FrameForces(**parts), (0, 0), (FRONT_FOOT, BACK_FOOT))
