"""The year of an array: from open light to what its strings bring, loss after loss."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.energy.ahead import Ahead, band, sky_left
from openfurrow.core.energy.cells import Cells, Electronics, kept_in_patches, kept_power
from openfurrow.core.energy.glass import let_in, let_in_even
from openfurrow.core.energy.ground_light import (
    Face,
    OverGround,
    RowsOver,
    back_sky_share,
    ground_light,
    grounds_seen,
)
from openfurrow.core.energy.heat import RATED_W_M2, kept_of_heat
from openfurrow.core.energy.plane import OnPlane, on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.year_days import DAYS

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# What is lost, in the order in which it is taken: each is a share of what was left before it.
LOST = ("things", "rows", "strings", "slant", "back", "dirt", "heat", "other")


@dataclass(frozen=True, kw_only=True)
class Panel:
    """The modules: how they meet shade, heat, and light from behind.

    ``back`` is the back's power over the front's, nought for a closed back.
    """

    cells: Cells
    coefficient_per_c: float
    back: float
    electronics: Electronics


@dataclass(frozen=True, kw_only=True)
class Upkeep:
    """What is said rather than computed: shares lost to dirt and to the rest, days under snow."""

    albedo: float
    dirt: float
    other: float
    snow_days: int


@dataclass(frozen=True)
class Around:
    """What things that stand around take from tables that are asked.

    ``blocked`` (tables, steps) is the share of a table that the sun does not reach, ``sky`` and
    ``horizon`` (places) the shares of those that places of the glass see.
    """

    blocked: Floats
    sky: Floats
    horizon: Floats


def nothing_around(sky: Sky) -> Around:
    """Open land."""
    return Around(np.zeros((1, len(sky.at))), np.ones(1), np.ones(1))


@dataclass(frozen=True, kw_only=True)
class Field:
    """Tables by kind: normals (kinds, 3), modules of each, what stands before each, what around all.

    ``over`` are the rows over the ground, of all kinds or of each; so are the normals, and how far
    tables are turned from the rows, clockwise.
    """

    over: tuple[RowsOver, ...]
    facing_deg: float
    along_deg: float
    normals: Floats
    turned_deg: Floats
    modules: Floats
    ahead: Ahead
    around: Around

    @property
    def section(self) -> TableSection:
        """That of its tables."""
        return self.over[0].section


@dataclass(frozen=True)
class LightYear:
    """What an array's modules give, per watt of theirs.

    ``power`` (steps) is watts a rated watt of the whole array, before wires and inverters, and
    ``by_kind_h`` (kinds) the year's full hours of each kind of table. ``open_h`` is the year's light on
    the open plane in full hours (kWh/m²), ``open_month_h`` (12) the same by month, and ``left`` the
    share left after each of ``LOST`` in turn.
    """

    power: Floats
    by_kind_h: Floats
    open_month_h: Floats
    open_h: float
    left: tuple[float, ...]


def light_year(
    sky: Sky, field: Field, panel: Panel, upkeep: Upkeep, while_: Floats | None = None
) -> LightYear:
    """Follow the light of each kind of table through the year, or while ``while_`` is 1 (steps)."""
    light = on_plane(sky, field.normals, upkeep.albedo)
    stages = _stages(sky, field, panel, upkeep, light)
    if while_ is not None:
        stages = tuple(stage * while_ for stage in stages)
    share = field.modules / field.modules.sum()
    sums = np.broadcast_arrays(*(stage.sum(axis=1) for stage in stages))
    by_kind = np.array(sums) * sky.step_h / RATED_W_M2
    totals = by_kind @ share
    whole = max(float(totals[0]), 1e-12)
    return LightYear(
        power=np.asarray(share @ stages[-1] / RATED_W_M2),
        by_kind_h=by_kind[-1],
        open_month_h=sky.by_month((share if len(stages[0]) > 1 else np.ones(1)) @ stages[0])
        / RATED_W_M2,
        open_h=float(totals[0]),
        left=tuple((totals[1:] / whole).tolist()),
    )


def _stages(sky: Sky, field: Field, panel: Panel, upkeep: Upkeep, light: OnPlane) -> tuple[Floats, ...]:
    """Light (kinds, steps) on the open plane, and what is left of it after each of ``LOST``."""
    around = field.around
    blocked = around.blocked.mean(axis=0)
    seen, seen_band = float(around.sky.mean()), float(around.horizon.mean())
    after_things = light.beam * (1 - blocked) + light.sky * seen + light.horizon * seen_band
    after_things = after_things + light.ground
    left_sky, left_band = sky_left(field.ahead, field.section)
    faces = grounds_seen(field.over, backs=bool(panel.back))
    over = OverGround.of(sky, field.facing_deg)
    ground = ground_light(field.over, [face[0] for face in faces], over, upkeep.albedo)
    even = ground + (light.sky * seen) * left_sky[:, None]
    even += (light.horizon * seen_band) * left_band[:, None]
    np.maximum(even, 0.0, out=even)
    turned = field.turned_deg
    shade = band(field.ahead, field.section, sky, field.facing_deg + turned, field.along_deg + turned)
    chord = field.section.chord_m
    lit = light.beam * (1 - blocked)
    after_rows = even + lit
    shaded = np.flatnonzero(shade.height_m)
    height, along = (np.take(one, shaded) for one in (shade.height_m, shade.along))
    beam = lit.ravel()[shaded if len(lit) > 1 else shaded % len(sky.at)]
    after_rows.ravel()[shaded] -= beam * along * height / chord
    after_strings = even + light.beam
    _keep(after_strings, even, (shaded, height, along), around.blocked, panel)
    after_slant = after_strings * _slant(light, field.normals)
    after_back = after_slant
    if panel.back:
        after_back = after_slant + _back(sky, field, faces, panel, upkeep)
    return (
        light.whole,
        after_things,
        after_rows,
        after_strings,
        after_slant,
        after_back,
        *_worn(sky, after_back, panel, upkeep),
    )


def _worn(sky: Sky, light: Floats, panel: Panel, upkeep: Upkeep) -> tuple[Floats, Floats, Floats]:
    """What is left of light in the cells after dirt and snow, after heat, after the rest."""
    clean = light * ((1 - upkeep.dirt) * free_of_snow(sky, upkeep.snow_days))
    warm = kept_of_heat(light, sky.air_c, sky.wind_m_s, panel.coefficient_per_c)
    warm *= clean
    return clean, warm, warm * (1 - upkeep.other)


def _keep(
    whole: Floats, even: Floats, shade: tuple[Integers, Floats, Floats], blocked: Floats, panel: Panel
) -> None:
    """Leave of the ``whole`` light, in place, what strings keep of it.

    That is under the rows' band of ``shade`` (at which places of the flat light, how high, over what
    share along) and under the patches of what stands around; ``even`` is what comes from everywhere.
    """
    at, height, along = shade
    steps = blocked.any(axis=0)
    diffuse = even[:, steps] / np.maximum(whole[:, steps], 1e-9)
    if at.size:
        flat = whole.ravel()
        spread = np.take(even, at) / np.maximum(flat[at], 1e-9)
        flat[at] *= kept_power(panel.cells, height, along, spread, panel.electronics)
    if steps.any():
        patches = kept_in_patches(blocked[None, :, steps], diffuse[:, None], panel.electronics)
        whole[:, steps] *= patches.mean(axis=1)


def _slant(light: OnPlane, normals: Floats) -> Floats:
    """Share of the light that the glass lets in."""
    tilt = np.degrees(np.arccos(np.clip(normals[..., 2], -1.0, 1.0)))
    of_sky, of_ground = let_in_even(tilt)
    whole = np.maximum(light.whole, 1e-9)
    # One tilt a kind, or one a step where the glass moves.
    moving = tilt.shape == light.cosine.shape
    sky_in, ground_in = (of_sky, of_ground) if moving else (of_sky[:, None], of_ground[:, None])
    kept = light.beam * let_in(light.cosine) + light.ground * ground_in
    kept = kept + (light.sky + light.horizon) * sky_in
    return np.asarray(np.where(light.whole > 1e-9, kept / whole, 1.0))


def moved_year(
    sky: Sky,
    normals: Floats,
    shaded: Floats,
    around: Around,
    panel: Panel,
    upkeep: Upkeep,
) -> LightYear:
    """Follow the light of glass that moves, all of it the same way: ``normals`` (steps, 3).

    ``shaded`` (tables, steps) is the share of each table that others of its kind shade. The back is not
    counted: what lies under a mover changes by the hour.
    """
    light = on_plane(sky, normals, upkeep.albedo)
    blocked = around.blocked.mean(axis=0)
    lit = light.beam * (1 - blocked)
    even = light.sky * float(around.sky.mean()) + light.horizon * float(around.horizon.mean())
    even = np.maximum(even + light.ground, 0.0)
    # Things may stand beside the shade of a neighbour: what they take is added.
    gone = np.minimum(blocked + shaded * (1 - blocked), 1.0)
    whole = light.beam + even
    kept = kept_in_patches(gone, (even / np.maximum(whole, 1e-9))[None], panel.electronics)
    after_strings = whole * kept
    after_slant = after_strings * _slant(light, normals)
    every = (
        light.whole,
        even + lit,
        even + lit * (1 - shaded),
        after_strings,
        after_slant,
        after_slant,
    )
    stages = np.array(
        [
            np.broadcast_to(one, shaded.shape)
            for one in (*every, *_worn(sky, after_slant, panel, upkeep))
        ]
    )
    by_kind = stages.sum(axis=2) * sky.step_h / RATED_W_M2
    totals = by_kind.mean(axis=1)
    return LightYear(
        power=np.asarray(stages[-1].mean(axis=0) / RATED_W_M2),
        by_kind_h=by_kind[-1],
        open_month_h=sky.by_month(light.whole) / RATED_W_M2,
        open_h=float(totals[0]),
        left=tuple((totals[1:] / max(float(totals[0]), 1e-12)).tolist()),
    )


def moved_power(
    sky: Sky, light: OnPlane, normals: Floats, around: Around, panel: Panel, upkeep: Upkeep
) -> Floats:
    """Watts a rated watt of glass that follows the sun and is shaded by no other row, over the steps.

    The back is not counted: what lies under a mover changes by the hour.
    """
    seen, band = float(around.sky.mean()), float(around.horizon.mean())
    even = np.maximum(light.sky * seen + light.horizon * band + light.ground, 0.0)
    whole = light.beam + even
    diffuse = even / np.maximum(whole, 1e-9)
    kept = kept_in_patches(around.blocked, diffuse[None], panel.electronics).mean(axis=0)
    left = whole * kept * _slant(light, normals)
    return np.asarray(_worn(sky, left, panel, upkeep)[-1] / RATED_W_M2)


def _back(
    sky: Sky, field: Field, faces: list[tuple[Face, ...]], panel: Panel, upkeep: Upkeep
) -> Floats:
    """What the back adds, as light on the front: from the ground, the sky and, low, the sun."""
    sun_behind = np.maximum(-(field.normals @ sky.toward.T), 0.0) * sky.beam_w_m2
    over = OverGround.of(sky, field.facing_deg)
    found = ground_light(field.over, [face[1] for face in faces], over, upkeep.albedo)
    found += np.array([back_sky_share(rows) for rows in field.over])[:, None] * sky.diffuse_w_m2
    # The row behind, where there is one, stands before a sun so low.
    found[[rows.pitch_m is None for rows in field.over]] += sun_behind[0]
    # Purlins and beams stand in the way of what comes from behind.
    free = 1 - constant("common", "behind_steel").value
    return np.asarray(panel.back * free * found)


# Snow lies now and then through the cold season: on one of so many of its days.
OF_COLD_DAYS = 3


def free_of_snow(sky: Sky, days: int) -> Floats:
    """1 where the glass is free: on all but so many days, spread over the coldest of the year."""
    if not days:
        return np.ones(len(sky.at))
    number = sky.day
    count = np.maximum(np.bincount(number, minlength=DAYS), 1)
    mean = np.bincount(number, sky.air_c, minlength=DAYS) / count
    # In the polar night there is nothing to lose.
    mean[np.bincount(number, minlength=DAYS) == 0] = np.inf
    season = np.sort(np.argsort(mean, kind="stable")[: min(OF_COLD_DAYS * days, DAYS)])
    lies = season[np.linspace(0, len(season) - 1, min(days, len(season))).round().astype(np.int64)]
    under = np.zeros(DAYS, dtype=bool)
    under[lies] = True
    return np.where(under[number], 0.0, 1.0)
