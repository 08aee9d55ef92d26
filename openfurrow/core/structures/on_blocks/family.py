"""On blocks as a family: the functions by which the plan asks any structure."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import section
from openfurrow.core.loads.along import SeenAlong, along_n
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.on_blocks.bent import strains
from openfurrow.core.structures.on_blocks.carry import reactions
from openfurrow.core.structures.on_blocks.members import Along, Members
from openfurrow.core.structures.purlins import purlin_places_m, size_purlin, worst_purlin
from openfurrow.core.structures.roles import Bent, Role
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stand import stand as stand_on
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.under_glass import dead_of_sizes

Floats = NDArray[np.float64]

# Lines of piles, front to back: the first and the last by name, those between by number and letter.
FRONT, BACK = ("front pile", "f"), ("back pile", "b")
COUNTED = (
    "second",
    "third",
    "fourth",
    "fifth",
    "sixth",
    "seventh",
    "eighth",
    "ninth",
    "tenth",
    "eleventh",
)
BETWEEN = tuple(zip((f"{one} pile" for one in COUNTED), "cdeghjkmnp", strict=True))


def stack_m(givens: StructureGivens, module_m: float) -> float:
    """From the glass to the top of the piles; ``module_m`` is the module's own depth."""
    return module_m + section(givens.purlin_section).depth_m


def roles_of(rows: RowsPlan) -> tuple[Role, ...]:
    """A line of piles under each purlin, two to a module row."""
    places = purlin_places_m(rows)
    tilt = math.radians(rows.section.tilt_deg)
    names = [FRONT, *BETWEEN[: places.size - 2], BACK]
    return tuple(
        Role(*name, up_m * math.cos(tilt), up_m * math.sin(tilt))
        for name, up_m in zip(names, (places - rows.section.chord_m / 2).tolist(), strict=True)
    )


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Piles under every purlin; a bent is all those that stand in one line up the slope."""
    bent = Bent(
        post=None, top_m=0.0, post_given="structure.purlin_section", roles=roles_of(rows), foot_m=0.0
    )
    return stand_on(site, rows, givens, purlin_end_m, bent)


def weigh_kg_per_m2(posts: Stand, rows: RowsPlan, givens: StructureGivens, module_kg: float) -> Floats:
    """Modules and purlins, per area of glass, of each size of table."""
    return dead_of_sizes(posts, rows, module_kg, section(givens.purlin_section).mass_kg_per_m, 0.0)


def carry(
    site: SitePlan, rows: RowsPlan, posts: Stand, loads: TableLoads, givens: StructureGivens
) -> tuple[Members, Reactions]:
    """Purlins under every load case, and what each kind of pile is asked for at its top."""
    pack, profile = site.rule_pack, section(givens.purlin_section)
    purlin = worst_purlin(
        [
            size_purlin(rows, line, loads, dead, profile, pack, held=givens.modules_hold_purlins)
            for line, dead in zip(
                posts.lines, loads.dead_of_kg_per_m2[posts.size_of_line].tolist(), strict=True
            )
        ]
    )
    # The ends of purlins, and the edges of modules, are all that is seen; piles are told by footings.
    flat_m2 = rows.section.stack_m * rows.section.chord_m
    seen = SeenAlong(
        rubbed_m2=2 * rows.section.chord_m * rows.tables.lengths_m,
        flat_m2=np.full(rows.tables.count, flat_m2),
        round_m2=np.zeros(rows.tables.count),
    )
    table_n = along_n(pack, loads.wind.velocity_pa, seen)
    piles = np.bincount(posts.supports.places.of_table, minlength=rows.tables.count)
    each = np.zeros(posts.kinds.count)
    np.maximum.at(each, posts.supports.kind, (table_n / piles)[posts.supports.places.of_table])
    found = reactions(pack, rows, posts.kinds, loads, each)
    members = Members(
        purlin=purlin,
        places_m=purlin_places_m(rows),
        along=Along(table_n, each),
        sag_limit_m=purlin.sag_span_m / givens.deflection_divisor,
        piles=posts.supports.count,
        strains=strains(rows.section, posts, found),
    )
    return members, found
