"""Files of the ground, places by tape, sections and the scene, over HTTP."""

import json
import math

import httpx
import pytest

from openfurrow.demo.seed import PASSWORD
from tests.conftest import signed_in

SHOTS = "\n".join(f"{e},{n},{100 + 0.03 * e}" for e in range(-40, 41, 8) for n in range(-40, 49, 8))
METRES = json.dumps({"name": "pasted", "unit": "m", "replace": True})


def site(client: httpx.Client, job: str) -> dict:
    return client.get(f"{job}/stages/site", params={"units": "metric"}).json()


def edit(client: httpx.Client, job: str, *edits: tuple[str, str]) -> httpx.Response:
    return client.post(
        f"{job}/edits",
        json={
            "stage": "site",
            "units": "metric",
            "step": site(client, job)["draft"]["position"],
            "edits": [{"path": path, "text": text} for path, text in edits],
        },
    )


def test_looking_at_a_file_changes_nothing_and_says_what_it_holds(
    planner: httpx.Client, job: str
) -> None:
    before = site(planner, job)
    found = planner.post(
        f"{job}/ground/look", content=SHOTS, params={"units": "metric", "how": METRES}
    ).json()
    assert (found["format"], found["shots"], found["lowest"]) == ("csv", 132, "98.800 m")
    assert found["roles"] == ["east", "north", "level"]
    assert found["reach"] == "80.00 m by 88.00 m"
    assert site(planner, job) == before


def test_taking_shots_is_one_step_that_can_be_undone(planner: httpx.Client, job: str) -> None:
    before = site(planner, job)
    view = planner.put(f"{job}/ground", content=SHOTS, params={"units": "metric", "how": METRES}).json()
    assert view["draft"]["steps"][-1]["label"] == "pasted: 132 shots, 0 things"
    answers = {a["key"]: a["text"] for a in view["stage"]["answers"]}
    assert answers["shots"] == "132" and answers["fall"] == "300 mm"
    assert "rows" in {moved["stage"] for moved in view["moved"]}
    undone = planner.post(f"{job}/step", json={"stage": "site", "units": "metric", "step": 0}).json()
    assert undone["stage"] == before["stage"]


@pytest.mark.parametrize(
    ("data", "how", "says"),
    [
        (b"1,2,x", "{}", "not a number"),
        (b"<gpx", '{"name": "a.gpx"}', "well-formed"),
        (SHOTS.encode(), '{"grid": 1}', "EPSG:1"),
        (SHOTS.encode(), "{", "how"),
        (SHOTS.encode(), '{"unit": "parsec"}', "unit"),
        pytest.param(b"0," * 13_000_000, "{}", "bytes", id="large"),
        (SHOTS.encode(), '{"layers": {"shots": "nothing"}}', "nothing of it was chosen"),
    ],
)
def test_a_refused_file_leaves_the_draft_as_it_was(
    planner: httpx.Client, job: str, data: bytes, how: str, says: str
) -> None:
    before = site(planner, job)
    answer = planner.put(f"{job}/ground", content=data, params={"units": "metric", "how": how})
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert says in answer.text or says == "how"
    assert site(planner, job) == before


def test_things_are_added_and_the_array_refuses_to_stand_on_them(
    planner: httpx.Client, job: str
) -> None:
    edit(planner, job, ("site.features.+main", "buried water"))
    path = "site.features.main"
    view = edit(
        planner, job, (f"{path}.points", "-30 m, 0 m\n30 m, 0.4 m"), (f"{path}.name", "new main")
    ).json()
    things = next(item for item in view["stage"]["lists"] if item["path"] == "site.features")
    assert things["items"][-1]["title"] == "new main"
    stop = next(s for s in view["sheet"]["stops"] if s["key"] == "keep_out")
    assert stop["stage"] == "footings" and "new main: posts 1, 2, 3, 4 and 5 more" in stop["measured"]
    assert any(mend["words"].startswith("Shift the array") for mend in stop["mends"])
    gone = edit(planner, job, (path, "")).json()
    assert not any(s["key"] == "keep_out" for s in gone["sheet"]["stops"])


def test_a_wrong_thing_names_its_field_and_changes_nothing(planner: httpx.Client, job: str) -> None:
    before = site(planner, job)
    answer = edit(planner, job, ("site.features.3.depth_m", "99 m"))
    assert answer.status_code == 422
    (problem,) = answer.json()["problems"]
    assert (problem["path"], problem["label"]) == ("site.features.3.depth_m", "Depth to its top")
    assert "above what is allowed" in problem["message"] and "20" in problem["allowed"]
    assert site(planner, job) == before


@pytest.mark.parametrize(
    ("body", "places"),
    [
        (
            {"way": "tapes", "start": "0, 0", "end": "10, 0", "first": "6", "second": "8 m"},
            [(3.6, -4.8), (3.6, 4.8)],
        ),
        ({"way": "offset", "start": "0, 0", "end": "0, 10", "first": "4", "second": "2"}, [(2, 4)]),
        ({"way": "bearing", "start": "1, 1", "first": "90", "second": "5"}, [(6, 1)]),
        ({"way": "coordinates", "start": "3 m, 4 m"}, [(3, 4)]),
    ],
)
def test_places_are_measured_as_a_crew_does(
    planner: httpx.Client, job: str, body: dict, places: list[tuple[float, float]]
) -> None:
    found = planner.post(f"{job}/measure", json={"units": "metric", **body}).json()
    assert [(f["east_m"], f["north_m"]) for f in found] == [pytest.approx(p) for p in places]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        (
            {"way": "tapes", "start": "0, 0", "end": "30, 0", "first": "6", "second": "8"},
            "16.000 m shorter",
        ),
        ({"way": "offset", "start": "0, 0", "end": "0, 0", "first": "4", "second": "2"}, "same place"),
        ({"way": "bearing", "start": "here", "first": "90", "second": "5"}, "not a point"),
        ({"way": "bearing", "start": "0, 0", "first": "upward", "second": "5"}, "Bearing"),
        ({"way": "guess"}, "way"),
    ],
)
def test_measurements_that_lead_nowhere_say_why(
    planner: httpx.Client, job: str, body: dict, says: str
) -> None:
    answer = planner.post(f"{job}/measure", json={"units": "metric", **body})
    assert answer.status_code == 422 and says in answer.text


def test_a_section_shows_the_ground_and_what_it_cuts(planner: httpx.Client, job: str) -> None:
    cut = planner.get(
        f"{job}/section", params={"units": "metric", "start": "-20 m, 5 m", "end": "30 m, 5 m"}
    ).json()
    assert cut["ends"] == [[-20.0, 5.0], [30.0, 5.0]]
    cut = cut["drawing"]
    words = {mark["text"] for mark in cut["marks"]}
    assert {"tile drain", "fuel line"} <= words
    ground = next(mark for mark in cut["marks"] if mark["layer"] == "ground")["points"]
    assert ground[-1][0] == pytest.approx(50.0)
    across = planner.get(
        f"{job}/section", params={"units": "metric", "start": "0 m, -10 m", "end": "0 m, 10 m"}
    ).json()["drawing"]
    glass = [m for m in across["marks"] if m["layer"] == "glass-line"]
    assert len(glass) == 1 and glass[0]["points"][1][1] > glass[0]["points"][0][1]
    # The middle post stands on the line and carries the glass.
    (post,) = [m["points"] for m in across["marks"] if m["layer"] == "post-line-section"]
    assert post[0][0] == pytest.approx(10.0, abs=0.01)
    assert post[1][1] > post[0][1] + 3.0
    # Level lines in the reader's own round numbers.
    feet = planner.get(
        f"{job}/section", params={"units": "us", "start": "0 m, -28 m", "end": "0 m, 10 m"}
    ).json()["drawing"]
    levels = [m["text"] for m in feet["marks"] if m["layer"] == "contour-note"]
    assert len(levels) > 2 and all(text.endswith("' 0\"") for text in levels)
    refused = planner.get(f"{job}/section", params={"units": "metric", "start": "1, 1", "end": "1, 1"})
    assert refused.status_code == 422 and "same place" in refused.text


def test_the_scene_holds_every_module_post_and_line(planner: httpx.Client, job: str) -> None:
    scene = planner.get(f"{job}/scene").json()
    (array,) = scene["arrays"]
    assert len(array["modules"]) == 36 * 5 and len(array["posts"]) == 9 * 4
    assert scene["known"] and len(scene["trees"]) == 4
    names = {line["name"] for line in scene["lines"]}
    assert {"fuel line", "tile drain", "trench", "boundary", "level line"} <= names
    corners = scene["ground"]["positions"]
    assert max(scene["ground"]["triangles"]) < len(corners) / 3
    assert min(corners[2::3]) >= -0.001


def test_a_table_let_go_is_told_where_it_stands_or_why_not(planner: httpx.Client, job: str) -> None:
    at = {"array": "1", "table": "1.1"}
    # A hand's breadth from where it stands it goes back; half a row aside it stays there.
    told = planner.get(f"{job}/tables/snap", params=at | {"east_m": 0.2, "north_m": -0.1}).json()
    assert told == {"along": "0.0000 m", "back": "0.0000 m", "refused": ""}
    told = planner.get(f"{job}/tables/snap", params=at | {"east_m": 3.0, "north_m": 2.0}).json()
    # Along its purlin, which climbs a little with the ground.
    assert float(told["along"].removesuffix(" m")) == pytest.approx(
        3 / math.cos(math.atan(0.028)), abs=2e-4
    )
    assert told["back"] == "2.0000 m"
    # One more over it.
    told = planner.get(f"{job}/tables/snap", params=at | {"table": "", "east_m": 1, "north_m": 1})
    assert told.json()["refused"] == "it would stand over table 1.1"
    for wrong in ({"array": "9"}, {"east_m": "nan"}, {"north_m": 1e9}, {"table": "x" * 40}):
        asked = at | {"east_m": 0, "north_m": 0} | wrong
        assert planner.get(f"{job}/tables/snap", params=asked).status_code == 422, wrong


def test_the_sun_of_a_day(planner: httpx.Client, job: str) -> None:
    day = planner.get(f"{job}/sun", params={"day": "2026-12-21"}).json()
    assert len(day["clock_h"]) == 288
    highest = max(day["altitude_deg"])
    assert highest == pytest.approx(90 - 44.9 - 23.44, abs=0.1)
    assert planner.get(f"{job}/sun", params={"day": "1815-06-18"}).status_code == 422


def test_a_stranger_sees_nothing_and_a_reader_changes_nothing(
    planner: httpx.Client, job: str, address: str
) -> None:
    ways = (
        ("GET", "/scene", {}),
        ("GET", "/section", {"units": "us", "start": "0,0", "end": "1,1"}),
        ("GET", "/sun", {"day": "2026-12-21"}),
        ("GET", "/tables/snap", {"array": "1", "table": "1.1", "east_m": 1, "north_m": 2}),
        ("POST", "/ground/look", {"units": "us"}),
        ("PUT", "/ground", {"units": "us"}),
    )
    with httpx.Client(base_url=f"{address}/api") as client:
        for method, path, params in ways:
            assert client.request(method, job + path, params=params).status_code == 401, path
        client.post("/accounts", json={"name": "Reader", "password": PASSWORD})
    with signed_in(address, "Reader") as reader:
        for method, path, params in ways:
            assert reader.request(method, job + path, params=params).status_code == 404, path
        planner.post(f"{job}/members", json={"name": "Reader", "role": "viewer"})
        assert reader.get(f"{job}/scene").status_code == 200
        assert (
            reader.put(
                f"{job}/ground", content=SHOTS, params={"units": "metric", "how": METRES}
            ).status_code
            == 403
        )


@pytest.mark.parametrize(
    ("name", "begins"),
    [
        ("site.geojson", "{"),
        ("site.dxf", "  0\nSECTION"),
        ("surface.xml", "<?xml"),
        ("shots.csv", "east_ft"),
    ],
)
def test_the_ground_goes_out_as_files(planner: httpx.Client, job: str, name: str, begins: str) -> None:
    answer = planner.get(f"{job}/files/{name}")
    assert answer.status_code == 200
    assert answer.text.startswith(begins)
    assert f"larkspur-ferry-landing-{name}" in answer.headers["content-disposition"]


def test_a_file_on_the_globe_asks_first_where_the_site_is(planner: httpx.Client) -> None:
    """Where nobody knows the place local shots are taken; a map's are not guessed at."""
    job = f"/jobs/{planner.post('/jobs', json={'name': 'From nothing'}).json()['id']}"
    local = planner.put(f"{job}/ground", params={"units": "metric", "how": METRES}, content=SHOTS)
    assert local.status_code == 200, local.text
    assert {a["key"] for a in local.json()["stage"]["answers"]} >= {"shots", "fall", "locate"}
    waypoints = "".join(
        f'<wpt lat="{47 + k / 1e4}" lon="{11 + k * k / 1e4}"><ele>{500 + k}</ele></wpt>'
        for k in range(5)
    )
    gpx = f'<gpx xmlns="http://www.topografix.com/GPX/1/1" version="1.1">{waypoints}</gpx>'
    for send in (planner.put, planner.post):
        path = f"{job}/ground" if send == planner.put else f"{job}/ground/look"
        refused = send(path, params={"units": "metric", "how": '{"name": "walk"}'}, content=gpx)
        assert refused.status_code == 422, refused.text
        told = refused.json()
        assert told["title"] == "Not known yet"
        assert [problem["label"] for problem in told["problems"]] == ["Latitude", "Longitude"]
