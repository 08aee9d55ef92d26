"""How warm cells run, and what that costs."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant

Floats = NDArray[np.float64]

RATED_C, RATED_W_M2 = 25.0, 1000.0


def cell_c(air_c: Floats, light_w_m2: Floats, wind_m_s: Floats) -> Floats:
    """Temperature of cells in the open; source: Faiman (2008)."""
    still, by_wind = (constant("common", name).value for name in ("faiman_still", "faiman_wind"))
    return np.asarray(air_c + light_w_m2 / (still + by_wind * wind_m_s))


def by_heat(cells_c: Floats, coefficient_per_c: float) -> Floats:
    """Power over that at the rated temperature."""
    return np.asarray(np.maximum(1.0 + coefficient_per_c * (cells_c - RATED_C), 0.0))
