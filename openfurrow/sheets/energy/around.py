"""Where on the ground the sun is, which way to turn to it, and what each thing that stands takes."""

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.energy.around import far_horizon
from openfurrow.core.energy.horizon import horizons_deg
from openfurrow.core.energy.plane import normal_of
from openfurrow.core.energy.stands import stand_of
from openfurrow.core.energy.sun_map import SkySums, on_ground, sky_sums, sun_map, takes_of_things
from openfurrow.core.energy.tilts import turn_curve
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.rows.shade import evenly, glass_places_m, standing_of
from openfurrow.core.year_days import MONTHS
from openfurrow.sheets.drawings.sun_map import map_drawing
from openfurrow.sheets.drawings.tilting import curve_drawing
from openfurrow.sheets.energy.parts import at_meter, number_table, standing_note, take
from openfurrow.sheets.models import AskedSheet, TableText

Floats = NDArray[np.float64]


def around_sheet(
    design: Design, plan: Plan, units: UnitSystem, spot_m: tuple[float, float] | None = None
) -> AskedSheet:
    """Where on the ground the sun is, which way to turn to it, and what each thing takes.

    Hours of open sun are those at the glass, or over a spot (east, north).
    """
    energy, rows, site = plan.energy, plan.rows, plan.site
    year = energy.arrays[plan.open]
    standing, far = standing_of(site.keepouts, site.ground), far_horizon(design.sun.horizon)
    sums = sky_sums(energy.sky, normal_of(rows.section.tilt_deg, rows.facing_deg), year.upkeep.albedo)
    equator = 180.0 if (design.site.latitude_deg or 0.0) >= 0 else 0.0
    turns = turn_curve(energy.sky, stand_of(rows, year), equator)
    now = (rows.facing_deg - equator + 180.0) % 360.0 - 180.0
    best, most = turns.best
    gain = most / turns.year_at(now) - 1
    glass_m = glass_places_m(rows.lie, evenly(rows.tables.count))
    where = "at the glass"
    seen_m = glass_m
    if spot_m is not None:
        seen_m = on_ground(site.ground, np.array([spot_m]))
        where = "at " + ", ".join(format_value(one, "coordinate", units) for one in spot_m)
    found = sun_map(sums, standing, far, site.ground, _looked_at(plan))
    names = standing.names
    taken = takes_of_things(sums, standing, far, glass_m)
    per_share = sums.whole * year.watts * year.light.left[-1] / max(year.light.left[0], 1e-9)
    kwh = per_share * at_meter(plan)
    by_thing = sorted(zip(names, taken.tolist(), strict=True), key=lambda one: -one[1])
    return AskedSheet(
        drawings=(
            map_drawing(plan, found, units, spot_m),
            curve_drawing(
                "turns",
                "A year by the turn from the equator",
                "clockwise from the equator",
                turns,
                now if rows.travel is None else None,
            ),
        ),
        tables=(
            _hours_table(sums, horizons_deg(standing, far, seen_m), where),
            number_table(
                "takes",
                "What each thing takes by itself",
                ("Thing", "Of a year's light", "Energy of a year"),
                tuple(
                    (name, f"{share * 100:.1f} %", format_value(share * kwh, "energy", units))
                    for name, share in by_thing
                ),
                "What would be won were it gone, or trimmed below the sun's way, by the glass of the "
                "array that is open. What two take together goes by neither.",
            ),
        ),
        takes=(
            (take(plan, f"Turn {best:.0f}°".replace("-", "−"), "rows.turn_deg", f"{best:.0f}"),)
            if gain > 0.002 and abs(best - now) >= 1 and rows.travel is None
            else ()
        ),
        note=standing_note(plan) + of_what(energy.sky),
    )


def _hours_table(sums: SkySums, horizons: Floats, where: str) -> TableText:
    """Hours of open sun on a day of each month."""
    hours = sums.open_hours(horizons).mean(axis=0)
    free = sums.open_hours(np.zeros_like(horizons[:1]))[0]
    return number_table(
        "open_hours",
        f"Hours of open sun {where}, a day",
        ("Month", "There", "With nothing around"),
        tuple(
            (month.capitalize(), f"{there:.1f} h", f"{open_there:.1f} h")
            for month, there, open_there in zip(MONTHS, hours.tolist(), free.tolist(), strict=True)
        ),
        "By the sun's way alone, whether it is cloudy or not.",
    )


def _looked_at(plan: Plan) -> shapely.Geometry:
    """The ground that is asked: inside the boundary, or around all that is known."""
    inside = plan.site.keepouts.inside
    if inside is not None and not inside.is_empty:
        return inside
    shapes = [zone.feature.geometry() for zone in plan.site.keepouts.zones]
    shapes += [outline for one in plan.each() for outline in one.rows.tables.outlines.tolist()]
    return shapely.box(*shapely.union_all(shapes).bounds).buffer(8.0, join_style="mitre")
