"""What two post lines answer: where posts stand, what they feel, how much of each member is used."""

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.loads.along import DRAG
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.answers import (
    STRENGTH,
    bending_answer,
    load_answers,
    purlin_answers,
    spacing_answers,
)
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.along import Along
from openfurrow.core.structures.two_post_lines.members import Members, Strained
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

FRAME = Source("plane frame by direct stiffness; equilibrium and a second program agree", "physics")
TOGETHER = Source("AISC 360-16 H1 or EN 1993-1-1 6.3.3, shares added without relief", "from memory")


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
        _heads_answer(posts),
        *load_answers(posts, loads, found),
        _along_answer(loads, members.along),
        *_ground_answers(found, members),
        bending_answer("purlin_use", "Purlin, used", members.purlin.bending, STRENGTH),
        strained_answer("beam_use", "Inclined beam, used", members.beam.strained),
        strained_answer("post_use", "Post over the ground, used", members.posts),
        *purlin_answers(members.purlin, float(posts.supports.tributary_m.max())),
        *_brace_answers(members),
    )


def _heads_answer(posts: Stand) -> Answer:
    reveals = posts.supports.reveals_m
    front, back = reveals[posts.of_role(0)], reveals[posts.of_role(1)]
    return Answer(
        "structure",
        "lines",
        "Back bolts over front bolts",
        Working(
            "h_b",
            "a * tan(b)",
            (
                Input("a", "front line to back line", posts.givens.lines_apart_m, "tape"),
                Input("b", "tilt", tilt_of(posts), "angle"),
                Input("h_1", "tallest front post, ground to bolt", float(front.max()), "tape"),
                Input("h_2", "tallest back post, ground to bolt", float(back.max()), "tape"),
            ),
            posts.roles[1].up_m - posts.roles[0].up_m,
            "tape",
            GEOMETRY,
            "Measured square to the row; each post's own top stands in the stakes.",
        ),
    )


def tilt_of(posts: Stand) -> float:
    """The tilt that the tops of posts were laid out for."""
    rise = posts.roles[1].up_m - posts.roles[0].up_m
    return float(np.degrees(np.arctan2(rise, posts.roles[1].back_m - posts.roles[0].back_m)))


def strained_answer(key: str, label: str, member: Strained) -> Answer:
    """How much of a member is used that is pushed or pulled, and bent."""
    return Answer(
        "structure",
        key,
        label,
        Working(
            "U",
            "N / R_N + M / R_M",
            (
                Input("N", "push or pull along it", abs(member.axial_n), "force"),
                Input("R_N", "what it bears of that", member.axial_limit_n, "force"),
                Input("M", "bending there in that case", abs(member.moment_n_m), "moment"),
                Input("R_M", "what it bears of that", member.moment_limit_n_m, "moment"),
            ),
            member.used,
            "ratio",
            TOGETHER,
            "First order, gross section; local buckling of thin webs is for the maker's table.",
        ),
    )


def _along_answer(loads_at: tuple[TableLoads, ...], along: Along) -> Answer:
    loads = max(loads_at, key=lambda one: one.wind.velocity_pa)
    held = (
        "Cables cross some bays and carry it to the feet of their posts, which they press and lift."
        if along.cable is not None
        else "Nothing braces the row: its posts bend about their weak axis."
    )
    return Answer(
        "structure",
        "along",
        "Wind along the row, on one table",
        Working(
            "F_a",
            "",
            (
                Input("q", "pressure of the wind", loads.wind.velocity_pa, "pressure"),
                Input(
                    "c_f",
                    "friction on both faces of the glass",
                    constant("common", "ribbed_friction").value,
                    "factor",
                ),
                Input("H_a", "on the post that gets most", float(along.post_n.max()), "force"),
                Input("M_a", "most moment at the ground", float(along.post_n_m.max()), "moment"),
                Input("V_a", "most press or lift of a post", float(along.post_down_n.max()), "force"),
            ),
            float(along.table_n.max()),
            "force",
            DRAG,
            f"Half of it to each line of posts. {held} Feet that the ground holds and feet that turn "
            "are both looked at.",
        ),
    )


def _ground_answers(found: Reactions, members: Members) -> tuple[Answer, ...]:
    """The most that turns and pushes a post at the ground."""
    strongest, hardest = int(np.abs(found.moment_n_m).argmax()), int(np.abs(found.across_n).argmax())
    cases = len(found.names)
    braced = "" if members.brace is None else " and, where feet turn, by the brace alone"
    return (
        Answer(
            "structure",
            "moment",
            "Moment at the ground",
            Working(
                "M",
                "",
                (
                    Input("H", "push then", abs(float(found.across_n.flat[strongest])), "force"),
                    Input("N", "weight then", float(found.down_n.flat[strongest]), "force"),
                ),
                float(np.abs(found.moment_n_m).max()),
                "moment",
                FRAME,
                f"{found.names[strongest % cases]}. The bent is held by its feet{braced}; the post "
                "that gets most.",
            ),
            True,
        ),
        Answer(
            "structure",
            "push",
            "Push at the ground",
            Working(
                "H",
                "",
                (Input("M", "moment then", abs(float(found.moment_n_m.flat[hardest])), "moment"),),
                float(np.abs(found.across_n).max()),
                "force",
                FRAME,
                f"{found.names[hardest % cases]}.",
            ),
        ),
    )


def _brace_answers(members: Members) -> tuple[Answer, ...]:
    found = []
    if (brace := members.brace) is not None:
        found.append(
            Answer(
                "structure",
                "brace_force",
                "Push or pull in a cross brace",
                Working(
                    "N_x",
                    "",
                    (Input("R_x", "what it bears as a column", brace.limit_n, "force"),),
                    brace.push_n,
                    "force",
                    FRAME,
                    "The brace that uses most of its strength.",
                ),
            )
        )
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
