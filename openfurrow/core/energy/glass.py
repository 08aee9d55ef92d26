"""What the glass lets in: less of what comes at a slant."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

# Martin & Ruiz, for glass that is neither coated nor dirty.
SLANT = 0.16
_C1 = 4 / (3 * math.pi)
_C2 = 0.5 * SLANT - 0.154


def let_in(cosine: Floats) -> Floats:
    """Share of a beam, of what comes square.

    Source: Martin & Ruiz, Solar Energy Materials & Solar Cells 70 (2001).
    """
    kept = (1 - np.exp(-np.maximum(cosine, 0.0) / SLANT)) / (1 - math.exp(-1 / SLANT))
    return np.asarray(kept)


def let_in_even(tilt_deg: ArrayLike) -> tuple[Floats, Floats]:
    """Share of the even sky's light and of the ground's, by the tilt of the glass.

    Source: Martin & Ruiz, Progress in Photovoltaics 13 (2005).
    """
    tilt = np.radians(np.maximum(np.asarray(tilt_deg, dtype=float), 1e-6))
    sine, cosine = np.sin(tilt), np.cos(tilt)
    of_sky = sine + (math.pi - tilt - sine) / (1 + cosine)
    of_ground = sine + (tilt - sine) / (1 - cosine)

    def share(trig: Floats) -> Floats:
        return np.asarray(1 - np.exp(-(_C1 * trig + _C2 * trig**2) / SLANT))

    return share(of_sky), share(of_ground)
