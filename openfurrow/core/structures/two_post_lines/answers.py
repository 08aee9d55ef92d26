"""What two post lines answer: where posts stand, what they feel, how much of each member is used."""

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    STRENGTH,
    bending_answer,
    load_answers,
    purlin_answers,
    sideways_answer,
    spacing_answers,
)
from openfurrow.core.structures.bents.answers import (
    FRAME,
    along_bents,
    brace_answers,
    ground_answers,
    heads_answer,
    strained_answer,
)
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.members import Members
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
    return (
        *spacing_answers(posts, rows, givens),
        heads_answer(posts),
        *load_answers(posts, loads, found),
        along_bents(loads, members.along),
        *ground_answers(found, braced=members.brace is not None),
        bending_answer(
            "purlin_use", "Purlin, used", members.purlin.bending, by(members.purlin.section, STRENGTH)
        ),
        sideways_answer(members.purlin),
        strained_answer("beam_use", "Inclined beam, used", members.beam.strained),
        strained_answer("post_use", "Post over the ground, used", members.posts),
        *purlin_answers(members.purlin, float(posts.supports.tributary_m.max())),
        *brace_answers(members.brace),
        *_cable_answers(members),
    )


def _cable_answers(members: Members) -> tuple[Answer, ...]:
    found = []
    if (cable := members.along.cable) is not None:
        found.append(
            Answer(
                "structure",
                "cable_pull",
                "Pull in a cable",
                Working(
                    "T_c",
                    "",
                    (Input("R_c", "what it may pull, in its grips", cable.limit_n, "force"),),
                    cable.pull_n,
                    "force",
                    FRAME,
                    f"{cable.name.capitalize()}; the one across it hangs slack meanwhile.",
                ),
            )
        )
    return tuple(found)
