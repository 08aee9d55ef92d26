"""What a file of the ground holds before anything of it is taken, and how it is to be read.

A reader gives places as the file has them; `placed` brings them onto the site's own grid. Nothing is
half taken: a file is read whole or refused with the reason.
"""

from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from openfurrow.core.edits import DesignError
from openfurrow.core.quantities import FOOT_M, INCH_M, SURVEY_FOOT_M
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.said import has_place
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.places import from_grid, grid_unit_m, on_globe

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Format = Literal["csv", "geojson", "gpx", "dxf", "landxml"]
Shape = Literal["point", "line", "area"]

LARGEST_BYTES = 24_000_000
MOST_POINTS = 200_000
FARTHEST_M = 5_000.0
# Higher than any ground, and what a reading of a survey may be.
HIGHEST_M = 100_000.0
UNIT_M = {"m": 1.0, "ft": FOOT_M, "us-ft": SURVEY_FOOT_M, "mm": 0.001, "in": INCH_M}
Unit = Literal["m", "ft", "us-ft", "mm", "in"]


@dataclass(frozen=True)
class ShapeRead:
    """One line, area or single place of a file; ``levels`` of its points (n,) where it has any."""

    layer: str
    name: str
    shape: Shape
    points: Floats
    levels: Floats | None = None


@dataclass(frozen=True)
class GroundFile:
    """Shots (n, 3) with their codes, triangles over them if the file has any, and shapes.

    ``grid`` is 4326 where places are longitude and latitude, else nought. ``unit_m`` is the file's own
    unit if it says one; ``usual_m`` what its bare numbers are in, where neither it nor its grid says.
    ``columns`` are a table's headings and ``roles`` what each is taken for, ``first`` its first lines,
    ``asks`` what has to be said before it can be taken, ``left_out`` what was seen but not read.
    """

    format: Format
    points: Floats
    codes: tuple[str, ...] = ()
    layers: tuple[str, ...] = ()
    faces: Integers | None = None
    shapes: tuple[ShapeRead, ...] = ()
    grid: int = 0
    unit_m: float | None = None
    columns: tuple[str, ...] = ()
    roles: tuple[str, ...] = ()
    usual_m: float = 1.0
    first: tuple[tuple[str, ...], ...] = ()
    asks: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    left_out: tuple[str, ...] = ()


class HowToRead(BaseModel):
    """How a planner wants a file read; empty means as the file itself suggests."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, Field(max_length=80)] = ""
    format: Format | None = None
    # For a table: which of east, north, level, code, latitude, longitude each column is, or "-".
    columns: Annotated[tuple[str, ...], Field(max_length=40)] = ()
    unit: Unit | None = None
    # A map grid's EPSG number; nought for local places.
    grid: Annotated[int, Field(ge=0, le=999999)] | None = None
    # What is taken off local places before they are used: a far origin brought near.
    shift_east_m: Annotated[float, Field(ge=-1e8, le=1e8)] = 0.0
    shift_north_m: Annotated[float, Field(ge=-1e8, le=1e8)] = 0.0
    # What each layer becomes: "shots", "nothing", or a kind of feature.
    layers: Annotated[dict[str, str], Field(max_length=500)] = {}
    replace: bool = False


GLOBE = 4326


def moved(file: GroundFile, how: HowToRead, site: SiteGivens) -> GroundFile:
    """The same file in local metres, wherever that is. Raises DesignError for an unknown grid."""
    grid = file.grid if how.grid is None else how.grid
    try:
        own_m, unit = grid_unit_m(grid) if grid else 0.0, unit_m(file, how, grid)
    except ValueError as error:
        raise _unknown(error) from None
    # Longitude and latitude are degrees; their heights are in the file's unit all the same.
    flat = 1.0 if grid == GLOBE else unit

    def move(points: Floats) -> Floats:
        x, y = points[:, 0] * flat, points[:, 1] * flat
        if grid and len(points):
            try:
                x, y = from_grid(site, grid, x / own_m, y / own_m)
            except ValueError as error:
                raise _unknown(error) from None
        out = np.column_stack((x - how.shift_east_m, y - how.shift_north_m))
        if points.shape[1] > 2:
            out = np.column_stack((out, points[:, 2] * unit))
        return np.asarray(out)

    return replace(
        file,
        points=move(file.points),
        shapes=tuple(
            replace(
                shape,
                points=move(shape.points),
                levels=None if shape.levels is None else shape.levels * unit,
            )
            for shape in file.shapes
        ),
    )


# Five decimals of a degree are about a metre: nearer than a phone knows where it is.
PLACE_DECIMALS = 5


def with_place(file: GroundFile, how: HowToRead, site: SiteGivens) -> SiteGivens:
    """A site that has no place yet at the middle of a file that says where it is; else as it is.

    So is one on which something was measured already: nobody knows where its origin lies on the globe.
    Raises DesignError for an unknown grid.
    """
    measured = (site.surveys, site.features, site.test_holes, site.load_tests, site.route, site.spurs)
    if any(measured):
        return site
    grid = file.grid if how.grid is None else how.grid
    places = places_of(file)
    if has_place(site) or not grid or file.asks or not len(places) or not np.isfinite(places).all():
        return site
    try:
        # A grid's own unit, whatever the file is written in.
        own = 1.0 if grid == GLOBE else unit_m(file, how, grid) / grid_unit_m(grid)
        middle = on_globe(grid, *((places.min(axis=0) + places.max(axis=0)) / 2 * own).tolist())
    except ValueError as error:
        raise _unknown(error) from None
    latitude_deg, longitude_deg = (round(part, PLACE_DECIMALS) for part in middle)
    return site.model_copy(update={"latitude_deg": latitude_deg, "longitude_deg": longitude_deg})


def unit_m(file: GroundFile, how: HowToRead, grid: int) -> float:
    """What a file's numbers are in, in metres. Raises ValueError for an unknown grid."""
    # A table whose numbers bear units is in metres by now, whatever is said of it.
    own = file.unit_m if file.format == "csv" else None
    said = own or (UNIT_M[how.unit] if how.unit else file.unit_m)
    # What bare numbers are in: as was said, as the file says, as its grid has it, as is usual here.
    return said or (grid_unit_m(grid) if grid not in (0, GLOBE) else 0.0) or file.usual_m


def _unknown(error: ValueError) -> DesignError:
    return refuse(
        str(error),
        "a known EPSG grid around the site",
        "Check the grid's number, or read the file as local places.",
    )


def placed(file: GroundFile, how: HowToRead, site: SiteGivens) -> GroundFile:
    """The same file in local metres. Raises DesignError for places that are nowhere near the site."""
    if file.asks:
        raise refuse(file.asks[0], "an answer before it is taken", "Say which column is which.")
    near = moved(file, how, site)
    check_near(near)
    return near


def far_off(file: GroundFile) -> bool:
    """Whether a file in local metres lies farther from the site than anything of it may."""
    everything = places_of(file)
    return bool(
        len(everything) and np.isfinite(everything).all() and np.abs(everything).max() > FARTHEST_M
    )


def places_of(file: GroundFile) -> Floats:
    """Every place of a file, (n, 2)."""
    return np.vstack([file.points[:, :2], *(shape.points[:, :2] for shape in file.shapes)])


def check_near(file: GroundFile) -> None:
    """Refuse a file in local metres that holds nothing, no numbers, or places far from the site."""
    everything = places_of(file)
    if not len(everything):
        raise refuse("holds no place", "shots, lines or areas", "Check that this is the right file.")
    if not np.isfinite(everything).all():
        raise refuse(
            "holds a place that is not a number", "finite numbers", "Mend or leave out that line."
        )
    told = (shape.levels for shape in file.shapes if shape.levels is not None)
    levels = np.concatenate([file.points[:, 2], *told])
    if len(levels) and not np.abs(levels).max() <= HIGHEST_M:
        raise refuse(
            f"holds a level of {np.abs(levels).max():.4g} m",
            f"within {HIGHEST_M:,.0f} m",
            "Mend or leave out that line, or see which unit it is in.",
        )
    if np.abs(everything).max() > FARTHEST_M:
        middle = np.median(everything, axis=0)
        raise refuse(
            f"lies {np.abs(everything).max() / 1000:,.0f} km from the site's origin",
            f"within {FARTHEST_M / 1000:.0f} km",
            f"Name the map grid it is in, or take off its own origin: its middle is at "
            f"{middle[0]:.1f}, {middle[1]:.1f}.",
        )


def thinned(points: Floats, most: int) -> tuple[Integers, float]:
    """Which of many shots to keep: one in each cell of a grid, and how far the others lie off.

    Gives the indices that are kept and the greatest difference in level between a shot that is left
    out and the nearest one kept.
    """
    if len(points) <= most:
        return np.arange(len(points)), 0.0
    low, reach = points[:, :2].min(axis=0), np.ptp(points[:, :2], axis=0)
    cell = float(np.sqrt(max(reach[0] * reach[1], 1e-6) / most))
    while True:
        at = np.floor((points[:, :2] - low) / cell).astype(np.int64)
        _, first, back = np.unique(
            at[:, 0] * (int(reach[1] / cell) + 2) + at[:, 1], return_index=True, return_inverse=True
        )
        if len(first) <= most:
            break
        cell *= 1.1
    off = np.abs(points[:, 2] - points[first[back.ravel()], 2])
    return np.sort(first), float(off.max())


def shape_of(points: Floats, closed: bool) -> Shape:
    """What a run of places is."""
    if len(points) == 1:
        return "point"
    return "area" if closed and len(points) > 2 else "line"


def simple_area(points: Floats) -> bool:
    """Whether an area's sides do not cross each other."""
    return len(points) > 2 and bool(shapely.is_valid(shapely.polygons(points[:, :2])))
