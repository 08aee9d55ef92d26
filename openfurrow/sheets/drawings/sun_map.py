"""The ground from above by how much of a year's light each spot of it keeps."""

import numpy as np
import shapely

from openfurrow.core.energy.sun_map import SunMap
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.overhead import scene
from openfurrow.sheets.drawings.site import things_on
from openfurrow.sheets.marks import Drawing, Mark, Point, dot, drawing, label, rings

# Classes by the share of open light that is kept, the darkest first.
CLASSES = (0.0, 0.5, 0.7, 0.8, 0.9, 0.95)


def map_drawing(plan: Plan, found: SunMap, units: UnitSystem, spot_m: Point | None = None) -> Drawing:
    """Classes of light as areas, with the arrays and what stands over them; the spot that is asked."""
    share = found.light / found.whole
    marks: list[Mark] = []
    half = found.step_m / 2
    for number, low in enumerate(CLASSES):
        high = CLASSES[number + 1] if number + 1 < len(CLASSES) else np.inf
        own = found.places_m[(share >= low) & (share < high)]
        if not len(own):
            continue
        cells = shapely.box(own[:, 0] - half, own[:, 1] - half, own[:, 0] + half, own[:, 1] + half)
        parts = shapely.get_parts(shapely.union_all(cells))
        marks.append(
            rings(
                f"sun-share-{number}",
                (
                    [tuple(at) for at in shapely.get_coordinates(ring)[:-1].tolist()]
                    for part in parts
                    for ring in (part.exterior, *part.interiors)
                ),
            )
        )
    # Names stand where there is room; what is seen first is the light.
    marks += [
        mark.model_copy(update={"free": True}) if mark.kind == "label" else mark
        for mark in (*things_on(plan, units), *scene(plan, wall=False))
    ]
    low = found.places_m.min(axis=0) - half
    high = found.places_m.max(axis=0) + half
    whole = format_value(found.whole, "irradiation", units)
    best = found.places_m[int(found.light.argmax())]
    if spot_m is not None:
        marks += [dot("pole", spot_m), label("asked here", spot_m, "strong", free=True)]
    marks.append(label("most light", tuple(best.tolist()), "note", free=True))
    return drawing(
        "sun_map",
        "Where the sun is, over a year",
        marks,
        low=tuple(low.tolist()),
        high=tuple(high.tolist()),
        to_scale=True,
    ).model_copy(
        update={
            "legend": (
                f"Brightest: 95 % and more of {whole}; then 90, 80, 70, 50 %; darkest: less.",
                "A plane at the tilt of the array, a little over a metre up. What rows take from each "
                "other, and the ground's own rises, are not counted.",
            )
        }
    )
