"""Site: the ground, the weather and the soil everything else stands in."""

import math
from dataclasses import dataclass
from itertools import pairwise

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.ground import GroundPlane
from openfurrow.core.working import (
    COMMON_PRACTICE,
    GEOMETRY,
    GIVEN,
    Answer,
    Input,
    Source,
    Working,
)


@dataclass(frozen=True)
class Soil:
    """One soil class: presumptive bearing and shaft-friction parameters, SI."""

    soil_class: str
    vertical_pa: float
    lateral_pa_per_m: float
    friction_angle_deg: float
    cohesion_pa: float
    unit_weight_n_m3: float
    earth_pressure_k: float
    adfreeze_pa: float
    frost_grip_m: float
    bearing_source: Source
    friction_source: Source


@dataclass(frozen=True)
class SitePlan:
    """What the later stages stand on."""

    rule_pack: RulePack
    display_units: UnitSystem
    ground: GroundPlane
    soil: Soil
    frost_depth_m: float
    route_m: tuple[tuple[float, float], ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def soil_of(givens: SiteGivens) -> Soil:
    """The soil's numbers from the tables, with the depth of soil that frost can grip."""
    bearing = table("us", "soil_bearing")
    friction = table("common", "soil_friction")
    row, column = bearing.row("soil_class", givens.soil_class), friction.number
    line = friction.row("soil_class", givens.soil_class)
    fine = bool(column("fine", line))
    top = givens.fine_soil_top_m
    if top is None:
        top = givens.frost_depth_m if fine else 0.0
    return Soil(
        soil_class=givens.soil_class,
        vertical_pa=bearing.number("vertical_pa", row),
        lateral_pa_per_m=bearing.number("lateral_pa_per_m", row),
        friction_angle_deg=column("friction_angle_deg", line),
        cohesion_pa=column("cohesion_pa", line),
        unit_weight_n_m3=column("unit_weight_n_m3", line),
        earth_pressure_k=column("earth_pressure_k", line),
        adfreeze_pa=column("adfreeze_pa", line),
        frost_grip_m=min(top, givens.frost_depth_m),
        bearing_source=bearing.source,
        friction_source=friction.source,
    )


def plan_site(givens: SiteGivens) -> SitePlan:
    """The ground plane, the soil and what the site alone can say about the job."""
    soil = soil_of(givens)
    fall_over_m = 10.0
    fall = Working(
        "fall",
        "s * L",
        (
            Input("s", "slope of the ground", givens.slope, "ratio"),
            Input("L", "level length", fall_over_m, "run"),
        ),
        givens.slope * fall_over_m,
        "tape",
        GEOMETRY,
        "Check it with a level and a tape before trusting the plane.",
    )
    grip = Working(
        "t_grip",
        "min(t_fine, z_frost)",
        (
            Input("t_fine", "fine soil on top", _fine_top(givens, soil), "tape"),
            Input("z_frost", "frost depth", givens.frost_depth_m, "tape"),
        ),
        soil.frost_grip_m,
        "tape",
        COMMON_PRACTICE,
        "Only silt and clay freeze onto steel hard enough to lift it; clean gravel drains.",
    )
    least_below = Working(
        "z_frost",
        "",
        (),
        givens.frost_depth_m,
        "tape",
        GIVEN,
        "Every footing ends below this.",
    )
    wind = Working(
        "V",
        "",
        (),
        givens.wind_speed_m_s,
        "speed",
        GIVEN,
        "3-second gust in the us pack, 10-minute mean in the metric pack. The load grows with "
        "its square.",
    )
    answers = (
        Answer("site", "fall", "Fall over 10 m (33 ft)", fall, headline=True),
        Answer("site", "frost", "Footings end below", least_below, headline=True),
        Answer("site", "grip", "Frost can grip", grip),
        Answer("site", "wind", "Design wind", wind),
    )
    return SitePlan(
        rule_pack=givens.rule_pack,
        display_units=givens.display_units,
        ground=GroundPlane(givens.slope, givens.falls_toward_deg),
        soil=soil,
        frost_depth_m=givens.frost_depth_m,
        route_m=givens.route,
        answers=answers,
        checks=_checks(givens),
    )


def _fine_top(givens: SiteGivens, soil: Soil) -> float:
    return soil.frost_grip_m if givens.fine_soil_top_m is None else givens.fine_soil_top_m


def _checks(givens: SiteGivens) -> tuple[Check, ...]:
    rock = givens.soil_class.endswith("rock")
    return (
        within(
            "site", "slope", "Ground lies like a plane", givens.slope,
            constant("common", "plane_slope"), "ratio", most=True,
            remedy="Steeper than 15 %: survey the ground and ask whether machines can stand on it.",
            given="site.slope", otherwise="look",
        ),
        holds(
            "site", "rock", "Posts can be driven", not rock, givens.soil_class, "soil, not rock",
            remedy="Driven posts refuse on rock: pre-drill, or take rock screws or ballast.",
            source=COMMON_PRACTICE, given="site.soil_class",
        ),
        at_most(
            "site", "temperatures", "Lowest is below hottest", givens.lowest_temperature_c,
            givens.hottest_temperature_c, "temperature",
            remedy="The lowest temperature must be below the hottest.", source=GEOMETRY,
            given="site.lowest_temperature_c",
        ),
        holds(
            "site", "route", "The way to the building is drawn",
            len(givens.route) > 0 and _length(givens.route) > 0.5,
            f"{len(givens.route)} points", "one point or more",
            remedy="Give east and north of each bend, the last at the building's wall.",
            source=GEOMETRY, given="site.route",
        ),
    )


def _length(route: tuple[tuple[float, float], ...]) -> float:
    points = ((0.0, 0.0), *route)
    return sum(math.dist(a, b) for a, b in pairwise(points))
