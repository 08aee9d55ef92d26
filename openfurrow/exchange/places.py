"""Between local metres about the site's origin, the globe, and map grids."""

from contextlib import suppress
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from pyproj import CRS, Transformer
from pyproj.aoi import AreaOfInterest
from pyproj.database import query_crs_info
from pyproj.enums import PJType
from pyproj.exceptions import CRSError, ProjError

from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.said import has_place, place_of

Floats = NDArray[np.float64]


def local_crs(latitude_deg: float, longitude_deg: float) -> str:
    """The site's own grid: transverse Mercator about the origin, metres, WGS 84, true north up."""
    return (
        f"+proj=tmerc +lat_0={latitude_deg} +lon_0={longitude_deg} +k=1 +x_0=0 +y_0=0 "
        "+datum=WGS84 +units=m"
    )


@lru_cache(maxsize=64)
def _between(source: str, target: str) -> Transformer:
    try:
        return Transformer.from_crs(source, target, always_xy=True)
    except ProjError:
        raise ValueError(f"{source} has no known way to the site's own grid") from None


def to_globe(site: SiteGivens) -> Transformer:
    """Local east and north to longitude and latitude."""
    return _between(local_crs(*place_of(site)), "EPSG:4326")


@lru_cache(maxsize=64)
def _grid(epsg: int) -> CRS:
    """A grid by its number. Raises ValueError for one that is not known."""
    try:
        return CRS.from_epsg(epsg)
    except CRSError:
        raise ValueError(f"EPSG:{epsg} is not a grid that is known") from None


def grid_unit_m(epsg: int) -> float:
    """What one of a grid's own units is in metres; one for degrees. Raises ValueError."""
    axis = _grid(epsg).axis_info[0]
    return 1.0 if _grid(epsg).is_geographic else axis.unit_conversion_factor


def from_grid(site: SiteGivens, epsg: int, x: Floats, y: Floats) -> tuple[Floats, Floats]:
    """Places of a map grid (or longitude and latitude: 4326) as local east and north.

    Raises ValueError for an unknown grid and for places it cannot reach.
    """
    target = local_crs(*place_of(site))
    east, north = _between(_grid(epsg).to_string(), target).transform(x, y)
    east, north = np.asarray(east, dtype=float), np.asarray(north, dtype=float)
    if not (np.isfinite(east).all() and np.isfinite(north).all()):
        raise ValueError("some places lie outside the grid")
    return east, north


def to_grid(site: SiteGivens, epsg: int, east_m: Floats, north_m: Floats) -> tuple[Floats, Floats]:
    """Local east and north in a map grid, in its own unit. Raises ValueError."""
    source = local_crs(*place_of(site))
    x, y = _between(source, _grid(epsg).to_string()).transform(east_m, north_m)
    x, y = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
    if not (np.isfinite(x).all() and np.isfinite(y).all()):
        raise ValueError(f"EPSG:{epsg} does not reach the site")
    return x, y


def on_globe(epsg: int, x: float, y: float) -> tuple[float, float]:
    """Latitude and longitude of a place of a map grid (or of the globe: 4326). Raises ValueError."""
    east, north = _between(_grid(epsg).to_string(), "EPSG:4326").transform(x, y)
    if not (np.isfinite(east) and np.isfinite(north)):
        raise ValueError(f"EPSG:{epsg} has no such place")
    return float(north), float(east)


@dataclass(frozen=True)
class Grid:
    """A map grid by number and name, its unit, and how far from the site some place lies in it."""

    epsg: int
    name: str
    unit: str
    away_m: float


def grids_at(site: SiteGivens, words: str = "") -> list[Grid]:
    """Map grids that reach the site, those whose name or number holds every word.

    Of a site without a place all of that name; without a word none.
    """
    wanted = words.lower().split()
    known = has_place(site)
    if not (known or wanted):
        return []
    here = AreaOfInterest(*place_of(site)[::-1] * 2) if known else None
    found = query_crs_info(
        auth_name="EPSG", pj_types=[PJType.PROJECTED_CRS], area_of_interest=here, contains=known
    )
    grids = []
    for info in found:
        if all(word in f"{info.name} {info.code}".lower() for word in wanted):
            crs = _grid(int(info.code))
            grids.append(Grid(int(info.code), info.name, crs.axis_info[0].unit_name, 0.0))
    return grids


def grids_that_fit(site: SiteGivens, x: float, y: float, within_m: float) -> list[Grid]:
    """Of those, the ones in which a place lies near the site's origin, the nearest first."""
    fitting = []
    for grid in grids_at(site):
        with suppress(ValueError):
            east, north = from_grid(site, grid.epsg, np.array([x]), np.array([y]))
            away = float(np.hypot(east[0], north[0]))
            if away <= within_m:
                fitting.append(replace(grid, away_m=away))
    return sorted(fitting, key=lambda grid: (round(grid.away_m), len(grid.name)))
