"""What a table on blocks answers: where its piles stand, what acts, how much of a purlin is used."""

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    STRENGTH,
    along_answer,
    bending_answer,
    load_answers,
    purlin_answers,
    sideways_answer,
    spacing_answers,
)
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.on_blocks.members import Members
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import Answer, Input


def answers(
    posts: Stand,
    loads: tuple[TableLoads, ...],
    found: Reactions,
    members: Members,
    rows: RowsPlan,
    givens: StructureGivens,
) -> tuple[Answer, ...]:
    """Spacing first, then loads and what piles are asked for, then the purlins."""
    return (
        *spacing_answers(posts, rows, givens),
        *load_answers(posts, loads, found),
        along_answer(
            loads,
            float(members.along.table_n.max()),
            (Input("F_p", "of it on one pile", float(members.along.pile_n.max()), "force"),),
            "Purlins spread it over all piles of the table, which friction holds.",
        ),
        bending_answer(
            "purlin_use", "Purlin, used", members.purlin.bending, by(members.purlin.section, STRENGTH)
        ),
        sideways_answer(members.purlin),
        *purlin_answers(members.purlin, float(posts.supports.tributary_m.max()), on="pile"),
    )
