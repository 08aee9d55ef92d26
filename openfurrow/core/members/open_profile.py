"""What an open profile resists twisting with: of its plates, as lines in the middle of their walls.

Corners are taken sharp and walls thin, as the lists of sections do.
"""

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import MOST_KEPT, Section

Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class OpenProfile:
    """About the middle of its area: ``weak_m4`` bends it sideways; of a Z about the axis of its web.

    ``least_m4`` is about whichever axis bends it most easily; ``twist_m4`` and ``warping_m6`` are
    St. Venant's and the sectorial constant, ``polar_m`` the radius of gyration about the shear centre,
    which lies ``off_m`` to the side of the middle, and ``off_web_m`` from the middle of the web.

    Of a C or a Z ``corners_m``, (n, 2), are its corners, x across and y up, ``swept_m2`` the sectorial
    area there, and ``both_m4`` the product of inertia.
    """

    area_m2: float
    strong_m4: float
    weak_m4: float
    least_m4: float
    twist_m4: float
    warping_m6: float
    off_m: float
    off_web_m: float = 0.0
    both_m4: float = 0.0
    corners_m: Floats = field(default_factory=lambda: np.empty((0, 2)))
    swept_m2: Floats = field(default_factory=lambda: np.empty(0))

    @property
    def polar_m(self) -> float:
        """About the shear centre."""
        return float(np.sqrt((self.strong_m4 + self.weak_m4) / self.area_m2 + self.off_m**2))


def middle_line_m(profile: Section) -> Floats:
    """The corners of a C or a Z, lip to lip, (n, 2): x across and y up, from the middle of its web."""
    thick = profile.web_m
    deep, wide = profile.depth_m - thick, profile.width_m - thick / 2
    if profile.shape == "Z":
        wide -= thick / 2
    lip = max(profile.lip_m - thick / 2, 0.0)
    turned = -1.0 if profile.shape == "Z" else 1.0
    lower = [(turned * wide, lip - deep / 2), (turned * wide, -deep / 2), (0.0, -deep / 2)]
    upper = [(0.0, deep / 2), (wide, deep / 2), (wide, deep / 2 - lip)]
    return np.array(lower + upper)


@lru_cache(maxsize=MOST_KEPT)
def open_profile(profile: Section) -> OpenProfile:
    """Of an I, a C or a Z."""
    if profile.shape == "I":
        high, wide = profile.depth_m - profile.flange_m, profile.width_m
        twist = (2 * wide * profile.flange_m**3 + high * profile.web_m**3) / 3
        weak = profile.weak_inertia_m4
        return OpenProfile(
            profile.area_m2, profile.inertia_m4, weak, weak, twist, weak * high**2 / 4, 0.0
        )
    line, thick = middle_line_m(profile), profile.web_m
    long = np.hypot(*np.diff(line, axis=0).T)
    area = long * thick
    middle = (line[:-1] + line[1:]) / 2
    centre = area @ middle / area.sum()
    at = line - centre

    def product(first: Floats, second: Floats) -> float:
        """The integral over the area of two quantities that change evenly along each plate."""
        a, b, c, d = first[:-1], first[1:], second[:-1], second[1:]
        return float((area * (2 * a * c + 2 * b * d + a * d + b * c) / 6).sum())

    x, y = at.T
    strong, weak, both = product(y, y), product(x, x), product(x, y)
    # Sectorial area about the centroid, then about the shear centre, its mean taken off.
    swept = np.concatenate(([0.0], np.cumsum(x[:-1] * y[1:] - x[1:] * y[:-1])))
    with_x, with_y = product(swept, x), product(swept, y)
    whole = strong * weak - both**2
    shear_x = (weak * with_y - both * with_x) / whole
    shear_y = -(strong * with_x - both * with_y) / whole
    about = swept - shear_x * y + shear_y * x
    about = about - float((area * (about[:-1] + about[1:]) / 2).sum()) / float(area.sum())
    return OpenProfile(
        area_m2=float(area.sum()),
        strong_m4=strong,
        weak_m4=weak,
        least_m4=(strong + weak) / 2 - float(np.hypot((strong - weak) / 2, both)),
        twist_m4=float((long * thick**3).sum()) / 3,
        warping_m6=product(about, about),
        off_m=float(np.hypot(shear_x, shear_y)),
        off_web_m=float(abs(centre[0] + shear_x)),
        both_m4=both,
        corners_m=at,
        swept_m2=about,
    )
