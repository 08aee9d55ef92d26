"""One post line as a family: the functions by which the plan asks any structure."""

from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.resistance import bending_limit_n_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.carry import dead_kg_per_m2, reactions
from openfurrow.core.structures.one_post_line.members import (
    Members,
    moment_at_strut_n_m,
    size_beam,
    size_purlin,
    size_strut,
)
from openfurrow.core.structures.one_post_line.stand import Stand
from openfurrow.core.structures.supports import Reactions


def stack_m(givens: StructureGivens, module_m: float) -> float:
    """From the glass to the middle of the inclined beam; ``module_m`` is the module's own depth."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    return module_m + purlin.depth_m + beam.depth_m / 2


def weigh_kg_per_m2(posts: Stand, rows: RowsPlan, givens: StructureGivens, module_kg: float) -> float:
    """Mass of the table that the posts carry, per area of its glass."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    return dead_kg_per_m2(rows, module_kg, purlin.mass_kg_per_m, beam.mass_kg_per_m, posts.line.span_m)


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of post asks of the ground."""
    pack = site.rule_pack
    found = reactions(rows.section, posts.kinds, loads)
    purlin = size_purlin(rows, posts.line, loads, section(givens.purlin_section), pack)
    beam = size_beam(rows, posts.line, loads, givens, section(givens.beam_section), pack)
    strut = size_strut(
        rows.section, posts.supports.reveals_m, givens, section(givens.strut_section), beam, pack
    )
    members = Members(
        beam,
        purlin,
        strut,
        sag_limit_m=purlin.sag_span_m / givens.deflection_divisor,
        post_limit_n_m=bending_limit_n_m(posts.post, pack),
        post_at_strut_n_m=moment_at_strut_n_m(found, givens.strut_foot_m),
    )
    return members, found
