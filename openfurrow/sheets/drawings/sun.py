"""Sun: its path over the year by bearing and height, with the winter window marked."""

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.horizon import NO_HILLS, FarHorizon, bearings_deg
from openfurrow.core.plan import Plan
from openfurrow.core.sun.shadow import shadow_length
from openfurrow.sheets.drawings.skyline import skyline
from openfurrow.sheets.marks import Drawing, Mark, area, dot, drawing, label, line

Floats = NDArray[np.float64]
# Bearings to either side of where the array faces.
SHOWN_DEG = 130.0
# Of what faces further round than that from the equator the sun would run off the sheet.
WELL_OFF = math.cos(math.radians(65.0))


def sun_drawing(plan: Plan, far: FarHorizon = NO_HILLS) -> tuple[Drawing, ...]:
    """Height over bearing, about the way that the array faces; ``far`` are hills around."""
    facing = plan.sun.facing_deg
    middle = _middle_deg(plan)
    looks = (facing - middle + 180) % 360 - 180

    def turned(azimuth: Floats) -> Floats:
        return (azimuth - middle + 180) % 360 - 180

    marks = [*_hills(far, turned), *skyline(plan, turned)]
    for day in plan.sun.days:
        across = turned(day.azimuth_deg)
        order = np.argsort(across)
        points = list(zip(across[order].tolist(), day.altitude_deg[order].tolist(), strict=True))
        if len(points) > 1:
            marks.append(line(f"sun-{day.name}", *points))
            top = max(points, key=lambda point: point[1])
            marks.append(label(f"{day.name} {top[1]:.0f}°", (top[0], top[1] + 3.0), "note"))
    window = list(
        zip(
            turned(plan.sun.window_azimuth_deg).tolist(),
            plan.sun.window_altitude_deg.tolist(),
            strict=True,
        )
    )
    marks += [
        area("sun-window", (window[0][0], 0.0), *window, (window[-1][0], 0.0)),
        line("axis", (-130.0, 0.0), (130.0, 0.0)),
        line("fine", (looks, 0.0), (looks, 90.0)),
        label(f"faces {facing:.0f}° true", (looks + 1.5, 86.0), "note", "start"),
        label(f"{plan.sun.window_h[0]:g} h", (window[0][0], -4.0), "strong"),
        label(f"{plan.sun.window_h[-1]:g} h", (window[-1][0], -4.0), "strong"),
    ]
    for tick in (-90, 90):
        marks.append(label(f"{(middle + tick) % 360:.0f}°", (tick, -4.0), "note"))
    for height in (15, 30, 45, 60, 75):
        marks += [
            line("grid", (-130.0, height), (130.0, height)),
            label(f"{height}°", (-128.0, height + 1.5), "contour-note", "start"),
        ]
    return (
        drawing(
            "sun",
            "Where the sun stands, and the winter window",
            marks,
            low=(-130.0, -9.0),
            high=(130.0, 92.0),
            to_scale=False,
        ),
        string_drawing(plan),
    )


def _middle_deg(plan: Plan) -> float:
    """The bearing in the middle of the sheet: where rows face, or, where tubes roll, the equator."""
    facing, day = plan.sun.facing_deg, plan.sun.days[1]
    noon = float(day.azimuth_deg[day.altitude_deg.argmax()])
    equator = 180.0 if abs(noon - 180.0) < 90.0 else 0.0
    return facing if math.cos(math.radians(facing - equator)) > WELL_OFF else equator


def _hills(far: FarHorizon, turned: Callable[[Floats], Floats]) -> list[Mark]:
    """The far horizon as it was read, over the bearings that the sheet shows."""
    if not far.bearing_deg:
        return []
    across = turned(bearings_deg())
    order = np.argsort(across)
    shown = order[np.abs(across[order]) <= SHOWN_DEG]
    line_of = list(zip(across[shown].tolist(), far.heights()[shown].tolist(), strict=True))
    foot = [(line_of[-1][0], 0.0), (line_of[0][0], 0.0)]
    return [area("hills", *line_of, *foot)]


POLE_M, STRING_M = 1.6, 2.0


def string_drawing(plan: Plan) -> Drawing:
    """The string of the row from above, with the shadow of its pole at the chosen minute."""
    slip, facing = plan.sun.slip, math.radians(plan.sun.facing_deg)
    along = (math.cos(facing), -math.sin(facing))
    ends = [(s * STRING_M * along[0], s * STRING_M * along[1]) for s in (-1, 1)]
    look = (math.sin(facing), math.cos(facing))
    marks: list[Mark] = [
        line("string", *ends),
        line("fine", (0.0, 0.0), (1.3 * look[0], 1.3 * look[1])),
        label(f"faces {plan.sun.facing_deg:.0f}°", (1.5 * look[0], 1.5 * look[1]), "note"),
        label("string", (ends[1][0] * 0.75, ends[1][1] * 0.75 + 0.15), "note"),
    ]
    if slip.chosen_altitude_deg > 0:
        length = min(1.7, POLE_M * shadow_length(slip.chosen_altitude_deg))
        turn = math.radians(slip.chosen_shadow_deg)
        end = (length * math.sin(turn), length * math.cos(turn))
        words = f"{slip.chosen:%H:%M}: shadow at {slip.chosen_shadow_deg:.1f}° true"
        marks += [
            line("shadow", (0.0, 0.0), end),
            label(words, (end[0], end[1] + (0.2 if end[1] >= 0 else -0.3)), "strong"),
        ]
    marks += [
        dot("pole", (0.0, 0.0)),
        line("north", (1.9, -1.7), (1.9, -1.0)),
        label("N", (1.9, -0.9), "strong"),
    ]
    return drawing("string", "String and shadow", marks, low=(-2.1, -1.9), high=(2.1, 2.0))
