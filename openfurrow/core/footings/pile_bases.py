"""What piles of blocks stand on: the ground, a slab, a pallet."""

from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes import table

BaseName = Literal[
    "the ground",
    "a paving slab 600 x 600 x 50",
    "a patio slab 24 x 24 x 2 in",
    "a pallet 1200 x 1000",
    "a pallet 48 x 40 in",
]


@dataclass(frozen=True, kw_only=True)
class Base:
    """``spread_m`` beyond the blocks it carries on each side; slats lie on ``pressed_share`` of that.

    ``tied``: a strap round the pile goes round it too, so that both tip as one.
    """

    name: str
    length_m: float
    width_m: float
    height_m: float
    spread_m: float
    pressed_share: float
    tied: bool
    mass_kg: float

    @property
    def is_laid(self) -> bool:
        """Whether anything lies between blocks and ground."""
        return self.height_m > 0

    def on_ground_m(self, lesser_m: float, greater_m: float) -> tuple[float, float]:
        """The sides of what a pile so wide and long presses; it is laid as the pile lies."""
        if not self.is_laid:
            return lesser_m, greater_m
        sides = sorted((self.length_m, self.width_m))
        wide, long = (
            # Blocks that reach past it press no more than what they stand on.
            min(side, pile + 2 * self.spread_m)
            for side, pile in zip(sides, (lesser_m, greater_m), strict=True)
        )
        return wide, long


def base(name: BaseName) -> Base:
    """One of those in the list."""
    data = table("common", "pile_base")
    row = data.row("base", name)
    length, width, height, spread, share, mass = (
        data.number(column, row)
        for column in ("length_m", "width_m", "height_m", "spread_m", "pressed_share", "mass_kg")
    )
    return Base(
        name=name,
        length_m=length,
        width_m=width,
        height_m=height,
        spread_m=spread,
        pressed_share=share,
        tied=data.texts["tied"][row] == "yes",
        mass_kg=mass,
    )
