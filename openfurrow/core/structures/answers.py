"""What structures of every family answer: where posts stand, what acts, what purlins do."""

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.loads.along import DRAG
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.edge_gusts import Gust
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.purlins import Bending, Purlin
from openfurrow.core.structures.snow_rules import snow_answers
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

CONTINUOUS = Source("continuous beam by direct stiffness; AISC Manual diagrams agree", "physics")
WEB = Source("AISI S100-16 G2.1 and H2: webs in shear, bent at once", "from memory")
STRENGTH = Source(
    "AISI S100-16 F2 to F4 and I6.2.1 (thin walls), AISC 360-16 F2 or EN 1993-1-1 6.3.2 (rolled)",
    "from memory",
)

TWISTED = Source(
    "bending about the true axes and Vlasov's torsion, forks at its ends; AISI S100-16 H4",
    "from memory",
)


def spacing_answers(posts: Stand, rows: RowsPlan, givens: StructureGivens) -> tuple[Answer, ...]:
    """From bent to bent, how many posts, how far they rise."""
    line = posts.line
    ratio = Input("r", "end overhang over span", givens.cantilever_ratio, "ratio")
    return (
        Answer(
            "structure",
            "spacing",
            f"{posts.noun.capitalize()} to {posts.noun}",
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
            f"Overhang past the end {posts.noun}s",
            Working(
                "a",
                "r * s",
                (ratio, Input("s", "span", line.span_m, "tape")),
                line.overhang_m,
                "tape",
                GEOMETRY,
            ),
        ),
        count_answer(posts, rows),
        *reveals_answers(posts),
    )


def count_answer(posts: Stand, rows: RowsPlan) -> Answer:
    """How many posts there are."""
    line, roles = posts.line, len(posts.roles)
    return Answer(
        "structure",
        "posts",
        f"{posts.noun.capitalize()}s" if roles > 1 else f"{posts.roles[0].name.capitalize()}s",
        Working(
            "n",
            "p * t * R" if rows.alike else "",
            (
                Input("p", f"{posts.noun}s in a table", float(line.count * roles), "count"),
                Input("t", "tables in a row", float(rows.tables_along), "count"),
                Input("R", "rows", float(rows.rows), "count"),
            ),
            float(posts.supports.count),
            "count",
            GEOMETRY,
            "" if rows.alike else f"{rows.tables.count} tables stand; some differ.",
        ),
        True,
    )


def reveals_answers(posts: Stand) -> tuple[Answer, ...]:
    """How far posts rise, line by line."""
    return tuple(_reveals_answer(posts, role) for role in range(len(posts.roles)))


def _reveals_answer(posts: Stand, role: int) -> Answer:
    """How far the posts of one line differ above the ground."""
    reveals, name = posts.supports.reveals_m[posts.of_role(role)], posts.roles[role].name
    several = len(posts.roles) > 1
    return Answer(
        "structure",
        f"reveals_{role + 1}" if several else "reveals",
        f"{name.capitalize()}s, shortest to tallest" if several else "Shortest and tallest reveal",
        Working(
            "h_range",
            "",
            (
                Input("h_min", "shortest, ground to bolt", float(reveals.min()), "tape"),
                Input("h_max", "tallest", float(reveals.max()), "tape"),
            ),
            float(np.ptp(reveals)),
            "tape",
            GEOMETRY,
            f"How far the {name}s of this array differ above the ground.",
        ),
    )


def load_answers(
    posts: Stand, loads_at: tuple[TableLoads, ...], found: Reactions
) -> tuple[Answer, ...]:
    """Wind, snow and weight, the most that a post pulls and presses; ``loads_at`` every position."""
    loads = max(loads_at, key=lambda one: one.wind.velocity_pa)
    snowy = max(loads_at, key=lambda one: one.snow_pa)
    lifted, pressed = int(found.down_n.argmin()), int(found.down_n.argmax())
    cases, wind = len(found.names), loads.wind.source
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
                "Modules and the steel under them, over the glass."
                + ("" if len(posts.sizes) == 1 else " The heaviest of tables that differ in length."),
            ),
        ),
        Answer(
            "structure",
            "tributary",
            f"Row carried by the heaviest {posts.noun}",
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
            f"Pull on one {posts.noun}",
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
            f"Weight on one {posts.noun}",
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
    )


def along_answer(
    loads_at: tuple[TableLoads, ...], table_n: float, on_posts: tuple[Input, ...], how: str
) -> Answer:
    """Wind along the row on the table that gets most; ``how`` it gets to the ground."""
    loads = max(loads_at, key=lambda one: one.wind.velocity_pa)
    rubbed = constant("common", "ribbed_friction").value
    return Answer(
        "structure",
        "along",
        "Wind along the row, on one table",
        Working(
            "F_a",
            "",
            (
                Input("q", "pressure of the wind", loads.wind.velocity_pa, "pressure"),
                Input("c_f", "friction on both faces of the glass", rubbed, "factor"),
                *on_posts,
            ),
            table_n,
            "force",
            DRAG,
            "It rubs on the glass and pushes on posts, beams, braces and edges, none of them in "
            f"shelter. {how}",
        ),
    )


def purlin_use(purlin: Purlin) -> Answer:
    """How much of a purlin bending uses."""
    return bending_answer("purlin_use", "Purlin, used", purlin.bending, by(purlin.section, STRENGTH))


def bending_answer(key: str, label: str, member: Bending, source: Source) -> Answer:
    """How much of a member is used, pressed or lifted."""
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
            f"Elastic. {member.words}",
        ),
    )


def gust_answer(key: str, label: str, found: Bending, gust: Gust) -> Answer:
    """How much of a member a gust on one bay of it uses, in bending."""
    return Answer(
        "structure",
        key,
        label,
        Working(
            "U_g",
            "max(M_p / R_p, M_l / R_l)",
            (
                Input("M_p", "bending when pressed", found.pressing_n_m, "moment"),
                Input("R_p", "resistance when pressed", found.limit_n_m, "moment"),
                Input("M_l", "bending when lifted", found.lifting_n_m, "moment"),
                Input("R_l", "resistance when lifted", found.lifting_limit_n_m, "moment"),
                Input("b", "bay that it is worst on", gust.bay_m, "tape"),
            ),
            found.used,
            "ratio",
            gust.source,
            f"A small piece takes more wind than a table does as a whole: {gust.zone} on one bay, the "
            "others with the wind of the whole table or with none.",
        ),
    )


def sideways_answer(purlin: Purlin) -> Answer:
    """How much more of a purlin would be used, and whether it is, bent and twisted sideways."""
    loose = purlin.loose
    assert loose is not None
    return Answer(
        "structure",
        "purlin_sideways",
        "Purlin sideways, used besides",
        Working(
            "U_s",
            "(s_c - s_b) / s_y",
            (
                Input("s_c", "stress at the worst corner, if it is loose", loose.corner_pa, "stress"),
                Input("s_b", "of it by bending square to the glass", loose.square_pa, "stress"),
                Input("s_y", "stress that it may have", loose.limit_pa, "stress"),
                Input("M_s", "bending down the slope", loose.sideways_n_m, "moment"),
                Input("w_s", "weight and snow down the slope", purlin.slope_n_per_m, "line_load"),
                Input("t", "torque on a metre of it", loose.turning_n, "moment"),
            ),
            purlin.sideways,
            "ratio",
            TWISTED,
            "Not counted: modules are said to hold it from bending sideways and from turning. So long "
            "as they are not on, it does."
            if purlin.held
            else "Counted with the bending square to the glass: what presses on its flange lies beside "
            "its shear centre, and a Z's axes are not those of its web.",
        ),
    )


# What holds a purlin, or a pipe, on what it lies on.
HOLDS_IT = {
    "beam": "What the two bolts of a crossing hold.",
    "post": "What its saddle holds.",
    "pile": "What the clip and the strap hold.",
}


def purlin_answers(
    purlin: Purlin, tributary_m: float, word: str = "purlin", on: str = "beam"
) -> tuple[Answer, ...]:
    """Its sag, and what it brings to the busiest of what it lies on, ``tributary_m`` of the row."""
    load = Input("w", f"load on one {word}", purlin.load_n_per_m, "line_load")
    gust, bending = purlin.gust, purlin.gust_bending
    assert gust is not None and bending is not None
    return (
        gust_answer(f"{word}_gust", f"{word.capitalize()} under a gust, used", bending, gust),
        Answer(
            "structure",
            "sag",
            f"{word.capitalize()} sags",
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
            f"A {word} on its busiest {on}",
            Working(
                "R",
                "max(w * t, R_g)",
                (
                    load,
                    Input("t", "row carried there", tributary_m, "tape"),
                    Input("R_g", "under a gust on what it carries", purlin.crossing_n, "force"),
                ),
                max(purlin.load_n_per_m * tributary_m, purlin.crossing_n),
                "force",
                CONTINUOUS,
                HOLDS_IT[on],
            ),
        ),
    )
