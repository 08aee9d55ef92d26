"""What is done with a file that was sent, as functions that a process of its own can be given."""

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.said import has_place, place_of
from openfurrow.exchange.ground_file import (
    FARTHEST_M,
    GroundFile,
    HowToRead,
    check_near,
    far_off,
    moved,
    places_of,
    with_place,
)
from openfurrow.exchange.places import Grid, grids_that_fit
from openfurrow.exchange.read_ground import layers_of, read_file, read_into, taking
from openfurrow.web.models import GridView, GroundFileView, LayerView

SHOWN_GRIDS = 12


def look_at(design: Design, data: bytes, wanted: HowToRead, units: UnitSystem) -> GroundFileView:
    """What a file of the ground holds, and what would become of it. Raises DesignError.

    A file whose columns or whose grid nobody has named yet is shown as it is, with what it asks.
    """
    file = read_file(data, wanted, units)
    site = with_place(file, wanted, design.site)
    local = moved(file, wanted, site)
    asks = file.asks
    grids: list[Grid] = []
    if far_off(local):
        x, y = np.median(places_of(file), axis=0).tolist()
        grids = grids_that_fit(site, x, y, FARTHEST_M) if has_place(site) else []
        asks = (*asks, _where_is_it(local))
    if asks:
        return _view(file, local, wanted, units, asks, grids)
    check_near(local)
    return _view(file, local, wanted, units, (), [], _origin(design.site, site))


def _origin(before: SiteGivens, site: SiteGivens) -> tuple[str, ...]:
    """That a site without a place gets one of the file."""
    if site is before:
        return ()
    latitude, longitude = (
        format_value(value, "coordinate_angle", site.display_units) for value in place_of(site)
    )
    return (f"the file's middle, {latitude}, {longitude}, becomes the origin of the site",)


def _where_is_it(local: GroundFile) -> str:
    away_km = np.abs(places_of(local)).max() / 1000
    return (
        f"it lies {away_km:,.0f} km from the site as it is read now: in which map grid is it, or "
        "which origin comes off it?"
    )


def _view(
    file: GroundFile,
    local: GroundFile,
    wanted: HowToRead,
    units: UnitSystem,
    asks: tuple[str, ...],
    grids: list[Grid],
    origin: tuple[str, ...] = (),
) -> GroundFileView:
    grid = file.grid if wanted.grid is None else wanted.grid
    levels = local.points[:, 2] if len(local.points) else np.array([np.nan])
    reach = np.ptp(places_of(local), axis=0) if len(places_of(local)) else np.zeros(2)
    local_sample = tuple(
        tuple(format_value(value, "coordinate", units) for value in point)
        for point in local.points[:4].tolist()
    )
    as_it_is = file.first or tuple(
        tuple(f"{value:.3f}" for value in point) for point in file.points[:4].tolist()
    )
    return GroundFileView(
        format=file.format,
        shots=len(file.points),
        columns=file.columns,
        roles=file.roles,
        sample=as_it_is if asks else local_sample,
        layers=tuple(LayerView(**vars(layer)) for layer in layers_of(local, wanted)),
        grid=grid,
        unit=wanted.unit or "",
        asks=asks,
        notes=() if asks else (*origin, *taking(local, wanted, units).notes),
        reach=" by ".join(format_value(float(side), "run", units) for side in reach),
        lowest=format_value(float(levels.min()), "coordinate", units),
        highest=format_value(float(levels.max()), "coordinate", units),
        grids=tuple(
            GridView(epsg=one.epsg, name=one.name, unit=one.unit) for one in grids[:SHOWN_GRIDS]
        ),
    )


def take(design: Design, data: bytes, wanted: HowToRead, units: UnitSystem) -> tuple[Design, str]:
    """The design with a file's ground in it, and the step in words. Raises DesignError."""
    new, taken = read_into(design, data, wanted, units)
    readings = taken.survey["readings"] if taken.survey else ()
    count = len(readings) if isinstance(readings, list) else 0
    return new, f"{wanted.name or 'a file'}: {count} shots, {len(taken.features)} things"
