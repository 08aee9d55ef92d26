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


def kept_of_heat(
    light_w_m2: Floats, air_c: Floats, wind_m_s: Floats, coefficient_per_c: float
) -> Floats:
    """Power over that at the rated temperature, of cells in the open under light (..., steps).

    As warm as `cell_c` says: straight in the light, with what hangs on the step found once.
    """
    dark = 1.0 + coefficient_per_c * (air_c - RATED_C)
    by_light = coefficient_per_c * (cell_c(air_c, np.ones_like(air_c), wind_m_s) - air_c)
    found = light_w_m2 * by_light
    found += dark
    return np.asarray(np.maximum(found, 0.0, out=found))
