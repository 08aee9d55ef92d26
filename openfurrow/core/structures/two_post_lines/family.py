"""Two post lines as a family: the functions by which the plan asks any structure."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.bents.along import wind_along
from openfurrow.core.structures.bents.both_ways import with_wind_along
from openfurrow.core.structures.bents.carry import (
    bents_of,
    factors,
    reactions,
    strains,
)
from openfurrow.core.structures.bents.shape import FEET, BentShape, Foot
from openfurrow.core.structures.bents.sized import head_n, size_brace, size_posts
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.purlins import (
    purlin_places_m,
    purlin_shares_m,
    size_purlin,
    worst_purlin,
)
from openfurrow.core.structures.roles import Bent, two_lines
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.members import (
    Members,
    size_beam,
)

Floats = NDArray[np.float64]


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Bents of a front and a back post, as far apart as was said."""
    roles = two_lines(givens.lines_apart_m, rows.section.tilt_deg)
    bent = Bent(post=section(givens.post_section), top_m=givens.post_top_m, roles=roles)
    return stand_on(site, rows, givens, purlin_end_m, bent)


def shape_of(rows: RowsPlan, posts: Stand, givens: StructureGivens) -> BentShape:
    """What all bents share."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    places = purlin_places_m(rows)
    return BentShape(
        section=rows.section,
        roles=posts.roles,
        places_m=places,
        shares_m=purlin_shares_m(rows),
        post=posts.post,
        beam=beam,
        brace=section(givens.brace_section) if givens.is_braced else None,
        brace_foot_m=givens.brace_foot_m,
        edge_m=rows.section.stack_m - purlin.depth_m - beam.depth_m / 2,
        beam_m=float(np.ptp(places)) + 2 * constant("common", "beam_end_m").value,
    )


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground."""
    return carry_bents(site, rows, posts, loads, givens, tuple(FEET))


def carry_bents(
    site: SitePlan,
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    givens: StructureGivens,
    ways: tuple[Foot, ...],
) -> tuple[Members, Reactions]:
    """The same with feet in each of ``ways``."""
    pack, shape = site.rule_pack, shape_of(rows, posts, givens)
    bents = bents_of(shape, posts.kinds, ways)
    dead = loads.dead_of_kg_per_m2[posts.kinds.size_of]
    acting = factors(loads, loads.strength, dead)
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
            for line, one in zip(
                posts.lines, loads.dead_of_kg_per_m2[posts.size_of_line].tolist(), strict=True
            )
        ]
    )
    first = posts.supports.places.of_table[posts.of_role(0)]
    beams = np.bincount(first, minlength=rows.tables.count)
    along = wind_along(pack, rows, posts, loads, (shape, beams), givens.braced_bays)
    fronts = posts.supports.reveals_m[posts.of_role(0)]
    brace = size_brace(shape, bents, acting, pack, fronts)
    members = Members(
        beam=size_beam(shape, bents, acting, pack),
        purlin=purlin,
        posts=size_posts(shape, bents, acting, pack, sways=along.cable is None),
        brace=brace,
        along=along,
        sag_limit_m=purlin.sag_span_m / givens.deflection_divisor,
        bents=posts.bents,
        head_n=head_n(bents, acting, braced=brace is not None),
        post_top_m=givens.post_top_m,
        strains=strains(bents, acting, loads),
        brace_at_posts_m=None if brace is None else brace.lengths_m[posts.bent_of],
    )
    across = reactions(bents, acting, loads)
    return members, with_wind_along(across, bents, along, posts, loads)
