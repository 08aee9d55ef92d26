"""A job among others: copied, put into the archive, deleted, brought back; seen by whom it may be."""

import json
import uuid

import httpx
import pytest
from sqlalchemy import Engine, text

from openfurrow.demo.seed import CREW_LEAD
from tests.conftest import signed_in
from tests.web.test_jobs import edit


def line(client: httpx.Client, job: str) -> dict | None:
    wanted = job.rsplit("/", 1)[-1]
    return next((one for one in client.get("/jobs").json() if one["id"] == wanted), None)


def put(client: httpx.Client, job: str, state: str) -> int:
    return client.put(f"{job}/state", json={"state": state}).status_code


def test_a_copy_is_begun_from_the_draft_and_goes_its_own_way(planner: httpx.Client, job: str) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "27"))
    made = planner.post(f"{job}/copy", json={"name": "  Larkspur, steeper  "})
    assert made.status_code == 201
    copy = f"/jobs/{made.json()['id']}"
    one, other = (json.loads(planner.get(f"{at}/files/design.json").content) for at in (job, copy))
    assert other.pop("name") == "Larkspur, steeper" and one.pop("name") != "Larkspur, steeper"
    assert one == other and other["arrays"][0]["rows"]["tilt_deg"] == 27.0
    edit(planner, copy, ("arrays.1.rows.tilt_deg", "31"))
    left = json.loads(planner.get(f"{job}/files/design.json").content)
    assert left["arrays"][0]["rows"]["tilt_deg"] == 27.0
    history = planner.get(f"{copy}/revisions").json()
    assert [revision["note"] for revision in history] == ["copied from Larkspur Ferry landing"]
    assert line(planner, copy)["role"] == "owner"


@pytest.mark.parametrize("name", ["", "   ", "x" * 121, None])
def test_a_copy_without_a_name_is_refused_in_our_own_words(
    planner: httpx.Client, job: str, name: str | None
) -> None:
    before = len(planner.get("/jobs").json())
    refused = planner.post(f"{job}/copy", json={"name": name})
    assert refused.status_code == 422
    (problem,) = refused.json()["problems"]
    assert problem["message"] in ("says nothing", "is longer than 120 letters", "is not text")
    assert len(planner.get("/jobs").json()) == before


def test_a_job_is_put_away_deleted_and_brought_back_whole(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "27"))
    was = planner.get(f"{job}/files/design.json").content
    assert line(planner, job)["state"] == "open" and line(planner, job)["place"].startswith("44.9")
    assert put(planner, job, "archived") == 204
    assert line(planner, job)["state"] == "archived"
    # One in the archive is read and worked on like any other.
    assert planner.get(f"{job}/stages/rows").status_code == 200
    assert put(planner, job, "deleted") == 204
    assert line(planner, job)["state"] == "deleted"
    for path in ("stages/rows", "revisions", "files/design.json", "members", "scene"):
        assert planner.get(f"{job}/{path}").status_code == 404, path
    assert edit(planner, job, ("arrays.1.rows.tilt_deg", "20"), step=0).status_code == 404
    assert planner.post(f"{job}/copy", json={"name": "out of nothing"}).status_code == 404
    assert put(planner, job, "open") == 204
    assert planner.get(f"{job}/files/design.json").content == was
    assert line(planner, job)["state"] == "open"


def test_only_the_owner_puts_away_and_nobody_else_sees_what_is_deleted(
    address: str, planner: httpx.Client, job: str
) -> None:
    planner.post(f"{job}/members", json={"name": CREW_LEAD, "role": "editor"})
    with signed_in(address, CREW_LEAD) as crew:
        assert {put(crew, job, state) for state in ("archived", "deleted", "open")} == {403}
        assert line(planner, job)["state"] == "open"
        put(planner, job, "archived")
        assert line(crew, job)["state"] == "archived"
        put(planner, job, "deleted")
        assert line(crew, job) is None
        assert crew.get(f"{job}/stages/rows").status_code == 404
        assert put(crew, job, "open") == 404
        put(planner, job, "open")
        assert crew.get(f"{job}/stages/rows").status_code == 200
        # What is not one's own at all is as good as not there.
        assert put(crew, f"/jobs/{uuid.uuid4()}", "deleted") == 404


def test_after_thirty_days_it_is_gone_for_good_with_all_that_was_kept(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "27"))
    put(planner, job, "deleted")
    job_id = job.rsplit("/", 1)[-1]

    def deleted(days: int) -> None:
        with store.begin() as connection:
            connection.execute(
                text(f"update job set deleted_at = now() - interval '{days} days' where id = :job"),
                {"job": job_id},
            )

    deleted(29)
    assert line(planner, job)["state"] == "deleted"
    deleted(31)
    assert line(planner, job) is None
    assert put(planner, job, "open") == 404
    other = planner.get("/jobs").json()[0]["id"]
    assert put(planner, f"/jobs/{other}", "archived") == 204
    with store.connect() as connection:
        for table in ("revision", "draft_step", "draft", "member", "kept_shots"):
            count = connection.scalar(
                text(f"select count(*) from {table} where job_id = :job"), {"job": job_id}
            )
            assert count == 0, table
