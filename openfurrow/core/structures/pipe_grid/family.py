"""Pipe grid as a family: the functions by which the plan asks any structure."""

from dataclasses import replace

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.bents.along import wind_along
from openfurrow.core.structures.bents.both_ways import with_wind_along
from openfurrow.core.structures.bents.carry import bents_of, factors, reactions, strains
from openfurrow.core.structures.bents.shape import BentShape
from openfurrow.core.structures.bents.sized import head_n, size_brace, size_posts
from openfurrow.core.structures.edge_gusts import Member, gust_on
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.layout import PostLine, bays_of, grid_line
from openfurrow.core.structures.pipe_grid.members import (
    Members,
    most_n,
    on_pipes_n,
    size_pipe,
    size_rail,
)
from openfurrow.core.structures.purlins import worst_purlin
from openfurrow.core.structures.rails import rail_m, rails_of, rails_of_tables, saddled
from openfurrow.core.structures.roles import two_lines
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions

# A rail carries its modules along all of its length: in so many places of each half of the chord.
PLACES = 8


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Pairs of posts at the joints of columns: four for the first, two more for each that follows."""

    def spaced(columns: int, _: float) -> PostLine:
        return grid_line(rows, columns, purlin_end_m, bays_of(rows, columns, givens.span_limit_m))

    roles = two_lines(givens.lines_apart_m, rows.section.tilt_deg)
    return stand_on(
        site, rows, givens, purlin_end_m, saddled(givens, section(givens.post_section), roles, spaced)
    )


def shape_of(rows: RowsPlan, posts: Stand, givens: StructureGivens) -> BentShape:
    """What all pairs of posts share: the rails between them bend as one beam."""
    rail, pipe = section(givens.rail_section), section(givens.pipe_section)
    table, many = rows.section, max(1, round(rails_of(posts, 0) / (posts.line.count - 1)))
    half = table.chord_m / 2 / PLACES
    places = np.asarray((np.arange(2 * PLACES) + 0.5) * half, dtype=float)
    shares = np.zeros((2, 2 * PLACES))
    shares[0, :PLACES] = shares[1, PLACES:] = half
    return BentShape(
        section=table,
        roles=posts.roles,
        places_m=places,
        shares_m=shares,
        post=posts.post,
        beam=replace(rail, area_m2=many * rail.area_m2, inertia_m4=many * rail.inertia_m4),
        brace=section(givens.brace_section) if givens.is_braced else None,
        brace_foot_m=givens.brace_foot_m,
        edge_m=table.stack_m - rail.depth_m - pipe.depth_m / 2,
        beam_m=rail_m(rows),
        # The post ends under the pipe, and the bolt stands off its end.
        brace_under_m=pipe.depth_m / 2 + constant("common", "bolt_edge_m").value,
    )


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground."""
    pack, shape = site.rule_pack, shape_of(rows, posts, givens)
    bents = bents_of(shape, posts.kinds)
    dead = loads.dead_of_kg_per_m2[posts.kinds.size_of]
    acting = factors(loads, loads.strength, dead)
    strong = most_n(on_pipes_n(shape, bents, acting))
    in_use = most_n(on_pipes_n(shape, bents, factors(loads, loads.service, dead)))
    half_m = rows.section.chord_m / 2
    weighs = loads.dead_of_kg_per_m2[posts.size_of_line].tolist()
    pipe = worst_purlin(
        [
            size_pipe(
                line,
                section(givens.pipe_section),
                (strong, in_use),
                gust_on(
                    pack, rows, loads, one, Member(line.purlin_m, line.along_m, half_m, along=True)
                ),
                pack,
            )
            for line, one in zip(posts.lines, weighs, strict=True)
        ]
    )
    of_table = rails_of_tables(posts)
    along = wind_along(pack, rows, posts, loads, (shape, of_table), 0)
    brace = size_brace(shape, bents, acting, pack, posts.supports.reveals_m[posts.of_role(0)])
    widest = max(line.rail_m for line in posts.lines)
    members = Members(
        beam=size_rail(
            rows, shape, section(givens.rail_section), (bents, acting, loads), (widest, pack)
        ),
        purlin=pipe,
        posts=size_posts(shape, bents, acting, pack, sways=True),
        brace=brace,
        along=along,
        sag_limit_m=pipe.sag_span_m / givens.deflection_divisor,
        bents=posts.bents,
        head_n=head_n(bents, acting, braced=brace is not None),
        rails=int(of_table.sum()),
        strains=strains(bents, acting, loads),
        brace_at_posts_m=None if brace is None else brace.lengths_m[posts.bent_of],
    )
    return members, with_wind_along(reactions(bents, acting, loads), bents, along, posts, loads)
