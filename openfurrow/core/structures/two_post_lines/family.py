"""Two post lines as a family: the functions by which the plan asks any structure."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.purlins import (
    purlin_places_m,
    purlin_shares_m,
    size_purlin,
    worst_purlin,
)
from openfurrow.core.structures.roles import two_lines
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.along import Along, wind_along
from openfurrow.core.structures.two_post_lines.bent import BACK_FOOT, FRONT_FOOT, BentShape
from openfurrow.core.structures.two_post_lines.carry import (
    Bents,
    bents_of,
    factors,
    reactions,
    strains,
    under_loads,
)
from openfurrow.core.structures.two_post_lines.members import (
    Members,
    size_beam,
    size_brace,
    size_posts,
)

Floats = NDArray[np.float64]


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Bents of a front and a back post, as far apart as was said."""
    roles = two_lines(givens.lines_apart_m, rows.section.tilt_deg)
    return stand_on(site, rows, givens, purlin_end_m, roles)


def shape_of(rows: RowsPlan, posts: Stand, givens: StructureGivens) -> BentShape:
    """What all bents share."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    return BentShape(
        section=rows.section,
        roles=posts.roles,
        places_m=purlin_places_m(rows.modules_high, rows.module_up_m, rows.gap_up_m),
        shares_m=purlin_shares_m(rows),
        post=posts.post,
        beam=beam,
        brace=None if givens.bent_brace == "none" else section(givens.brace_section),
        brace_foot_m=givens.brace_foot_m,
        edge_m=rows.section.stack_m - purlin.depth_m - beam.depth_m / 2,
    )


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground."""
    pack, shape = site.rule_pack, shape_of(rows, posts, givens)
    bents = bents_of(shape, posts.kinds)
    dead = loads.dead_of_kg_per_m2[posts.kinds.size_of]
    acting = factors(loads, loads.strength, dead)
    purlin = worst_purlin(
        [
            size_purlin(rows, line, loads, one, section(givens.purlin_section), pack)
            for line, one in zip(
                posts.lines, loads.dead_of_kg_per_m2[posts.size_of_line].tolist(), strict=True
            )
        ]
    )
    along = wind_along(pack, rows, posts, loads, shape)
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
        strains=strains(bents, acting, loads),
        brace_at_posts_m=None if brace is None else brace.lengths_m[posts.bent_of],
    )
    across = reactions(bents, acting, loads)
    return members, _with_wind_along(across, bents, along, posts, loads)


def _with_wind_along(
    found: Reactions, bents: Bents, along: Along, posts: Stand, loads: TableLoads
) -> Reactions:
    """The reactions with two cases more for each combination that wind is part of.

    Each kind is given the most that any of its posts gets, pressed and lifted by the cables; nothing
    blows across meanwhile.
    """
    kinds, combined = bents.kinds, loads.strength
    each = np.stack((along.post_n, along.post_n_m, along.post_down_n))
    most = np.zeros((*each.shape[:2], kinds.count))
    for row in np.ndindex(most.shape[:2]):
        np.maximum.at(most[row], posts.supports.kind, each[row])
    windy = np.flatnonzero(combined.wind)
    still = factors(loads, combined, loads.dead_of_kg_per_m2[kinds.size_of])
    # One wind case of each combination is enough, with its wind taken off.
    still = still[:, windy * len(loads.wind.names)] * np.array([0.0, 0.0, 1.0, 1.0, 1.0])
    feet = under_loads(bents, still, bents.forces.reactions[:, :, [FRONT_FOOT, BACK_FOOT]])
    own = feet[np.arange(kinds.count), :, :, kinds.role]
    factor = combined.wind[windy]
    # Feet that hold across the row hold along it too.
    push, turn, press = (
        [np.tile(factor * one[int(not hold)][:, None], 2) for hold in bents.hold] for one in most
    )
    lifted = np.concatenate((-np.ones(windy.size), np.ones(windy.size)))
    more = [
        {
            "down_n": np.tile(own[:, bound, :, 1], 2) + lifted * press[bound],
            "across_n": np.tile(-own[:, bound, :, 0], 2),
            "moment_n_m": np.tile(own[:, bound, :, 2], 2),
            "along_n": push[bound],
            "along_moment_n_m": turn[bound],
        }
        for bound in range(found.bounds)
    ]
    names = tuple(
        f"{combined.names[index]}, along the row, {way}"
        for way in ("lifted", "pressed")
        for index in windy.tolist()
    )
    return found.with_cases(names, more)
