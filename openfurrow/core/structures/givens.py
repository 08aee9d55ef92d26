"""Structure givens: what stands there, its profiles and its spans."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.codes.section import known_section
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M, either

# A table's place in the pattern, or the id of one of no row; then the post's place in it.
A_POST = r"^([1-9][0-9]{0,2}\.[1-9][0-9]{0,2}|[a-z0-9]{1,12})/[1-9][0-9]{0,3}$"
# More posts off their places want another place of the array.
MOST_SHIFTS = 200
PostShift = tuple[Annotated[str, Field(pattern=A_POST)], Annotated[float, Field(ge=-6, le=6)]]
PostName = Annotated[str, AfterValidator(known_section("post"))]
PurlinName = Annotated[str, AfterValidator(known_section("purlin"))]
BeamName = Annotated[str, AfterValidator(known_section("beam"))]
StrutName = Annotated[str, AfterValidator(known_section("strut"))]
FamilyName = Literal["one post line"]


class StructureGivens(Givens):
    """The family of the structure and everything that its families are told, side by side."""

    family: FamilyName = given(
        "one post line",
        "What stands there",
        "choice",
        "One line of posts a row: an inclined beam turns on each post, held by a strut.",
        "What the merchant sells and the ground allows.",
    )
    span_limit_m: float = given(
        2.6,
        "Longest span",
        "tape",
        "Posts stand no further apart than this.",
        "Span table of the purlin; less under snow.",
        low=0.6,
        high=9,
        usual=(2, 5),
        group="Posts",
        us=102 * INCH_M,
    )
    cantilever_ratio: float = given(
        0.35,
        "End overhang",
        "ratio",
        "Purlin beyond the end post, as a share of the span.",
        "A third balances the end span with the middle ones.",
        low=0,
        high=0.6,
        usual=(0.25, 0.45),
        group="Posts",
    )
    post_section: PostName = given(
        "I 150 x 100 x 14",
        "Post",
        "section:post",
        "Rolled or cold-formed post, galvanised.",
        "What the merchant stocks; the section must carry the moment at the ground.",
        length=40,
        group="Posts",
        us="W6x9",
    )
    post_top_m: float = given(
        0.05,
        "Post above the bolt",
        "tape",
        "Steel beyond the beam's bolt, for the hole's edge.",
        f"{either('2 in', '50 mm')} is usual; slotted tops want more.",
        low=0.02,
        high=0.4,
        usual=(0.04, 0.15),
        group="Posts",
        us=2 * INCH_M,
    )
    shifts: Annotated[tuple[PostShift, ...], Field(max_length=MOST_SHIFTS)] = given(
        (),
        "Posts shifted",
        "shifts",
        "Posts that stand off their even place, along the row: table and post, 2.1/3 for the third "
        "post of table 2.1, and how far, positive toward the row's last post.",
        "Off a drain, a line, a boulder: inside what the span allows.",
        group="Posts",
    )
    beam_section: BeamName = given(
        "C 175 x 64 x 2.5",
        "Inclined beam",
        "section:beam",
        "One on each post, from lower to upper edge, turning on one bolt.",
        "The check below.",
        length=40,
        group="Table",
    )
    purlin_section: PurlinName = given(
        "Z 150 x 64 x 2.0",
        "Purlin",
        "section:purlin",
        "Runs along the row and carries the modules, two to each module row.",
        "Span table, or the check below.",
        length=40,
        group="Table",
    )
    flow_below: Literal["may be blocked", "kept clear"] = given(
        "may be blocked",
        "Wind's way below the table",
        "choice",
        "May be blocked: drifted snow, stored goods, tall growth; the figures of both flows are "
        "carried. Kept clear: somebody sees to it for as long as it stands.",
        "Who owns the ground, and what he keeps there.",
        group="Table",
    )
    deflection_divisor: int = given(
        180,
        "Deflection limit, span over",
        "count",
        "Purlins may sag the span divided by this under snow or wind.",
        "180 for racks is usual; the module maker may ask for more.",
        low=60,
        high=600,
        usual=(120, 360),
        group="Table",
    )
    strut_section: StrutName = given(
        "pipe 2 in",
        "Strut",
        "section:strut",
        "Pipe from the post's foot to the beam; named by its bore, so 2 in is 60 mm outside.",
        "The check below.",
        length=40,
        group="Strut",
    )
    strut_reach_m: float = given(
        1.1,
        "Strut meets beam",
        "tape",
        "Distance along the beam from the post bolt to the strut's bolt, on the lower side.",
        "A third of the chord is usual.",
        low=0.2,
        high=3,
        usual=(0.6, 1.6),
        group="Strut",
        us=42 * INCH_M,
    )
    strut_travel_m: float = given(
        0.0,
        "Strut's length is set over",
        "tape",
        "How much shorter than at its longest it can be made, by holes, a slot or a jack; nought for a "
        "plain pipe, which holds one tilt.",
        "Maker's sheet, or the first and the last hole.",
        low=0,
        high=3,
        usual=(0, 1),
        group="Strut",
    )
    strut_foot_m: float = given(
        0.3,
        "Strut meets post",
        "tape",
        "Height of the strut's lower bolt above the ground.",
        "Clear of grass and snow melt; lower takes more off the beam.",
        low=0.05,
        high=2,
        usual=(0.15, 0.6),
        group="Strut",
        us=12 * INCH_M,
    )
