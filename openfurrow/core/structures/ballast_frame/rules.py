"""What would stop a ballast frame: what stops two post lines, base rails, no bay that is crossed."""

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.ballast_frame.members import Members
from openfurrow.core.structures.bents.rules import COLUMN
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.two_post_lines import rules as two_lines
from openfurrow.core.working import Source

STATICS = Source("a row on feet that turn falls over along itself unless a bay is crossed", "physics")


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Members, base rails, crossed bays, how the bent fits, snow and wind figure, shifted posts."""
    base = members.base
    return (
        *two_lines.checks(posts, loads, members.bents, section, givens),
        at_most(
            "structure",
            "base_rail",
            "Base rails do not buckle",
            base.push_n,
            base.limit_n,
            "force",
            remedy="A wider pipe, bents closer together, or lines nearer to each other.",
            source=COLUMN,
            given="structure.base_section",
        ),
        holds(
            "structure",
            "crossed",
            "A bay is crossed in every table",
            givens.braced_bays > 0,
            f"{givens.braced_bays} crossed",
            "one at least",
            remedy="Cross a bay: feet in boxes do not hold a leg upright.",
            source=STATICS,
            given="structure.braced_bays",
        ),
    )
