"""Ballast frame as a family: the functions by which the plan asks any structure."""

from openfurrow.core.codes.section import section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.ballast_frame.members import Members, size_base
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.roles import Bent, two_lines
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.family import carry_bents

LEGS = ("front leg", "back leg")


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Bents of a front and a back leg; a leg begins over the floor of its box or tray."""
    roles = two_lines(givens.lines_apart_m, rows.section.tilt_deg, LEGS)
    bent = Bent(
        post=section(givens.post_section),
        top_m=givens.post_top_m,
        roles=roles,
        foot_m=givens.foot_up_m,
    )
    return stand_on(site, rows, givens, purlin_end_m, bent)


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """The members under every load case, and what each kind of leg asks of what it stands in.

    Feet turn, for a box rocks on the ground; they are reckoned at its level, which gives wind the
    longest arm.
    """
    bents, found = carry_bents(site, rows, posts, loads, givens, ("turns",))
    base = section(givens.base_section)
    return Members(
        bents=bents, base=size_base(base, givens.lines_apart_m, found, site.rule_pack)
    ), found
