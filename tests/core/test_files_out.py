"""Files as they are wanted: units named in the head, map grids, layers, cuts, plans for machines."""

import csv
import io
import json
import math

import ezdxf
import numpy as np
import pytest
from pyproj import Geod, Transformer

from openfurrow.cli import main
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import grifo, larkspur
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Length, Wanted
from tests.designs import changed, plain_larkspur

FEET = {"m": 1.0, "ft": 0.3048, "in": 0.0254, "us_ft": 1200 / 3937}


def table(name: str, design: Design, found: Plan, **wanted: object) -> list[dict[str, str]]:
    how = Wanted(**{"units": "us", **wanted})
    return list(csv.DictReader(io.StringIO(EXPORTS[name].write(design, found, how))))


@pytest.mark.parametrize("length", ["m", "ft", "in", "us_ft"])
def test_columns_are_in_the_unit_that_their_heads_name(length: Length) -> None:
    design = larkspur()
    found = plan(design)
    lines = table("stakes.csv", design, found, length=length)
    stakes = found.setting_out.stakes
    for name, values in (
        ("length", stakes.length_m),
        ("east", stakes.places.east_m),
        ("rod_on_top", stakes.rod_top_m),
    ):
        read = [float(line[f"{name}_{length}"]) * FEET[length] for line in lines]
        assert read == pytest.approx(values.tolist(), abs=1e-4)
    shots = table("shots.csv", design, found, length=length)
    assert float(shots[3][f"level_{length}"]) * FEET[length] == pytest.approx(
        found.site.known.shots.points_m[3, 2], abs=1e-4
    )


@pytest.mark.parametrize(("epsg", "unit"), [(2243, "us_ft"), (26911, "m")])
def test_stakes_in_a_map_grid_lie_where_a_geodesic_puts_them(epsg: int, unit: str) -> None:
    """From the origin by Geod over the ellipsoid, then into the grid straight from degrees."""
    design = larkspur()
    found = plan(design)
    lines = table("stakes.csv", design, found, grid=epsg)
    carry = Transformer.from_crs(4326, epsg, always_xy=True)
    for line, east, north in zip(lines, found.places.east_m, found.places.north_m, strict=True):
        lon, lat, _ = Geod(ellps="WGS84").fwd(
            design.site.longitude_deg,
            design.site.latitude_deg,
            math.degrees(math.atan2(east, north)),
            math.hypot(east, north),
        )
        x, y = carry.transform(lon, lat)
        off = np.hypot(float(line[f"east_{unit}"]) - x, float(line[f"north_{unit}"]) - y)
        assert off * FEET[unit] < 0.002


@pytest.mark.parametrize(
    ("wanted", "says"),
    [
        ({"grid": 999999}, "not a grid"),
        ({"grid": 4326}, "not in metres or feet"),
        ({"grid": 2243, "length": "m"}, "is in us_ft"),
    ],
)
def test_a_grid_that_cannot_be_is_refused(wanted: dict[str, object], says: str) -> None:
    design = larkspur()
    with pytest.raises(DesignError, match=says):
        table("stakes.csv", design, plan(design), **wanted)


def test_every_stick_is_in_the_list_of_cuts() -> None:
    """Posts, beams, struts and pieces summed from the plan's own columns, not from the list."""
    design = changed(grifo(), "rows", rows=2)
    found = plan(design)
    lines = table("cuts.csv", design, found, units="metric")
    posts, count = found.footings.posts, found.structure.supports.count

    def of(item: str) -> list[tuple[float, int]]:
        return [(float(line["length_m"]), int(line["count"])) for line in lines if line["item"] == item]

    # They end on the heads of screws, 50 mm out of the ground, and 50 mm over the bolt.
    lengths = found.structure.supports.reveals_m + 0.05 - 0.05
    assert posts.lengths_m == pytest.approx(lengths)
    assert sum(count for _, count in of("post")) == count
    # Whole 25 mm, none short.
    over = sum(length * count for length, count in of("post")) - lengths.sum()
    assert 0 <= over < 0.025 * count
    assert max(length for length, _ in of("post")) >= lengths.max() - 1e-9
    beam = found.structure.members.beam
    # One beam and one brace on the two posts of a bent; two cables to the crossed bay of each line.
    # To the nearest millimetre of the tape.
    assert of("inclined beam") == [(pytest.approx(beam.length_m, abs=5e-4), count // 2)]
    (brace,) = (one for one in found.structure.members.pieces if one.key == "brace")
    braces = of("cross brace")
    assert sum(count for _, count in braces) == count // 2
    # From bolt to bolt, and 40 mm past each.
    more = sum(length * count for length, count in braces) - brace.lengths_m.sum()
    assert more == pytest.approx(0.08 * (count // 2), abs=5e-4 * (count // 2))
    assert sum(count for _, count in of("cable, its ends laid back")) == 2 * 2 * 2
    pieces = sum(length * count for length, count in of("purlin piece"))
    laps = sum(found.frame.line.lengths_m)
    lines = found.frame.purlin_lines
    assert pieces == pytest.approx(laps * lines, abs=5e-4 * 3 * lines)


@pytest.mark.parametrize("length", ["m", "ft"])
def test_a_drawing_has_colours_line_types_numbers_and_its_unit(length: Length) -> None:
    design = larkspur()
    found = plan(design)
    text = EXPORTS["site.dxf"].write(design, found, Wanted(units="us", length=length))
    drawing = ezdxf.read(io.StringIO(text))
    assert drawing.header["$INSUNITS"] == {"m": 6, "ft": 2}[length]
    space = drawing.modelspace()
    numbers = {entity.dxf.text for entity in space.query("TEXT[layer=='post numbers']")}
    assert numbers == {str(k + 1) for k in range(found.structure.supports.count)}
    words = {entity.dxf.text for entity in space.query("TEXT[layer=='words']")}
    assert {feature.label for feature in design.site.features if feature.complete} <= words
    by_name = {layer.dxf.name: layer for layer in drawing.layers}
    buried = next(f.kind for f in design.site.features if f.facts.lies == "buried")
    assert by_name[buried].dxf.linetype.upper() == "DASHED"
    assert by_name[buried].dxf.color != by_name["tables"].dxf.color
    foot = next(iter(space.query("POINT[layer=='posts']"))).dxf.location
    assert foot.x * FEET[length] == pytest.approx(float(found.places.east_m[0]), abs=1e-6)
    assert not drawing.audit().errors


def test_no_surface_is_written_where_there_is_none() -> None:
    design = plain_larkspur()
    with pytest.raises(DesignError, match="no surface to write"):
        EXPORTS["surface.xml"].write(design, plan(design), Wanted(units="us"))
    shot = EXPORTS["surface.xml"].write(larkspur(), plan(larkspur()), Wanted(units="us"))
    assert 'linearUnit="foot"' in shot


def test_shots_on_the_map_say_what_they_are() -> None:
    design = larkspur()
    features = json.loads(EXPORTS["site.geojson"].write(design, plan(design), Wanted(units="us")))
    kinds = [feature["properties"]["kind"] for feature in features["features"]]
    assert kinds.count("shot") == len(plan(design).site.known.shots.points_m)


def test_a_plan_for_machines_has_every_answer_and_check(
    tmp_path: object, capsys: pytest.CaptureFixture[str]
) -> None:
    design = larkspur()
    file = tmp_path / "design.json"  # type: ignore[operator]
    file.write_text(EXPORTS["design.json"].write(design, plan(design), Wanted(units="us")))
    assert main(["plan", str(file), "--json", "--units", "metric"]) == 0
    said = json.loads(capsys.readouterr().out)
    found = plan(design)
    assert [(a["stage"], a["key"], a["value"]) for a in said["answers"]] == [
        (a.stage, a.key, a.value) for a in found.answers
    ]
    assert [(c["key"], c["level"]) for c in said["checks"]] == [(c.key, c.level) for c in found.checks]
    depth = next(a for a in said["answers"] if (a["stage"], a["key"]) == ("footings", "depth"))
    assert depth["shown"].endswith("mm")


def test_a_file_by_command_in_feet_on_a_grid(tmp_path: object) -> None:
    design = larkspur()
    file, out = tmp_path / "design.json", tmp_path / "stakes.csv"  # type: ignore[operator]
    file.write_text(EXPORTS["design.json"].write(design, plan(design), Wanted(units="us")))
    assert main(["export", str(file), "--to", str(out), "--grid", "2243"]) == 0
    assert "east_us_ft" in out.read_text().splitlines()[0]
    assert main(["export", str(file), "--to", str(out), "--grid", "999999"]) == 2
