"""What one post line answers: where posts stand, what they feel, how much of each member is used."""

import math

import numpy as np

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    CONTINUOUS,
    STRENGTH,
    WEB,
    along_answer,
    bending_answer,
    load_answers,
    purlin_answers,
    sideways_answer,
    spacing_answers,
)
from openfurrow.core.structures.cantilevers.along import Along
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.all_members import Members
from openfurrow.core.structures.one_post_line.members import Beam, Strut
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


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
        *load_answers(posts, loads, found),
        *_own_load_answers(posts, loads, found, rows, members.along),
        bending_answer(
            "purlin_use", "Purlin, used", members.purlin.bending, by(members.purlin.section, STRENGTH)
        ),
        sideways_answer(members.purlin),
        bending_answer(
            "beam_bent",
            "Inclined beam, used in bending",
            members.beam.bending,
            by(members.beam.section, STRENGTH),
        ),
        _beam_answer(members.beam),
        *purlin_answers(members.purlin, float(posts.supports.tributary_m.max())),
        *_strut_answers(members.strut, members.beam.strut_pull_n),
    )


def _beam_answer(beam: Beam) -> Answer:
    """How much of a beam is used, bent and cut across."""
    return Answer(
        "structure",
        "beam_use",
        "Inclined beam, used",
        Working(
            "U",
            "sqrt(U_b**2 + (V / R_V)**2)",
            (
                Input("U_b", "used in bending", beam.bending.used, "ratio"),
                Input("V", "cuts across it", beam.shear_n, "force"),
                Input("R_V", "what its web bears of that", beam.shear_limit_n, "force"),
            ),
            beam.used,
            "ratio",
            by(beam.section, WEB),
            "Both are greatest beside its bolt.",
        ),
    )


def _own_load_answers(
    posts: Stand,
    loads_at: tuple[TableLoads, ...],
    found: Reactions,
    rows: RowsPlan,
    along: Along,
) -> tuple[Answer, ...]:
    """Wind along the row, and what turns a post at the ground."""
    strongest = int(np.abs(found.moment_n_m).argmax())
    cases = len(found.names)
    # The kind that is turned most; each of its cases stands at its greatest height, then at its least.
    kind, case = divmod(strongest, cases)
    reveal = (posts.kinds.high_m if case < cases // 2 else posts.kinds.low_m)[kind]
    section = rows.positions[case % (cases // 2) // (cases // 2 // len(loads_at))].section
    most_n = float(along.post_n.max())
    wind = max(loads_at, key=lambda one: one.wind.velocity_pa).wind.source
    return (
        along_answer(
            loads_at,
            float(along.table_n.max()),
            (
                Input("H_a", "on the post that gets most of it", most_n, "force"),
                Input("M_a", "and its moment at the ground", float(along.post_n_m.max()), "moment"),
            ),
            "Nothing braces the row: its posts bend about their weak axis, and the soil beside them "
            "holds it.",
        ),
        Answer(
            "structure",
            "moment",
            "Moment at the ground",
            Working(
                "M",
                "",
                (
                    Input("H", "push", abs(float(found.across_n.flat[strongest])), "force"),
                    Input("h", "reveal of that post", float(reveal), "tape"),
                    Input("w", "row that it carries", float(posts.kinds.tributary_m[kind]), "tape"),
                    Input(
                        "x",
                        "bolt behind mid-chord",
                        section.stack_m * math.sin(math.radians(section.tilt_deg)),
                        "tape",
                    ),
                ),
                float(np.abs(found.moment_n_m).max()),
                "moment",
                wind,
                f"{found.names[strongest % cases]}: push times reveal, and the uneven press on the two "
                "halves.",
            ),
            True,
        ),
    )


def _strut_answers(strut: Strut, strut_pull_n: float) -> tuple[Answer, ...]:
    return (
        Answer(
            "structure",
            "strut_force",
            "Push or pull in a strut",
            Working(
                "N_s",
                "R_s / sin(alpha)",
                (
                    Input("R_s", "beam's reaction at the strut", strut_pull_n, "force"),
                    Input("alpha", "strut to beam", strut.angle_to_beam_deg, "angle"),
                ),
                strut.force_n,
                "force",
                CONTINUOUS,
            ),
        ),
        *(
            (
                Answer(
                    "structure",
                    "strut_travel",
                    "A strut is set over",
                    Working(
                        "s",
                        "L_1 - L_2",
                        (
                            Input("L_1", "at its longest, bolt to bolt", strut.travels_from_m, "tape"),
                            Input(
                                "L_2",
                                "the same at its shortest",
                                strut.travels_from_m - strut.travel_m,
                                "tape",
                            ),
                        ),
                        strut.travel_m,
                        "tape",
                        GEOMETRY,
                        "Of the post whose strut is set furthest, over all tilts.",
                    ),
                ),
            )
            if strut.travel_m
            else ()
        ),
    )
