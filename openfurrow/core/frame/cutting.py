"""Cutting purlins from stock: where a line is spliced, and how few sticks serve."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant

Floats = NDArray[np.float64]
SAW_CUT_M = 0.003


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


@dataclass(frozen=True)
class Pattern:
    """One way to cut a stick and how many sticks are cut so."""

    pieces_m: tuple[float, ...]
    sticks: int


def cut_sticks(
    pieces: dict[float, int], stock_m: float, kerf_m: float = SAW_CUT_M
) -> tuple[Pattern, ...]:
    """First-fit decreasing over piece lengths with their counts, pattern by pattern.

    Each pattern takes the longest pieces that still fit and is repeated as long as its pieces
    last, so the work does not grow with the number of pieces. Raises ValueError for a piece
    longer than the stock.
    """
    left = {length: count for length, count in sorted(pieces.items(), reverse=True) if count > 0}
    if left and max(left) > stock_m + 1e-9:
        raise ValueError(f"a piece of {max(left):.3f} m is longer than the stock, {stock_m:.3f} m")
    patterns = []
    while left:
        room, taken = stock_m + kerf_m, {}
        for length, count in left.items():
            fit = min(count, math.floor((room + 1e-9) / (length + kerf_m)))
            if fit:
                taken[length] = fit
                room -= fit * (length + kerf_m)
        times = min(left[length] // fit for length, fit in taken.items())
        cuts = tuple(length for length, fit in taken.items() for _ in range(fit))
        patterns.append(Pattern(cuts, times))
        left = {
            length: rest
            for length, count in left.items()
            if (rest := count - times * taken.get(length, 0)) > 0
        }
    return tuple(patterns)
