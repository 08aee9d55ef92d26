"""Files: by name, by content, on both halves of the globe."""

import csv
import io
import json
import math
import re
from xml.etree.ElementTree import fromstring

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pyproj import Geod
from shapely.geometry import shape

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.csv_out import cell, without_guard
from openfurrow.exchange.exports import EXPORTS, export_named
from openfurrow.exchange.geojson import plan_geojson
from openfurrow.exchange.ground_file import HowToRead
from openfurrow.exchange.ground_out import shots_csv, surface_xml
from openfurrow.exchange.read_ground import read_file
from openfurrow.exchange.tables_csv import materials_csv, stakes_csv
from openfurrow.exchange.wanted import Wanted
from tests.core.test_properties import changed, mirrored

SI = Wanted(units="us", length="m")


@pytest.mark.parametrize(
    ("name", "export"),
    [
        ("design.json", "design.json"),
        ("larkspur-design.json", "design.json"),
        ("x.json", "design.json"),
        ("ferry-stakes.csv", "stakes.csv"),
        ("STAKES.CSV", "stakes.csv"),
        ("materials.csv", "materials.csv"),
        ("map.geojson", "plan.geojson"),
        ("a-site.geojson", "site.geojson"),
        ("a.dxf", "site.dxf"),
        ("a.xml", "surface.xml"),
    ],
)
def test_a_file_name_says_what_is_wanted(name: str, export: str) -> None:
    assert export_named(name) is EXPORTS[export]


@pytest.mark.parametrize("name", ["x.csv", "x.pdf", "stakes", ""])
def test_a_name_that_says_nothing_is_refused_with_the_choices(name: str) -> None:
    with pytest.raises(KeyError, match="stakes"):
        export_named(name)


def test_stakes_as_csv_are_the_stakes(demo: Design) -> None:
    two_rows = changed(demo, "rows", rows=2, tables_along=2)
    found = plan(two_rows)
    lines = list(csv.DictReader(io.StringIO(stakes_csv(two_rows, found, SI))))
    stakes = found.setting_out.stakes
    assert len(lines) == 36
    assert {(line["row"], line["table"]) for line in lines} == {
        ("1", "1"),
        ("1", "2"),
        ("2", "1"),
        ("2", "2"),
    }
    for column, values in (
        ("running_tape_m", stakes.tape_m),
        ("embedment_m", stakes.depth_m),
        ("length_m", stakes.length_m),
        ("rod_on_ground_m", stakes.rod_ground_m),
    ):
        assert np.allclose([float(line[column]) for line in lines], values, atol=1e-4), column
    # Each row's tape begins anew.
    assert [line["running_tape_m"] for line in lines][::18] == ["0.0000", "0.0000"]


def test_materials_as_csv_carry_words_and_numbers(demo: Design) -> None:
    found = plan(demo)
    lines = {line["key"]: line for line in csv.DictReader(io.StringIO(materials_csv(demo, found, SI)))}
    wire = lines["trench_wire"]
    assert (
        wire["order"].endswith('"')
        and wire["unit"] == "ft"
        and float(wire["quantity"]) * 0.3048
        == pytest.approx(found.materials.quantity("trench_wire"), abs=1e-3)
    )
    assert float(wire["quantity"]) >= float(wire["net"])
    assert all(line["where"] for line in lines.values())


@pytest.mark.parametrize("south", [False, True])
def test_the_map_measures_as_the_plan_does(demo: Design, south: bool) -> None:
    """Distances on the ellipsoid by pyproj's geodesics, not by the projection that made the map."""
    design = mirrored(demo) if south else demo
    found = plan(design)
    features = json.loads(plan_geojson(design, found))["features"]
    posts = [shape(f["geometry"]) for f in features if f["properties"]["kind"] == "post"]
    geod = Geod(ellps="WGS84")
    azimuth, _, distance = geod.inv(posts[0].x, posts[0].y, posts[-1].x, posts[-1].y)
    # The tape climbs with the purlins: the map is level.
    level = math.cos(math.atan(float(found.rows.lie.rise_along[0])))
    assert distance == pytest.approx(float(found.setting_out.stakes.tape_m[-1]) * level, abs=2e-3)
    assert math.cos(math.radians(azimuth - found.rows.along_deg)) == pytest.approx(1, abs=1e-5)
    (trench,) = [shape(f["geometry"]) for f in features if f["properties"]["kind"] == "trench"]
    along = geod.geometry_length(trench)
    assert along == pytest.approx(found.run.route.level_length_m, abs=5e-3)
    (table,) = [shape(f["geometry"]) for f in features if f["properties"]["kind"] == "table"]
    area, _ = geod.geometry_area_perimeter(table)
    assert area == pytest.approx(
        found.rows.table_length_m * level * found.rows.section.level_depth_m, rel=1e-4
    )
    # The building end lies away from the equator's side in the north, mirrored in the south.
    assert (trench.coords[-1][1] > design.site.latitude_deg) is not south


def test_a_large_field_is_written_whole() -> None:
    design = DESIGNS["field-1000"]()
    found = plan(design)
    features = json.loads(plan_geojson(design, found))["features"]
    kinds = [feature["properties"]["kind"] for feature in features]
    assert kinds.count("table") == found.rows.rows * found.rows.tables_along
    assert kinds.count("post") == found.structure.supports.count
    assert len(stakes_csv(design, found, SI).splitlines()) == found.structure.supports.count + 1


@given(st.text(max_size=20))
def test_no_cell_begins_as_a_formula_and_a_guard_comes_off_again(text: str) -> None:
    written = cell(text)
    number = re.fullmatch(r"[-+]?[0-9]+([.][0-9]+)?([eE][-+]?[0-9]+)?", written, re.ASCII)
    assert number or not written.startswith(("=", "+", "-", "@", "\t", "\r"))
    if not text.startswith("'"):
        assert without_guard(written) == text


def test_what_people_typed_is_no_formula_in_a_file_and_comes_back_as_it_was(demo: Design) -> None:
    """A code that a spreadsheet would carry out."""
    wrong = "=cmd|' /C calc'!A0"
    data = demo.model_dump(mode="json")
    data["site"]["surveys"][0]["readings"][0][3] = wrong
    design = Design.model_validate(data)
    found = shots_csv(design, plan(design), SI)
    assert all(not cell.startswith("=") for row in csv.reader(io.StringIO(found)) for cell in row)
    read = read_file(found.encode(), HowToRead(unit="m"), "metric")
    assert wrong in read.codes


@settings(max_examples=25)
@given(name=st.text(min_size=1, max_size=20))
def test_any_name_makes_a_surface_that_an_xml_reader_reads(
    demo: Design, demo_plan: Plan, name: str
) -> None:
    root = fromstring(surface_xml(demo.model_copy(update={"name": name}), demo_plan, SI))
    assert root.tag.endswith("LandXML")
