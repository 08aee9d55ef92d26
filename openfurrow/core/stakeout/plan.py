"""Stakeout: every post's place, levels, length and rod readings; the diagonals that prove it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.posts import Posts
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.stakeout.givens import StakeoutGivens
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Stakes:
    """One entry a post. Levels are over the benchmark: the ground at the first array's first post.

    ``tape_m`` runs along the row's purlins from its first post: the tape lies as they do. Rod readings
    are from the line of sight down; a negative top reading means the post stands above it.
    """

    places: SupportPlaces
    tape_m: Floats
    ground_m: Floats
    top_m: Floats
    depth_m: Floats
    length_m: Floats
    rod_ground_m: Floats
    rod_top_m: Floats


@dataclass(frozen=True)
class SettingOut:
    """One array's stakes and the two diagonals of its rectangle, level and along the ground."""

    stakes: Stakes
    corners_east_m: Floats
    corners_north_m: Floats
    diagonal_level_m: float
    diagonal_a_m: float
    diagonal_b_m: float
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


@dataclass(frozen=True)
class StakeoutPlan:
    """The setting out of every array, in their order, from one benchmark."""

    arrays: tuple[SettingOut, ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def set_stakes(
    rows: RowsPlan,
    structure: StructurePlan,
    posts: Posts,
    instrument_height_m: float,
    benchmark_m: float,
) -> Stakes:
    """Levels and lengths: the ground at each post, and the bolt that its own table asks for."""
    supports = structure.supports
    places = supports.places
    ground = supports.ground_m - benchmark_m
    top = ground + supports.reveals_m + structure.posts.givens.post_top_m
    row_starts = np.searchsorted(places.row, np.arange(rows.rows))
    tape = places.run_m - places.run_m[row_starts][places.row]
    return Stakes(
        places=places,
        tape_m=tape,
        ground_m=ground,
        top_m=top,
        depth_m=posts.depths_m,
        length_m=posts.lengths_m,
        rod_ground_m=instrument_height_m - ground,
        rod_top_m=instrument_height_m - top,
    )


def rectangle(rows: RowsPlan, places: SupportPlaces) -> tuple[Floats, Floats, float, float]:
    """Corners (front first, front last, back last, back first) and sides of the rectangle.

    A single row is squared with an offset line 3 m behind it.
    """
    last = int(np.searchsorted(places.row, 1)) - 1
    along = np.array([places.along_m[0], places.along_m[last]])
    depth = (
        (rows.rows - 1) * rows.pitch_m if rows.rows > 1 else constant("common", "offset_line_m").value
    )
    east, north = rows.setting.east_north_m(
        np.array([along[0], along[1], along[1], along[0]]), np.array([0.0, 0.0, depth, depth])
    )
    return east, north, float(along[1] - along[0]), depth


def set_out(
    site: SitePlan,
    rows: RowsPlan,
    structure: StructurePlan,
    posts: Posts,
    givens: StakeoutGivens,
    benchmark_m: float,
) -> SettingOut:
    """One array's stakes, diagonals and what the instrument will read.

    ``benchmark_m`` is the ground's level at the first post of the job's first array.
    """
    stakes = set_stakes(rows, structure, posts, givens.instrument_height_m, benchmark_m)
    east, north, side, depth = rectangle(rows, stakes.places)
    level = site.ground.level_m(east, north)
    corners = np.column_stack((east, north, level))
    diagonal_a = float(np.linalg.norm(corners[2] - corners[0]))
    diagonal_b = float(np.linalg.norm(corners[3] - corners[1]))
    straight = math.hypot(side, depth)
    span = structure.posts.line.span_m
    answers = _answers(span, rows, stakes, side, depth, (diagonal_a, diagonal_b), givens)
    return SettingOut(stakes, east, north, straight, diagonal_a, diagonal_b, answers, _checks(stakes))


def _answers(
    span_m: float,
    rows: RowsPlan,
    stakes: Stakes,
    side: float,
    depth: float,
    diagonals: tuple[float, float],
    givens: StakeoutGivens,
) -> tuple[Answer, ...]:
    behind = "to the last row's posts" if rows.rows > 1 else "to an offset line behind the posts"
    sides = (
        Input("a", "first to last post, level", side, "tape"),
        Input("b", behind, depth, "run"),
    )
    last = -1
    at_end = int(np.searchsorted(stakes.places.row, 1)) - 1
    climbs = float(rows.lie.tables.level_share.min()) < 1.0
    return (
        *_row_answers(rows, stakes),
        Answer(
            "stakeout",
            "tape",
            "End post to end post",
            Working(
                "a_tape",
                "",
                (
                    Input("s", "span", span_m, "tape"),
                    Input("a", "the same, level", side, "tape"),
                ),
                float(stakes.tape_m[at_end]),
                "tape",
                GEOMETRY,
                (
                    "Along the purlins, which climb with the ground: lay the tape as they lie."
                    if climbs
                    else "Level."
                )
                + " Set these two first, then a string between them.",
            ),
            True,
        ),
        Answer(
            "stakeout",
            "diagonal",
            "Both diagonals, level",
            Working(
                "D",
                "sqrt(a**2 + b**2)",
                sides,
                math.hypot(side, depth),
                "tape",
                GEOMETRY,
                f"Second side {behind}.",
            ),
            True,
        ),
        Answer(
            "stakeout",
            "diagonal_a",
            "Diagonal on the ground, first front to last back",
            Working(
                "D_1",
                "",
                sides,
                diagonals[0],
                "tape",
                GEOMETRY,
                "Tape laid on the slope; it differs from the other where the plane falls across.",
            ),
        ),
        Answer(
            "stakeout",
            "diagonal_b",
            "Diagonal on the ground, last front to first back",
            Working("D_2", "", sides, diagonals[1], "tape", GEOMETRY),
        ),
        Answer(
            "stakeout",
            "rod_first",
            "Rod on the ground, first post",
            Working(
                "r_1",
                "i - z_1",
                (
                    Input("i", "line of sight over benchmark", givens.instrument_height_m, "tape"),
                    Input("z_1", "ground over benchmark", float(stakes.ground_m[0]), "tape"),
                ),
                float(stakes.rod_ground_m[0]),
                "tape",
                GEOMETRY,
                "The benchmark is the ground at the first array's first post."
                if stakes.ground_m[0]
                else "The benchmark is the ground at the first post.",
            ),
            True,
        ),
        Answer(
            "stakeout",
            "rod_last",
            "Rod on the ground, last post",
            Working(
                "r_n",
                "i - z_n",
                (
                    Input("i", "line of sight over benchmark", givens.instrument_height_m, "tape"),
                    Input("z_n", "ground over benchmark", float(stakes.ground_m[last]), "tape"),
                ),
                float(stakes.rod_ground_m[last]),
                "tape",
                GEOMETRY,
            ),
        ),
        Answer(
            "stakeout",
            "top_first",
            "Post top over ground, first post",
            Working(
                "h_1",
                "z_top - z_1",
                (
                    Input("z_top", "top over benchmark", float(stakes.top_m[0]), "tape"),
                    Input("z_1", "ground over benchmark", float(stakes.ground_m[0]), "tape"),
                ),
                float(stakes.top_m[0] - stakes.ground_m[0]),
                "tape",
                GEOMETRY,
                "The beam's bolt sits lower by the steel above it. Heights within 13 mm (1/2 in) of "
                "the string.",
            ),
            True,
        ),
    )


def _row_answers(rows: RowsPlan, stakes: Stakes) -> tuple[Answer, ...]:
    """From row to row with the tape on the ground, where that is not the level pitch."""
    if rows.rows < 2:
        return ()
    behind = int(np.searchsorted(stakes.places.row, 1))
    climb = float(stakes.ground_m[behind] - stakes.ground_m[0])
    return (
        Answer(
            "stakeout",
            "row_tape",
            "First row to second, tape on the ground",
            Working(
                "P_tape",
                "sqrt(P**2 + z**2)",
                (
                    Input("P", "pitch, level", rows.pitch_m, "tape"),
                    Input("z", "ground of the second row's first post over the first's", climb, "tape"),
                ),
                math.hypot(rows.pitch_m, climb),
                "tape",
                GEOMETRY,
            ),
        ),
    )


def _checks(stakes: Stakes) -> tuple[Check, ...]:
    return (
        at_least(
            "stakeout",
            "sight",
            "The rod reads at every stake",
            float(stakes.rod_ground_m.min()),
            0.0,
            "tape",
            remedy="Raise the instrument, or move it up the slope and turn again.",
            source=GEOMETRY,
            given="stakeout.instrument_height_m",
        ),
        within(
            "stakeout",
            "rod",
            "The rod is long enough",
            float(stakes.rod_ground_m.max()),
            constant("common", "rod_m"),
            "tape",
            most=True,
            remedy="Move the instrument down the slope and carry the benchmark on.",
            given="stakeout.instrument_height_m",
            otherwise="look",
        ),
        within(
            "stakeout",
            "reveals",
            "Posts stand alike",
            float(np.ptp(stakes.top_m - stakes.ground_m)),
            constant("common", "post_spread_m"),
            "tape",
            most=True,
            remedy="Follow the ground or break the table: post lengths spread too far.",
            given="rows.follow_ground",
            otherwise="look",
        ),
    )
