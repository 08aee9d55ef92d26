"""Stakeout: every post's place, levels, length and rod readings; the diagonals that prove it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.posts import Posts
from openfurrow.core.quantities import either
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

    ``tape_m`` runs along the purlins of a line of posts from its first: the tape lies as they do. Rod
    readings are from the line of sight down; a negative top reading means the post stands above it.
    ``mass_kg`` weighs down what stands on the ground; ``bore_m`` is how deep a bore goes, its stone
    included, ``torque_n_m`` what a screw has to have taken.
    """

    places: SupportPlaces
    tape_m: Floats
    ground_m: Floats
    top_m: Floats
    depth_m: Floats
    length_m: Floats
    rod_ground_m: Floats
    rod_top_m: Floats
    mass_kg: Floats | None
    bore_m: Floats | None = None
    torque_n_m: Floats | None = None


@dataclass(frozen=True)
class SettingOut:
    """One array's stakes and the two diagonals of its rectangle, level and along the ground.

    Where the front line is one post alone nothing is ``squared``, and the rectangle is none.
    """

    stakes: Stakes
    squared: bool
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
    top = ground + supports.reveals_m + structure.posts.bent.top_m
    _, tape = places.lines
    return Stakes(
        places=places,
        tape_m=tape,
        ground_m=ground,
        top_m=top,
        depth_m=posts.depths_m,
        length_m=posts.lengths_m,
        rod_ground_m=instrument_height_m - ground,
        rod_top_m=instrument_height_m - top,
        mass_kg=posts.masses_kg,
        bore_m=posts.ends_m if posts.below_m > 0 else None,
        torque_n_m=posts.torque_n_m,
    )


@dataclass(frozen=True)
class Rectangle:
    """What squares the array: from the first to the last post of its front line, and back from it.

    Corners are front first, front last, back last, back first. ``last_post`` ends the front line,
    ``behind`` are the first posts of the lines next behind it: of the same bents where these have two
    posts, and of the next row.
    """

    east_m: Floats
    north_m: Floats
    side_m: float
    depth_m: float
    first_post: int
    last_post: int
    behind: tuple[int, ...]


def rectangle(rows: RowsPlan, places: SupportPlaces) -> Rectangle:
    """The rectangle over the lines of the rows; a single one is squared with an offset line 3 m behind.

    Where no table stands in its row, the first table is squared by itself.
    """
    tables = rows.tables
    in_line = tables.in_line[places.of_table]
    front = int(places.line[in_line].min()) if in_line.any() else int(places.line[0])
    mine = np.flatnonzero(places.line == front)
    first, last = (int(mine[pick(places.run_m[mine])]) for pick in (np.argmin, np.argmax))
    others = np.flatnonzero(in_line & (places.line > front))
    depth, behind = constant("common", "offset_line_m").value, []
    if others.size and in_line.any():
        back = others[places.line[others] == places.line[others].max()]
        depth = float(places.back_m[back[0]] - places.back_m[first])
        roles = len(places.roles)
        for line in (front + 1, front + roles) if roles > 1 else (int(places.line[others].min()),):
            next_line = others[places.line[others] == line]
            if next_line.size:
                behind.append(int(next_line[np.argmin(places.run_m[next_line])]))
    of, from_middle = places.of_table[[first, last]], places.from_middle_m[[first, last]]
    start = places.roles[int(places.role[first])].back_m
    corners = [tables.east_north_m(of, from_middle, start + deep) for deep in (0.0, depth)]
    order = [(0, 0), (0, 1), (1, 1), (1, 0)]
    east, north = (np.array([corners[side][axis][end] for side, end in order]) for axis in (0, 1))
    side = math.hypot(
        float(places.east_m[last] - places.east_m[first]),
        float(places.north_m[last] - places.north_m[first]),
    )
    return Rectangle(east, north, side, depth, first, last, tuple(behind))


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
    square = rectangle(rows, stakes.places)
    level = site.ground.level_m(square.east_m, square.north_m)
    corners = np.column_stack((square.east_m, square.north_m, level))
    diagonal_a = float(np.linalg.norm(corners[2] - corners[0]))
    diagonal_b = float(np.linalg.norm(corners[3] - corners[1]))
    straight = math.hypot(square.side_m, square.depth_m)
    lone = square.first_post == square.last_post
    span = structure.posts.line.span_m if structure.posts.spaced else None
    answers = (
        *_row_answers(stakes, square),
        *(
            _place_answers(stakes)
            if lone
            else _squaring_answers(span, rows, stakes, square, (diagonal_a, diagonal_b))
        ),
        *_rod_answers(stakes, structure.posts.bent.top_m, givens),
    )
    return SettingOut(
        stakes,
        not lone,
        square.east_m,
        square.north_m,
        straight,
        diagonal_a,
        diagonal_b,
        answers,
        _checks(stakes),
    )


def _place_answers(stakes: Stakes) -> tuple[Answer, ...]:
    """Where a post stands that has no other in its line: nothing squares it."""
    east, north = float(stakes.places.east_m[0]), float(stakes.places.north_m[0])
    return (
        Answer(
            "stakeout",
            "from_origin",
            "First post, level from the site's origin",
            Working(
                "r",
                "sqrt(E**2 + N**2)",
                (
                    Input("E", "east of the origin", east, "coordinate"),
                    Input("N", "north of it", north, "coordinate"),
                ),
                math.hypot(east, north),
                "tape",
                GEOMETRY,
                "It stands by itself in its line, so no string and no diagonals prove it: tape it from "
                "two marks, and sight the table's own line by the compass.",
            ),
            True,
        ),
    )


def _squaring_answers(
    span_m: float | None,
    rows: RowsPlan,
    stakes: Stakes,
    square: Rectangle,
    diagonals: tuple[float, float],
) -> tuple[Answer, ...]:
    """The tape from end to end, and the diagonals that prove the rectangle; ``span_m`` where posts of a
    table are spaced."""
    side, depth = square.side_m, square.depth_m
    behind = "to the last line of posts" if square.behind else "to an offset line behind the posts"
    sides = (
        Input("a", "first to last post, level", side, "tape"),
        Input("b", behind, depth, "run"),
    )
    climbs = float(rows.lie.tables.level_share.min()) < 1.0
    return (
        Answer(
            "stakeout",
            "tape",
            "End post to end post",
            Working(
                "a_tape",
                "",
                (
                    *(() if span_m is None else (Input("s", "span", span_m, "tape"),)),
                    Input("a", "the same, level", side, "tape"),
                ),
                float(stakes.tape_m[square.last_post] - stakes.tape_m[square.first_post]),
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
    )


def _rod_answers(stakes: Stakes, top_m: float, givens: StakeoutGivens) -> tuple[Answer, ...]:
    """What the instrument reads at the first and the last stake; posts end ``top_m`` over bolts."""
    last = -1
    top = (
        "The beam's bolt sits lower by the steel above it."
        if top_m > 0
        else "The pipe is saddled on it: its middle lies higher by half of its outside."
    )
    return (
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
                f"{top} Heights within {either('1/2 in', '13 mm')} of the string.",
            ),
            True,
        ),
    )


def _row_answers(stakes: Stakes, square: Rectangle) -> tuple[Answer, ...]:
    """From line to line with the tape on the ground, where that is not the level pitch."""
    return tuple(_line_answer(stakes, square.first_post, behind) for behind in square.behind)


def _line_answer(stakes: Stakes, first: int, behind: int) -> Answer:
    climb = float(stakes.ground_m[behind] - stakes.ground_m[first])
    apart = float(stakes.places.back_m[behind] - stakes.places.back_m[first])
    key, lines, other = "row_tape", "First row to second", "the second row's"
    if stakes.places.role[behind] != stakes.places.role[first]:
        key, lines, other = "line_tape", "Front line to back line", "the back line's"
    return Answer(
        "stakeout",
        key,
        f"{lines}, tape on the ground",
        Working(
            "P_tape",
            "sqrt(P**2 + z**2)",
            (
                Input("P", "from line to line, level", apart, "tape"),
                Input("z", f"ground of {other} first post over the first's", climb, "tape"),
            ),
            math.hypot(apart, climb),
            "tape",
            GEOMETRY,
        ),
    )


def _checks(stakes: Stakes) -> tuple[Check, ...]:
    rise, role = stakes.top_m - stakes.ground_m, stakes.places.role
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
            max(float(np.ptp(rise[role == one])) for one in np.unique(role).tolist()),
            constant("common", "post_spread_m"),
            "tape",
            most=True,
            remedy="Follow the ground or break the table: post lengths spread too far.",
            given="rows.follow_ground",
            otherwise="look",
        ),
    )
