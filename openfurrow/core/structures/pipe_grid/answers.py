"""What a pipe grid answers: where posts stand, what they feel, how much of each member is used."""

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    STRENGTH,
    bending_answer,
    count_answer,
    gust_answer,
    load_answers,
    purlin_answers,
    reveals_answers,
)
from openfurrow.core.structures.bents.answers import (
    along_bents,
    brace_answers,
    ground_answers,
    heads_answer,
    strained_answer,
)
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.pipe_grid.members import Members
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working


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
        *_spacing_answers(posts, rows, givens),
        count_answer(posts, rows),
        *reveals_answers(posts),
        heads_answer(posts),
        *load_answers(posts, loads, found),
        along_bents(loads, members.along),
        *ground_answers(found, braced=members.brace is not None),
        bending_answer("pipe_use", "Pipe along the row, used", members.purlin.bending, STRENGTH),
        strained_answer("rail_use", "Rail, used", members.beam.strained),
        gust_answer(
            "rail_gust", "Rail under a gust, used", members.beam.gust_bending, members.beam.gust
        ),
        strained_answer("post_use", "Post over the ground, used", members.posts),
        *purlin_answers(members.purlin, float(posts.supports.tributary_m.max()), "pipe", "post"),
        *brace_answers(members.brace),
    )


def _spacing_answers(posts: Stand, rows: RowsPlan, givens: StructureGivens) -> tuple[Answer, ...]:
    widest = max(line.span_m for line in posts.sizes)
    step = Input("c", "from column to column of modules", rows.column_step_m, "tape")
    return (
        Answer(
            "structure",
            "spacing",
            "Post to post, at most",
            Working(
                "s",
                "",
                (step, Input("limit", "longest span", givens.span_limit_m, "tape")),
                widest,
                "tape",
                COMMON_PRACTICE,
                "Posts stand under the joints of columns: four carry the first, two more each that "
                "follows, or each few where the span allows it.",
            ),
            True,
        ),
        Answer(
            "structure",
            "rails",
            "Rails",
            Working(
                "n_r",
                "",
                (Input("n", "columns in the usual table", float(rows.modules_along), "count"),),
                float(2 * rows.tables.columns.sum()),
                "count",
                GEOMETRY,
                "Two under each column of modules.",
            ),
        ),
    )
