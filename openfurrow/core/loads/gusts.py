"""Gusts that meet part of a table alone, for what has nothing beside it to share them with."""

from dataclasses import replace

import numpy as np

from openfurrow.core.loads.wind import WindCases


def with_halves(wind: WindCases) -> WindCases:
    """The cases, and each that presses on both halves of the chord once more on either half alone."""
    both = np.flatnonzero((wind.front_pa != 0) & (wind.back_pa != 0))
    nothing = np.zeros(both.size)
    return replace(
        wind,
        names=(
            *wind.names,
            *(f"{wind.names[case]}, lower half alone" for case in both.tolist()),
            *(f"{wind.names[case]}, upper half alone" for case in both.tolist()),
        ),
        front_pa=np.concatenate((wind.front_pa, wind.front_pa[both], nothing)),
        back_pa=np.concatenate((wind.back_pa, nothing, wind.back_pa[both])),
    )
