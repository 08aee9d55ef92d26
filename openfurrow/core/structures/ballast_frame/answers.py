"""What a ballast frame answers: what two post lines do, and what its base rails take."""

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.ballast_frame.members import Members
from openfurrow.core.structures.bents.answers import FRAME
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines import answers as two_lines
from openfurrow.core.working import Answer, Input, Working


def answers(
    posts: Stand,
    loads: tuple[TableLoads, ...],
    found: Reactions,
    members: Members,
    rows: RowsPlan,
    givens: StructureGivens,
) -> tuple[Answer, ...]:
    """Spacing first, then loads and reactions, then the members; ``loads`` of every position."""
    of_bents = two_lines.answers(posts, loads, found, members.bents, rows, givens)
    return (
        # Feet that turn bring no moment to the ground.
        *(one for one in of_bents if one.key != "moment"),
        Answer(
            "structure",
            "base_force",
            "Push or pull in a base rail",
            Working(
                "N_g",
                "",
                (Input("R_g", "what it bears as a column", members.base.limit_n, "force"),),
                members.base.push_n,
                "force",
                FRAME,
                "At worst one foot's weight holds all that pushes sideways on the bent.",
            ),
        ),
    )
