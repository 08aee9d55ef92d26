"""The ground from above with the shade that lies on it at one moment."""

from datetime import datetime

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import standing_of, toward_sun
from openfurrow.core.rows.shadows import table_shadows, thing_shadows
from openfurrow.core.sun.position import sun_at
from openfurrow.core.sun.spot import Spot
from openfurrow.sheets.drawings.overhead import SHOWN_TABLES, north_arrow, swept
from openfurrow.sheets.drawings.site import things_on
from openfurrow.sheets.marks import Drawing, Mark, bounds, drawing, outlines, rings

# A sun lower than this throws no shadow that ends on the sheet.
LOWEST_DEG = 2.0
ROUND_M = 8.0


def shadows_drawing(plan: Plan, spot: Spot, when: datetime, units: UnitSystem) -> Drawing:
    """Tables and things of the site with their shadows; ``when`` knows its zone."""
    altitude, azimuth = sun_at(spot.latitude_deg, spot.longitude_deg, spot.elevation_m, when)
    ground = plan.site.ground
    lies = [one.rows.under(ground, altitude, azimuth) for one in plan.each()]
    arrays = [
        *(mark for lie in lies for mark in outlines("glass", lie.tables.corners[:SHOWN_TABLES])),
        *(mark for one in plan.each() for mark in swept(one)),
    ]
    things = things_on(plan, units)
    low, high = bounds(arrays, ROUND_M)
    clock = f"{when:%Y-%m-%d %H:%M}"
    marks: list[Mark] = []
    if altitude > LOWEST_DEG:
        toward = toward_sun(np.array([altitude]), np.array([azimuth]))[0]
        marks += _shade(plan, lies, toward, shapely.box(*low, *high))
        words = f"{clock}: the sun stands {altitude:.0f}° high at {azimuth:.0f}° true."
    else:
        words = f"{clock}: the sun is down, or so low that all lies in shade."
    legend: tuple[str, ...] = (words,)
    if sum(one.rows.tables.count for one in plan.each()) > SHOWN_TABLES:
        legend = (*legend, f"No more than {SHOWN_TABLES} tables of an array are drawn.")
    size = (high[1] - low[1]) * 0.05
    return drawing(
        "shadows",
        f"Shade on the ground, {clock}",
        [
            *marks,
            *things,
            *arrays,
            *north_arrow((high[0] - 2 * size, high[1] - 2.2 * size), size),
        ],
        low=low,
        high=high,
        to_scale=True,
    ).model_copy(update={"legend": legend})


def _shade(
    plan: Plan, lies: list[Lie], toward: NDArray[np.float64], sheet: shapely.Geometry
) -> list[Mark]:
    """All shade as one area, so that where two shadows lie it is no darker."""
    ground = plan.site.ground
    shapes = thing_shadows(standing_of(plan.site.keepouts, ground), ground, toward)
    for lie in lies:
        thrown = table_shadows(lie, ground, toward)[:SHOWN_TABLES]
        shapes += list(shapely.convex_hull(shapely.polygons(thrown)))
    shade = shapely.union_all([shapely.make_valid(shape) for shape in shapes])
    parts = shapely.get_parts(shapely.intersection(shade, sheet))
    rounds = [
        [tuple(at) for at in shapely.get_coordinates(ring)[:-1].tolist()]
        for part in parts
        if part.geom_type == "Polygon"
        for ring in (part.exterior, *part.interiors)
    ]
    return [rings("shadow-area", rounds)] if rounds else []
