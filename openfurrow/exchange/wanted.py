"""In what a file is wanted: the reader's units, a length unit, a map grid; and places carried there."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.quantities import FOOT_M, INCH_M, SURVEY_FOOT_M, UnitSystem
from openfurrow.core.site.givens import SiteGivens
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.places import grid_unit_m, to_grid

Floats = NDArray[np.float64]
Length = Literal["m", "ft", "in", "us_ft"]

LENGTH_M: dict[Length, float] = {"m": 1.0, "ft": FOOT_M, "in": INCH_M, "us_ft": SURVEY_FOOT_M}
# $INSUNITS of a drawing.
DRAWING_UNITS: dict[Length, int] = {"m": 6, "ft": 2, "in": 1, "us_ft": 21}


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """How a reader wants a file; ``length`` None: metres or feet as the units have it.

    ``grid`` is a map grid's EPSG number, nought for places from the site's own origin.
    """

    units: UnitSystem
    length: Length | None = None
    grid: int = 0


@dataclass(frozen=True)
class Scale:
    """Carries local metres into what is wanted; ``length`` names its unit."""

    site: SiteGivens
    length: Length
    grid: int

    @property
    def unit_m(self) -> float:
        """One of its units in metres."""
        return LENGTH_M[self.length]

    def long(self, lengths_m: ArrayLike) -> Floats:
        """Lengths and levels."""
        return np.asarray(np.asarray(lengths_m, dtype=float) / self.unit_m)

    def places(self, east_m: ArrayLike, north_m: ArrayLike) -> Floats:
        """Places, (n, 2): from the site's origin, or in the grid."""
        east, north = (np.atleast_1d(np.asarray(v, dtype=float)) for v in (east_m, north_m))
        if self.grid:
            # Its own unit is this scale's: see `scale_for`.
            return np.column_stack(to_grid(self.site, self.grid, east, north))
        return self.long(np.column_stack((east, north)))


def scale_for(site: SiteGivens, wanted: Wanted) -> Scale:
    """The scale of a file. Raises DesignError for a grid that is unknown, far or in another unit."""
    usual: Length = "ft" if wanted.units == "us" else "m"
    if not wanted.grid:
        return Scale(site, wanted.length or usual, 0)
    try:
        own_m = grid_unit_m(wanted.grid)
        to_grid(site, wanted.grid, np.zeros(1), np.zeros(1))
    except ValueError as error:
        raise refuse(str(error), "an EPSG grid that reaches the site", "Check its number.") from None
    own = min(LENGTH_M, key=lambda name: abs(LENGTH_M[name] - own_m))
    if abs(LENGTH_M[own] - own_m) > 1e-9 * own_m or wanted.grid == 4326:
        raise refuse(
            f"EPSG:{wanted.grid} is not in metres or feet",
            "a projected grid",
            "Take GeoJSON for longitude and latitude.",
        )
    if wanted.length not in (None, own):
        raise refuse(
            f"EPSG:{wanted.grid} is in {own}, not in {wanted.length}",
            own,
            "Leave the length unit to the grid.",
        )
    return Scale(site, own, wanted.grid)
