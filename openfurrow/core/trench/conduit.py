"""Conduit: size by fill, bends between pulls, and the pull on the wires."""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from openfurrow.core.codes import RulePack, constant, table


@dataclass(frozen=True)
class Pull:
    """The wires drawn into one conduit."""

    conductors: int
    area_m2: float
    mass_kg_per_m: float
    copper_m2: float


@dataclass(frozen=True)
class Conduit:
    """The chosen size. ``fits`` is false where even the largest listed is too small.

    ``riser_inside_m2`` is the inside of the heavy wall in which the same wires come up.
    """

    label: str
    inside_m2: float
    riser_inside_m2: float
    outside_m: float
    fill: float
    riser_fill: float
    fits: bool
    grown: bool


# Inside of the run, inside of the rises and sweeps, and outside, by the way of wiring.
COLUMNS = {
    "PVC conduit": ("pvc40_m2", "pvc80_m2", "outside_m"),
    "rigid metal conduit": ("rmc_m2", "rmc_m2", "outside_m"),
    "thin-wall metal tubing": ("emt_m2", "emt_m2", "emt_outside_m"),
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
        fill=pull.area_m2 / float(inside[row]),
        riser_fill=pull.area_m2 / float(riser[row]),
        fits=fits,
        grown=row > least,
    )


def pull_boxes(bends_deg: tuple[float, ...], limit_deg: float) -> int:
    """Boxes needed along the way so that no pull turns more than ``limit_deg`` in all."""
    boxes, turned = 0, 0.0
    for bend in bends_deg:
        if turned + bend > limit_deg + 1e-9:
            boxes, turned = boxes + 1, 0.0
        turned += bend
    return boxes


def pulling_tension_n(
    lengths_m: tuple[float, ...], bends_deg: tuple[float, ...], weight_n_per_m: float
) -> float:
    """Tension at the far end: T += w mu L on a straight, T *= exp(mu theta) in a bend.

    One bend stands before each straight and one after the last. Source: IEEE 525/576 practice.
    """
    friction = constant("common", "pulling_friction").value
    # Wires are fed into the first bend by hand with some of their own weight behind them.
    tension = weight_n_per_m * friction * constant("common", "pull_feed_m").value
    for bend, length in zip(bends_deg, (*lengths_m, 0.0), strict=True):
        tension = tension * math.exp(friction * math.radians(bend)) + (
            weight_n_per_m * friction * length
        )
    return tension


def straights_m(east_m: list[float], north_m: list[float]) -> tuple[float, ...]:
    """Level length of each straight of a route."""
    points = list(zip(east_m, north_m, strict=True))
    return tuple(math.dist(a, b) for a, b in pairwise(points))
