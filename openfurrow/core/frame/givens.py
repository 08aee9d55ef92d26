"""Frame givens: the stock that is cut, and how its pieces meet."""

from pydantic import ValidationInfo, field_validator

from openfurrow.core.givens import Givens, given


class FrameGivens(Givens):
    """What the crew cuts from and how it splices."""

    stock_length_m: float = given(
        7.3152,
        "Purlin stock",
        "tape",
        "Length that purlins, or the pipes of a grid, are delivered in.",
        "The merchant; the truck and two people set the limit.",
        low=2,
        high=15,
        usual=(5, 12),
        metric=6.0,
    )
    lap_m: float = given(
        0.3048,
        "Splice lap",
        "tape",
        "Overlap of two purlin lengths at a splice; pipes meet in couplers.",
        "Twice the purlin's depth, at least.",
        low=0,
        high=2,
        usual=(0.2, 0.9),
        metric=0.3,
    )

    @field_validator("lap_m")
    @classmethod
    def _lap_leaves_a_stick(cls, lap_m: float, info: ValidationInfo) -> float:
        stock = info.data.get("stock_length_m")
        if stock is not None and lap_m > stock / 3:
            raise ValueError("is more than a third of the purlin stock")
        return lap_m
