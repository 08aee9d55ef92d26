"""Turning tube as a family: the functions by which the plan asks any structure."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from openfurrow.core.codes.section import section
from openfurrow.core.loads.along import SeenAlong
from openfurrow.core.loads.gusts import with_halves
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import bending_limit_n_m, free_post_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.cantilevers.along import wind_along, with_wind_along
from openfurrow.core.structures.cantilevers.carry import reactions_of
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.layout import PostLine
from openfurrow.core.structures.purlins import worst_purlin
from openfurrow.core.structures.rails import rails_of_tables, saddled
from openfurrow.core.structures.roles import ONE_LINE
from openfurrow.core.structures.single_pole.bent import strains
from openfurrow.core.structures.single_pole.members import size_rail
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.turning_tube.carry import held_m, tube_heads
from openfurrow.core.structures.turning_tube.line import drive_of, tube_line
from openfurrow.core.structures.turning_tube.members import Members, Tube, size_tube


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Posts at the joints of columns, the middle one under the drive."""

    def spaced(columns: int, _: float) -> PostLine:
        return tube_line(rows, columns, purlin_end_m, givens.span_limit_m)

    bent = saddled(givens, section(givens.post_section), ONE_LINE, spaced)
    return stand_on(site, rows, givens, purlin_end_m, replace(bent, drive_of=drive_of))


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground.

    A gust may meet one half of the glass alone, all along the row: nothing but the drive holds that.
    """
    pack, table, kinds = site.rule_pack, rows.section, posts.kinds
    loads = replace(loads, wind=with_halves(loads.wind))
    held = held_m(posts)
    whole = reactions_of(tube_heads(table, loads, kinds, held), table, kinds, loads)
    pipe, profile = section(givens.pipe_section), section(givens.rail_section)
    rail, rail_sag = size_rail(rows, profile, loads, max(one.rail_m for one in posts.lines), pack)
    dead = loads.dead_of_kg_per_m2[posts.size_of_line].tolist()
    tube = _worst(
        [
            size_tube(rows, line, pipe, loads, one, pack)
            for line, one in zip(posts.lines, dead, strict=True)
        ]
    )
    edge_m = table.stack_m - profile.depth_m - pipe.depth_m / 2
    seen = SeenAlong(
        rubbed_m2=2 * table.chord_m * rows.tables.lengths_m,
        flat_m2=np.asarray(
            edge_m * table.chord_m + rails_of_tables(posts) * profile.depth_m * rail.length_m
        ),
        round_m2=np.zeros(rows.tables.count),
    )
    # A bearing may let the tube slide as it grows: then the drive's post alone holds it along.
    along = wind_along(pack, rows, posts, loads, seen, kinds.drives[posts.supports.kind])
    free_m = float(free_post_m(posts.supports.tallest_m))
    members = Members(
        beam=rail,
        rail_sag_m=rail_sag,
        tube=tube,
        along=along,
        rail_sag_limit_m=table.chord_m / givens.deflection_divisor,
        sag_limit_m=tube.purlin.sag_span_m / givens.deflection_divisor,
        wind_pa=loads.wind.velocity_pa * float(loads.strength.wind.max()),
        post_limit_n_m=bending_limit_n_m(posts.post, pack, free_m),
        rails=int(rails_of_tables(posts).sum()),
        posts=posts.supports.count,
        tables=rows.tables.count,
        strains=strains(table, posts, loads, profile, whole, turns=True),
    )
    return members, with_wind_along(whole, along, rows, posts, loads, held)


def _worst(tubes: Sequence[Tube]) -> Tube:
    """The tube that is used most; of each figure the one that is worst of all."""
    return replace(
        max(tubes, key=lambda one: one.twisted.used),
        purlin=worst_purlin([one.purlin for one in tubes]),
        twisting=max((one.twisting for one in tubes), key=lambda one: one.reach_m),
        turning_n_m=max(one.turning_n_m for one in tubes),
        passed_n_m=max(one.passed_n_m for one in tubes),
        ends_deg=max(one.ends_deg for one in tubes),
        inertia_kg_m=max(one.inertia_kg_m for one in tubes),
        gives_pa=min(one.gives_pa for one in tubes),
        gives_m_s=min(one.gives_m_s for one in tubes),
        swings_hz=min(one.swings_hz for one in tubes),
    )


def worst_members(at: Sequence[Members]) -> Members:
    """Those of a table that goes through all of its tilts: each as it is used most, in any of them."""
    if len(at) == 1:
        return at[0]
    return replace(
        max(at, key=lambda one: one.beam.used),
        rail_sag_m=max(one.rail_sag_m for one in at),
        tube=_worst([one.tube for one in at]),
        along=max((one.along for one in at), key=lambda one: float(one.table_n.max())),
        wind_pa=max(one.wind_pa for one in at),
    )
