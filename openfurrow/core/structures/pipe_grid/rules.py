"""What would stop a pipe grid: pipes, rails, posts and braces that do not carry, or do not fit."""

from openfurrow.core.checks import Check, at_most, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.answers import STRENGTH
from openfurrow.core.structures.bents.rules import bent_checks
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.pipe_grid.members import Members
from openfurrow.core.structures.rules import (
    column_span_check,
    load_checks,
    rail_check,
    shift_checks,
)
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Members, how the pair of posts fits, snow and wind figure, shifted posts."""
    return (
        *_own_checks(posts, members, givens),
        *bent_checks(posts, (members.posts, members.brace, members.along), section, givens),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )


def _own_checks(posts: Stand, members: Members, givens: StructureGivens) -> tuple[Check, ...]:
    pipe, rail = members.purlin, members.beam
    past = float(min(rail.places_m[0] - rail.start_m, rail.start_m + rail.length_m - rail.places_m[1]))
    return (
        at_most(
            "structure",
            "pipe",
            "Pipes along the row carry the load",
            pipe.used,
            1.0,
            "ratio",
            remedy="A wider pipe, posts under every column, or a lower table.",
            source=STRENGTH,
            given="structure.pipe_section",
        ),
        at_most(
            "structure",
            "pipe_sag",
            "Pipes stay straight enough",
            pipe.sag_m,
            members.sag_limit_m,
            "thickness",
            remedy="A wider pipe, or posts under every column.",
            source=COMMON_PRACTICE,
            given="structure.pipe_section",
            otherwise="look",
        ),
        rail_check(rail, "A deeper rail, or pipes nearer to or further from each other."),
        within(
            "structure",
            "pipes_under",
            "Rails reach over both pipes",
            past,
            constant("common", "bolt_edge_m"),
            "tape",
            most=False,
            remedy="Lines nearer to each other: the rail ends before its clamp.",
            given="structure.lines_apart_m",
        ),
        column_span_check(posts, givens),
    )
