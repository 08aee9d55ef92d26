"""One post line as a family: the functions by which the plan asks any structure."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import section
from openfurrow.core.loads.along import SeenAlong
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import bending_limit_n_m, free_post_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.cantilevers.along import wind_along, with_wind_along
from openfurrow.core.structures.cantilevers.carry import reactions
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.members import Ply
from openfurrow.core.structures.one_post_line.all_members import Members
from openfurrow.core.structures.one_post_line.bent import strains
from openfurrow.core.structures.one_post_line.members import (
    Beam,
    Strut,
    moment_at_strut_n_m,
    size_beam,
    size_strut,
    worst_beam,
)
from openfurrow.core.structures.purlins import Purlin, size_purlin, worst_purlin
from openfurrow.core.structures.roles import Bent
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
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
            size_purlin(
                rows,
                line,
                loads,
                one,
                section(givens.purlin_section),
                pack,
                held=givens.modules_hold_purlins,
            )
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
    along = wind_along(pack, rows, posts, loads, seen_from_the_end(rows, posts, beam, purlin, strut))
    found = with_wind_along(across, along, rows, posts, loads)
    free_m = float(free_post_m(posts.supports.tallest_m))
    members = Members(
        beam,
        purlin,
        strut,
        post=Ply(posts.post, givens.post_top_m),
        along=along,
        sag_limit_m=purlin.sag_span_m / givens.deflection_divisor,
        post_limit_n_m=bending_limit_n_m(posts.post, pack, free_m),
        strains=strains(rows, posts, loads, (beam, strut), across),
        tallest_m=posts.supports.tallest_m,
        post_at_strut_n_m=moment_at_strut_n_m(across, givens.strut_foot_m),
    )
    return members, found


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """One post at every place."""
    bent = Bent(post=section(givens.post_section), top_m=givens.post_top_m)
    return stand_on(site, rows, givens, purlin_end_m, bent)


def seen_from_the_end(
    rows: RowsPlan, posts: Stand, beam: Beam, purlin: Purlin, strut: Strut
) -> SeenAlong:
    """What wind along the row meets of every table over its posts."""
    table, of = rows.section, posts.supports.places.of_table
    edge_m = table.stack_m - purlin.section.depth_m - beam.section.depth_m / 2
    beams = np.bincount(of, minlength=rows.tables.count) * beam.section.depth_m * beam.length_m
    struts = np.bincount(of, strut.section.depth_m * strut.lengths_m, rows.tables.count)
    return SeenAlong(
        rubbed_m2=2 * table.chord_m * rows.tables.lengths_m,
        flat_m2=np.asarray(edge_m * table.chord_m + beams),
        round_m2=np.asarray(struts, dtype=float),
    )


def _busiest(posts: Stand, dead: Floats) -> list[tuple[float, float]]:
    """The most that a beam carries of the row under each size of table, and that table's weight."""
    most = np.array([line.tributary_m.max() for line in posts.lines])
    return [
        (float(most[posts.size_of_line == size].max()), float(dead[size]))
        for size in range(len(posts.sizes))
    ]
