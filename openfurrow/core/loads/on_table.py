"""What acts on a table of modules: wind, snow, its own weight, and how they act together."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.snow import Snow
from openfurrow.core.loads.wind import WindCases

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class TableLoads:
    """Loads per area of the glass; ``strength`` sizes what holds, ``service`` what may move.

    ``dead_of_kg_per_m2`` is the weight of each size of table: short ones have more steel to the area.
    """

    wind: WindCases
    snow: Snow
    dead_of_kg_per_m2: Floats
    strength: Combinations
    service: Combinations

    @property
    def dead_kg_per_m2(self) -> float:
        """The weight of the heaviest table."""
        return float(self.dead_of_kg_per_m2.max())

    @property
    def least_dead_kg_per_m2(self) -> float:
        """The weight of the lightest table."""
        return float(self.dead_of_kg_per_m2.min())

    def case_names(self, words: str = "") -> tuple[str, ...]:
        """Every combination of strength with every wind case; ``words`` follow where wind blows."""
        combined = self.strength
        return tuple(
            f"{combination}, {case}{words}" if used else combination
            for combination, used in zip(combined.names, combined.wind, strict=True)
            for case in self.wind.names
        )

    @property
    def snow_pa(self) -> float:
        """Snow on the table, per level area."""
        return float(self.snow.working.value)
