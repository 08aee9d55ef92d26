"""What a footing stands in: soil classes, test holes on the map, the nearest of which governs."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pydantic import Field, field_validator

from openfurrow.core.codes import constant, table
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.working import Source

SoilClass = Literal["crystalline rock", "sedimentary rock", "sandy gravel", "sand", "clay"]
LayerBottom = Annotated[float, Field(gt=0, le=30)]
Strength = Annotated[float, Field(ge=1e3, le=1e7)]
Layer = tuple[LayerBottom, SoilClass, Strength | None]
WATER_N_M3 = 1000.0 * STANDARD_GRAVITY_M_S2


class HoleGivens(Givens):
    """One test hole: layers from the top down, where water stood, where it would go no deeper."""

    name: str = given("", "Called", "text", "As it is flagged on site.", "The flag.", length=40)
    east_m: float = given(0.0, "East", "coordinate", "East of the origin.", "Two tapes.",
                          low=-5000, high=5000, usual=(-100, 100))
    north_m: float = given(0.0, "North", "coordinate", "North of the origin.", "Two tapes.",
                           low=-5000, high=5000, usual=(-100, 100))
    layers: Annotated[tuple[Layer, ...], Field(min_length=1, max_length=12)] = given(
        ((2.0, "sandy gravel", None),), "Layers", "layers",
        "One a line from the top: depth of its bottom, class, and undrained strength of a clay where "
        "it was measured.",
        "What the auger brings up; clay by pocket penetrometer or vane.",
    )
    water_m: float | None = given(
        None, "Water stands at", "tape", "Depth to water after an hour. Left empty: dry.",
        "A tape in the open hole.", low=0, high=30, usual=(0.5, 4),
    )
    refusal_m: float | None = given(
        None, "Goes no deeper than", "tape", "Depth at which auger or probe stopped.",
        "Rock, boulder, old concrete: the hole does not say which.", low=0, high=30, usual=(0.3, 4),
    )

    @field_validator("layers")
    @classmethod
    def _from_the_top_down(cls, layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
        bottoms = [layer[0] for layer in layers]
        if any(below <= above for above, below in pairwise(bottoms)):
            raise ValueError("each layer must end deeper than the one above it")
        return layers


@dataclass(frozen=True)
class Soil:
    """One soil class: presumptive bearing and shaft-friction parameters, SI.

    ``unit_weight_n_m3`` is that of the soil under water where water stands shallow.
    """

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
    hole: str = ""
    wet: bool = False
    refusal_m: float | None = None
    seen_m: float | None = None


def soil_in_class(soil_class: str, fine_top_m: float | None, frost_depth_m: float) -> Soil:
    """The soil's numbers from the tables, with the depth of soil that frost can grip.

    ``fine_top_m`` None: the whole frost depth in clay, none over sand and gravel.
    """
    bearing, friction = table("us", "soil_bearing"), table("common", "soil_friction")
    row, line = bearing.row("soil_class", soil_class), friction.row("soil_class", soil_class)
    if fine_top_m is None:
        fine_top_m = frost_depth_m if friction.number("fine", line) else 0.0
    return Soil(
        soil_class=soil_class,
        vertical_pa=bearing.number("vertical_pa", row),
        lateral_pa_per_m=bearing.number("lateral_pa_per_m", row),
        friction_angle_deg=friction.number("friction_angle_deg", line),
        cohesion_pa=friction.number("cohesion_pa", line),
        unit_weight_n_m3=friction.number("unit_weight_n_m3", line),
        earth_pressure_k=friction.number("earth_pressure_k", line),
        adfreeze_pa=friction.number("adfreeze_pa", line),
        frost_grip_m=min(fine_top_m, frost_depth_m),
        bearing_source=bearing.source,
        friction_source=friction.source,
    )


def soil_of_hole(hole: HoleGivens, frost_depth_m: float) -> Soil:
    """The hole as one soil: the weakest layer below the depth that earns no credit.

    Fine layers count from the turf down to the first that drains: they are what frost grips. Where
    water stands shallow the soil weighs less by the water it displaces.
    """
    friction = table("common", "soil_friction")

    def fine(layer: Layer) -> bool:
        return bool(friction.number("fine", friction.row("soil_class", layer[1])))

    top = 0.0
    for layer in hole.layers:
        if not fine(layer):
            break
        top = layer[0]
    start = max(constant("common", "no_credit_m").value, frost_depth_m)
    deep = [layer for layer in hole.layers if layer[0] > start] or [hole.layers[-1]]
    soils = [(soil_in_class(layer[1], top, frost_depth_m), layer[2]) for layer in deep]
    weakest, strength = min(soils, key=lambda pair: pair[0].lateral_pa_per_m)
    wet = hole.water_m is not None and hole.water_m < constant("common", "wet_ground_m").value
    facts = vars(weakest) | {
        "hole": hole.name.strip() or f"hole at {hole.east_m:.1f}, {hole.north_m:.1f}",
        "wet": wet,
        "refusal_m": hole.refusal_m,
        "seen_m": hole.layers[-1][0],
        "unit_weight_n_m3": weakest.unit_weight_n_m3 - (WATER_N_M3 if wet else 0.0),
    }
    if strength is not None and weakest.cohesion_pa > 0:
        facts["cohesion_pa"] = strength
    return Soil(**facts)


def nearest(
    east_m: ArrayLike, north_m: ArrayLike, at_east_m: ArrayLike, at_north_m: ArrayLike
) -> NDArray[np.int64]:
    """For each place the index of the nearest of the holes; of two as near, the first."""
    east, north = np.asarray(east_m, dtype=float), np.asarray(north_m, dtype=float)
    away = np.hypot(
        east[:, None] - np.asarray(at_east_m, dtype=float),
        north[:, None] - np.asarray(at_north_m, dtype=float),
    )
    return np.asarray(away.argmin(axis=1))
