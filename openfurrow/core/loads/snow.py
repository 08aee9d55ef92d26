"""Snow on the glass, per level area, by either school, and whether it can slide off."""

import math
from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.said import Weather
from openfurrow.core.working import Input, Source, Working

MINIMUM = Source("ASCE/SEI 7-16, 7.3.4, minimum on low slopes", "from memory")


@dataclass(frozen=True)
class Snow:
    """Snow on the table, and what lies below it.

    ``ground_depth_m`` is the design snow on the ground as a depth; ``heap_m`` is how high it stands in
    front once all that the table held has slid onto it. ``slides``: the lower edge stands over the snow
    on the ground, so that what is on the glass can go.
    """

    working: Working
    ground_depth_m: float
    heap_m: float
    slides: bool


def slope_factor(tilt_deg: float, *, slides: bool) -> float:
    """C_s of ASCE/SEI 7-16, Figure 7.4-1c (C_t 1.2): 1 to 15° (45° where it is held), 0 at 70°."""
    start, end = (
        constant("us", f"snow_{name}_from_deg").value
        for name in ("slides" if slides else "held", "bare")
    )
    return float(np.interp(tilt_deg, (start, end), (1.0, 0.0)))


def shape_factor(tilt_deg: float, *, slides: bool) -> float:
    """mu_1 of EN 1991-1-3:2003, Table 5.2: 0.8 to 30°, to 0 at 60°; 5.3.2(2): 0.8 where it is held."""
    full = constant("metric", "snow_shape").value
    slope = [constant("metric", f"snow_{name}_from_deg").value for name in ("slides", "bare")]
    return full * float(np.interp(tilt_deg, slope, (1.0, 0.0))) if slides else full


def snow_weight_n_m3(pack: RulePack, ground_pa: float) -> float:
    """What a cubic metre of snow weighs that presses so on the ground."""
    base, growth, most = (
        constant(pack, f"snow_weight_{part}").value for part in ("base", "growth", "limit")
    )
    return float(min(base + growth * ground_pa, most))


def snow_on(site: Weather, section: TableSection) -> Snow:
    """Snow on the table and below it."""
    pack, ground = site.rule_pack, site.ground_snow_pa
    weight_n_m3 = snow_weight_n_m3(pack, ground)
    depth = ground / weight_n_m3
    slides = section.lower_edge_m > depth
    held = _us(site, 0.0, slides=False) if pack == "us" else _metric(site, 0.0, slides=False)
    slid_n_m3, side = (constant("common", name).value for name in ("slid_snow_n_m3", "slid_snow_deg"))
    # A heap with two sides: its cross-section is its height squared over the sides' slope.
    slid_m2 = float(held.value) * section.level_depth_m / max(weight_n_m3, slid_n_m3)
    heap = math.sqrt(slid_m2 * math.tan(math.radians(side)))
    working = (_us if pack == "us" else _metric)(site, section.tilt_deg, slides=slides)
    return Snow(working, depth, depth + heap, slides)


def _shared(site: Weather) -> tuple[Input, Input]:
    exposure, thermal = (constant(site.rule_pack, name) for name in ("snow_exposure", "snow_thermal"))
    return (
        Input("C_e", "exposure", exposure.value, "factor"),
        Input("C_t", "heat from below", thermal.value, "factor"),
    )


def _said(*, slides: bool) -> str:
    return "On the level area below the glass. " + (
        "It slides: the lower edge stands over the snow on the ground."
        if slides
        else "The lower edge is in the snow: nothing slides off."
    )


def _us(site: Weather, tilt_deg: float, *, slides: bool) -> Working:
    ground = site.ground_snow_pa
    flat, importance, low, deg = (
        constant("us", f"snow_{name}")
        for name in ("flat_factor", "importance", "low_slope_pa", "low_slope_deg")
    )
    shared = _shared(site)
    shape = slope_factor(tilt_deg, slides=slides)
    sloped = (
        shape * flat.value * importance.value * ground * math.prod(float(one.value) for one in shared)
    )
    least = importance.value * min(ground, low.value) if tilt_deg < deg.value else 0.0
    return Working(
        "p_s",
        "max(C_s * k * C_e * C_t * I_s * p_g, p_m)",
        (
            Input("C_s", "slippery slope" if slides else "slope that holds", shape, "factor"),
            Input("k", "flat roof over ground", flat.value, "factor"),
            *shared,
            Input("I_s", "importance", importance.value, "factor"),
            Input("p_g", "ground snow", ground, "pressure"),
            Input("p_m", "least on a low slope", least, "pressure"),
        ),
        max(sloped, least),
        "pressure",
        MINIMUM if least > sloped else flat.source,
        _said(slides=slides),
    )


def _metric(site: Weather, tilt_deg: float, *, slides: bool) -> Working:
    shared = _shared(site)
    shape = shape_factor(tilt_deg, slides=slides)
    return Working(
        "s",
        "mu_1 * C_e * C_t * s_k",
        (
            Input("mu_1", "shape", shape, "factor"),
            *shared,
            Input("s_k", "ground snow", site.ground_snow_pa, "pressure"),
        ),
        shape * site.ground_snow_pa * math.prod(float(one.value) for one in shared),
        "pressure",
        constant("metric", "snow_shape").source,
        _said(slides=slides),
    )
