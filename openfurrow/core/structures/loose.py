"""A purlin that modules do not hold between its beams: what presses on it bends and twists it."""

from dataclasses import dataclass

from openfurrow.core.codes.section import Section
from openfurrow.core.members.bending import bends
from openfurrow.core.members.unbraced import corner_stress_pa, most_twisting_n_m2, turning_n


@dataclass(frozen=True)
class Loose:
    """Its worst corner, against what that may be stressed to.

    ``square_pa`` is what bending about its strong axis alone would make of it, ``sideways_n_m`` the
    bending down the slope, ``turning_n`` the torque about its shear centre, N m to the metre.
    """

    sideways_n_m: float
    turning_n: float
    square_pa: float
    corner_pa: float
    limit_pa: float

    @property
    def used(self) -> float:
        """Over what bending about its strong axis uses."""
        return max(0.0, self.corner_pa - self.square_pa) / self.limit_pa


def loose_purlin(
    profile: Section, on_it: tuple[float, float], per_load_m2: float, free_m: float, pack: str
) -> Loose:
    """``on_it`` is the load square to the glass and down the slope, N/m, ``free_m`` the longest bay.

    ``per_load_m2`` is the bending that a newton a metre brings.
    """
    square, slope = on_it
    turning = turning_n(profile, square, slope)
    bent, sideways = square * per_load_m2, slope * per_load_m2
    twisting = most_twisting_n_m2(profile, turning, free_m)
    return Loose(
        sideways_n_m=sideways,
        turning_n=turning,
        square_pa=bent / profile.modulus_m3,
        corner_pa=corner_stress_pa(profile, bent, sideways, twisting),
        limit_pa=profile.yield_pa / bends(profile, pack).factor,
    )
