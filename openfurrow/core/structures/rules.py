"""What would stop a structure of any family: purlins, snow, the wind figure, posts that are shifted."""

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.aluminium import by
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.answers import STRENGTH
from openfurrow.core.structures.bents.answers import TOGETHER
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.structures.rails import Rail
from openfurrow.core.structures.snow_rules import snow_check
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Source


def purlin_checks(purlin: Purlin, sag_limit_m: float) -> tuple[Check, ...]:
    """Whether they carry, and whether they stay straight."""
    return (
        at_most(
            "structure",
            "purlin",
            "Purlins carry the load",
            purlin.used,
            1.0,
            "ratio",
            remedy="A deeper purlin, or posts closer together."
            + ("" if purlin.held else " Or rods that hold purlins to each other up the slope."),
            source=by(purlin.section, STRENGTH),
            given="structure.purlin_section",
        ),
        at_most(
            "structure",
            "sag",
            "Purlins stay straight enough",
            purlin.sag_m,
            sag_limit_m,
            "thickness",
            remedy="A deeper purlin, or posts closer together.",
            source=COMMON_PRACTICE,
            given="structure.purlin_section",
            otherwise="look",
        ),
    )


def load_checks(loads: TableLoads, section: TableSection) -> tuple[Check, ...]:
    """Whether snow has room to slide, and whether the tilt lies inside the wind figure."""
    return (
        snow_check(loads.snow, section),
        at_most(
            "structure",
            "wind_figure",
            "Tilt lies inside the wind figure",
            section.tilt_deg,
            loads.wind.tilt_limit_deg,
            "angle",
            remedy="The figure ends here; its last row is held, never less than a flat plate's "
            "drag. Have an engineer look.",
            source=loads.wind.source,
            given="rows.tilt_deg",
            otherwise="look",
        ),
    )


def shift_checks(posts: Stand, givens: StructureGivens) -> tuple[Check, ...]:
    """Where posts are shifted: whether they can be, and whether the spans still allow it."""
    if not givens.shifts:
        return ()
    return (
        holds(
            "structure",
            "shifted",
            "Every shift can be made",
            not posts.not_shifted.words,
            posts.not_shifted.words or f"{len(givens.shifts)} made",
            "in order, on the purlin",
            remedy="A smaller shift, or take it out.",
            source=GEOMETRY,
            given="structure.shifts",
        ),
        at_most(
            "structure",
            "span",
            "No span grows past the longest",
            max(line.longest_span_m for line in posts.lines),
            givens.span_limit_m,
            "tape",
            remedy="Shift the neighbour too, put in one more post, or take a stronger purlin and a "
            "longer span.",
            source=Source("span table of the purlin, as given", "given"),
            given="structure.shifts",
        ),
    )


def rail_check(rail: Rail, remedy: str) -> Check:
    """Whether rails carry what lies on them."""
    return at_most(
        "structure",
        "rail",
        "Rails carry the load",
        rail.used,
        1.0,
        "ratio",
        remedy=remedy,
        source=by(rail.section, TOGETHER),
        given="structure.rail_section",
    )


def reaching_rail_checks(rail: Rail, sag_m: float, sag_limit_m: float) -> tuple[Check, ...]:
    """Rails that reach past one pipe both ways: whether they carry, and whether their ends stay up."""
    return (
        rail_check(
            rail, "A deeper rail, or fewer modules up the slope: it is held in its middle alone."
        ),
        at_most(
            "structure",
            "rail_sag",
            "The rails' ends stay up",
            sag_m,
            sag_limit_m,
            "thickness",
            remedy="A deeper rail, or fewer modules up the slope.",
            source=COMMON_PRACTICE,
            given="structure.rail_section",
            otherwise="look",
        ),
    )


def column_span_check(posts: Stand, givens: StructureGivens) -> Check:
    """Whether posts at the joints of columns stand as near as was said."""
    return at_most(
        "structure",
        "column_span",
        "Posts stand no further apart than was said",
        max(line.longest_span_m for line in posts.lines),
        givens.span_limit_m,
        "tape",
        remedy="One column is wider than the longest span: upright modules make narrower ones.",
        source=GEOMETRY,
        given="structure.span_limit_m",
    )
