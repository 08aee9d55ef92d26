"""What the rows stage finds: the array as it stands on the ground."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.lie import Lie, Setting
from openfurrow.core.site.ground import GroundPlane
from openfurrow.core.working import Answer, Source

Floats = NDArray[np.float64]

SHADOW_FIGURE = Source("derived from the shadow figure; checked against pvlib.shading", "geometry")


@dataclass(frozen=True)
class ModuleSize:
    """A module's frame and the gaps around it, metres."""

    length_m: float
    width_m: float
    gap_along_m: float
    gap_up_m: float


@dataclass(frozen=True)
class RowsPlan:
    """The array on the ground.

    ``along_deg`` is the true bearing along which the rows run from their first post, and
    ``rise_along`` the row's own rise that way (nought for a level row), both over the ``local``
    plane that fits the ground under the array; ``lie`` is each table on the ground itself.
    """

    setting: Setting
    local: GroundPlane
    lie: Lie
    section: TableSection
    facing_deg: float
    along_deg: float
    ground_rise_along: float
    rise_along: float
    module_up_m: float
    module_along_m: float
    gap_up_m: float
    gap_along_m: float
    table_length_m: float
    row_length_m: float
    tables_along: int
    table_gap_m: float
    rows: int
    modules_high: int
    modules_along: int
    pitch_m: float
    least_pitch_m: float
    profile_deg: float
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def module_count(self) -> int:
        """Modules in the whole array."""
        return self.modules_high * self.modules_along * self.tables_along * self.rows

    @property
    def across(self) -> bool:
        """Whether modules lie with their long side along the row."""
        return self.module_along_m > self.module_up_m

    @property
    def column_step_m(self) -> float:
        """From one module's edge to the next one's along the row."""
        return self.module_along_m + self.gap_along_m

    @property
    def columns_m(self) -> Floats:
        """Left edges of the modules of a table, from the first."""
        return np.asarray(np.arange(self.modules_along) * self.column_step_m)

    @property
    def lows_m(self) -> Floats:
        """Lower edges of the modules of a table, up its slope from its lower edge."""
        return np.asarray(np.arange(self.modules_high) * (self.module_up_m + self.gap_up_m))

    @property
    def footprint_depth_m(self) -> float:
        """Level depth of the array from the first lower edge to the last upper edge."""
        return (self.rows - 1) * self.pitch_m + self.section.level_depth_m
