"""A footing layer by layer, to the depth that is called out: what each holds, as it is summed."""

from itertools import pairwise

import numpy as np

from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.footings.sizing import curve_of
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.models import Column, TableText

TITLES = (
    ("Soil", False),
    ("From", True),
    ("To", True),
    ("Soil above, at its middle", True),
    ("Grips with", True),
    ("Grip, ultimate", True),
    ("Holds sideways, at its middle", True),
)


def layers_table(kind: SizedKind, depth_m: float, units: UnitSystem) -> TableText:
    """From the ground down to a depth; a layer that frost or the top cut is told in two."""
    at, curve = kind.ground, curve_of(kind.ground)
    starts, layers = at.gripped.start_m, kind.soil.layers
    edges = sorted(
        {0.0, depth_m}
        | {edge for edge in (starts, *(layer.bottom_m for layer in layers)) if edge < depth_m}
    )
    grip = curve.friction_n * at.lift.share
    bottoms = [layer.bottom_m for layer in layers]

    def said(value: float, how: str) -> str:
        return format_value(value, how, units)

    rows, whole = [], 0.0
    for top, bottom in pairwise(edges):
        middle = (top + bottom) / 2
        layer = layers[min(int(np.searchsorted(bottoms, middle)), len(layers) - 1)]
        force = float(np.interp(bottom, curve.depth_m, grip) - np.interp(top, curve.depth_m, grip))
        face = at.body.perimeter_m * (bottom - top)
        whole += force
        rows.append(
            (
                layer.soil_class,
                said(top, "tape"),
                said(bottom, "tape"),
                said(float(np.interp(middle, curve.depth_m, curve.pressure_pa)), "pressure"),
                said(force / face, "pressure") if force > 0 else "no credit",
                said(force, "force"),
                said(
                    float(np.interp(middle, curve.middle_m, curve.push_n_per_m)) / at.body.across_m,
                    "pressure",
                ),
            )
        )
    lift, needs = at.lift, kind.needs
    note = (
        f"Grip in all {said(whole, 'force')}; over a safety of {lift.safety:.2f} "
        f"{said(whole / lift.safety, 'force')}, of {said(needs.uplift_n, 'force')} that pulls."
        if at.body.helix_m == 0
        else "What a helix has turned through grips no more: it is held by the soil over its helix."
    )
    if lift.share != 1.0:
        note += f" Grip is {said(lift.share, 'ratio')} of the tables, as tested."
    return TableText(
        key="layers",
        title="Layer by layer, to the depth that is called out",
        columns=tuple(Column(title=title, number=number) for title, number in TITLES),
        rows=tuple(rows),
        left_out=0,
        note=note,
    )
