"""Wind on the glass: pressure of the wind and how each school spreads it over the chord."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, Table, constant, table
from openfurrow.core.site.said import Weather
from openfurrow.core.working import Input, Source, Working

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class WindCases:
    """Net pressure normal to the glass, Pa, positive pressing onto the top face.

    ``front_pa`` and ``back_pa`` act on the lower and the upper half of the chord, one entry a case.
    """

    names: tuple[str, ...]
    front_pa: Floats
    back_pa: Floats
    velocity_pa: float
    working: Working
    source: Source
    tilt_limit_deg: float
    beyond_figure: bool


def wind_cases(site: Weather, tilt_deg: float, height_m: float, *, blocked: bool = False) -> WindCases:
    """The wind cases of the site's rule pack for a table at ``tilt_deg``, mid-height ``height_m``.

    ``blocked``: snow, stored goods or growth may stop the flow below it; then both flows are looked at.
    """
    if site.rule_pack == "us":
        return _monoslope(site, tilt_deg, height_m, blocked=blocked)
    return _canopy(site, tilt_deg, height_m, blocked=blocked)


def _at_tilt(data: Table, column: str, tilt_deg: float) -> float:
    """A coefficient between the figure's tilts; beyond its last tilt the last is held."""
    return float(np.interp(tilt_deg, data.numbers["tilt_deg"], data.numbers[column]))


def at_least_flat_plate(coefficient: float) -> float:
    """A coefficient held beyond its figure, never less than a flat plate's drag."""
    floor = constant("common", "flat_plate_drag").value
    return math.copysign(max(abs(coefficient), floor), coefficient)


def us_exposure_factor(exposure: str, height_m: float) -> float:
    """K_z of ASCE/SEI 7-16, Table 26.10-1: 2.01 (z / z_g)^(2/alpha), z at least 4.57 m (15 ft)."""
    terrain = table("us", "exposure")
    row = terrain.row("exposure", exposure)
    height = max(height_m, constant("us", "least_height_m").value)
    ratio = height / terrain.number("gradient_height_m", row)
    return float(2.01 * ratio ** (2 / terrain.number("alpha", row)))


def _monoslope(site: Weather, tilt_deg: float, height_m: float, *, blocked: bool) -> WindCases:
    """ASCE/SEI 7-16: velocity pressure (26.10-1) on an open monoslope roof, Figure 27.3-4."""
    pack: RulePack = "us"
    half_density = constant(pack, "air_density_half")
    gust = constant(pack, "gust_factor").value
    factors = {
        "K_z": us_exposure_factor(site.exposure, height_m),
        "K_zt": site.topographic_factor,
        "K_d": constant(pack, "directionality").value,
        "K_e": math.exp(-constant(pack, "air_thinning_per_m").value * site.elevation_m),
    }
    meanings = ("exposure and height", "hill", "direction", "thin air")
    velocity = half_density.value * math.prod(factors.values()) * site.wind_speed_m_s**2
    working = Working(
        "q_h",
        "rho * K_z * K_zt * K_d * K_e * V**2",
        (
            Input("rho", "half the density of air", half_density.value, "factor"),
            *(
                Input(symbol, meaning, value, "factor")
                for (symbol, value), meaning in zip(factors.items(), meanings, strict=True)
            ),
            Input("V", "design wind, 3-second gust", site.wind_speed_m_s, "speed"),
        ),
        velocity,
        "pressure",
        half_density.source,
        "Before the gust factor and the coefficients of the figure.",
    )
    figure = table(pack, "wind_monoslope")
    figures = (figure, *((table(pack, "wind_obstructed"),) if blocked else ()))
    limit = float(figure.numbers["tilt_deg"][-1])
    cases = ("lift_a", "lift_b", "press_a", "press_b")
    plain = ("from behind, A", "from behind, B", "from the front, A", "from the front, B")
    flows = ("", ", flow blocked below")[: len(figures)]
    names = tuple(f"{name}{flow}" for flow in flows for name in plain)

    # The figure's note: flatter than its first tilt, the coefficients of a level roof.
    read_at = tilt_deg if tilt_deg >= float(figure.numbers["tilt_deg"][1]) else 0.0

    def half(side: str) -> Floats:
        return np.array([_at_tilt(one, f"{case}_{side}", read_at) for one in figures for case in cases])

    return WindCases(
        names=names,
        front_pa=velocity * gust * half("front"),
        back_pa=velocity * gust * half("back"),
        velocity_pa=velocity,
        working=working,
        source=figure.source,
        tilt_limit_deg=limit,
        beyond_figure=tilt_deg > limit,
    )


def _canopy(site: Weather, tilt_deg: float, height_m: float, *, blocked: bool) -> WindCases:
    """EN 1991-1-4: peak pressure on a monopitch canopy, force at a quarter of the chord."""
    pack: RulePack = "metric"
    terrain = table(pack, "terrain")
    row = terrain.row("terrain", site.terrain)
    roughness = terrain.number("roughness_m", row)
    height = max(height_m, terrain.number("least_height_m", row))
    reference = constant(pack, "terrain_reference_m").value
    factor = (
        constant(pack, "terrain_factor").value
        * (roughness / reference) ** constant(pack, "terrain_exponent").value
    )
    half_density = constant(pack, "air_density_half")
    hill = math.sqrt(site.topographic_factor)
    turbulence = constant(pack, "gust_turbulence").value
    logarithm = math.log(height / roughness)
    mean = factor * logarithm * hill * site.wind_speed_m_s
    peak = (1 + turbulence / (hill * logarithm)) * half_density.value * mean**2
    working = Working(
        "q_p",
        "(1 + k_g / (c_o * ln(z / z_0))) * rho * (k_r * ln(z / z_0) * c_o * v_b)**2",
        (
            Input("k_g", "gust over turbulence", turbulence, "factor"),
            Input("c_o", "hill", hill, "factor"),
            Input("z", "height, at least the terrain's", height, "run"),
            Input("z_0", "roughness of the terrain", roughness, "run"),
            Input("rho", "half the density of air", half_density.value, "factor"),
            Input("k_r", "terrain factor", factor, "factor"),
            Input("v_b", "basic wind, 10-minute mean", site.wind_speed_m_s, "speed"),
        ),
        peak,
        "pressure",
        half_density.source,
    )
    figure = table(pack, "wind_canopy")
    limit = float(figure.numbers["tilt_deg"][-1])
    beyond = tilt_deg > limit
    columns = ("maximum", "minimum_clear", "minimum_blocked")
    press, lift, stopped = (_at_tilt(figure, column, tilt_deg) for column in columns)
    # Which of the two flows lifts more hangs on the tilt.
    lift = min(lift, stopped) if blocked else lift
    if beyond:
        press, lift = at_least_flat_plate(press), at_least_flat_plate(lift)
    # A force at a quarter of the chord is a pressure twice as high on that half alone.
    front = 2 * peak * np.array([press, 0.0, lift, 0.0])
    back = 2 * peak * np.array([0.0, press, 0.0, lift])
    names = (
        "pressing, front quarter",
        "pressing, back quarter",
        "lifting, front quarter",
        "lifting, back quarter",
    )
    return WindCases(names, front, back, peak, working, figure.source, limit, beyond)
