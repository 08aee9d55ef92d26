"""Members of one post line: inclined beam, purlin and strut under every load case at once."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import continuous_beam
from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section
from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import bending_limits, bends, web_shear_limit_n
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.purlins import (
    Bending,
    normal_pressure_pa,
    purlin_places_m,
    purlin_shares_m,
)
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]
COUPLE_ARM_M = 0.01


def slope_couple_n_m(
    table: TableSection,
    loads: TableLoads,
    dead_kg_per_m2: float,
    combined: Combinations,
    tributary_m: float,
) -> Floats:
    """What weight and snow turn the busiest beam by, front down: combinations × wind cases, flat.

    They act at the glass, which lies over the beam by the depth of the stack: their part along the
    slope, W sin(tilt), has that arm about the beam. `carry` counts the same about the post.
    """
    tilt = math.radians(table.tilt_deg)
    area = table.chord_m * tributary_m
    weight = area * (
        combined.dead * dead_kg_per_m2 * STANDARD_GRAVITY_M_S2
        + combined.snow_whole * loads.snow_pa * math.cos(tilt)
    )
    couple = weight * math.sin(tilt) * table.stack_m
    return np.repeat(couple, len(loads.wind.front_pa))


@dataclass(frozen=True)
class Beam:
    """The inclined beam on one post, from lower to upper purlin, held by post bolt and strut.

    ``start_m`` and ``places_m`` are measured from the lower edge of the glass, ``bolt_m`` and
    ``strut_m`` from the beam's own start; ``end_m`` is the beam past the outer purlins. ``held_n`` are
    what strut and bolt hold square to the beam, and what of weight and snow runs down it, case by case.
    ``shear_n`` is the most that cuts across it, against ``shear_limit_n``.
    """

    section: Section
    start_m: float
    end_m: float
    length_m: float
    places_m: Floats
    bolt_m: float
    strut_m: float
    bending: Bending
    strut_pull_n: float
    held_n: Floats
    shear_n: float
    shear_limit_n: float

    @property
    def used(self) -> float:
        """Bent and cut across at once, as at its bolt it is: AISI S100-16 H2."""
        return math.hypot(self.bending.used, self.shear_n / self.shear_limit_n)

    def pivot_n(self, cotangent: float) -> float:
        """What the bolt on the post holds at worst, the strut meeting the beam at this cotangent."""
        strut, bolt, slope = self.held_n
        along = np.abs(slope) + np.abs(strut) * cotangent
        return float(np.hypot(bolt, along).max())


def size_beam(
    rows: RowsPlan,
    busiest_m: float,
    loads: TableLoads,
    dead_kg_per_m2: float,
    givens: StructureGivens,
    beam: Section,
    pack: str,
) -> Beam:
    """Beam loads come in at the purlins, each of which carries its share of both halves.

    ``busiest_m`` is how much of the row the busiest beam carries.
    """
    table = rows.section
    places_m = purlin_places_m(rows)
    end = constant("common", "beam_end_m").value
    start = float(places_m[0]) - end
    length = float(places_m[-1] + end - start)
    local = places_m - start
    bolt, strut = table.chord_m / 2 - start, table.chord_m / 2 - givens.strut_reach_m - start
    lower, upper = purlin_shares_m(rows) * busiest_m
    supports = np.array([max(strut, 0.0), bolt])
    stiffness = beam.elastic_pa * beam.inertia_m4
    # A turn of 1 N m shared by the crossings, as pairs of forces either side of each.
    turn = np.full(local.size, 0.5 / COUPLE_ARM_M / local.size)
    nothing = np.zeros(local.size)
    places = np.concatenate((local, local - COUPLE_ARM_M, local + COUPLE_ARM_M))
    # All are joints in each unit case, so that they are sampled at the same stations.
    low, high, turned = (
        continuous_beam(length, supports, 0.0, stiffness, places, np.concatenate(forces))
        for forces in (
            (lower, nothing, nothing),
            (upper, nothing, nothing),
            (nothing, turn, -turn),
        )
    )
    front, back = normal_pressure_pa(table, loads, dead_kg_per_m2, loads.strength)
    couple = slope_couple_n_m(table, loads, dead_kg_per_m2, loads.strength, busiest_m)
    moments = (
        np.outer(front, low.moments_n_m)
        + np.outer(back, high.moments_n_m)
        + np.outer(couple, turned.moments_n_m)
    )
    reactions = (
        np.outer(front, low.reactions_n)
        + np.outer(back, high.reactions_n)
        + np.outer(couple, turned.reactions_n)
    )
    pressed = np.outer(front, lower) + np.outer(back, upper)
    largest = np.abs(moments).max(axis=1)
    pressing = front + back >= 0
    apart = float(np.diff(places_m).max())
    held, free = bending_limits(beam, pack, apart)
    return Beam(
        section=beam,
        start_m=start,
        end_m=end,
        length_m=length,
        places_m=places_m,
        bolt_m=bolt,
        strut_m=float(supports[0]),
        bending=Bending(
            float(largest[pressing].max(initial=0.0)),
            float(largest[~pressing].max(initial=0.0)),
            held,
            free,
            bends(beam, pack, apart).words,
        ),
        strut_pull_n=float(np.abs(reactions[:, 0]).max()),
        held_n=np.stack((reactions[:, 0], reactions[:, 1], couple / table.stack_m)),
        shear_n=_shear_n(np.concatenate((local, supports)), np.hstack((-pressed, reactions))),
        shear_limit_n=web_shear_limit_n(beam, pack),
    )


def _shear_n(places_m: Floats, forces_n: Floats) -> float:
    """The most that cuts across a beam between two of its forces, ``forces_n`` (cases, places)."""
    along = np.argsort(places_m, kind="stable")
    return float(np.abs(np.cumsum(forces_n[:, along], axis=1)).max())


def worst_beam(beams: list[Beam]) -> Beam:
    """Of the busiest beams of all tables the one that is used most, with the worst push of any."""
    strongest = max(beams, key=lambda one: one.used)
    return replace(
        strongest,
        strut_pull_n=max(one.strut_pull_n for one in beams),
        held_n=np.hstack([one.held_n for one in beams]),
    )


@dataclass(frozen=True)
class Strut:
    """The struts from the posts' feet to the beams; ``lengths_m`` has one entry a post, bolt to bolt.

    ``foot_m`` is the lower bolt above the ground. ``angle_to_beam_deg``, ``force_n`` and ``limit_n``
    are those of the strut that uses most of its strength; ``flattest`` is the least sine at which any
    meets the beam, and ``most_n`` the most that any is pushed with. Where tables are set to several
    tilts the lengths are the longest; ``travel_m`` is how much shorter one must become that is
    ``travels_from_m`` at its longest. One that is ``adjustable`` is bought as it is.
    """

    section: Section
    foot_m: float
    lengths_m: Floats
    angle_to_beam_deg: float
    force_n: float
    limit_n: float
    flattest: float
    most_n: float
    travel_m: float = 0.0
    travels_from_m: float = 0.0
    adjustable: bool = False

    @property
    def length_m(self) -> float:
        """The longest."""
        return float(self.lengths_m.max())


def struts_m(reach_m: float, drops_m: Floats, tilts_deg: Floats) -> Floats:
    """Bolt to bolt, (tilts, posts): the foot so far under the post's bolt, the head up the beam."""
    tilt = np.radians(tilts_deg)[:, None]
    return np.hypot(reach_m * np.cos(tilt), drops_m - reach_m * np.sin(tilt))


def tilts_on_struts_deg(reach_m: float, drops_m: Floats, lengths_m: Floats) -> Floats:
    """The tilt that a strut of each length holds, by the law of cosines; NaN where it holds none."""
    both = 2 * drops_m * reach_m
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.degrees(np.arcsin((drops_m**2 + reach_m**2 - lengths_m**2) / both))


def size_strut(
    table: TableSection,
    reveals_m: Floats,
    givens: StructureGivens,
    strut: Section,
    beam: Beam,
    pack: str,
) -> Strut:
    """Lengths from the figure at every post's own reveal; force from the beam's reaction.

    Each stands as high as its post: the longest buckles first, the flattest is pushed hardest.
    """
    tilt = math.radians(table.tilt_deg)
    reach = beam.bolt_m - beam.strut_m
    # From the foot on the post, below the bolt, to the head on the beam, before it and below it.
    drop = np.asarray(reveals_m, dtype=float) - givens.strut_foot_m
    (lengths,) = struts_m(reach, drop, np.array([table.tilt_deg]))
    # Twice the area of foot, head and bolt, over reach and length, is the sine at the head.
    # One that lies flat is pushed without end: it is stopped, and until then shown with a last angle.
    sine = np.maximum(np.abs(drop) * math.cos(tilt) / np.maximum(lengths, 1e-9), 1e-3)
    forces = beam.strut_pull_n / sine
    limits = column_limit_n(strut, lengths, pack)
    worst = int(np.argmax(forces / limits))
    angle = math.degrees(math.asin(min(1.0, float(sine[worst]))))
    return Strut(
        section=strut,
        foot_m=givens.strut_foot_m,
        lengths_m=lengths,
        angle_to_beam_deg=angle,
        force_n=float(forces[worst]),
        limit_n=float(limits[worst]),
        flattest=float(sine.min()),
        most_n=float(forces.max()),
        adjustable=givens.strut_travel_m > 0,
    )


def moment_at_strut_n_m(found: Reactions, strut_foot_m: float) -> float:
    """Bending in the post where the strut's foot pushes on it, all load cases.

    Between ground and strut the moment changes by the push alone: M(z) = M_ground - H z.
    """
    return float(np.abs(found.moment_n_m - found.across_n * strut_foot_m).max())
