"""Gusts that meet part of a table alone, for what has nothing beside it to share them with."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.wind import WindCases


def with_halves(wind: WindCases) -> WindCases:
    """The cases, and each that presses on both halves of the chord once more on either half alone."""
    halves = _alone(wind, np.flatnonzero((wind.front_pa != 0) & (wind.back_pa != 0)))
    return replace(
        wind,
        names=wind.names + halves.names,
        front_pa=np.concatenate((wind.front_pa, halves.front_pa)),
        back_pa=np.concatenate((wind.back_pa, halves.back_pa)),
    )


def halves_alone(wind: WindCases) -> WindCases:
    """The cases on a table of which one half of the chord alone is there."""
    return _alone(wind, np.arange(len(wind.names)))


def _alone(wind: WindCases, cases: NDArray[np.int64]) -> WindCases:
    """Some cases on the lower, then on the upper half alone."""
    nothing = np.zeros(cases.size)
    return replace(
        wind,
        names=tuple(
            f"{wind.names[case]}, {half} half alone"
            for half in ("lower", "upper")
            for case in cases.tolist()
        ),
        front_pa=np.concatenate((wind.front_pa[cases], nothing)),
        back_pa=np.concatenate((nothing, wind.back_pa[cases])),
    )
