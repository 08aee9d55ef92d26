"""Getting in: gates, the truck's path, and which footings its chute or hose reaches."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import Constant, constant
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.working import GIVEN

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Access:
    """``path`` is all truck paths together; None where none is drawn."""

    path: shapely.Geometry | None
    machine: Constant
    chute: Constant
    pump: Constant
    gates: tuple[FeatureGivens, ...]

    @property
    def narrowest(self) -> FeatureGivens | None:
        """The gate with the least width that was said."""
        wide = [gate for gate in self.gates if gate.width_m is not None]
        return min(wide, key=lambda gate: gate.width_m or 0.0, default=None)

    def from_path_m(self, east_m: Floats, north_m: Floats) -> Floats | None:
        """Distance of each place from the nearest truck path; None where none is drawn."""
        if self.path is None:
            return None
        return np.asarray(shapely.distance(self.path, shapely.points(east_m, north_m)))


def access_of(givens: SiteGivens) -> Access:
    """What was said about getting in; the usual reach where nothing was."""

    def said(value: float | None, name: str) -> Constant:
        return constant("common", name) if value is None else Constant(value, GIVEN)

    paths = [f.geometry() for f in givens.features if f.kind == "truck path" and f.complete]
    return Access(
        path=shapely.union_all(paths) if paths else None,
        machine=said(givens.machine_width_m, "machine_width_m"),
        chute=said(givens.chute_reach_m, "chute_reach_m"),
        pump=said(givens.pump_reach_m, "pump_reach_m"),
        gates=tuple(f for f in givens.features if f.kind == "gate" and f.complete),
    )
