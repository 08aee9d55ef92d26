"""A frame that is left half glazed: the wind that it stands until the other half is on."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least
from openfurrow.core.codes import constant
from openfurrow.core.loads.gusts import halves_alone
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.structures.members import Members
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import Answer, Input, Source, Working

Floats = NDArray[np.float64]

BUILDING = Source("the same figures with one half bare, half of the modules' weight off", "physics")


@dataclass(frozen=True, kw_only=True)
class HalfGlazed:
    """``wind_m_s`` is what it stands; the shares are of what wind in design asks of what there is.

    ``ground`` is what it asks of the ground over what the finished table does, ``members`` the most
    that any member is used.
    """

    wind_m_s: float
    design_m_s: float
    ground: float
    members: float


def half_loads(loads: TableLoads, dead_of_kg_per_m2: Floats) -> TableLoads:
    """Glass on one half of the chord alone, under every wind, and the weight without the rest."""
    return replace(loads, wind=halves_alone(loads.wind), dead_of_kg_per_m2=dead_of_kg_per_m2)


def half_glazed(
    design_m_s: float,
    finished: Reactions,
    at: Sequence[tuple[Members, Reactions]],
    lightest: float,
) -> HalfGlazed:
    """Footings are held to what they were sized for, members to what they bear.

    ``at`` are members and reactions of each position, half glazed. Pressure goes with the square of
    the wind, and ``lightest`` of the weight holds it down whatever blows.
    """
    ground = max(_over(half, finished, lightest) for _, half in at)
    members = max((one.share for found, _ in at for one in found.used), default=0.0)
    worst = max(1.0, ground, members)
    return HalfGlazed(
        wind_m_s=design_m_s / math.sqrt(worst), design_m_s=design_m_s, ground=ground, members=members
    )


def _over(half: Reactions, finished: Reactions, lightest: float) -> float:
    """The most that wind on the half asks of any kind over what the whole does: sideways, and lift.

    Push and moment act together: a case of the half is covered by one case of the finished table that
    has as much of both, not by the push of one and the moment of another.
    """
    weight = lightest * half.dead_n
    most, sized = (np.maximum(-one.down_n, 0.0).max(axis=1) for one in (half, finished))
    # Less than a newton is nothing.
    lifted = np.where(most > 1.0, (most + weight) / np.maximum(sized + weight, 1.0), 0.0)
    sideways = max(_sideways(half, finished, kind) for kind in range(len(most)))
    return max(float(lifted.max()), sideways)


def _sideways(half: Reactions, finished: Reactions, kind: int) -> float:
    """Of the half's cases the one that the best of the finished table's covers least."""
    asked, sized = (
        np.stack((np.abs(one.push_n[kind]), np.abs(one.tipping_n_m[kind]))) for one in (half, finished)
    )
    over = (asked[:, :, None] / np.maximum(sized, 1.0)[:, None, :]).max(axis=0)
    return float(over.min(axis=1).max())


def half_glazed_answer(half: HalfGlazed) -> Answer:
    """The wind that it stands while it is being built."""
    return Answer(
        "structure",
        "half_glazed",
        "Half glazed it stands a gust of",
        Working(
            "V_h",
            "V / sqrt(max(1, a, b))",
            (
                Input("V", "design wind", half.design_m_s, "speed"),
                Input("a", "asks of the ground, over the finished table", half.ground, "ratio"),
                Input("b", "most that a member is used then", half.members, "ratio"),
            ),
            half.wind_m_s,
            "speed",
            BUILDING,
            "Modules on the lower or on the upper half of the slope alone. A frame without glass "
            "catches less; one without its braces, or with bolts only snug, is not looked at.",
        ),
    )


def half_glazed_check(half: HalfGlazed) -> Check:
    """Whether it may be left so overnight in the wind that the weeks of building are held to."""
    return at_least(
        "structure",
        "half_glazed",
        "It may be left half glazed while it is built",
        half.wind_m_s,
        constant("common", "building_wind").value * half.design_m_s,
        "speed",
        remedy="Both halves of a table on the same day, column by column from one end; or with a "
        "forecast below that gust until the other half is on.",
        source=constant("common", "building_wind").source,
        given="structure.family",
        otherwise="look",
    )
