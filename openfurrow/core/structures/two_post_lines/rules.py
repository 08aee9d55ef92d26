"""What would stop two post lines: members that do not carry, heads off the beam, more than one tilt."""

from openfurrow.core.checks import Check, at_most, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.bents.answers import TOGETHER
from openfurrow.core.structures.bents.rules import bent_checks
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.rules import load_checks, purlin_checks, shift_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.two_post_lines.members import Members
from openfurrow.core.working import Source

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
        *_own_checks(members),
        *bent_checks(posts, (members.posts, members.brace, members.along), section, givens),
        *_cable_check(members),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )


def _own_checks(members: Members) -> tuple[Check, ...]:
    beam = members.beam
    past = float(min(beam.bolts_m[0] - beam.start_m, beam.start_m + beam.length_m - beam.bolts_m[-1]))
    return (
        at_most(
            "structure",
            "beam",
            "Inclined beams carry the load",
            members.beam.used,
            1.0,
            "ratio",
            remedy="A deeper beam, posts closer together, or lines nearer to or further from each "
            "other.",
            source=by(members.beam.section, TOGETHER),
            given="structure.beam_section",
        ),
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
    )


def _cable_check(members: Members) -> tuple[Check, ...]:
    cable = members.along.cable
    if cable is None:
        return ()
    return (
        at_most(
            "structure",
            "cable",
            "Cables hold the row",
            cable.pull_n,
            cable.limit_n,
            "force",
            remedy="A thicker cable, or cross one more bay.",
            source=ROPE,
            given="structure.cable",
        ),
    )
