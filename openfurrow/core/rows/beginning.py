"""Where an array that is put in begins: behind the one it is like, until someone moves it."""

import math

from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.sun.directions import facing_of

# Room to drive between arrays; where each really stands is for who walks the site to say.
ROOM_M = 4.0
MOST_STEPS = 60


def set_behind(
    rows: RowsGivens,
    module_m: tuple[float, float],
    others: tuple[RowsGivens, ...],
    latitude_deg: float,
) -> RowsGivens:
    """The same rows, so far back from the equator that they do not stand on any of ``others``.

    ``module_m`` are a module's long and short side. Depth and pitch are taken from the givens alone,
    generously: nothing is planned here.
    """
    chord_m = rows.modules_high * module_m[0 if rows.orientation == "portrait" else 1]
    depth_m = chord_m + (rows.rows - 1) * (rows.pitch_m or 3 * chord_m) + ROOM_M
    back = math.radians(facing_of(latitude_deg, rows.turn_deg).bearing_deg + 180.0)
    for step in range(1, MOST_STEPS):
        east = round(rows.at_east_m + step * depth_m * math.sin(back), 2)
        north = round(rows.at_north_m + step * depth_m * math.cos(back), 2)
        if all(
            math.hypot(east - one.at_east_m, north - one.at_north_m) >= depth_m * 0.99 for one in others
        ):
            break
    return rows.model_copy(update={"at_east_m": east, "at_north_m": north})
