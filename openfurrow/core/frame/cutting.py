"""Cutting a line of purlins: where it is spliced, and how long each piece is."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class PurlinLine:
    """Pieces of one purlin line: where each starts and how long it is cut."""

    starts_m: tuple[float, ...]
    lengths_m: tuple[float, ...]
    splices_in_place: bool


def splice_places_m(supports_m: Floats) -> Floats:
    """Places a fifth of a span either side of the supports, where bending crosses nought."""
    share = constant("common", "splice_from_support").value
    spans = np.diff(supports_m)
    return np.sort(np.concatenate((supports_m[:-1] + share * spans, supports_m[1:] - share * spans)))


def cut_line(length_m: float, supports_m: Floats, stock_m: float, lap_m: float) -> PurlinLine:
    """Pieces for one line, each from one stick, spliced where it bends least.

    A splice laps ``lap_m``, half to each side of its place. Where no good place can be reached the
    stick is used to its end and ``splices_in_place`` is false. Raises ValueError if the lap eats
    the stick.
    """
    if stock_m <= 2 * lap_m:
        raise ValueError("the stock must be longer than two laps")
    places = splice_places_m(supports_m)
    starts, lengths, good = [0.0], [], True
    while length_m - starts[-1] > stock_m + 1e-9:
        start = starts[-1]
        reach = start + stock_m - lap_m / 2
        usable = places[(places <= reach + 1e-9) & (places > start + lap_m)]
        place = float(usable[-1]) if usable.size else reach
        good = good and bool(usable.size)
        lengths.append(place + lap_m / 2 - start)
        starts.append(place - lap_m / 2)
    lengths.append(length_m - starts[-1])
    return PurlinLine(tuple(starts), tuple(lengths), good)
