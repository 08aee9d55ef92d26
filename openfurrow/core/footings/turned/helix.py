"""What holds a helix that is pulled, shallow or deep, and the torque that proves it."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant, table
from openfurrow.core.footings.axial import bearing_number
from openfurrow.core.site.soil import Soil, SoilLayer

Floats = NDArray[np.float64]


def pulled_pa(layer: SoilLayer, depth_m: Floats, pressure_pa: Floats, helix_m: float) -> Floats:
    """Ultimate pressure of soil on a helix that is pulled up at some depths.

    Near the surface a wedge or a plug breaks out (sand: Meyerhof & Adams 1968; clay: Vesic 1971,
    1.2 H / B and no weight of the plug); deep down it is as under a tip.
    """
    over = depth_m / helix_m
    if layer.cohesion_pa > 0:
        deep = constant("common", "clay_tip_factor").value
        grown = constant("common", "clay_breakout").value * over
        return np.asarray(layer.cohesion_pa * np.minimum(grown, deep))
    angle = layer.friction_angle_deg
    rows = table("common", "breakout").numbers
    spread, pressed = (
        float(np.interp(angle, rows["friction_angle_deg"], rows[name]))
        for name in ("spread", "pressure_k")
    )
    wedge = 1 + 2 * (1 + spread * over) * over * pressed * math.tan(math.radians(angle))
    return np.asarray(pressure_pa * np.minimum(wedge, bearing_number(angle)))


def helix_holds_pa(soil: Soil, depth_m: Floats, pressure_pa: Floats, helix_m: float) -> Floats:
    """The least of the layer that a helix stands in and of what lies close above it."""
    above = constant("common", "tip_zone_widths").value * helix_m
    bottoms = np.array([layer.bottom_m for layer in soil.layers])
    tops = np.concatenate(([0.0], bottoms[:-1]))
    each = np.stack([pulled_pa(layer, depth_m, pressure_pa, helix_m) for layer in soil.layers])
    near = (tops[:, None] <= depth_m) & (bottoms[:, None] >= depth_m - above)
    return np.asarray(np.where(near, each, np.inf).min(axis=0))


def torque_factor_per_m(shaft_m: float) -> float:
    """How many newtons a screw holds, ultimate, for a newton metre that it took to turn in.

    Perko (2009): 22.285 / d^0.92 per foot, the shaft in inches; 10 for 60 mm, 7 for 89 mm
    (Hoyt & Clemence 1989; ICC-ES AC358).
    """
    scale, power = (constant("common", name).value for name in ("torque_scale", "torque_power"))
    return scale / math.pow(shaft_m, power)
