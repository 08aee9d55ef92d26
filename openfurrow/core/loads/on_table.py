"""What acts on a table of modules: wind, snow, its own weight, and how they act together."""

from dataclasses import dataclass

from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.snow import Snow
from openfurrow.core.loads.wind import WindCases


@dataclass(frozen=True)
class TableLoads:
    """Loads per area of the glass; ``strength`` sizes what holds, ``service`` what may move."""

    wind: WindCases
    snow: Snow
    dead_kg_per_m2: float
    strength: Combinations
    service: Combinations

    @property
    def snow_pa(self) -> float:
        """Snow on the table, per level area."""
        return float(self.snow.working.value)
