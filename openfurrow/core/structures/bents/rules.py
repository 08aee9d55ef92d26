"""What would stop bents of two posts, whatever lies on them."""

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.answers import TOGETHER, tilt_of
from openfurrow.core.structures.bents.sized import Brace, Strained
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import GEOMETRY, Source

COLUMN = Source("AISC 360-16 E3, or EN 1993-1-1 6.3.1 curve c", "from memory")


def bent_checks(
    posts: Stand,
    members: tuple[Strained, Brace | None, Along],
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Posts over the ground both ways, brace, how the bent fits; ``members`` of the worst table."""
    over_ground, brace, along = members
    front = posts.supports.reveals_m[posts.of_role(0)]
    braces = () if brace is None else (_brace_check(brace),)
    crossed = givens.family in ("two post lines", "ballast frame")
    return (
        at_most(
            "structure",
            "posts",
            "Posts carry the load over the ground",
            over_ground.used,
            1.0,
            "ratio",
            remedy="A heavier post, posts closer together, a brace that meets it lower, or cables.",
            source=TOGETHER,
            given="structure.post_section",
        ),
        *braces,
        at_most(
            "structure",
            "posts_along",
            "Posts carry the wind along the row over the ground",
            along.bending_n_m,
            along.bending_limit_n_m,
            "moment",
            remedy=(
                "Cross one more bay, cables that meet posts lower, or wider posts."
                if crossed
                else "Wider posts, or posts closer together."
            ),
            source=Source("elastic bending about the weak axis", "physics"),
            given="structure.braced_bays" if crossed else "structure.post_section",
        ),
        within(
            "structure",
            "front_rise",
            "Front posts rise over what meets them",
            float(front.min()) - givens.brace_foot_m,
            constant("common", "front_rise_m"),
            "tape",
            most=False,
            remedy="Meet the post lower, raise the table, or lines nearer to each other.",
            given="structure.brace_foot_m",
        ),
        holds(
            "structure",
            "one_tilt",
            "The table is set to one tilt",
            abs(section.tilt_deg - tilt_of(posts)) < 0.01,
            f"{section.tilt_deg:g}° of posts cut for {tilt_of(posts):.0f}°",
            "two lines of posts hold one tilt",
            remedy="Take the other tilts out, or one post line, whose table turns.",
            source=GEOMETRY,
            given="rows.positions",
        ),
    )


def _brace_check(brace: Brace) -> Check:
    return at_most(
        "structure",
        "brace",
        "Cross braces do not buckle",
        brace.push_n,
        brace.limit_n,
        "force",
        remedy="A wider pipe, posts closer together, or lines nearer to each other.",
        source=COLUMN,
        given="structure.brace_section",
    )
