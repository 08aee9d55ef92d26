"""Between local metres about the site's origin, the globe, and map grids."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from pyproj import CRS, Transformer
from pyproj.exceptions import CRSError

from openfurrow.core.site.givens import SiteGivens

Floats = NDArray[np.float64]


def local_crs(latitude_deg: float, longitude_deg: float) -> str:
    """The site's own grid: transverse Mercator about the origin, metres, WGS 84, true north up."""
    return (
        f"+proj=tmerc +lat_0={latitude_deg} +lon_0={longitude_deg} +k=1 +x_0=0 +y_0=0 "
        "+datum=WGS84 +units=m"
    )


@lru_cache(maxsize=64)
def _between(source: str, target: str) -> Transformer:
    return Transformer.from_crs(source, target, always_xy=True)


def to_globe(site: SiteGivens) -> Transformer:
    """Local east and north to longitude and latitude."""
    return _between(local_crs(site.latitude_deg, site.longitude_deg), "EPSG:4326")


def from_grid(site: SiteGivens, epsg: int, x: Floats, y: Floats) -> tuple[Floats, Floats]:
    """Places of a map grid (or longitude and latitude: 4326) as local east and north.

    Raises ValueError for an unknown grid and for places it cannot reach.
    """
    try:
        source = CRS.from_epsg(epsg)
    except CRSError:
        raise ValueError(f"EPSG:{epsg} is not a grid that is known") from None
    target = local_crs(site.latitude_deg, site.longitude_deg)
    east, north = _between(source.to_string(), target).transform(x, y)
    east, north = np.asarray(east, dtype=float), np.asarray(north, dtype=float)
    if not (np.isfinite(east).all() and np.isfinite(north).all()):
        raise ValueError("some places lie outside the grid")
    return east, north
