"""Earthquakes: the push that one asks for, against what wind asks for anyway."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from openfurrow.core.checks import Check, at_most
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import Answer, Input, Source, Working

QUAKE = Source(
    "ASCE/SEI 7-16, 15.4 and Table 15.4-2, R = 1.25, 0.7 E; EN 1998-1, 3.2.2.5, q = 1.5", "from memory"
)


@dataclass(frozen=True, kw_only=True)
class Quake:
    """On the heaviest table: what it weighs, what of that an earthquake pushes with, what wind does.

    All at the level of strength; wind across and along the row, the less of both.
    """

    acceleration: float
    weight_n: float
    coefficient: float
    push_n: float
    wind_n: float


def quake_of(
    pack: RulePack,
    acceleration: float,
    rows: RowsPlan,
    posts: Stand,
    loads_at: Sequence[TableLoads],
    along_n: float,
) -> Quake:
    """The plateau of the spectrum, whatever the table's own period, on all of its mass.

    ``acceleration`` is S_DS, or a_g S, as a share of gravity; ``along_n`` wind along the row on one
    table. Posts count to their heads, and a share of lasting snow.
    """
    coefficient = acceleration * constant(pack, "quake_push").value
    loads, section = loads_at[0], rows.section
    glass = section.chord_m * rows.tables.lengths_m
    table_kg = float((loads.dead_of_kg_per_m2[posts.size_of_line[posts.line_of]] * glass).max())
    of_table = posts.supports.places.of_table
    # Weights on the ground are no part of it: whether they slide is asked of themselves.
    kg_per_m = 0.0 if posts.bent.post is None else posts.post.mass_kg_per_m
    posts_kg = np.bincount(of_table, kg_per_m * posts.supports.reveals_m).max()
    level_m2 = section.level_depth_m * float(rows.tables.lengths_m.max())
    lasting = constant(pack, "quake_snow_pa").value
    share = constant(pack, "quake_snow").value if loads.snow_pa > lasting else 0.0
    weight = (table_kg + float(posts_kg)) * STANDARD_GRAVITY_M_S2 + share * loads.snow_pa * level_m2
    across = [
        np.abs(one.wind.front_pa + one.wind.back_pa).max()
        * math.sin(math.radians(at.tilt_deg))
        * float(one.strength.wind.max())
        for one, at in zip(loads_at, rows.positions, strict=True)
    ]
    most = float(max(across)) * section.chord_m / 2 * float(rows.tables.lengths_m.max())
    return Quake(
        acceleration=acceleration,
        weight_n=weight,
        coefficient=coefficient,
        push_n=coefficient * weight,
        wind_n=min(most, along_n * float(loads.strength.wind.max())),
    )


def quake_answer(quake: Quake) -> Answer:
    """What an earthquake pushes one table with."""
    return Answer(
        "structure",
        "earthquake",
        "An earthquake pushes one table with",
        Working(
            "E",
            "C_e * W",
            (
                Input("C_e", "share of its weight", quake.coefficient, "factor"),
                Input(
                    "W",
                    "the heaviest table, posts, lasting snow",
                    quake.weight_n,
                    "force",
                ),
                Input("a", "design acceleration, a share of gravity", quake.acceleration, "factor"),
                Input("F_w", "wind, across or along the row, whichever is less", quake.wind_n, "force"),
            ),
            quake.push_n,
            "force",
            QUAKE,
            "The plateau of the spectrum whatever the table's own period; no credit for steel that "
            "yields.",
        ),
    )


def quake_check(quake: Quake) -> Check:
    """Whether wind covers it, so that nothing else has to be sized for it."""
    return at_most(
        "structure",
        "earthquake",
        "Wind asks for more than an earthquake does",
        quake.push_n,
        quake.wind_n,
        "force",
        remedy="Here earthquakes govern: members and footings are sized for wind alone, so an engineer "
        "designs the braces, the anchors and what slides.",
        source=QUAKE,
        given="site.quake_acceleration",
        otherwise="stop",
    )
