"""A year of weather in the store, filling by what was typed, sheets as they are asked for."""

import json

import httpx
import numpy as np
import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from openfurrow.core.sun.load import LoadGivens
from openfurrow.store import shots
from tests.weather import epw, used
from tests.web.test_jobs import edit


def steps_of(store: Engine) -> list[dict]:
    with store.connect() as connection:
        found = connection.execute(text("select design from draft_step order by number"))
        return list(found.scalars())


def exported(client: httpx.Client, job: str) -> dict:
    return json.loads(client.get(f"{job}/files/design.json").content)


def test_a_year_of_weather_is_kept_once_however_many_steps_follow(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    taken = planner.put(
        f"{job}/energy/weather", params={"units": "us", "name": "kettle.epw"}, content=epw()
    )
    assert taken.status_code == 200
    for degrees in ("21", "22", "23"):
        edit(planner, job, ("arrays.1.rows.tilt_deg", degrees))
    named = [step["sun"]["weather"][0]["packed"] for step in steps_of(store)[-4:]]
    assert {json.dumps(one) for one in named} == {json.dumps(named[0])}
    assert set(named[0]) == {"kept"}
    with store.connect() as connection:
        where = text("select count(*) from kept_shots where hash = :hash")
        assert connection.execute(where, {"hash": named[0]["kept"]}).scalar() == 1
    # What comes back is the whole year again, to the last digit.
    (year,) = exported(planner, job)["sun"]["weather"]
    assert year["name"] == "kettle.epw"
    assert shots._hash(year["packed"]) == named[0]["kept"]
    copied = planner.post(f"{job}/copy", json={"name": "Another like it"}).json()["id"]
    (other,) = exported(planner, f"/jobs/{copied}")["sun"]["weather"]
    assert other["packed"] == year["packed"]
    # Room is made of what nothing names: a year that a step still names stays.
    with Session(store) as session, session.begin():
        session.execute(text("update kept_shots set made_at = now() - interval '3 hours'"))
        job_id = job.rsplit("/", 1)[-1]
        shots._clear(session, job_id, set())  # type: ignore[arg-type]
        assert session.execute(where, {"hash": named[0]["kept"]}).scalar() == 2


def test_a_meters_year_is_kept_by_its_hash_and_comes_back_whole(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    params = {"units": "us", "name": "pump.csv"}
    taken = planner.put(f"{job}/energy/load", params=params, content=used())
    assert taken.status_code == 200
    assert taken.json()["draft"]["steps"][-1]["label"] == "what is used, by pump.csv"
    edit(planner, job, ("arrays.1.rows.tilt_deg", "21"))
    named = [step["sun"]["loads"][0]["packed"] for step in steps_of(store)[-2:]]
    assert named[0] == named[1] and set(named[0]) == {"kept"}
    (year,) = exported(planner, job)["sun"]["loads"]
    assert shots._hash(year["packed"]) == named[0]["kept"]
    hours = np.arange(8760) % 24
    load = LoadGivens.model_validate(year)
    assert load.watts == pytest.approx(np.round(1000 * (0.4 + hours / 20), -1), abs=0.51)
    with Session(store) as session, session.begin():
        session.execute(text("update kept_shots set made_at = now() - interval '3 hours'"))
        shots._clear(session, job.rsplit("/", 1)[-1], set())  # type: ignore[arg-type]
        where = text("select count(*) from kept_shots where hash = :hash")
        assert session.execute(where, {"hash": named[0]["kept"]}).scalar() == 1
    # A guest may look, and bring nothing.
    refused = planner.put(f"{job}/energy/load", params=params, content=b"kWh\n1\n")
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["label"] == "File"


@pytest.mark.parametrize(
    ("body", "field", "said"),
    [
        ({"edge": "seven"}, "edge", "seven"),
        ({"edge": "400 m"}, "edge", "328' 1\""),
        ({"modules": "-4"}, "modules", "a whole number"),
        ({"aisle_every": "3"}, "aisle", "how wide it is"),
        ({"edge": "150 ft"}, "edge", "a free stretch 68' 1\" long"),
        ({"array": "none"}, "array", "an array of this job"),
        ({"lengths": "12, x"}, "lengths", "whole numbers"),
        ({"lengths": "1,2,3,4,5"}, "lengths", "at most 4"),
        ({"along": "nothing"}, "along", "a line or an outline"),
    ],
)
def test_what_cannot_be_filled_says_which_field_and_what_is_allowed(
    planner: httpx.Client, job: str, body: dict[str, str], field: str, said: str
) -> None:
    before = exported(planner, job)
    asked = {"units": "us", "array": "1", **body}
    answer = planner.post(f"{job}/tables/fill", json=asked)
    assert answer.status_code == 422
    (problem,) = answer.json()["problems"]
    assert problem["path"] == field
    assert said in problem["message"] + problem["allowed"]
    assert problem["remedy"]
    assert exported(planner, job) == before


def test_filled_ground_is_one_step_that_is_named(planner: httpx.Client, job: str) -> None:
    asked = {"units": "us", "array": "1", "modules": "60", "shortest": "1"}
    view = planner.post(f"{job}/tables/fill", json=asked).json()
    step = view["draft"]["steps"][-1]
    assert step["label"].startswith("filled: 60 modules in ")
    assert view["arrays"][0]["modules"] == 60


@pytest.mark.parametrize("of", ["year", "tilt", "around", "pitch", "strings"])
def test_a_sheet_of_a_job_from_nothing_says_what_is_missing(planner: httpx.Client, of: str) -> None:
    made = planner.post("/jobs", json={"name": "Bare ground"}).json()["id"]
    answer = planner.get(f"/jobs/{made}/energy/{of}", params={"units": "metric"})
    assert answer.status_code == 409 or answer.status_code == 422
    assert "atitude" in answer.text


def test_what_a_sheet_is_asked_is_read_or_refused(planner: httpx.Client, job: str) -> None:
    for params in ({"accepted": "0.9"}, {"accepted": "nan"}):
        assert planner.get(f"{job}/energy/pitch", params={"units": "us", **params}).status_code == 422
    where = {"units": "us", "spot": "here"}
    answer = planner.get(f"{job}/energy/around", params=where)
    assert answer.json()["problems"][0]["path"] == "spot"
    night = planner.get(
        f"{job}/energy/shadows", params={"units": "us", "day": "2026-12-21", "minute": "60"}
    )
    assert "the sun is down" in night.json()["drawings"][0]["legend"][0]
    far = planner.get(
        f"{job}/energy/shadows", params={"units": "us", "day": "1812-12-21", "minute": "60"}
    )
    assert far.status_code == 422
    many = planner.get(f"{job}/variants", params={"revisions": [1, 1, 1, 1]})
    assert many.json()["problems"][0]["allowed"] == "at most 3"
