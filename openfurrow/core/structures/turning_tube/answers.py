"""What a turning tube answers: where it is held, what turns and twists it, what keeps it still."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    along_answer,
    count_answer,
    gust_answer,
    load_answers,
    purlin_answers,
    reveals_answers,
)
from openfurrow.core.structures.bents.answers import strained_answer
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.turning_tube.members import Members
from openfurrow.core.structures.twisted import twisted_answer
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

Floats = NDArray[np.float64]

FREE_BODY = Source("equilibrium of the table, of its tube and of each post", "physics")
SHAFT = Source("Saint-Venant: a round shaft twists by the moment over G J", "physics")
STRIPS = Source(
    "Bisplinghoff, Ashley & Halfman, Aeroelasticity (1955): divergence of a shaft held at one end",
    "from memory",
)


def answers(
    posts: Stand,
    loads: tuple[TableLoads, ...],
    found: Reactions,
    members: Members,
    rows: RowsPlan,
    givens: StructureGivens,
) -> tuple[Answer, ...]:
    """Spacing first, then loads and reactions, then the tube; ``loads`` of every position."""
    tube = members.tube
    return (
        _spacing_answer(posts, rows, givens),
        count_answer(posts, rows),
        *reveals_answers(posts),
        *load_answers(posts, loads, found),
        along_answer(
            loads,
            float(members.along.table_n.max()),
            (Input("M_a", "most moment at the ground", float(members.along.post_n_m.max()), "moment"),),
            "The tube ties the posts' heads, each a cantilever; where bearings let it slide "
            "as it grows the drive's post holds all of it, and is held to that.",
        ),
        *_ground_answers(posts, found),
        twisted_answer(
            "tube_use",
            "Tube, used",
            tube.twisted,
            "Where bending over its bearings and the twist on its way to the drive use most together.",
        ),
        *purlin_answers(tube.purlin, float(posts.supports.tributary_m.max()), "tube", "post"),
        strained_answer("rail_use", "Rail, used", members.beam.strained),
        gust_answer(
            "rail_gust", "Rail under a gust, used", members.beam.gust_bending, members.beam.gust
        ),
        *_twist_answers(members),
        *_still_answers(members),
    )


def _spacing_answer(posts: Stand, rows: RowsPlan, givens: StructureGivens) -> Answer:
    return Answer(
        "structure",
        "spacing",
        "Post to post, at most",
        Working(
            "s",
            "",
            (
                Input("c", "from column to column of modules", rows.column_step_m, "tape"),
                Input("limit", "longest span", givens.span_limit_m, "tape"),
            ),
            max(line.span_m for line in posts.sizes),
            "tape",
            COMMON_PRACTICE,
            "Posts stand under the joints of columns, an odd number of them, so that the drive's post "
            "stands in the middle.",
        ),
        True,
    )


def _ground_answers(posts: Stand, found: Reactions) -> tuple[Answer, ...]:
    """The most that tips the posts with a drive on them, and the others."""
    drives = posts.kinds.drives
    return tuple(
        _moment_answer(found, np.flatnonzero(which), key, title, words)
        for which, key, title, words in (
            (
                drives,
                "moment",
                "Moment at the ground, under the drive",
                "All that turns the table ends in this post, and the push at its head besides.",
            ),
            (
                ~drives,
                "moment_bearing",
                "Moment at the ground, under bearings",
                "A bearing lets the tube turn: the push at the head alone tips them.",
            ),
        )
        if which.any()
    )


def _moment_answer(
    found: Reactions, kinds: NDArray[np.int64], key: str, title: str, words: str
) -> Answer:
    tipping = np.abs(found.tipping_n_m[kinds])
    kind, case = np.unravel_index(int(tipping.argmax()), tipping.shape)
    of = int(kinds[kind])
    return Answer(
        "structure",
        key,
        title,
        Working(
            "M",
            "sqrt(M_x**2 + M_y**2)",
            (
                Input("M_x", "across the row", abs(float(found.moment_n_m[of, case])), "moment"),
                Input("M_y", "along it", abs(float(found.along_moment_n_m[of, case])), "moment"),
                Input("H", "push then", abs(float(found.push_n[of, case])), "force"),
            ),
            float(tipping.max()),
            "moment",
            FREE_BODY,
            f"{found.names[int(case)]}. {words}",
        ),
        True,
    )


def _twist_answers(members: Members) -> tuple[Answer, ...]:
    tube = members.tube
    row = tube.twisting
    return (
        Answer(
            "structure",
            "drive_holds",
            "The drive holds, about the tube",
            Working(
                "T",
                "t * L",
                (
                    Input("t", "turns a metre of the row", tube.turning_n_m / row.row_m, "force"),
                    Input("L", "row that it holds", row.row_m, "run"),
                ),
                tube.turning_n_m,
                "moment",
                FREE_BODY,
                "A gust on the upper or the lower half alone, all along the row, with weight and snow "
                "over the tube. Nothing else holds it.",
            ),
            True,
        ),
        Answer(
            "structure",
            "tube_ends",
            "The tube's ends twist on by",
            Working(
                "a",
                "",
                (
                    Input("l", "drive to the further end", row.reach_m, "run"),
                    Input("T", "twist beside the drive, in strength", tube.passed_n_m, "moment"),
                    Input("I", "the tube's inertia", tube.twisted.section.inertia_m4, "inertia"),
                ),
                tube.ends_deg,
                "angle",
                SHAFT,
                "In service, past where the drive holds it: modules there look elsewhere, their frames "
                "stand across rails that do not lie in one plane.",
            ),
        ),
    )


def _still_answers(members: Members) -> tuple[Answer, ...]:
    """What the wind makes of a tube that gives: wound up by it, and how often it swings."""
    tube = members.tube
    return (
        Answer(
            "structure",
            "gives",
            "Level to the wind it winds itself up at",
            Working(
                "V",
                "",
                (
                    Input("q_D", "pressure of that wind", tube.gives_pa, "pressure"),
                    Input("q", "the design wind's, its factor in", members.wind_pa, "pressure"),
                    Input("l", "drive to the further end", tube.twisting.reach_m, "run"),
                ),
                tube.gives_m_s,
                "speed",
                STRIPS,
                "At the glass, gusts counted: each turn of the far end brings wind that turns it "
                "further. A wider tube, or less row to a drive. What flutters, flutters before.",
            ),
        ),
        Answer(
            "structure",
            "swings",
            "Its free end swings, times a second",
            Working(
                "f",
                "",
                (
                    Input("l", "drive to the further end", tube.twisting.reach_m, "run"),
                    Input("m", "turned with it, kg m² a metre", tube.inertia_kg_m, "factor"),
                ),
                tube.swings_hz,
                "factor",
                GEOMETRY,
                "For whoever reads the report of a wind tunnel: sqrt(G J / m) / 4 l.",
            ),
        ),
    )
