"""What one post line answers: where posts stand, what they feel, how much of each member is used."""

import math

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.loads.along import DRAG
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.members import Along, Bending, Members
from openfurrow.core.structures.one_post_line.stand import Stand
from openfurrow.core.structures.snow_rules import snow_answers
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

CONTINUOUS = Source("continuous beam by direct stiffness; AISC Manual diagrams agree", "physics")
STRENGTH = Source("AISC 360-16 F1 and AISI I6.2.1, or EN 1993-1-1 6.2.5", "from memory")


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
        *_load_answers(posts, loads, found, rows, members.along),
        *_member_answers(members, float(posts.supports.tributary_m.max())),
    )


def _spacing_answers(posts: Stand, rows: RowsPlan, givens: StructureGivens) -> tuple[Answer, ...]:
    line, reveals = posts.line, posts.supports.reveals_m
    ratio = Input("r", "end overhang over span", givens.cantilever_ratio, "ratio")
    return (
        Answer(
            "structure",
            "spacing",
            "Post to post",
            Working(
                "s",
                "L / (max(1, ceil(L / limit - 2 * r)) + 2 * r)",
                (
                    Input("L", "purlin", line.purlin_m, "run"),
                    Input("limit", "longest span", givens.span_limit_m, "tape"),
                    ratio,
                ),
                line.span_m,
                "tape",
                GEOMETRY,
                "The fewest equal spans that stay under the limit.",
            ),
            True,
        ),
        Answer(
            "structure",
            "overhang",
            "Overhang past the end posts",
            Working(
                "a",
                "r * s",
                (ratio, Input("s", "span", line.span_m, "tape")),
                line.overhang_m,
                "tape",
                GEOMETRY,
            ),
        ),
        Answer(
            "structure",
            "posts",
            "Posts",
            Working(
                "n",
                "p * t * R" if rows.alike else "",
                (
                    Input("p", "posts in a table", float(line.count), "count"),
                    Input("t", "tables in a row", float(rows.tables_along), "count"),
                    Input("R", "rows", float(rows.rows), "count"),
                ),
                float(posts.supports.count),
                "count",
                GEOMETRY,
                "" if rows.alike else f"{rows.tables.count} tables stand; some differ.",
            ),
            True,
        ),
        Answer(
            "structure",
            "reveals",
            "Shortest and tallest reveal",
            Working(
                "h_range",
                "",
                (
                    Input("h_min", "shortest, ground to bolt", float(reveals.min()), "tape"),
                    Input("h_max", "tallest", posts.supports.tallest_m, "tape"),
                ),
                float(np.ptp(reveals)),
                "tape",
                GEOMETRY,
                "How far the posts of this array differ above the ground.",
            ),
        ),
    )


def _load_answers(
    posts: Stand,
    loads_at: tuple[TableLoads, ...],
    found: Reactions,
    rows: RowsPlan,
    along: Along,
) -> tuple[Answer, ...]:
    loads = max(loads_at, key=lambda one: one.wind.velocity_pa)
    snowy = max(loads_at, key=lambda one: one.snow_pa)
    lifted, pressed = int(found.down_n.argmin()), int(found.down_n.argmax())
    strongest = int(np.abs(found.moment_n_m).argmax())
    cases = len(found.names)
    # The kind that is turned most; each of its cases stands at its greatest height, then at its least.
    kind, case = divmod(strongest, cases)
    reveal = (posts.kinds.high_m if case < cases // 2 else posts.kinds.low_m)[kind]
    section = rows.positions[case % (cases // 2) // (cases // 2 // len(loads_at))].section
    most_n = float(along.post_n.max())
    wind, rubbed = loads.wind.source, constant("common", "ribbed_friction").value
    return (
        Answer("structure", "q", "Pressure of the wind", loads.wind.working),
        *snow_answers(snowy.snow),
        Answer(
            "structure",
            "dead",
            "Weight of the table",
            Working(
                "m",
                "",
                (),
                loads.dead_kg_per_m2,
                "area_mass",
                GEOMETRY,
                "Modules, purlins and inclined beams, over the glass."
                + ("" if len(posts.sizes) == 1 else " The heaviest of tables that differ in length."),
            ),
        ),
        Answer(
            "structure",
            "tributary",
            "Row carried by the heaviest post",
            Working(
                "w",
                "",
                (Input("s", "span", posts.line.span_m, "tape"),),
                float(posts.supports.tributary_m.max()),
                "tape",
                Source("reaction of the continuous purlin under a unit load", "physics"),
            ),
        ),
        Answer(
            "structure",
            "uplift",
            "Pull on one post",
            Working(
                "T",
                "",
                (),
                max(0.0, -float(found.down_n.flat[lifted])),
                "force",
                wind,
                f"{found.names[lifted % cases]}.",
            ),
        ),
        Answer(
            "structure",
            "press",
            "Weight on one post",
            Working(
                "N",
                "",
                (),
                max(0.0, float(found.down_n.flat[pressed])),
                "force",
                wind,
                f"{found.names[pressed % cases]}.",
            ),
        ),
        Answer(
            "structure",
            "along",
            "Wind along the row, on one table",
            Working(
                "F_a",
                "",
                (
                    Input("q", "pressure of the wind", loads.wind.velocity_pa, "pressure"),
                    Input("c_f", "friction on both faces of the glass", rubbed, "factor"),
                    Input("H_a", "on the post that gets most of it", most_n, "force"),
                    Input("M_a", "and its moment at the ground", float(along.post_n_m.max()), "moment"),
                ),
                float(along.table_n.max()),
                "force",
                DRAG,
                "It rubs on the glass and pushes on posts, beams, struts and edges, none of them in "
                "shelter. Nothing braces the row: its posts bend about their weak axis, and the soil "
                "beside them holds it.",
            ),
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


def _bending_answer(key: str, label: str, member: Bending, source: Source) -> Answer:
    return Answer(
        "structure",
        key,
        label,
        Working(
            "U",
            "max(M_p / R_p, M_l / R_l)",
            (
                Input("M_p", "bending when pressed", member.pressing_n_m, "moment"),
                Input("R_p", "resistance when pressed", member.limit_n_m, "moment"),
                Input("M_l", "bending when lifted", member.lifting_n_m, "moment"),
                Input(
                    "R_l",
                    "resistance when lifted, outer flange free",
                    member.lifting_limit_n_m,
                    "moment",
                ),
            ),
            member.used,
            "ratio",
            source,
            "Gross section; local buckling of thin webs is for the maker's table to confirm.",
        ),
    )


def _member_answers(members: Members, tributary_m: float) -> tuple[Answer, ...]:
    beam, purlin, strut = members.beam, members.purlin, members.strut
    load = Input("w", "load on one purlin", purlin.load_n_per_m, "line_load")
    return (
        _bending_answer("purlin_use", "Purlin, used", purlin.bending, STRENGTH),
        _bending_answer("beam_use", "Inclined beam, used", beam.bending, STRENGTH),
        Answer(
            "structure",
            "sag",
            "Purlin sags",
            Working(
                "f",
                "",
                (
                    load,
                    Input("I", "inertia", purlin.section.inertia_m4, "inertia"),
                    Input("s", "span, twice the overhang", purlin.sag_span_m, "tape"),
                ),
                purlin.sag_m,
                "thickness",
                CONTINUOUS,
            ),
        ),
        Answer(
            "structure",
            "reaction",
            "A purlin on its busiest beam",
            Working(
                "R",
                "w * t",
                (load, Input("t", "row carried there", tributary_m, "tape")),
                purlin.load_n_per_m * tributary_m,
                "force",
                CONTINUOUS,
                "What the two bolts of a crossing hold.",
            ),
        ),
        Answer(
            "structure",
            "strut_force",
            "Push or pull in a strut",
            Working(
                "N_s",
                "R_s / sin(alpha)",
                (
                    Input("R_s", "beam's reaction at the strut", beam.strut_pull_n, "force"),
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
