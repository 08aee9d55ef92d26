"""Frame givens: an inclined beam on each post, purlins along the row."""

from typing import Annotated

from pydantic import AfterValidator, ValidationInfo, field_validator

from openfurrow.core.codes.section import known_section
from openfurrow.core.givens import Givens, given

PurlinName = Annotated[str, AfterValidator(known_section("purlin"))]
BeamName = Annotated[str, AfterValidator(known_section("beam"))]
StrutName = Annotated[str, AfterValidator(known_section("strut"))]


class FrameGivens(Givens):
    """Sections and the stock they are cut from."""

    purlin_section: PurlinName = given(
        "Z 150 x 64 x 2.0", "Purlin", "section:purlin",
        "Runs along the row and carries the modules, two to each module row.",
        "Span table, or the check below.", length=40,
    )
    beam_section: BeamName = given(
        "C 175 x 64 x 2.5", "Inclined beam", "section:beam",
        "One on each post, from lower to upper edge, turning on one bolt.",
        "The check below.", length=40,
    )
    stock_length_m: float = given(
        7.3152, "Purlin stock", "tape", "Length the purlins are delivered in.",
        "The merchant; the truck and two people set the limit.", low=2, high=15, usual=(5, 12),
    )
    lap_m: float = given(
        0.3048, "Splice lap", "tape", "Overlap of two purlin lengths at a splice.",
        "Twice the purlin's depth, at least.", low=0, high=2, usual=(0.2, 0.9),
    )
    strut_reach_m: float = given(
        1.1, "Strut meets beam", "tape",
        "Distance along the beam from the post bolt to the strut's bolt, on the lower side.",
        "A third of the chord is usual.", low=0.2, high=3, usual=(0.6, 1.6),
    )
    strut_section: StrutName = given(
        "pipe 2 in", "Strut", "section:strut",
        "Pipe from the post's foot to the beam; named by its bore, so 2 in is 60 mm outside.",
        "The check below.", length=40,
    )
    strut_foot_m: float = given(
        0.3, "Strut meets post", "tape", "Height of the strut's lower bolt above the ground.",
        "Clear of grass and snow melt; lower takes more off the beam.", low=0.05, high=2,
        usual=(0.15, 0.6),
    )
    deflection_divisor: int = given(
        180, "Deflection limit, span over", "count",
        "Purlins may sag the span divided by this under snow or wind.",
        "180 for racks is usual; the module maker may ask for more.", low=60, high=600,
        usual=(120, 360),
    )

    @field_validator("lap_m")
    @classmethod
    def _lap_leaves_a_stick(cls, lap_m: float, info: ValidationInfo) -> float:
        stock = info.data.get("stock_length_m")
        if stock is not None and lap_m > stock / 3:
            raise ValueError("Input should be at most a third of the purlin stock")
        return lap_m
