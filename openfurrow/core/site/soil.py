"""What a footing stands in: soil classes, test holes on the map, the nearest of which governs."""

import math
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pydantic import Field, field_validator

from openfurrow.core.codes import table
from openfurrow.core.givens import Thing, given
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.working import Source

SoilClass = Literal["crystalline rock", "sedimentary rock", "sandy gravel", "sand", "clay"]
LayerBottom = Annotated[float, Field(gt=0, le=30)]
Strength = Annotated[float, Field(ge=1e3, le=1e7)]
Layer = tuple[LayerBottom, SoilClass, Strength | None]
WATER_N_M3 = 1000.0 * STANDARD_GRAVITY_M_S2


class HoleGivens(Thing):
    """One test hole: layers from the top down, where water stood, where it would go no deeper."""

    name: str = given("", "Called", "text", "As it is flagged on site.", "The flag.", length=40)
    east_m: float = given(
        0.0,
        "East",
        "coordinate",
        "East of the origin.",
        "Two tapes.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    north_m: float = given(
        0.0,
        "North",
        "coordinate",
        "North of the origin.",
        "Two tapes.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    layers: Annotated[tuple[Layer, ...], Field(min_length=1, max_length=12)] = given(
        ((2.0, "sandy gravel", None),),
        "Layers",
        "layers",
        "One a line from the top: depth of its bottom, class, and undrained strength of a clay where "
        "it was measured.",
        "What the auger brings up; clay by pocket penetrometer or vane.",
    )
    water_m: float | None = given(
        None,
        "Water stands at",
        "tape",
        "Depth to water after an hour. Left empty: dry.",
        "A tape in the open hole.",
        low=0,
        high=30,
        usual=(0.5, 4),
    )
    refusal_m: float | None = given(
        None,
        "Goes no deeper than",
        "tape",
        "Depth at which auger or probe stopped.",
        "Rock, boulder, old concrete: the hole does not say which.",
        low=0,
        high=30,
        usual=(0.3, 4),
    )

    @field_validator("layers")
    @classmethod
    def _from_the_top_down(cls, layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
        bottoms = [layer[0] for layer in layers]
        if any(below <= above for above, below in pairwise(bottoms)):
            raise ValueError("each layer must end deeper than the one above it")
        return layers


@dataclass(frozen=True)
class SoilLayer:
    """One layer down to ``bottom_m`` (the last goes on for ever), SI.

    ``measured``: its undrained strength was measured there, not taken from a table.
    """

    bottom_m: float
    soil_class: str
    vertical_pa: float
    lateral_pa_per_m: float
    friction_angle_deg: float
    cohesion_pa: float
    unit_weight_n_m3: float
    earth_pressure_k: float
    measured: bool


@dataclass(frozen=True)
class Soil:
    """What a footing stands in: the numbers of its weakest layer, SI, and all its layers.

    ``water_m`` is the depth at which water stands. ``even``: one class and strength all the way down
    and no water, so that the printed formulas hold as they are.
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
    layers: tuple[SoilLayer, ...]
    hole: str = ""
    water_m: float | None = None
    refusal_m: float | None = None
    seen_m: float | None = None

    @property
    def even(self) -> bool:
        """Whether it is the same all the way down."""
        alike = {(layer.soil_class, layer.cohesion_pa) for layer in self.layers}
        measured = any(layer.measured for layer in self.layers)
        return len(alike) == 1 and not measured and self.water_m is None

    @property
    def words(self) -> str:
        """Its layers from the top."""
        classes = [layer.soil_class for layer in self.layers]
        return " over ".join(
            name for name, above in zip(classes, ["", *classes], strict=False) if name != above
        )


def _layer(bottom_m: float, soil_class: str, strength_pa: float | None) -> SoilLayer:
    """A layer's numbers from the tables; a measured strength counts in clay only."""
    bearing, friction = table("us", "soil_bearing"), table("common", "soil_friction")
    row, line = bearing.row("soil_class", soil_class), friction.row("soil_class", soil_class)
    cohesion = friction.number("cohesion_pa", line)
    measured = strength_pa is not None and cohesion > 0
    return SoilLayer(
        bottom_m=bottom_m,
        soil_class=soil_class,
        vertical_pa=bearing.number("vertical_pa", row),
        lateral_pa_per_m=bearing.number("lateral_pa_per_m", row),
        friction_angle_deg=friction.number("friction_angle_deg", line),
        cohesion_pa=strength_pa if measured and strength_pa is not None else cohesion,
        unit_weight_n_m3=friction.number("unit_weight_n_m3", line),
        earth_pressure_k=friction.number("earth_pressure_k", line),
        measured=measured,
    )


def _soil(layers: tuple[SoilLayer, ...], fine_top_m: float, frost_depth_m: float) -> Soil:
    """Layers as a soil; its own numbers are those of the layer that holds least sideways."""
    weakest = min(layers, key=lambda layer: (layer.lateral_pa_per_m, layer.cohesion_pa))
    bearing, friction = table("us", "soil_bearing"), table("common", "soil_friction")
    row = bearing.row("soil_class", weakest.soil_class)
    return Soil(
        soil_class=weakest.soil_class,
        vertical_pa=bearing.number("vertical_pa", row),
        lateral_pa_per_m=weakest.lateral_pa_per_m,
        friction_angle_deg=weakest.friction_angle_deg,
        cohesion_pa=weakest.cohesion_pa,
        unit_weight_n_m3=weakest.unit_weight_n_m3,
        earth_pressure_k=weakest.earth_pressure_k,
        adfreeze_pa=max(
            friction.number("adfreeze_pa", friction.row("soil_class", layer.soil_class))
            for layer in layers
        ),
        frost_grip_m=min(fine_top_m, frost_depth_m),
        bearing_source=bearing.source,
        friction_source=friction.source,
        layers=layers,
    )


def soil_in_class(soil_class: str, fine_top_m: float | None, frost_depth_m: float) -> Soil:
    """The soil's numbers from the tables, with the depth of soil that frost can grip.

    ``fine_top_m`` None: the whole frost depth in clay, none over sand and gravel.
    """
    friction = table("common", "soil_friction")
    if fine_top_m is None:
        fine = friction.number("fine", friction.row("soil_class", soil_class))
        fine_top_m = frost_depth_m if fine else 0.0
    return _soil((_layer(math.inf, soil_class, None),), fine_top_m, frost_depth_m)


def soil_of_hole(hole: HoleGivens, frost_depth_m: float) -> Soil:
    """The hole's layers as they lie; the last goes on below what was seen.

    Fine layers count from the turf down to the first that drains: they are what frost grips.
    """
    friction = table("common", "soil_friction")
    top = 0.0
    for bottom_m, soil_class, _ in hole.layers:
        if not friction.number("fine", friction.row("soil_class", soil_class)):
            break
        top = bottom_m
    bottoms = [*(layer[0] for layer in hole.layers[:-1]), math.inf]
    layers = tuple(
        _layer(bottom, soil_class, strength)
        for bottom, (_, soil_class, strength) in zip(bottoms, hole.layers, strict=True)
    )
    return replace(
        _soil(layers, top, frost_depth_m),
        hole=hole.name.strip() or f"hole at {hole.east_m:.1f}, {hole.north_m:.1f}",
        water_m=hole.water_m,
        refusal_m=hole.refusal_m,
        seen_m=hole.layers[-1][0],
    )


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
