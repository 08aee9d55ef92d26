"""What a single pole answers: how far it rises, what it feels, how much of each member is used."""

import numpy as np

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import along_answer, count_answer, gust_answer, load_answers
from openfurrow.core.structures.bents.answers import strained_answer
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.single_pole.members import Members
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.twisted import twisted_answer
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

FREE_BODY = Source("equilibrium of the table and of the pole", "physics")


def answers(
    posts: Stand,
    loads: tuple[TableLoads, ...],
    found: Reactions,
    members: Members,
    rows: RowsPlan,
    _: StructureGivens,
) -> tuple[Answer, ...]:
    """How it stands first, then loads and reactions, then the members; ``loads`` of every position."""
    return (
        _reveal_answer(posts),
        _reach_answer(posts),
        count_answer(posts, rows),
        *load_answers(posts, loads, found),
        along_answer(
            loads,
            float(members.along.table_n.max()),
            (Input("M_a", "its moment at the ground", float(members.along.post_n_m.max()), "moment"),),
            "The pole bends as a cantilever, and the soil beside it holds it.",
        ),
        _ground_answer(posts, found),
        *_head_answers(posts, members),
        twisted_answer(
            "pole_use",
            "Pole over the ground, used",
            members.pole,
            "At the ground, about both level axes together; below it the footing looks on.",
        ),
        twisted_answer(
            "pipe_use",
            "Cross pipe, used",
            members.pipe,
            "Beside the head: the rails on one side bend it, shear it and twist it.",
        ),
        strained_answer("rail_use", "Rail, used", members.beam.strained),
        gust_answer(
            "rail_gust", "Rail under a gust, used", members.beam.gust_bending, members.beam.gust
        ),
    )


def _reach_answer(posts: Stand) -> Answer:
    line = posts.line
    return Answer(
        "structure",
        "reach",
        "Cross pipe, past the pole each way",
        Working(
            "a",
            "L / 2",
            (Input("L", "cross pipe", line.purlin_m, "tape"),),
            line.overhang_m,
            "tape",
            GEOMETRY,
            "The pole stands under the middle of the table.",
        ),
        True,
    )


def _reveal_answer(posts: Stand) -> Answer:
    reveals = posts.supports.reveals_m
    return Answer(
        "structure",
        "reveal",
        "Cross pipe over the ground" + (", highest" if reveals.size > 1 else ""),
        Working(
            "h",
            "",
            (Input("h_min", "lowest", float(reveals.min()), "tape"),),
            float(reveals.max()),
            "tape",
            GEOMETRY,
            "From the ground at the pole to the middle of the pipe on its head.",
        ),
        True,
    )


def _ground_answer(posts: Stand, found: Reactions) -> Answer:
    """The most that tips a pole, about whichever axis."""
    strongest, cases = int(np.abs(found.tipping_n_m).argmax()), len(found.names)
    kind, case = divmod(strongest, cases)
    high = case < cases // 2
    return Answer(
        "structure",
        "moment",
        "Moment at the ground",
        Working(
            "M",
            "sqrt(M_x**2 + M_y**2)",
            (
                Input("M_x", "across the row", abs(float(found.moment_n_m[kind, case])), "moment"),
                Input("M_y", "along it", abs(float(found.along_moment_n_m[kind, case])), "moment"),
                Input("H", "push then", abs(float(found.push_n[kind, case])), "force"),
                Input(
                    "h",
                    "ground to cross pipe",
                    float((posts.kinds.high_m if high else posts.kinds.low_m)[kind]),
                    "tape",
                ),
            ),
            float(np.abs(found.tipping_n_m).max()),
            "moment",
            FREE_BODY,
            f"{found.names[case]}.",
        ),
        True,
    )


def _head_answers(posts: Stand, members: Members) -> tuple[Answer, ...]:
    """What the head must hold, and how far it goes."""
    return (
        Answer(
            "structure",
            "head_turning",
            "The head holds against turning",
            Working(
                "T_h",
                "",
                (Input("N", "rails on it", float(members.rails // members.poles), "count"),),
                members.turning_n_m,
                "moment",
                FREE_BODY,
                "About the cross pipe: a gust on the upper or the lower half alone, and the weight "
                "before the pole. What sets the tilt, a clamp or a mover's arm, takes all of it; "
                "whether it does is for its maker to say.",
            ),
        ),
        Answer(
            "structure",
            "twist",
            "A gust on one half twists the pole by",
            Working(
                "T",
                "",
                (Input("R_T", "what the pole bears of that", members.pole.twist_limit_n_m, "moment"),),
                members.twist_n_m,
                "moment",
                FREE_BODY,
                "About its own axis: the level part of a gust on half of the length, a quarter of the "
                "length off. The soil's grip on the pole holds it.",
            ),
        ),
        Answer(
            "structure",
            "head_moves",
            "The head moves over in the wind",
            Working(
                "u",
                "",
                (Input("h", "ground to cross pipe, the tallest", posts.supports.tallest_m, "tape"),),
                members.head_moves_m,
                "tape",
                FREE_BODY,
                "In service, across the row, the pole bending alone; what the soil gives comes on top.",
            ),
        ),
    )
