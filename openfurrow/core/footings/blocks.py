"""Blocks and slabs laid loose in trays as weight: how many to a layer, how heavy each is."""

import math
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes import table

BlockName = Literal[
    "solid 16 x 8 x 4 in",
    "solid 16 x 8 x 8 in",
    "hollow 16 x 8 x 8 in",
    "patio slab 16 x 16 x 2 in",
    "dense block 440 x 215 x 100",
    "dense block 440 x 215 x 140",
    "paving slab 400 x 400 x 50",
    "kerb 1000 x 250 x 100",
]


@dataclass(frozen=True)
class Block:
    """A block as it lies flat: level length and width, height of a layer, and what it weighs."""

    name: str
    length_m: float
    width_m: float
    height_m: float
    mass_kg: float

    def a_layer(self, side_m: float, leg_m: float) -> int:
        """How many lie beside each other in a square tray, all one way, on both sides of its leg.

        The leg stands in the middle, in a joint so wide that runs from edge to edge.
        """
        half, whole = (side_m - leg_m) / 2 + 1e-9, side_m + 1e-9

        def beside(across_m: float, along_m: float) -> int:
            return 2 * math.floor(half / across_m) * math.floor(whole / along_m)

        ways = (self.length_m, self.width_m), (self.width_m, self.length_m)
        return max(0, *(beside(*way) for way in ways))

    def pile_m(self, to_a_layer: int) -> tuple[float, float]:
        """The lesser and the greater side of a layer of so many, all one way, as square as may be."""
        found = [
            sorted((across * self.length_m, to_a_layer // across * self.width_m))
            for across in range(1, to_a_layer + 1)
            if to_a_layer % across == 0
        ]
        lesser, greater = max(found)
        return lesser, greater


def block(name: BlockName, weighed_kg: float | None) -> Block:
    """One of the usual ones, as heavy as one was weighed."""
    data = table("common", "block")
    row = data.row("block", name)
    length, width, height, mass = (
        data.number(column, row) for column in ("length_m", "width_m", "height_m", "mass_kg")
    )
    return Block(name, length, width, height, mass if weighed_kg is None else weighed_kg)
