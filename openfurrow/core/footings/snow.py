"""Snow on the glass, per level area, by either school."""

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.working import Input, Working


def slope_factor(tilt_deg: float) -> float:
    """C_s of ASCE/SEI 7-16, Figure 7.4-1b: slippery, cold: 1 to 15°, straight to 0 at 70°."""
    return float(np.interp(tilt_deg, (15.0, 70.0), (1.0, 0.0)))


def shape_factor(tilt_deg: float) -> float:
    """mu_1 of EN 1991-1-3:2003, Table 5.2: 0.8 to 30°, straight to 0 at 60°."""
    return constant("metric", "snow_shape").value * float(
        np.interp(tilt_deg, (30.0, 60.0), (1.0, 0.0))
    )


def snow_working(site: SiteGivens, tilt_deg: float) -> Working:
    """Snow load on the table, Pa per level area."""
    ground = site.ground_snow_pa
    pack = site.rule_pack
    exposure, thermal = (constant(pack, name) for name in ("snow_exposure", "snow_thermal"))
    shared = (
        Input("C_e", "exposure", exposure.value, "factor"),
        Input("C_t", "heat from below", thermal.value, "factor"),
    )
    if pack == "us":
        flat, importance = (constant(pack, n) for n in ("snow_flat_factor", "snow_importance"))
        shape = slope_factor(tilt_deg)
        value = shape * flat.value * exposure.value * thermal.value * importance.value * ground
        return Working(
            "p_s",
            "C_s * k * C_e * C_t * I_s * p_g",
            (
                Input("C_s", "slippery slope", shape, "factor"),
                Input("k", "flat roof over ground", flat.value, "factor"),
                *shared,
                Input("I_s", "importance", importance.value, "factor"),
                Input("p_g", "ground snow", ground, "pressure"),
            ),
            value, "pressure", flat.source, "On the level area below the glass.",
        )
    shape = shape_factor(tilt_deg)
    return Working(
        "s",
        "mu_1 * C_e * C_t * s_k",
        (
            Input("mu_1", "shape", shape, "factor"),
            *shared,
            Input("s_k", "ground snow", ground, "pressure"),
        ),
        shape * exposure.value * thermal.value * ground, "pressure",
        constant(pack, "snow_shape").source, "On the level area below the glass.",
    )
