"""Cutting a line of purlins: where it is spliced, and how long each piece is."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant

Floats = NDArray[np.float64]
# Supports that lie so near are in one place.
SAME_PLACE_M = 1e-3


@dataclass(frozen=True)
class PurlinLine:
    """Pieces of one purlin line: where each starts and how long it is cut."""

    starts_m: tuple[float, ...]
    lengths_m: tuple[float, ...]
    splices_in_place: bool


def from_other_end(line: PurlinLine, length_m: float) -> PurlinLine:
    """The same pieces laid from the line's other end, where they lie from the first."""
    ends = [start + long for start, long in zip(line.starts_m, line.lengths_m, strict=True)]
    starts = tuple(length_m - end for end in reversed(ends))
    return PurlinLine(starts, tuple(reversed(line.lengths_m)), line.splices_in_place)


def bays_spliced(line: PurlinLine, supports_m: Floats) -> frozenset[int]:
    """In which bays a line is spliced, counted from before the first support."""
    ends = np.array(line.starts_m[:-1]) + np.array(line.lengths_m[:-1])
    middles = (np.array(line.starts_m[1:]) + ends) / 2
    return frozenset(np.searchsorted(supports_m, middles).tolist())


def alike_from_both_ends(supports_m: Floats, length_m: float) -> bool:
    """Whether a line that is turned round finds its supports where they were."""
    return bool(np.abs(supports_m - (length_m - supports_m[::-1])).max() < SAME_PLACE_M)


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
