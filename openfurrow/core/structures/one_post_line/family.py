"""One post line as a family: the functions by which the plan asks any structure."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.resistance import bending_limit_n_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.all_members import Members
from openfurrow.core.structures.one_post_line.along import wind_along, with_wind_along
from openfurrow.core.structures.one_post_line.bent import strains
from openfurrow.core.structures.one_post_line.carry import reactions
from openfurrow.core.structures.one_post_line.members import (
    moment_at_strut_n_m,
    size_beam,
    size_strut,
    worst_beam,
)
from openfurrow.core.structures.purlins import size_purlin, worst_purlin
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground."""
    pack = site.rule_pack
    found = reactions(rows.section, posts.kinds, loads)
    dead = loads.dead_of_kg_per_m2[posts.size_of_line]
    purlin = worst_purlin(
        [
            size_purlin(rows, line, loads, one, section(givens.purlin_section), pack)
            for line, one in zip(posts.lines, dead.tolist(), strict=True)
        ]
    )
    beam = worst_beam(
        [
            size_beam(rows, busiest, loads, one, givens, section(givens.beam_section), pack)
            for busiest, one in _busiest(posts, dead)
        ]
    )
    strut = size_strut(
        rows.section, posts.supports.reveals_m, givens, section(givens.strut_section), beam, pack
    )
    across = found
    along = wind_along(pack, rows, posts, loads, (beam, purlin, strut))
    found = with_wind_along(across, along, rows, posts, loads)
    members = Members(
        beam,
        purlin,
        strut,
        along=along,
        sag_limit_m=purlin.sag_span_m / givens.deflection_divisor,
        post_limit_n_m=bending_limit_n_m(posts.post, pack),
        strains=strains(rows, posts, loads, (beam, strut), across),
        tallest_m=posts.supports.tallest_m,
        post_at_strut_n_m=moment_at_strut_n_m(across, givens.strut_foot_m),
    )
    return members, found


def _busiest(posts: Stand, dead: Floats) -> list[tuple[float, float]]:
    """The most that a beam carries of the row under each size of table, and that table's weight."""
    most = np.array([line.tributary_m.max() for line in posts.lines])
    return [
        (float(most[posts.size_of_line == size].max()), float(dead[size]))
        for size in range(len(posts.sizes))
    ]
