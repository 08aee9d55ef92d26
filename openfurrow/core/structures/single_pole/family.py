"""Single pole as a family: the functions by which the plan asks any structure."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from openfurrow.core.codes.section import section
from openfurrow.core.loads.along import SeenAlong
from openfurrow.core.loads.gusts import with_halves
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.cantilevers.along import Along, wind_along, with_wind_along
from openfurrow.core.structures.cantilevers.carry import on_heads, reactions, with_one_side
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.layout import PostLine, lone_line
from openfurrow.core.structures.purlins import Purlin, worst_purlin
from openfurrow.core.structures.rails import Rail, rails_of_tables, saddled
from openfurrow.core.structures.roles import Role
from openfurrow.core.structures.single_pole.bent import strains
from openfurrow.core.structures.single_pole.members import (
    Members,
    head_moves_m,
    size_pipe,
    size_pole,
    size_rail,
)
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.twisted import Twisted

ONE_POLE = (Role("pole"),)


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """A pole under the middle of every table: where it may not stand, the table moves."""

    def spaced(columns: int, _: float) -> PostLine:
        return lone_line(rows, columns, purlin_end_m)

    pole = section(givens.pole_section)
    bent = saddled(givens, pole, ONE_POLE, spaced, "structure.pole_section")
    return stand_on(site, rows, givens.model_copy(update={"shifts": ()}), purlin_end_m, bent)


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of pole asks of the ground.

    Gusts that meet half of the table alone are looked at: nothing beside the pole shares them.
    """
    pack, table, kinds = site.rule_pack, rows.section, posts.kinds
    loads = replace(loads, wind=with_halves(loads.wind))
    dead_of = loads.dead_of_kg_per_m2
    rail_profile = section(givens.rail_section)
    widest = max(line.rail_m for line in posts.lines)
    rail, rail_sag = size_rail(rows, rail_profile, loads, widest, pack)
    sized = [
        size_pipe(table, line, section(givens.pipe_section), loads, dead, pack)
        for line, dead in zip(posts.lines, dead_of[posts.size_of_line].tolist(), strict=True)
    ]
    pipe = worst_purlin([purlin for purlin, _ in sized])
    whole = reactions(table, kinds, loads)
    along = _along(site, rows, posts, loads, (rail, pipe))
    found = with_wind_along(with_one_side(whole, table, kinds, loads), along, rows, posts, loads)
    heads = on_heads(table, loads, kinds.tributary_m, dead_of[kinds.size_of])
    members = Members(
        beam=rail,
        rail_sag_m=rail_sag,
        purlin=pipe,
        pipe=max((twisted for _, twisted in sized), key=lambda one: one.used),
        pole=size_pole(posts.post, kinds, found, pack),
        along=along,
        turning_n_m=float(np.abs(heads.turning_n_m).max()),
        twist_n_m=float(found.twist_n_m.max()),
        head_moves_m=head_moves_m(table, posts.post, kinds, loads, dead_of[kinds.size_of]),
        rail_sag_limit_m=table.chord_m / givens.deflection_divisor,
        sag_limit_m=pipe.sag_span_m / givens.deflection_divisor,
        modules_a_pole=rows.modules_high * int(rows.tables.columns.max()),
        poles=posts.bents,
        rails=int(rails_of_tables(posts).sum()),
        travel=givens.travel,
        strains=strains(table, posts, loads, rail_profile, whole),
    )
    return members, found


def _along(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, members: tuple[Rail, Purlin]
) -> Along:
    """Wind along the row: it rubs on the glass and pushes on its edges, the rails and the pole."""
    rail, pipe = members
    table = rows.section
    edge_m = table.stack_m - rail.section.depth_m - pipe.section.depth_m / 2
    rails_m2 = rails_of_tables(posts) * rail.section.depth_m * rail.length_m
    seen = SeenAlong(
        rubbed_m2=2 * table.chord_m * rows.tables.lengths_m,
        flat_m2=np.asarray(edge_m * table.chord_m + rails_m2),
        round_m2=np.zeros(rows.tables.count),
    )
    return wind_along(site.rule_pack, rows, posts, loads, seen)


def _most(members: tuple[Twisted, ...]) -> Twisted:
    return max(members, key=lambda one: one.used)


def worst_members(at: Sequence[Members]) -> Members:
    """Those of a table that is set to several tilts: each as it is used most, in any of them."""
    if len(at) == 1:
        return at[0]
    return replace(
        max(at, key=lambda one: one.beam.used),
        rail_sag_m=max(one.rail_sag_m for one in at),
        purlin=worst_purlin([one.purlin for one in at]),
        pipe=_most(tuple(one.pipe for one in at)),
        pole=_most(tuple(one.pole for one in at)),
        along=max((one.along for one in at), key=lambda one: float(one.table_n.max())),
        turning_n_m=max(one.turning_n_m for one in at),
        twist_n_m=max(one.twist_n_m for one in at),
        head_moves_m=max(one.head_moves_m for one in at),
    )
