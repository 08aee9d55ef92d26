"""What a structure says of the snow: the load, the depth below the glass, the room for what slides."""

from openfurrow.core.checks import Check, at_most
from openfurrow.core.loads.snow import Snow
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.working import COMMON_PRACTICE, Answer, Source, Working

# From a flatter glass little slides: only the snow on the ground counts below it.
FLAT_DEG = 15.0


def snow_answers(snow: Snow) -> tuple[Answer, ...]:
    """The load, and the depths that decide whether it stays."""
    return (
        Answer("structure", "snow", "Snow on the table", snow.working),
        Answer(
            "structure",
            "snow_depth",
            "Snow on the ground, as a depth",
            Working(
                "h_g",
                "",
                (),
                snow.ground_depth_m,
                "tape",
                Source("ASCE/SEI 7-16 (7.7-1) or EN 1991-1-3 Annex E, weight of snow", "from memory"),
                "The design load; below the lower edge, the glass sheds its snow.",
            ),
        ),
    )


def snow_check(snow: Snow, section: TableSection) -> Check:
    """Whether what slides off lies below the lower edge too."""
    return at_most(
        "structure",
        "snow_room",
        "Snow that slides off has room in front",
        snow.heap_m if section.tilt_deg >= FLAT_DEG else snow.ground_depth_m,
        section.lower_edge_m,
        "tape",
        remedy="In a design winter the heap in front reaches the glass and holds the rest: raise the "
        "lower edge, or clear the front.",
        source=COMMON_PRACTICE,
        given="rows.lower_edge_m",
        otherwise="look",
    )
