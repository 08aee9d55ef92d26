"""Jobs begun with the arrays of others, revisions that are issued, and a place that a file brings."""

import json

import httpx
import pytest

from openfurrow.demo.seed import CREW_LEAD
from tests.conftest import signed_in
from tests.web.test_jobs import edit
from tests.web.test_put_away import line


def design(client: httpx.Client, job: str) -> dict:
    return dict(json.loads(client.get(f"{job}/files/design.json").content))


def begun(client: httpx.Client, **body: object) -> str:
    made = client.post("/jobs", json={"name": "Kestrel barn", **body})
    assert made.status_code == 201, made.text
    return f"/jobs/{made.json()['id']}"


def test_it_is_begun_from_the_draft_of_the_one_who_asks(planner: httpx.Client, job: str) -> None:
    edit(planner, job, ("arrays.1.modules.power_w", "405 W"))
    new = begun(planner, like=job.rsplit("/", 1)[-1])
    ours, theirs = design(planner, new), design(planner, job)
    assert ours["arrays"][0]["modules"] == theirs["arrays"][0]["modules"]
    assert ours["arrays"][0]["modules"]["power_w"] == 405.0
    assert ours["site"]["latitude_deg"] is None and ours["site"]["features"] == []
    assert [one["note"] for one in planner.get(f"{new}/revisions").json()] == [
        "begun like Larkspur Ferry landing"
    ]
    # What is changed in one moves nothing in the other.
    edit(planner, new, ("arrays.1.modules.power_w", "410 W"))
    assert design(planner, job)["arrays"][0]["modules"]["power_w"] == 405.0


def test_nobody_begins_from_a_job_they_may_not_see(planner: httpx.Client, job: str) -> None:
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as other:
        shared = line(other, job)
        wanted = job.rsplit("/", 1)[-1]
        if shared is None:
            assert other.post("/jobs", json={"name": "x", "like": wanted}).status_code == 404
        own = begun(planner)
        refused = other.post("/jobs", json={"name": "x", "like": own.rsplit("/", 1)[-1]})
        assert refused.status_code == 404
        assert other.put(f"{own}/usual", json={"usual": True}).status_code == 404
    assert planner.post("/jobs", json={"name": "x", "like": "no id"}).status_code == 422


def test_only_the_owner_says_what_is_a_usual(planner: httpx.Client) -> None:
    own = begun(planner)
    assert line(planner, own)["usual"] is False  # type: ignore[index]
    assert planner.put(f"{own}/usual", json={"usual": True}).status_code == 204
    assert line(planner, own)["usual"] is True  # type: ignore[index]
    planner.post(f"{own}/members", json={"name": CREW_LEAD, "role": "editor"})
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as other:
        assert line(other, own)["usual"] is True  # type: ignore[index]
        assert other.put(f"{own}/usual", json={"usual": False}).status_code == 403
        # Who may see it may begin from it.
        assert begun(other, like=own.rsplit("/", 1)[-1])
    assert planner.put(f"{own}/usual", json={"usual": False}).status_code == 204
    assert line(planner, own)["usual"] is False  # type: ignore[index]


def test_an_issued_revision_keeps_what_nobody_had_looked_at(planner: httpx.Client) -> None:
    own = begun(planner)
    edit(planner, own, ("arrays.1.rows.tilt_deg", "30"))
    plain = planner.post(f"{own}/revisions", json={"note": "plain"}).json()
    assert plain["issued"] is None
    edit(planner, own, ("looked", "materials.waste\nmaterials.spare_posts"))
    planner.post(f"{own}/revisions", json={"note": "to build", "issue": True})
    edit(planner, own, ("looked", "trench.width_m"))
    issued, *others = planner.get(f"{own}/revisions").json()
    assert [one["issued"] for one in others] == [None, None]
    told = {one["path"]: one for one in issued["issued"]}
    assert "arrays.1.rows.tilt_deg" not in told and "materials.waste" not in told
    # As it was then: what is looked at later was not looked at when it was issued.
    assert told["trench.width_m"]["value"] == "1' 0\""
    assert told["trench.width_m"]["label"] == "Trench width"


GEO = {
    "type": "FeatureCollection",
    "features": [
        {
            "type": "Feature",
            "properties": {"layer": "building"},
            "geometry": {
                "type": "Polygon",
                "coordinates": [
                    [
                        [18.9, -33.5],
                        [18.9002, -33.5],
                        [18.9002, -33.5001],
                        [18.9, -33.5001],
                        [18.9, -33.5],
                    ]
                ],
            },
        }
    ],
}


def test_a_file_of_the_globe_gives_a_site_its_place(planner: httpx.Client) -> None:
    own = begun(planner, rule_pack="metric")
    read = {"units": "metric", "how": json.dumps({"name": "plot.geojson"})}
    content = json.dumps(GEO).encode()
    seen = planner.post(f"{own}/ground/look", params=read, content=content)
    assert seen.status_code == 200, seen.text
    assert any("becomes the origin of the site" in note for note in seen.json()["notes"])
    assert design(planner, own)["site"]["latitude_deg"] is None
    assert planner.put(f"{own}/ground", params=read, content=content).status_code == 200
    site = design(planner, own)["site"]
    assert (site["latitude_deg"], site["longitude_deg"]) == pytest.approx((-33.50005, 18.9001))
    (house,) = site["features"]
    # A ten-thousandth of a degree north to south is 11 m: half of it either side of the origin.
    norths = [north for _, north in house["points"]]
    assert (min(norths), max(norths)) == pytest.approx((-5.546, 5.546), abs=0.01)
    # One that has a place keeps it, whatever another file says.
    edit(planner, own, ("site.latitude_deg", "33.501 S"))
    planner.put(f"{own}/ground", params=read, content=content)
    assert design(planner, own)["site"]["latitude_deg"] == -33.501


def test_grids_are_found_by_name_before_the_site_has_a_place(planner: httpx.Client) -> None:
    own = begun(planner)
    assert planner.get(f"{own}/ground/grids").json() == []
    names = [one["name"] for one in planner.get(f"{own}/ground/grids?words=utm zone 34s").json()]
    assert names and all("34S" in name for name in names)
