"""What would stop one post line: members that do not carry, spans, struts that do not fit."""

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.answers import STRENGTH
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.all_members import Members
from openfurrow.core.structures.rules import load_checks, purlin_checks, shift_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import GEOMETRY, Source

RATING = Source("the maker's rating, as given", "given")
COLUMN = Source("AISC 360-16 E3, or EN 1993-1-1 6.3.1 curve c", "from memory")


def checks(
    posts: Stand,
    loads: TableLoads,
    members: Members,
    section: TableSection,
    givens: StructureGivens,
) -> tuple[Check, ...]:
    """Members, struts, snow and wind figure, shifted posts."""
    return (
        *purlin_checks(members.purlin, members.sag_limit_m),
        _beam_check(members),
        *_strut_checks(posts, members, givens),
        *_rating_check(members, givens),
        *_travel_check(members, givens),
        *load_checks(loads, section),
        *shift_checks(posts, givens),
    )


def _beam_check(members: Members) -> Check:
    return at_most(
        "structure",
        "beam",
        "Inclined beams carry the load",
        members.beam.used,
        1.0,
        "ratio",
        remedy="A deeper beam, posts closer together, or a strut that reaches further.",
        source=by(members.beam.section, STRENGTH),
        given="structure.beam_section",
    )


def _strut_checks(posts: Stand, members: Members, givens: StructureGivens) -> tuple[Check, ...]:
    strut = members.strut
    return (
        at_most(
            "structure",
            "strut",
            "Struts do not buckle",
            strut.force_n,
            strut.limit_n,
            "force",
            remedy="A wider pipe, or a longer reach along the beam.",
            source=by(strut.section, COLUMN),
            given="structure.strut_section",
        ),
        at_most(
            "structure",
            "post_at_strut",
            "The post stands the strut's push",
            members.post_at_strut_n_m,
            members.post_limit_n_m,
            "moment",
            remedy="A lower strut foot, a heavier post, or posts closer together.",
            source=STRENGTH,
            given="structure.strut_foot_m",
        ),
        at_least(
            "structure",
            "strut_reach",
            "The strut meets the beam, not the air",
            members.beam.bolt_m - givens.strut_reach_m,
            0.0,
            "tape",
            remedy="Shorten the reach: the beam ends before it.",
            source=GEOMETRY,
            given="structure.strut_reach_m",
        ),
        within(
            "structure",
            "strut_foot",
            "The strut rises to the beam",
            float(posts.supports.reveals_m.min()) - givens.strut_foot_m,
            constant("common", "strut_rise_m"),
            "tape",
            most=False,
            remedy="Lower the strut's foot or raise the table.",
            given="structure.strut_foot_m",
        ),
    )


def _rating_check(members: Members, givens: StructureGivens) -> tuple[Check, ...]:
    """What can be set to several lengths holds by its own parts, not as a plain pipe does."""
    if not givens.strut_travel_m:
        return ()
    title, rated = f"{givens.strut_held_by.capitalize()} holds the strut", givens.strut_rated_n
    if rated is None:
        return (
            holds(
                "structure",
                "strut_rated",
                title,
                False,
                "not looked at",
                "what it is rated for",
                remedy="Say what its maker rates it for: the pipe alone says nothing of its holes, its "
                "slot or its thread.",
                source=RATING,
                given="structure.strut_rated_n",
                otherwise="look",
            ),
        )
    return (
        at_most(
            "structure",
            "strut_rated",
            title,
            members.strut.force_n,
            rated,
            "force",
            remedy="A stronger one, posts closer together, or a strut that reaches further.",
            source=RATING,
            given="structure.strut_rated_n",
        ),
    )


def _travel_check(members: Members, givens: StructureGivens) -> tuple[Check, ...]:
    """Where the tilt is set through the year: a plain pipe holds one tilt only."""
    if not members.strut.travel_m:
        return ()
    return (
        at_least(
            "structure",
            "strut_travel",
            "The strut can be set to every tilt",
            givens.strut_travel_m,
            members.strut.travel_m,
            "tape",
            remedy="A leg with holes or a jack of that travel, a strut that meets the beam nearer to "
            "the bolt, or tilts nearer to each other.",
            source=GEOMETRY,
            given="structure.strut_travel_m",
        ),
    )
