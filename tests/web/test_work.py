"""Long work in the background: queued with what it is about, done by a worker, given up, lost."""

import io
import json
import threading
import time
import uuid
import zipfile
from collections.abc import Callable

import httpx
import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.jobs import worker
from openfurrow.store.work import begin
from tests.conftest import running, signed_in
from tests.web.test_jobs import edit


def asked(client: httpx.Client, job: str) -> str:
    answer = client.post(f"{job}/work", json={"kind": "package"})
    assert answer.status_code == 202, answer.text
    assert answer.json()["state"] == "waiting"
    return f"{job}/work/{answer.json()['id']}"


def until(client: httpx.Client, address: str, states: set[str]) -> dict:
    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        view = client.get(address).json()
        if view["state"] in states:
            return view
        time.sleep(0.1)
    raise AssertionError(f"still {view}")


def queued(store: Engine) -> list[str]:
    with store.connect() as connection:
        rows = connection.execute(text("select args from procrastinate_jobs where status = 'todo'"))
        return [row.args["work_id"] for row in rows]


def test_the_start_command_runs_a_worker_that_makes_the_archive(
    database_url: str, store: Engine, planner: httpx.Client, job: str, demo: Design
) -> None:
    with running(database_url) as address, signed_in(address, "Wren Alder") as client:
        edit(client, job, ("arrays.1.rows.tilt_deg", "30"))
        work = asked(client, job)
        # What is changed meanwhile is not in it: the archive is of what was asked for.
        edit(client, job, ("arrays.1.rows.tilt_deg", "20"))
        view = until(client, work, {"done", "failed"})
        assert (view["state"], view["share"]) == ("done", 1.0), view
        found = client.get(f"{work}/result")
    assert 'filename="larkspur-ferry-landing.zip"' in found.headers["content-disposition"]
    archive = zipfile.ZipFile(io.BytesIO(found.content))
    assert archive.testzip() is None
    names = {name.removeprefix("larkspur-ferry-landing-") for name in archive.namelist()}
    assert {"design.json", "stakes.csv", "materials.csv", "site.dxf"} <= names
    design = json.loads(archive.read("larkspur-ferry-landing-design.json"))
    assert design["arrays"][0]["rows"]["tilt_deg"] == 30.0


def test_it_is_queued_with_what_was_asked_or_not_at_all(
    planner: httpx.Client, job: str, store: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = asked(planner, job)
    assert queued(store)[-1] == first.split("/")[-1]
    before = queued(store)

    def falls(*_: object) -> None:
        raise RuntimeError

    monkeypatch.setattr("openfurrow.web.work._view", falls)
    assert planner.post(f"{job}/work", json={"kind": "package"}).status_code == 500
    assert queued(store) == before


def slow(design: Design, records: object, how: object, tell: Callable[[float, str], None]) -> bytes:
    tell(0.4, "thinking")
    time.sleep(30)
    return b""


def falls(design: Design, records: object, how: object, tell: Callable[[float, str], None]) -> bytes:
    raise ValueError("what the owner said")


def work_id(address: str) -> uuid.UUID:
    return uuid.UUID(address.split("/")[-1])


def test_work_tells_how_far_it_is_and_ends_when_it_is_given_up(
    planner: httpx.Client, job: str, store: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(worker, "KINDS", {"package": slow})
    work = asked(planner, job)
    at_work = threading.Thread(target=worker.carry_out, args=(store, work_id(work)))
    at_work.start()
    view = until(planner, work, {"working"})
    deadline = time.monotonic() + 15
    while view["words"] != "thinking" and time.monotonic() < deadline:
        view = planner.get(work).json()
    assert (view["words"], view["share"]) == ("thinking", 0.4)
    assert planner.get(f"{work}/result").status_code == 404
    assert planner.delete(work).status_code == 204
    at_work.join(timeout=5)
    assert not at_work.is_alive()
    assert planner.get(work).json()["state"] == "cancelled"


def test_work_that_falls_says_so_without_what_was_typed(
    planner: httpx.Client, job: str, store: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(worker, "KINDS", {"package": falls})
    work = asked(planner, job)
    worker.carry_out(store, work_id(work))
    view = planner.get(work).json()
    assert view["state"] == "failed" and "owner" not in view["words"]


def test_a_worker_that_was_killed_is_told_as_lost_and_one_may_ask_again(
    planner: httpx.Client, job: str, store: Engine
) -> None:
    work = asked(planner, job)
    with Session(store) as session, session.begin():
        assert begin(session, work_id(work)) is not None
        session.execute(text("update work set heard_at = now() - interval '1 minute'"))
    view = planner.get(work).json()
    assert view["state"] == "failed" and "ask again" in view["words"]
    again = asked(planner, job)
    worker.carry_out(store, work_id(again))
    assert planner.get(again).json()["state"] == "done"
    assert planner.get(work).json()["state"] == "cancelled"


def test_work_is_seen_by_who_asked_for_it_only(
    planner: httpx.Client, crew_lead: httpx.Client, job: str
) -> None:
    work = asked(planner, job)
    for method, path in (("GET", work), ("DELETE", work), ("GET", f"{work}/result")):
        assert crew_lead.request(method, path).status_code == 404
    assert planner.get(work).json()["state"] == "waiting"
