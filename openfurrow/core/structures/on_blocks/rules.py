"""What would stop a table on blocks: purlins that do not carry, too steep a tilt, dry grass."""

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.on_blocks.members import Members
from openfurrow.core.structures.rules import load_checks, purlin_checks, shift_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Purlins, the tilt, what grows beneath, snow and wind figure, shifted piles."""
    return (
        *purlin_checks(members.purlin, members.sag_limit_m),
        within(
            "structure",
            "nearly_flat",
            "It lies nearly flat",
            section.tilt_deg,
            constant("common", "blocks_tilt"),
            "angle",
            most=True,
            remedy="Flatter, or a ballast frame: tall piles tip, and nothing braces them.",
            given="rows.tilt_deg",
            otherwise="look",
        ),
        holds(
            "structure",
            "bare_below",
            "Nothing dry grows under it",
            givens.bare_below,
            "kept bare" if givens.bare_below else "nobody has said so",
            "bare ground, stone or weed cloth",
            remedy="Weed cloth under stone before the first block: so low no mower reaches, and dry "
            "grass under a hot joint burns.",
            source=COMMON_PRACTICE,
            given="structure.bare_below",
            otherwise="look",
        ),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )
