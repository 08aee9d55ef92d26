"""Shots are kept once, come back to the last digit, and are nobody else's."""

import json
import uuid
from collections.abc import Iterator

import httpx
import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.store import shots
from openfurrow.store.drafts import open_draft
from openfurrow.store.jobs import create_job
from openfurrow.store.tables import Account
from tests.web.test_jobs import edit


@pytest.fixture(autouse=True)
def _forgotten(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Nothing is held in memory: what comes back comes from the database."""
    forget(monkeypatch)
    yield


def forget(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shots, "_HELD", shots._Held())


def rows(store: Engine, job: str) -> list[str]:
    with store.connect() as connection:
        found = connection.execute(
            text("select hash from kept_shots where job_id = :job"), {"job": job.rsplit("/", 1)[-1]}
        )
        return sorted(found.scalars())


def exported(client: httpx.Client, job: str) -> dict:
    return json.loads(client.get(f"{job}/files/design.json").content)


def survey(design: dict, at: int = 0) -> dict:
    return design["site"]["surveys"][at]


def reading(client: httpx.Client, job: str, at: int, written: str) -> dict:
    """Type one sitting's readings anew."""
    path = f"site.surveys.{survey(exported(client, job), at)['id']}.readings"
    return edit(client, job, (path, written)).json()


def test_every_step_and_revision_has_its_own_shots_back(
    store: Engine, planner: httpx.Client, job: str, demo: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    began = exported(planner, job)
    assert [survey(began, k)["readings"] for k in range(len(demo.site.surveys))] == [
        [list(one) for one in sitting.readings] for sitting in demo.site.surveys
    ]
    assert len(rows(store, job)) == len(demo.site.surveys)
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"))
    assert len(rows(store, job)) == len(demo.site.surveys), "an edit elsewhere puts nothing in"
    at = reading(planner, job, 0, "0, 0, 1.25, nail\n0.1, 7, 1.3\n9 m, 9 m, 0.123456789 m")
    forget(monkeypatch)
    assert survey(exported(planner, job))["readings"][2] == [9.0, 9.0, 0.123456789, ""]
    assert len(rows(store, job)) == len(demo.site.surveys) + 1
    assert planner.post(f"{job}/revisions", json={"note": "three shots"}).status_code == 201
    steps = at["draft"]["steps"]
    back = {"stage": "site", "units": "us", "step": steps[-2]["number"]}
    assert planner.post(f"{job}/step", json=back).status_code == 200
    forget(monkeypatch)
    assert survey(exported(planner, job)) == survey(began)
    planner.post(f"{job}/revisions/2/restore?stage=site&units=us")
    forget(monkeypatch)
    assert len(survey(exported(planner, job))["readings"]) == 3
    compared = planner.get(f"{job}/compare?before=1&after=2&units=metric").json()
    assert any(found["path"] == "site.surveys" for found in compared["fields"])


def test_what_is_stored_of_a_step_does_not_grow_with_the_survey(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    reading(planner, job, 0, "\n".join(f"{k}, {k % 7}, {k % 3}" for k in range(2000)))
    edit(planner, job, ("arrays.1.rows.tilt_deg", "31"))
    with store.connect() as connection:
        found = connection.execute(text("select design::text as words from draft_step"))
        assert all(len(row.words) < 40_000 for row in found)
    assert len(survey(exported(planner, job))["readings"]) == 2000


def test_documents_stored_whole_are_read_as_they_are(
    store: Engine, planner: httpx.Client, job: str, demo: Design
) -> None:
    whole = json.dumps(demo.model_dump(mode="json"))
    with store.begin() as connection:
        connection.execute(text("alter table revision disable trigger revision_is_immutable"))
        connection.execute(
            text("update revision set design = cast(:whole as jsonb) where job_id = :job"),
            {"whole": whole, "job": job.rsplit("/", 1)[-1]},
        )
        connection.execute(text("alter table revision enable trigger revision_is_immutable"))
        connection.execute(text("delete from kept_shots"))
    assert exported(planner, job)["site"] == demo.model_dump(mode="json")["site"]
    edit(planner, job, ("arrays.1.rows.tilt_deg", "31"))
    assert len(rows(store, job)) == len(demo.site.surveys)


def test_a_job_has_only_its_own(store: Engine, demo: Design) -> None:
    with Session(store) as session, session.begin():
        account = session.query(Account).filter_by(name="Wren Alder").one()
        mine = create_job(session, account, demo, "")
        document = shots.put_away(session, mine, demo)
    shots._HELD = shots._Held()
    with (
        Session(store) as session,
        pytest.raises(shots.StoreError, match="not there any longer"),
    ):
        shots.taken_out(session, uuid.uuid4(), document)
    with Session(store) as session:
        assert shots.taken_out(session, mine, document) == demo


def test_what_nothing_names_goes_when_room_is_wanted_and_nothing_else(
    store: Engine, planner: httpx.Client, job: str, demo: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    reading(planner, job, 0, "0, 0, 1.25\n0.1, 7, 1.3\n9, 9, 1")
    named = rows(store, job)
    job_id = job.rsplit("/", 1)[-1]
    with store.begin() as connection:
        for stray, age in (("old", "2 hours"), ("young", "1 minute")):
            connection.execute(
                text(
                    "insert into kept_shots values "
                    f"(:job, :hash, '', 900000000, now() - interval '{age}')"
                ),
                {"job": job_id, "hash": stray},
            )
    # The young one is somebody's who is at it: there is no room yet, and nothing is stored.
    answer = planner.post(
        f"{job}/edits",
        json={
            "stage": "site",
            "units": "us",
            "step": planner.get(f"{job}/stages/site").json()["draft"]["position"],
            "edits": [
                {
                    "path": f"site.surveys.{survey(exported(planner, job))['id']}.readings",
                    "text": "1, 1, 1",
                }
            ],
        },
    )
    assert answer.status_code in (400, 409, 422) and "256 MB" in answer.json()["detail"]
    assert rows(store, job) == sorted([*named, "old", "young"])
    with store.begin() as connection:
        connection.execute(text("update kept_shots set size = 9 where hash = 'young'"))
    reading(planner, job, 0, "1, 1, 1.5")
    left = rows(store, job)
    assert "old" not in left and "young" in left and set(named) < set(left)
    with Session(store) as session:
        account = session.query(Account).filter_by(name="Wren Alder").one()
        assert (
            open_draft(session, account, uuid.UUID(job_id)).design.site.surveys[1:]
            == (demo.site.surveys[1:])
        )


def test_one_that_is_left_out_and_faces_come_back_too(store: Engine, demo: Design) -> None:
    sitting = demo.site.surveys[0].model_copy(update={"left_out": (2, 5), "faces": ((0, 1, 2),)})
    site = demo.site.model_copy(update={"surveys": (sitting, *demo.site.surveys[1:])})
    design = demo.model_copy(update={"site": site})
    with Session(store) as session, session.begin():
        account = session.query(Account).filter_by(name="Wren Alder").one()
        job = create_job(session, account, design, "")
        document = shots.put_away(session, job, design)
        assert shots.taken_out(session, job, document) == design
        shots._HELD = shots._Held()
        assert shots.taken_out(session, job, document) == design
        # The same readings without the faces are other shots.
        assert shots.taken_out(session, job, shots.put_away(session, job, demo)) == demo
