"""Light on a plane that nothing stands before: the sun's, the sky's, the horizon's, the ground's."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.energy.sky import Sky

Floats = NDArray[np.float64]

# About the sun the sky's light is measured against a sun no lower than five degrees.
LOW_SUN = math.cos(math.radians(85.0))


@dataclass(frozen=True)
class OnPlane:
    """Watts a square metre over the steps of a sky, (..., steps).

    ``cosine`` is that of the sun's angle to the plane's normal. ``beam`` is the sun and the light about
    it, ``sky`` that of the even sky, ``horizon`` what the horizon adds (or lacks, below nought), and
    ``ground`` what comes back from open ground.
    """

    cosine: Floats
    beam: Floats
    sky: Floats
    horizon: Floats
    ground: Floats

    @property
    def whole(self) -> Floats:
        """All of it together."""
        return np.asarray(self.beam + self.sky + self.horizon + self.ground)


def normal_of(tilt_deg: ArrayLike, facing_deg: ArrayLike) -> Floats:
    """Directions east, north, up square to planes, (..., 3)."""
    tilt, facing = np.broadcast_arrays(np.radians(tilt_deg), np.radians(facing_deg))
    return np.stack(
        (np.sin(tilt) * np.sin(facing), np.sin(tilt) * np.cos(facing), np.cos(tilt)), axis=-1
    )


def on_plane(sky: Sky, normal: Floats, albedo: float) -> OnPlane:
    """Light on planes whose normals are (..., 3), or (..., steps, 3) for planes that turn.

    Source: Perez et al. (1990), with the sky's light no less than nought.
    """
    moving = normal.ndim > 1 and normal.shape[-2] == len(sky.at)
    along = np.einsum("...hk,hk->...h", normal, sky.toward) if moving else normal @ sky.toward.T
    cosine = np.clip(along, -1.0, 1.0)
    up = normal[..., 2] if moving else normal[..., 2, None]
    about, beside = sky.brightening
    sun_up = np.maximum(sky.toward[:, 2], LOW_SUN)
    lit = np.maximum(cosine, 0.0)
    even = sky.diffuse_w_m2 * (1.0 - about) * ((1.0 + up) / 2)
    halo = sky.diffuse_w_m2 * about * (lit / sun_up)
    band = sky.diffuse_w_m2 * beside * np.sqrt(np.maximum(1.0 - up**2, 0.0))
    return OnPlane(
        cosine=cosine,
        beam=sky.beam_w_m2 * lit + halo,
        sky=even,
        horizon=np.maximum(band, -(even + halo)),
        ground=sky.level_w_m2 * (albedo * (1.0 - up) / 2),
    )
