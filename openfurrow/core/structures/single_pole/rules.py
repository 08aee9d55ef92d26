"""What would stop a single pole: rails, cross pipe and pole that do not carry; too much on one pole."""

from openfurrow.core.checks import Check, at_most, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.rules import load_checks, reaching_rail_checks
from openfurrow.core.structures.single_pole.members import Members
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.twisted import INTERACTION
from openfurrow.core.working import COMMON_PRACTICE


def checks(
    _: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    __: StructureGivens,
) -> tuple[Check, ...]:
    """Members, what stands on one pole, snow and wind figure."""
    return (
        at_most(
            "structure",
            "pole",
            "The pole carries the load over the ground",
            members.pole.used,
            1.0,
            "ratio",
            remedy="A wider pole, a lower table, or fewer modules on it.",
            source=INTERACTION,
            given="structure.pole_section",
        ),
        at_most(
            "structure",
            "cross_pipe",
            "The cross pipe carries the rails",
            members.pipe.used,
            1.0,
            "ratio",
            remedy="A wider pipe, or fewer modules on the pole.",
            source=INTERACTION,
            given="structure.pipe_section",
        ),
        at_most(
            "structure",
            "pipe_sag",
            "The cross pipe's ends stay up",
            members.purlin.sag_m,
            members.sag_limit_m,
            "thickness",
            remedy="A wider pipe, or fewer modules on the pole.",
            source=COMMON_PRACTICE,
            given="structure.pipe_section",
            otherwise="look",
        ),
        *reaching_rail_checks(members.beam, members.rail_sag_m, members.rail_sag_limit_m),
        within(
            "structure",
            "on_a_pole",
            "No more stands on one pole than is usual",
            float(members.modules_a_pole),
            constant("common", "modules_on_pole"),
            "count",
            most=True,
            remedy="More poles with fewer modules each; a larger one is an engineer's own design.",
            given="rows.modules_along",
            otherwise="look",
        ),
        *load_checks(loads, section),
    )
