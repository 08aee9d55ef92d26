"""A C or a Z that nothing holds along its length: bent about its true axes, and twisted.

Its flanges do not lie over its shear centre, and a Z's axes do not lie along its web: what presses on
the flange bends it sideways and turns it too. Vlasov's theory; forks at its ends, free to warp.
"""

import math

import numpy as np

from openfurrow.core.codes.section import Section
from openfurrow.core.members.open_profile import open_profile


def most_twisting_n_m2(profile: Section, turning_n: float, free_m: float) -> float:
    """The bimoment in the middle of a bay under an even torque of ``turning_n`` (N m to the metre).

    Where St. Venant's stiffness is nought it is that torque times the square of the bay over eight.
    """
    found = open_profile(profile)
    reach = math.sqrt(profile.elastic_pa * found.warping_m6 / (profile.metal.shear_pa * found.twist_m4))
    return turning_n * reach**2 * (1 - 1 / math.cosh(free_m / 2 / reach))


def turning_n(profile: Section, square_n_per_m: float, slope_n_per_m: float) -> float:
    """Torque about the shear centre, N m to the metre.

    What is square to the glass lies in the middle of the flange, what runs down the slope at its top.
    """
    arm = profile.width_m / 2 + open_profile(profile).off_web_m
    return square_n_per_m * arm + slope_n_per_m * profile.depth_m / 2


def corner_stress_pa(
    profile: Section, square_n_m: float, slope_n_m: float, twisting_n_m2: float
) -> float:
    """The most at any corner of a C or a Z; whichever way the slope and the twist happen to act."""
    found = open_profile(profile)
    x, y = found.corners_m.T
    strong, weak, both = found.strong_m4, found.weak_m4, found.both_m4
    whole = strong * weak - both**2
    square = square_n_m * (weak * y - both * x) / whole
    slope = slope_n_m * (strong * x - both * y) / whole
    warped = twisting_n_m2 * found.swept_m2 / found.warping_m6
    most = [np.abs(square + way * slope + turn * warped).max() for way in (1, -1) for turn in (1, -1)]
    return float(max(most))
