"""Files that have to ask first: map grids, point lists without a head, letters and decimal commas."""

import math

import numpy as np
import pytest
from pyproj import Geod, Transformer

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.exchange.ground_file import HowToRead
from openfurrow.web.files_read import look_at
from tests.core.test_ground_files import points, take
from tests.designs import said_job, said_site

US = said_job(
    name="west",
    site=said_site(rule_pack="us", display_units="us", latitude_deg=44.9, longitude_deg=-116.1),
)
METRIC = said_job(
    name="alps",
    site=said_site(rule_pack="metric", display_units="metric", latitude_deg=46.1, longitude_deg=9.2),
)
PLACES = [(-20.0, -10.0, 3.0), (15.0, -12.0, 3.5), (12.0, 25.0, 5.25), (-18.0, 22.0, 4.0)]


def in_grid(design: Design, epsg: int, unit_m: float) -> list[tuple[float, float, float]]:
    """Places taped from the origin, carried over the ellipsoid into a grid in its own unit."""
    site, found = design.site, []
    carry = Transformer.from_crs(4326, epsg, always_xy=True)
    for east, north, level in PLACES:
        lon, lat, _ = Geod(ellps="WGS84").fwd(
            site.longitude_deg,
            site.latitude_deg,
            math.degrees(math.atan2(east, north)),
            math.hypot(east, north),
        )
        x, y = carry.transform(lon, lat)
        found.append((x, y, level / unit_m))
    return found


GRIDS = [(US, 2243, 1200 / 3937), (US, 26911, 1.0), (METRIC, 32632, 1.0), (METRIC, 2056, 1.0)]


@pytest.mark.parametrize(("design", "epsg", "unit_m"), GRIDS)
def test_a_file_in_a_map_grid_is_shown_asked_about_and_brought_home(
    design: Design, epsg: int, unit_m: float
) -> None:
    lines = [f"{x:.4f}, {y:.4f}, {z:.4f}" for x, y, z in in_grid(design, epsg, unit_m)]
    data = "\n".join(["easting, northing, elevation", *lines]).encode()
    units = design.site.display_units
    seen = look_at(design, data, HowToRead(), units)
    assert len(seen.asks) == 1 and "map grid" in seen.asks[0] and seen.shots == 4
    assert epsg in {grid.epsg for grid in seen.grids}
    assert seen.sample[0][0] == lines[0].split(",")[0]
    with pytest.raises(DesignError, match="km from the site"):
        take(data, design)
    named = look_at(design, data, HowToRead(grid=epsg), units)
    assert named.asks == ()
    # Bare numbers of a grid are in the grid's own unit, whatever the reader works in.
    assert points(take(data, design, grid=epsg)) == pytest.approx(np.array(PLACES), abs=0.003)


def test_an_origin_taken_off_answers_too() -> None:
    data = b"e,n,z\n500020,4900010,100\n500000,4900000,101\n500010,4900030,102\n"
    seen = look_at(METRIC, data, HowToRead(unit="m"), "metric")
    assert seen.asks
    how = HowToRead(unit="m", shift_east_m=500000, shift_north_m=4900000)
    assert look_at(METRIC, data, how, "metric").asks == ()
    assert points(take(data, METRIC, **how.model_dump(exclude_unset=True)))[0].tolist() == [20, 10, 100]


POINT_LIST = "101,12.5,-4.25,100.1,grass\n102,8.0,3.0,100.4,edge of field\n103,-6.0,9.5,99.8,\n"


def test_a_list_with_point_numbers_and_no_head_asks_which_is_north() -> None:
    seen = look_at(METRIC, POINT_LIST.encode(), HowToRead(), "metric")
    assert seen.roles == ("-", "north", "east", "level", "code")
    assert any("is north before east" in question for question in seen.asks)
    with pytest.raises(DesignError, match="north before east"):
        take(POINT_LIST, METRIC)
    north_first = take(POINT_LIST, METRIC, columns=seen.roles)
    assert points(north_first)[0].tolist() == [-4.25, 12.5, 100.1]
    assert north_first.site.surveys[-1].readings[1][3] == "edge of field"
    east_first = take(POINT_LIST, METRIC, columns=("-", "east", "north", "level", "code"))
    assert points(east_first)[0].tolist() == [12.5, -4.25, 100.1]


@pytest.mark.parametrize(
    "text", ["point,northing,easting,elevation,description\n" + POINT_LIST, "P,N,E,Z,D\n" + POINT_LIST]
)
def test_a_head_answers_it(text: str) -> None:
    assert points(take(text, METRIC))[0].tolist() == [-4.25, 12.5, 100.1]


@pytest.mark.parametrize("text", ["4.5,3,100\n8,7,101\n2,6,102\n", "1,3,100\n1,7,101\n2,6,102,x\n"])
def test_places_that_only_look_like_numbers_of_points_are_not_asked_about(text: str) -> None:
    assert look_at(METRIC, text.encode(), HowToRead(), "metric").asks == ()


def test_a_column_that_is_missing_is_asked_for_in_place() -> None:
    data = b"a,b,c\n1.5,2.5,100\n3.5,4,101\n7,6.5,102\n"
    seen = look_at(METRIC, data, HowToRead(columns=("east", "-", "level")), "metric")
    assert seen.asks == ("which column is north?",)
    assert seen.sample[0] == ("1.5", "2.5", "100")


@pytest.mark.parametrize("coding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_letters_of_any_usual_coding(coding: str) -> None:
    text = "e;n;z;code\n1,5;2;100;Böschung\n4;6,25;101;Straße\n9;9;102;\n"
    site = take(text.encode(coding), METRIC).site
    assert [reading[3] for reading in site.surveys[-1].readings] == ["Böschung", "Straße", ""]
    seen = look_at(METRIC, text.encode(coding), HowToRead(), "metric")
    assert any("Windows-1252" in note for note in seen.notes) == (coding == "cp1252")


def test_between_semicolons_a_comma_is_a_decimal_mark_even_with_three_places() -> None:
    """Where commas part the columns it would not be; a comma and a point show which is which."""
    text = "e;n;z\n12,345;-2,500;100,125\n1.234,500;6;101,000\n0,0;1,0;2,0\n"
    assert points(take(text, METRIC)).tolist() == [[12.345, -2.5, 100.125], [1234.5, 6, 101], [0, 1, 2]]


def test_some_numbers_with_a_unit_and_some_without_are_refused() -> None:
    with pytest.raises(DesignError, match="line 3: some numbers bear a unit"):
        take("e,n,z\n1 m,2 m,3 m\n4,5 m,6 m\n7 m,8 m,9 m\n", US)
    fair = take("e;n;z\n5'6\";10';100'\n0 m;1 m;30 m\n1 m;3 m;31 m\n", US, unit="m")
    assert points(fair)[0].tolist() == pytest.approx([1.6764, 3.048, 30.48])
