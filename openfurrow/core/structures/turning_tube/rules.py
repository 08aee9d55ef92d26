"""What would stop a turning tube: members that do not carry, ends that twist, wind that winds it up."""

from openfurrow.core.checks import Check, at_most
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.answers import STRENGTH
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.rules import (
    column_span_check,
    load_checks,
    reaching_rail_checks,
    shift_checks,
)
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.turning_tube.answers import STRIPS
from openfurrow.core.structures.turning_tube.members import Members
from openfurrow.core.structures.twisted import INTERACTION
from openfurrow.core.working import COMMON_PRACTICE, GIVEN


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Tube, rails and the drive's post, snow and wind figure, shifted posts."""
    return (
        *_tube_checks(posts, members, givens),
        *reaching_rail_checks(members.beam, members.rail_sag_m, members.rail_sag_limit_m),
        at_most(
            "structure",
            "drive_post",
            "The post under the drive stands its turning",
            members.tube.turning_n_m,
            members.post_limit_n_m,
            "moment",
            remedy="A heavier post, or less row to a drive: all that turns the table ends at its head.",
            source=STRENGTH,
            given="structure.post_section",
        ),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )


def _tube_checks(posts: Stand, members: Members, givens: StructureGivens) -> tuple[Check, ...]:
    tube = members.tube
    return (
        at_most(
            "structure",
            "tube",
            "The tube carries the rails and their twist",
            tube.used,
            1.0,
            "ratio",
            remedy="A wider tube, posts closer together, or less row to a drive.",
            source=INTERACTION,
            given="structure.pipe_section",
        ),
        at_most(
            "structure",
            "tube_sag",
            "The tube stays straight enough to turn",
            tube.purlin.sag_m,
            members.sag_limit_m,
            "thickness",
            remedy="A wider tube, or posts closer together: bearings bind on one that sags.",
            source=COMMON_PRACTICE,
            given="structure.pipe_section",
            otherwise="look",
        ),
        at_most(
            "structure",
            "tube_ends",
            "The tube's ends follow its drive",
            tube.ends_deg,
            givens.tube_twist_deg,
            "angle",
            remedy="A wider tube, or less row to a drive.",
            source=GIVEN,
            given="structure.pipe_section",
            otherwise="look",
        ),
        at_most(
            "structure",
            "gives",
            "The design wind does not wind the tube up",
            members.wind_pa,
            tube.gives_pa,
            "pressure",
            remedy="A wider tube, or less row to a drive: past that wind it turns over, stowed or not.",
            source=STRIPS,
            given="structure.pipe_section",
        ),
        column_span_check(posts, givens),
    )
