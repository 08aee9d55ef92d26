"""Conduit: size by fill, bends between pulls, and the pull on the wires."""

from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import RulePack, constant, table


@dataclass(frozen=True)
class Pull:
    """The wires drawn into one conduit, or laid as one cable; ``wire_m`` is the outside of the largest.

    ``size`` and ``label`` are those of a line, ``line_m2`` its copper.
    """

    conductors: int
    area_m2: float
    mass_kg_per_m: float
    copper_m2: float
    wire_m: float
    size: str
    label: str
    line_m2: float


@dataclass(frozen=True)
class Conduit:
    """The chosen size. ``fits`` is false where even the largest listed is too small.

    ``trade_m`` is the size it is called by, ``riser_inside_m2`` the inside of the heavy wall in which
    the same wires come up, ``bend_radius_m`` the tightest that it is bent to.
    """

    label: str
    inside_m2: float
    riser_inside_m2: float
    outside_m: float
    bend_radius_m: float
    fill: float
    riser_fill: float
    fits: bool
    grown: bool
    trade_m: float


# Inside of the run, inside of the rises and sweeps, and outside, by the way of wiring.
COLUMNS = {
    "PVC conduit": ("pvc40_m2", "pvc80_m2", "outside_m"),
    "rigid metal conduit": ("rmc_m2", "rmc_m2", "outside_m"),
    "thin-wall metal tubing": ("emt_m2", "emt_m2", "emt_outside_m"),
}
# What holds it up, by the way of wiring, in the table of supports.
COLUMNS_OF_SUPPORT = {
    "PVC conduit": "pvc_m",
    "rigid metal conduit": "rmc_m",
    "thin-wall metal tubing": "emt_m",
}


def size_conduit(pack: RulePack, method: str, pull: Pull, growth: bool) -> Conduit:
    """The smallest listed size within the fill limit all the way, one larger where room is wanted.

    Source: NEC Chapter 9, Table 1 (40 % for over two conductors), taken for the metric pack too.
    """
    data = table(pack, "conduit")
    run, rise, outside = COLUMNS[method]
    inside, riser = data.numbers[run], data.numbers[rise]
    limit = constant(pack, "conduit_fill").value
    enough = pull.area_m2 <= np.minimum(inside, riser) * limit * (1 + 1e-9)
    fits = bool(enough.any())
    least = int(enough.argmax()) if fits else inside.size - 1
    row = min(least + (1 if growth else 0), inside.size - 1)
    return Conduit(
        label=data.texts["label"][row],
        inside_m2=float(inside[row]),
        riser_inside_m2=float(riser[row]),
        outside_m=data.number(outside, row),
        bend_radius_m=data.number("bend_radius_m", row),
        fill=pull.area_m2 / float(inside[row]),
        riser_fill=pull.area_m2 / float(riser[row]),
        fits=fits,
        grown=row > least,
        trade_m=data.number("trade_m", row),
    )


def pull_boxes(bends_deg: tuple[float, ...], limit_deg: float) -> int:
    """Boxes needed along the way so that no pull turns more than ``limit_deg`` in all."""
    boxes, turned = 0, 0.0
    for bend in bends_deg:
        if turned + bend > limit_deg + 1e-9:
            boxes, turned = boxes + 1, 0.0
        turned += bend
    return boxes
