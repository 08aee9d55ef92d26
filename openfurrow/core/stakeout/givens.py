"""Stakeout givens: where the instrument stands."""

from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M


class StakeoutGivens(Givens):
    """The level's height over the benchmark."""

    instrument_height_m: float = given(
        1.6,
        "Line of sight over benchmark",
        "tape",
        "Height of the laser or level above the benchmark: the rod reading on the benchmark.",
        "Read the rod on the benchmark, which is the ground at the first post.",
        low=0.2,
        high=6,
        usual=(1.2, 2.0),
        us=63 * INCH_M,
    )
