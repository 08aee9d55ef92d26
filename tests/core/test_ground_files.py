"""Files of the ground: those of other libraries read, our own read again, broken ones refused."""

import io
import json
from collections.abc import Callable

import ezdxf
import gpxpy.gpx
import numpy as np
import pytest
import shapely
from ezdxf.layouts.layout import Modelspace
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import grifo
from openfurrow.exchange import ground_file
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.ground_file import HowToRead, thinned
from openfurrow.exchange.places import to_globe
from openfurrow.exchange.read_ground import format_of, guess, read_into
from openfurrow.exchange.wanted import Wanted
from tests.designs import said_job, said_site

EMPTY = said_job(name="bare", site=said_site(rule_pack="metric", display_units="metric"))
SKIP = {"posts": "nothing", "trench": "nothing", "shots": "nothing"}


def take(data: bytes | str, design: Design = EMPTY, **how: object) -> Design:
    raw = data.encode() if isinstance(data, str) else data
    return read_into(design, raw, HowToRead.model_validate(how), design.site.display_units)[0]


def points(design: Design) -> np.ndarray:
    return np.array([reading[:3] for reading in design.site.surveys[-1].readings])


# --- round trips --------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "how"),
    [
        ("site.geojson", {}),
        ("site.dxf", {"layers": SKIP}),
        ("surface.xml", {}),
        ("shots.csv", {"unit": "m"}),
    ],
)
@pytest.mark.parametrize("which", ["demo", "grifo"])
def test_out_and_in_again_is_the_same_ground_within_a_millimetre(
    demo: Design, which: str, name: str, how: dict[str, object]
) -> None:
    design = demo if which == "demo" else grifo()
    before = plan(design)
    text = EXPORTS[name].write(design, before, Wanted(units="metric"))
    again = take(text, design, name=name, replace=True, **how)
    after = plan(again)
    random = np.random.default_rng(5)
    east, north = random.uniform(-22, 22, 800), random.uniform(-16, 28, 800)
    here = before.site.ground.known(east, north)
    assert (after.site.ground.known(east, north) == here).all()
    off = np.abs(after.site.ground.level_m(east, north) - before.site.ground.level_m(east, north))
    assert off[here].max() < 1e-3
    if name in ("site.geojson", "site.dxf"):
        for old in design.site.features:
            new = next(
                f
                for f in again.site.features
                if f.kind == old.kind
                and np.allclose(
                    np.sort(np.array(f.points), axis=0),
                    np.sort(np.array(old.points), axis=0),
                    atol=1e-3,
                )
            )
            assert new.kind == old.kind


def test_a_surface_that_no_delaunay_would_make_keeps_its_own_faces() -> None:
    """The other diagonal of a square: LandXML and DXF say which, and are believed."""
    faces = [(0, 1, 3), (1, 2, 3)]
    corners = [(0, 0, 0.0), (10, 0, 1.0), (10, 10, 0.0), (0, 10, 1.0)]
    xml = (
        '<LandXML version="1.2"><Units><Metric linearUnit="meter"/></Units><Surfaces>'
        '<Surface name="s"><Definition surfType="TIN"><Pnts>'
        + "".join(f'<P id="{k}">{n} {e} {z}</P>' for k, (e, n, z) in enumerate(corners))
        + "</Pnts><Faces>"
        + "".join(f"<F>{a} {b} {c}</F>" for a, b, c in faces)
        + "</Faces></Definition></Surface></Surfaces></LandXML>"
    )
    other = xml.replace("<F>0 1 3</F><F>1 2 3</F>", "<F>0 1 2</F><F>0 2 3</F>")
    # Along one diagonal the ground is a ridge at 1 m, along the other a valley at 0.
    levels = [float(plan(take(text)).site.ground.level_m(5.0, 5.0)) for text in (xml, other)]
    assert levels == [pytest.approx(1.0), pytest.approx(0.0)]


# --- written by others --------------------------------------------------------------------------


def dxf_of(draw: Callable[[Modelspace], object], units: int = 6) -> str:
    import io

    document = ezdxf.new("R2000")
    document.header["$INSUNITS"] = units
    draw(document.modelspace())
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def test_a_drawing_by_ezdxf_is_read_layer_by_layer() -> None:
    def draw(space: Modelspace) -> None:
        for e, n in ((0, 0), (20, 0), (20, 15), (0, 15), (9, 7)):
            space.add_point((e, n, 2 + 0.1 * e), dxfattribs={"layer": "TOPO"})
        space.add_lwpolyline([(1, 1), (5, 1), (5, 4)], close=True, dxfattribs={"layer": "Building"})
        space.add_polyline2d([(0, 9), (20, 9)], dxfattribs={"layer": "old_stuff"})
        space.add_text("hello", dxfattribs={"layer": "notes"})

    design = take(dxf_of(draw), name="a.dxf", layers={"old_stuff": "buried water"})
    assert len(points(design)) == 5
    assert [(f.kind, len(f.points)) for f in design.site.features] == [
        ("building", 3),
        ("buried water", 2),
    ]
    assert design.site.ground == "survey"


def test_a_drawing_in_feet_and_one_in_millimetres_land_alike() -> None:
    def draw(scale: float) -> Callable[[Modelspace], object]:
        return lambda space: [
            space.add_point((e * scale, n * scale, 0.0)) for e, n in ((0, 0), (10, 0), (10, 10))
        ]

    feet = points(take(dxf_of(draw(1 / 0.3048), units=2), name="f.dxf"))
    millimetres = points(take(dxf_of(draw(1000), units=4), name="m.dxf"))
    assert feet == pytest.approx(millimetres, abs=1e-4)
    assert feet[1] == pytest.approx([10.0, 0.0, 0.0], abs=1e-4)


def test_faces_share_their_corners() -> None:
    def draw(space: Modelspace) -> None:
        space.add_3dface([(0, 0, 0), (5, 0, 1), (5, 5, 0), (0, 5, 1)], dxfattribs={"layer": "tin"})
        space.add_3dface([(5, 0, 1), (10, 0, 0), (5, 5, 0)], dxfattribs={"layer": "tin"})

    design = take(dxf_of(draw), name="t.dxf")
    assert len(points(design)) == 5
    assert len(design.site.surveys[0].faces) == 3


def test_shapes_by_shapely_are_read_from_geojson() -> None:
    globe = to_globe(EMPTY.site)

    def there(shape: shapely.Geometry) -> dict[str, object]:
        moved = shapely.transform(shape, lambda at: np.column_stack(globe.transform(*at.T)))
        return json.loads(shapely.to_geojson(moved))

    shapes = {
        "drain": shapely.LineString([(0, 0), (30, 4)]),
        "water": shapely.box(-20, -20, -10, -8),
        "tree": shapely.Point(12, 14),
    }
    document = {
        "type": "FeatureCollection",
        "features": [
            {
                "type": "Feature",
                "properties": {"kind": kind, "name": f"the {kind}"},
                "geometry": there(shape),
            }
            for kind, shape in shapes.items()
        ],
    }
    design = take(json.dumps(document), name="g.geojson")
    for feature in design.site.features:
        assert feature.label == f"the {feature.kind}"
        assert feature.geometry().equals_exact(shapes[feature.kind].normalize(), 1e-3) or (
            shapely.hausdorff_distance(feature.geometry(), shapes[feature.kind]) < 1e-3
        )


def test_a_track_by_gpxpy_gives_shots_and_its_line() -> None:
    globe = to_globe(EMPTY.site)
    track = gpxpy.gpx.GPX()
    run = gpxpy.gpx.GPXTrackSegment()
    for e, n, z in ((0, 0, 5), (20, 0, 6), (20, 30, 7), (0, 30, 6.5)):
        lon, lat = globe.transform(e, n)
        run.points.append(gpxpy.gpx.GPXTrackPoint(lat, lon, elevation=z))
    path = gpxpy.gpx.GPXTrack(name="walk")
    path.segments.append(run)
    track.tracks.append(path)
    lon, lat = globe.transform(7, 7)
    track.waypoints.append(gpxpy.gpx.GPXWaypoint(lat, lon, elevation=5.5, name="pin"))
    design = take(track.to_xml(), name="w.gpx", layers={"tracks": "truck path"})
    assert points(design)[1:] == pytest.approx(
        np.array([(0, 0, 5), (20, 0, 6), (20, 30, 7), (0, 30, 6.5)]), abs=2e-3
    )
    assert design.site.surveys[0].readings[0][3] == "pin"
    assert [f.kind for f in design.site.features] == ["truck path"]


# --- tables of text -----------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "how"),
    [
        ("east,north,level,code\n1,2,3,a\n4,5,6,b\n7,9,9,c", {}),
        ("code;z;y;x\na;3;2;1\nb;6;5;4\nc;9;9;7", {}),
        ("1 2 3 a\n4 5 6 b\n7 9 9 c", {}),
        ("# tape book\n1\t2\t3\ta\n4\t5\t6\tb\n7\t9\t9\tc\n", {}),
        ("p,q,r,s\n3,a,2,1\n6,b,5,4\n9,c,9,7", {"columns": ("level", "code", "north", "east")}),
        ("Easting (m),Northing (m),Elev (m),Desc\n1,2,3,a\n4,5,6,b\n7,9,9,c", {}),
        ("1000,2000,3000,a\n4000,5000,6000,b\n7000,9000,9000,c", {"unit": "mm"}),
        ("\ufeff1 m, 200 cm, 3000 mm, a\n4 m, 5 m, 6 m, b\n7 m, 9 m, 9 m, c", {}),
    ],
)
def test_columns_in_any_order_and_unit(text: str, how: dict[str, object]) -> None:
    design = take(text, **how)
    assert points(design) == pytest.approx(np.array([(1, 2, 3), (4, 5, 6), (7, 9, 9)]))
    assert [reading[3] for reading in design.site.surveys[0].readings] == ["a", "b", "c"]


def test_bare_numbers_of_one_who_works_in_feet_are_feet(demo: Design) -> None:
    assert points(take("0,0,100\n10,0,100\n0,10,101", demo))[2] == pytest.approx([0, 3.048, 30.7848])


def test_a_map_grid_is_brought_home() -> None:
    """UTM zone 11 north around 44.9 N, 116.1 W; the site's origin is its own middle."""
    from pyproj import Transformer

    x, y = Transformer.from_crs(4326, 32611, always_xy=True).transform(-116.1, 44.9)
    text = f"{x},{y},10\n{x + 20},{y},10\n{x},{y + 20},11"
    found = points(take(text, grid=32611))
    assert found[0] == pytest.approx([0, 0, 10], abs=1e-3)
    # Grid north is not true north here: 0.64° of convergence turns the axes.
    turn = np.degrees(np.arctan2(found[1][1], found[1][0]))
    assert abs(turn) == pytest.approx(0.64, abs=0.05)
    near = points(take(text, shift_east_m=x, shift_north_m=y))
    assert near[1] == pytest.approx([20, 0, 10], abs=1e-6)


def test_many_shots_are_thinned_and_it_says_by_how_much() -> None:
    random = np.random.default_rng(2)
    at = random.uniform(-100, 100, (20_000, 2))
    text = "\n".join(f"{e:.3f},{n:.3f},{0.02 * e:.4f}" for e, n in at)
    design, taken = read_into(EMPTY, text.encode(), HowToRead(), "metric")
    assert 3000 < len(design.site.surveys[0].readings) <= 5000
    assert "thinned from 20,000" in taken.notes[0]
    kept, off = thinned(np.column_stack((at, 0.02 * at[:, 0])), 5000)
    assert off < 0.1 and len(set(kept.tolist())) == len(kept)


# --- break lines ----------------------------------------------------------------------------------

BANK = ((0.0, -5.0, 10.0), (12.0, -5.0, 10.4), (24.0, -6.0, 10.8))


def codes(design: Design) -> list[str]:
    return [reading[3] for reading in design.site.surveys[-1].readings]


def test_lines_with_levels_in_a_drawing_become_break_lines(demo: Design) -> None:
    drawing = ezdxf.new("R2010")
    drawing.header["$INSUNITS"] = 6
    space = drawing.modelspace()
    for at in ((0, 10, 9), (20, 10, 9), (10, 20, 9), (0, -20, 8), (20, -20, 8)):
        space.add_point(at, dxfattribs={"layer": "spot"})
    space.add_polyline3d(BANK, dxfattribs={"layer": "BREAK-TOP"})
    space.add_line((0, -8, 9), (24, -8, 9), dxfattribs={"layer": "toe"})
    space.add_lwpolyline([(0, 0), (5, 5)], dxfattribs={"layer": "kerb"})
    out = io.StringIO()
    drawing.write(out)
    usual = take(out.getvalue(), demo, name="bank.dxf", replace=True)
    assert codes(usual)[5:] == ["break 1 BREAK-TOP"] * 3
    assert points(usual)[5:] == pytest.approx(np.array(BANK))
    both = take(out.getvalue(), demo, name="bank.dxf", replace=True, layers={"toe": "break line"})
    assert codes(both)[5:] == ["break 1 BREAK-TOP"] * 3 + ["break 2 toe"] * 2
    (top, _), (toe, _) = plan(both).site.known.breaks
    assert (top, toe) == ("break 1 break-top", "break 2 toe")
    with pytest.raises(DesignError, match="no levels"):
        take(out.getvalue(), demo, name="bank.dxf", layers={"kerb": "break line"})


def test_a_surface_of_points_and_break_lines_without_faces(demo: Design) -> None:
    """LandXML's SourceData: north, east, level; one break line of three points."""
    run = " ".join(f"{n} {e} {z}" for e, n, z in BANK)
    xml = (
        '<LandXML><Surfaces><Surface name="s"><SourceData><DataPoints/><Breaklines>'
        f'<Breakline brkType="standard" name="top"><PntList3D>{run}</PntList3D></Breakline>'
        "</Breaklines></SourceData><Definition surfType='TIN'><Pnts>"
        '<P id="1">10 0 9</P><P id="2">10 20 9</P><P id="3">-20 10 8</P></Pnts>{faces}'
        "</Definition></Surface></Surfaces></LandXML>"
    )
    without = take(xml.replace("{faces}", ""), demo, replace=True)
    assert codes(without) == ["", "", "", *["break top"] * 3]
    assert points(without)[3:] == pytest.approx(np.array(BANK))
    faced = take(xml.replace("{faces}", "<Faces><F>1 2 3</F></Faces>"), demo, replace=True)
    assert codes(faced) == ["", "", ""]
    with pytest.raises(DesignError, match="break line 1 is not a run of points"):
        take(xml.replace("{faces}", "").replace(run, "1 2 three"), demo)


def test_a_line_with_levels_in_geojson_bends_the_ground(demo: Design) -> None:
    east, north, level = np.array(BANK).T
    longitude, latitude = to_globe(demo.site).transform(east, north)
    line = {
        "type": "Feature",
        "properties": {"layer": "break bank"},
        "geometry": {
            "type": "LineString",
            "coordinates": np.column_stack((longitude, latitude, level)).tolist(),
        },
    }
    again = take(json.dumps(line), demo, replace=True)
    assert points(again) == pytest.approx(np.array(BANK), abs=1e-3)
    assert set(codes(again)) == {"break 1 break bank"}


@pytest.mark.parametrize(
    ("layer", "is_"),
    [
        ("overhead line", "overhead line"),
        ("FENCES_EAST", "fence"),
        ("break lines", "nothing"),
        ("U-GAS", "buried gas or fuel"),
        ("tile drain", "drain"),
        ("Water-Main", "buried water"),
        ("electric_service", "buried power"),
        ("centre line", "nothing"),
        ("0", "nothing"),
    ],
)
def test_a_layer_is_guessed_by_its_words_but_not_by_vague_ones(layer: str, is_: str) -> None:
    assert guess(layer, "line") == is_
    # What lies under a line's name may be an area under another kind's.
    assert guess("PROPERTY", "area") == "boundary" and guess("Pond", "area") == "water"
    assert guess("trees", "point") == "tree" and guess("trees", "line") == "nothing"


# --- broken and hostile -------------------------------------------------------------------------

BOMB = (
    '<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aaaaaaaaaa">'
    + "".join(
        f'<!ENTITY a{k} "{f"&a{k - 1 if k else chr(0)};".replace(chr(0), "") * 10}">'
        for k in range(1, 9)
    )
    + "]><gpx><wpt lat='1' lon='1'><name>&a8;</name></wpt></gpx>"
)
CROSSED = json.dumps(
    {
        "type": "Feature",
        "properties": {"kind": "building"},
        "geometry": {
            "type": "Polygon",
            "coordinates": [
                [
                    [-116.1, 44.9],
                    [-116.0999, 44.9001],
                    [-116.0999, 44.9],
                    [-116.1, 44.9001],
                    [-116.1, 44.9],
                ]
            ],
        },
    }
)


@pytest.mark.parametrize(
    ("data", "how", "says"),
    [
        (b"", {}, "no line"),
        (b"e,n,z\n\xff\x00e", {}, "not a text file"),
        (b"1,2,3\x00\n", {}, "not a text file"),
        (b"1,2\n3,4\n5,6", {}, "column"),
        (b"1,2,3\n4,five,6", {}, "line 2: 'five' is not a number for north"),
        (b"1,2,nan\n4,5,6", {}, "line 1"),
        (b"1,2,1e400\n4,5,6", {}, "line 1"),
        (b"1,2,3", {"columns": ("east", "height", "level")}, "no column of height"),
        (b"9000000,2,3\n9000001,2,3\n9000000,4,3", {}, "from the site's origin"),
        (b"1,2,3\n4,5,6\n7,8,10", {"grid": 1}, "EPSG:1 is not"),
        (b"{", {}, "not JSON: line 1"),
        pytest.param(b"[" * 100_000, {}, "not", id="deep"),
        (
            b'{"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": '
            b'{"type": "Point", "coordinates": [NaN, 1, 2]}}]}',
            {},
            "NaN",
        ),
        (
            b'{"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": '
            b'{"type": "LineString", "coordinates": [["a", 1], [2, 3]]}}]}',
            {},
            "feature 1",
        ),
        (b'{"hello": 1}', {}, "not GeoJSON"),
        (CROSSED.encode(), {}, "crosses itself"),
        (BOMB.encode(), {"name": "b.gpx"}, "entities"),
        (
            b'<?xml version="1.0"?><!DOCTYPE x SYSTEM "file:///etc/passwd"><gpx/>',
            {"name": "x.gpx"},
            "entities",
        ),
        (b"<gpx><wpt", {"name": "x.gpx"}, "well-formed"),
        (b"<gpx><wpt lat='95' lon='1'><ele>1</ele></wpt></gpx>", {"name": "x.gpx"}, "95"),
        (b"<svg/>", {"name": "x.gpx"}, "another kind"),
        (b"<LandXML/>", {}, "no surface"),
        (b'<LandXML><Surface><Pnts><P id="1">1 2</P></Pnts></Surface></LandXML>', {}, "three numbers"),
        (
            b'<LandXML><Surface><Pnts><P id="1">1 2 3</P></Pnts><Faces><F>1 2 9</F></Faces></Surface>'
            b"</LandXML>",
            {},
            "face 1",
        ),
        (
            b'<LandXML><Units><Metric linearUnit="furlong"/></Units><Surface><Pnts><P id="1">1 2 3</P>'
            b"</Pnts></Surface></LandXML>",
            {},
            "furlong",
        ),
        (b"0\nSECTION\n2\nENTITIES\n0\nPOINT\n10\nabc\n", {"name": "x.dxf"}, "DXF"),
        (b"this is no drawing at all", {"name": "x.dxf"}, "DXF"),
    ],
)
def test_a_broken_or_hostile_file_is_refused_with_the_reason(
    data: bytes, how: dict[str, object], says: str
) -> None:
    with pytest.raises(DesignError) as error:
        take(data, **how)
    (problem,) = error.value.problems
    assert says in problem.message, problem.message
    assert problem.allowed and problem.remedy


def test_a_file_too_large_is_refused_before_it_is_read(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(DesignError, match="bytes"):
        take(b"1,2,3\n" * 4_100_000)
    # Ten million shots are refused by their number; the number is made small here.
    monkeypatch.setattr("openfurrow.exchange.survey_text.MOST_POINTS", 50)
    with pytest.raises(DesignError, match="61 lines"):
        take("\n".join(f"{k},{k % 7},1" for k in range(61)))
    assert ground_file.MOST_POINTS * 100 >= 10_000_000


@settings(max_examples=80, deadline=None)
@given(st.binary(max_size=400), st.sampled_from(["a.csv", "a.dxf", "a.gpx", "a.xml", "a.geojson"]))
def test_any_bytes_are_read_or_refused_but_never_break(data: bytes, name: str) -> None:
    try:
        take(data, name=name)
    except DesignError as error:
        assert error.problems[0].message


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_a_good_file_with_a_few_bytes_spoilt_is_read_or_refused(data: st.DataObject) -> None:
    design = grifo()
    name = data.draw(st.sampled_from(["site.dxf", "surface.xml", "site.geojson", "shots.csv"]))
    raw = bytearray(_written(design, name).encode())
    for _ in range(data.draw(st.integers(1, 6))):
        raw[data.draw(st.integers(0, len(raw) - 1))] = data.draw(st.integers(0, 255))
    try:
        take(bytes(raw), name=name)
    except DesignError as error:
        assert error.problems[0].message


_KEPT: dict[str, str] = {}


def _written(design: Design, name: str) -> str:
    if name not in _KEPT:
        found: Plan = plan(design)
        _KEPT[name] = EXPORTS[name].write(design, found, Wanted(units="metric"))
    return _KEPT[name]


@pytest.mark.parametrize(
    ("data", "name", "is_"),
    [
        (b"<?xml?><gpx>", "", "gpx"),
        (b"<LandXML>", "", "landxml"),
        (b"{}", "", "geojson"),
        (b"0\nSECTION", "", "dxf"),
        (b"1,2,3", "t.csv", "csv"),
        (b"999\nx\n0\nSECTION", "a.DXF", "dxf"),
    ],
)
def test_a_format_is_known_by_its_first_bytes(data: bytes, name: str, is_: str) -> None:
    assert format_of(data, name) == is_


def test_adding_keeps_what_is_there_and_replacing_does_not(demo: Design) -> None:
    text = "0,0,100\n10,0,100\n0,10,101"
    assert len(take(text, demo).site.surveys) == 1 + len(demo.site.surveys)
    assert len(take(text, demo, replace=True).site.surveys) == 1
    assert take(text, demo, replace=True).site.features == demo.site.features
