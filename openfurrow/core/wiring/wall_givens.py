"""What hangs on the wall of the building, or is in it: each thing where a tape has it."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Thing, given, identified
from openfurrow.core.quantities import INCH_M

WallKind = Literal[
    "inverter",
    "panel",
    "switch",
    "meter",
    "battery",
    "box",
    "door or window",
    "side wall",
    "anything else",
]
# What a person opens with power on, or reaches for.
WORKED_AT: frozenset[WallKind] = frozenset({"inverter", "panel", "switch", "box"})
# Parts of the building: they want no room of their own.
OF_THE_BUILDING: frozenset[WallKind] = frozenset({"door or window", "side wall", "anything else"})
OF_THINGS = frozenset({"clear_beside_m", "clear_over_m", "clear_under_m"})


class OnWallGivens(Thing):
    """One thing, by its outline as one stands before the wall."""

    kind: WallKind = given(
        "inverter",
        "It is",
        "choice",
        "Inverters, panels, switches and boxes are opened with power on: each wants a free place to "
        "stand. Batteries keep off each other and off doors and windows.",
        "The wall; the plan of it.",
    )
    name: str = given("", "Called", "text", "As its sign will have it.", "The label.", length=40)
    left_m: float = given(
        0.0,
        "Its left edge, to the right of the point by",
        "tape",
        "From one point of the wall, a corner of the house or a window's edge; to the left negative.",
        "A tape along the wall, everything from the same point.",
        low=-30,
        high=30,
    )
    bottom_m: float = given(
        1.0,
        "Its lower edge over the floor",
        "tape",
        "Over the floor or the ground that one stands on before it.",
        "A tape.",
        low=0,
        high=6,
        usual=(0.3, 1.5),
        us=40 * INCH_M,
    )
    width_m: float = given(
        0.45, "Width", "tape", "Of the thing itself.", "Data sheet.", low=0.02, high=12, us=18 * INCH_M
    )
    height_m: float = given(
        0.6, "Height", "tape", "Of the thing itself.", "Data sheet.", low=0.02, high=6, us=24 * INCH_M
    )
    depth_m: float = given(
        0.2,
        "It stands out by",
        "tape",
        "From the wall to its face; what stands out far takes the room beside it.",
        "Data sheet.",
        low=0,
        high=6,
        us=8 * INCH_M,
    )
    clear_beside_m: float = given(
        0.0,
        "Wants free beside it",
        "tape",
        "On both sides, for air and for hands.",
        "The maker's instructions; inverters want some 20 to 50 cm.",
        low=0,
        high=3,
        usual=(0, 0.5),
    )
    clear_over_m: float = given(
        0.0,
        "Wants free over it",
        "tape",
        "For the air that rises.",
        "The maker's instructions.",
        low=0,
        high=3,
        usual=(0, 0.5),
    )
    clear_under_m: float = given(
        0.0,
        "Wants free under it",
        "tape",
        "For air, and for the bends of its wires.",
        "The maker's instructions.",
        low=0,
        high=3,
        usual=(0, 0.6),
    )

    @property
    def called(self) -> str:
        """Its name, or what it is."""
        return self.name.strip() or self.kind

    @property
    def right_m(self) -> float:
        """Its right edge."""
        return self.left_m + self.width_m

    @property
    def top_m(self) -> float:
        """Its upper edge."""
        return self.bottom_m + self.height_m

    def shown(self) -> frozenset[str]:
        """Parts of the building want no room of their own."""
        return super().shown() - (OF_THINGS if self.kind in OF_THE_BUILDING else frozenset())


OnWall = Annotated[tuple[OnWallGivens, ...], Field(max_length=60), AfterValidator(identified)]
ON_WALL = given(
    (),
    "On the wall",
    "list",
    "All that hangs on one wall or stands before it, with doors, windows and side walls, measured from "
    "one point of it.",
    "A tape along the wall.",
    group="Point of connection",
)
