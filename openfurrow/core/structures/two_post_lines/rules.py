"""What would stop two post lines: members that do not carry, heads off the beam, more than one tilt."""

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.rules import load_checks, purlin_checks, shift_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.two_post_lines.answers import TOGETHER, tilt_of
from openfurrow.core.structures.two_post_lines.members import Members
from openfurrow.core.working import GEOMETRY, Source

COLUMN = Source("AISC 360-16 E3, or EN 1993-1-1 6.3.1 curve c", "from memory")
ROPE = Source("ASCE/SEI 19 or EN 1993-1-11, ends in U-bolt grips", "from memory")


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Members, brace and cables, how the bent fits, snow and wind figure, shifted posts."""
    return (
        *purlin_checks(members.purlin, members.sag_limit_m),
        *_strained_checks(members),
        *_brace_check(members),
        *_along_checks(members),
        *_fit_checks(posts, members, section, givens),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )


def _strained_checks(members: Members) -> tuple[Check, ...]:
    return (
        at_most(
            "structure",
            "beam",
            "Inclined beams carry the load",
            members.beam.strained.used,
            1.0,
            "ratio",
            remedy="A deeper beam, posts closer together, or lines nearer to or further from each "
            "other.",
            source=TOGETHER,
            given="structure.beam_section",
        ),
        at_most(
            "structure",
            "posts",
            "Posts carry the load over the ground",
            members.posts.used,
            1.0,
            "ratio",
            remedy="A heavier post, posts closer together, a brace that meets it lower, or cables.",
            source=TOGETHER,
            given="structure.post_section",
        ),
    )


def _brace_check(members: Members) -> tuple[Check, ...]:
    if members.brace is None:
        return ()
    return (
        at_most(
            "structure",
            "brace",
            "Cross braces do not buckle",
            members.brace.push_n,
            members.brace.limit_n,
            "force",
            remedy="A wider pipe, posts closer together, or lines nearer to each other.",
            source=COLUMN,
            given="structure.brace_section",
        ),
    )


def _along_checks(members: Members) -> tuple[Check, ...]:
    along = members.along
    bent = at_most(
        "structure",
        "posts_along",
        "Posts carry the wind along the row over the ground",
        along.bending_n_m,
        along.bending_limit_n_m,
        "moment",
        remedy="Cross one more bay, cables that meet posts lower, or wider posts.",
        source=Source("elastic bending about the weak axis", "physics"),
        given="structure.braced_bays",
    )
    if along.cable is None:
        return (bent,)
    return (
        bent,
        at_most(
            "structure",
            "cable",
            "Cables hold the row",
            along.cable.pull_n,
            along.cable.limit_n,
            "force",
            remedy="A thicker cable, or cross one more bay.",
            source=ROPE,
            given="structure.cable",
        ),
    )


def _fit_checks(
    posts: Stand, members: Members, section: TableSection, givens: StructureGivens
) -> tuple[Check, ...]:
    beam, front = members.beam, posts.supports.reveals_m[posts.of_role(0)]
    past = float(min(beam.bolts_m[0] - beam.start_m, beam.start_m + beam.length_m - beam.bolts_m[-1]))
    return (
        within(
            "structure",
            "heads",
            "Both heads hold the beam, not the air",
            past,
            constant("common", "bolt_edge_m"),
            "tape",
            most=False,
            remedy="Lines nearer to each other: the beam ends before its bolt.",
            given="structure.lines_apart_m",
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
