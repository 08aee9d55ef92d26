"""What bents of two posts answer, whatever lies on them."""

import math

import numpy as np

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.structures.answers import along_answer
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.sized import Brace, Strained
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

FRAME = Source("plane frame by direct stiffness; equilibrium and a second program agree", "physics")
TOGETHER = Source("AISC 360-16 H1 or EN 1993-1-1 6.3.3, shares added without relief", "from memory")


def heads_answer(posts: Stand) -> Answer:
    """How far the bolts of the back line lie over those of the front line."""
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
    """How much of a member is used: pushed or pulled, bent, and cut across where that is looked at."""
    cut = math.isfinite(member.shear_limit_n)
    across = (
        Input("V", "cuts across it there", abs(member.shear_n), "force"),
        Input("R_V", "what its web bears of that", member.shear_limit_n, "force"),
    )
    return Answer(
        "structure",
        key,
        label,
        Working(
            "U",
            "N / R_N + sqrt((M / R_M)**2 + (V / R_V)**2)" if cut else "N / R_N + M / R_M",
            (
                Input("N", "push or pull along it", abs(member.axial_n), "force"),
                Input("R_N", "what it bears of that", member.axial_limit_n, "force"),
                Input("M", "bending there in that case", abs(member.moment_n_m), "moment"),
                Input("R_M", "what it bears of that", member.moment_limit_n_m, "moment"),
                *(across if cut else ()),
            ),
            member.used,
            "ratio",
            by(member.section, TOGETHER),
            f"First order. {member.words}",
        ),
    )


def along_bents(loads_at: tuple[TableLoads, ...], along: Along) -> Answer:
    """Wind along the row, and how two lines of posts bring it to the ground."""
    held = (
        "Cables cross some bays and carry it to the feet of their posts, which they press and lift; "
        "feet that the ground holds, there or deeper, and feet that turn are all looked at."
        if along.cable is not None
        else "Nothing braces the row: its posts bend about their weak axis, and the soil beside them "
        "holds it."
    )
    on_posts = (
        Input("H_a", "on the post that gets most of it", float(along.post_n.max()), "force"),
        Input("M_a", "most moment at the ground", float(along.post_n_m.max()), "moment"),
        Input("V_a", "most press or lift of a post", float(along.post_down_n.max()), "force"),
    )
    table_n = float(along.table_n.max())
    return along_answer(loads_at, table_n, on_posts, f"Half of it goes to each line. {held}")


def ground_answers(found: Reactions, *, braced: bool) -> tuple[Answer, ...]:
    """The most that turns and pushes a post at the ground."""
    strongest, hardest = int(np.abs(found.moment_n_m).argmax()), int(np.abs(found.across_n).argmax())
    cases = len(found.names)
    by = " and, where feet turn, by the brace alone" if braced else ""
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
                f"{found.names[strongest % cases]}. The bent is held by its feet{by}; the post "
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


def brace_answers(brace: Brace | None) -> tuple[Answer, ...]:
    """What the cross brace takes, where there is one."""
    if brace is None:
        return ()
    return (
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
        ),
    )
