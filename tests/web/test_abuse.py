"""Wrong, hostile and simultaneous use: clear errors, nothing lost, nothing half-written."""

import json
import threading
from collections.abc import Callable

import httpx
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import one_array
from openfurrow.core.fields import fields_of
from openfurrow.demo.seed import PLANNER
from openfurrow.shots import served
from tests.conftest import signed_in
from tests.web.test_jobs import edit, show

words = st.one_of(
    st.text(max_size=40),
    st.from_regex(r"[-+]?\d{0,6}([.,]\d{0,6})?\s?[a-z'\"°%]{0,4}"),
    st.sampled_from(["nan", "inf", "1e999", "0/0", "1/0 in", "9" * 300, "\x00", "٣", "½", "'; drop"]),
)


PATHS = sorted(fields_of(one_array("a job")))


@settings(max_examples=120, suppress_health_check=list(HealthCheck))
@given(path=st.sampled_from(PATHS), text=words, units=st.sampled_from(["us", "metric"]))
def test_whatever_is_typed_is_taken_or_refused_in_words(
    planner: httpx.Client, job: str, path: str, text: str, units: str
) -> None:
    answer = edit(planner, job, (path, text), units=units)
    assert answer.status_code in (200, 422), answer.text
    if answer.status_code == 422:
        problem = answer.json()
        assert problem["detail"] and problem["problems"]
        assert problem["problems"][0]["message"]
    else:
        # What only people can say may be left open again: then there is no number, and it is asked for.
        view = answer.json()
        assert view["stage"]["answers"] or view["sheet"]["missing"]


@settings(max_examples=60, suppress_health_check=list(HealthCheck))
@given(
    document=st.recursive(
        st.none() | st.booleans() | st.floats(allow_nan=False) | st.text(max_size=8),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(["schema_version", "name", "site", "rows", "tilt_deg", "route", "x"]),
                inner,
                max_size=4,
            )
        ),
        max_leaves=12,
    )
)
def test_any_json_is_imported_or_refused_in_words(
    planner: httpx.Client, job: str, document: object
) -> None:
    answer = planner.put(f"{job}/design", content=json.dumps(document).encode())
    assert answer.status_code in (200, 422), answer.text
    if answer.status_code == 422:
        assert answer.json()["problems"]


@pytest.mark.parametrize(
    "body",
    [
        {},
        {"stage": "roof", "units": "us", "edits": []},
        {"stage": "rows", "units": "cubits", "edits": []},
        {"stage": "rows", "units": "us", "edits": [{"path": "x" * 500, "text": ""}]},
        {"stage": "rows", "units": "us", "edits": [{"path": "arrays.1.rows.rows", "text": "1" * 9000}]},
        {"stage": "rows", "units": "us", "edits": "all"},
    ],
)
def test_a_request_out_of_shape_names_its_field(planner: httpx.Client, job: str, body: dict) -> None:
    answer = planner.post(f"{job}/edits", json=body)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"]


def test_two_saves_at_once_make_one_revision_and_one_conflict(
    planner: httpx.Client, job: str, address: str
) -> None:
    """The database decides the race: each parent has one child."""
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"))
    answers: list[int] = []

    def save() -> None:
        with signed_in(address, PLANNER) as client:
            gate.wait()
            answers.append(client.post(f"{job}/revisions", json={"note": "at once"}).status_code)

    gate = threading.Barrier(4)
    threads = [threading.Thread(target=save) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    revisions = planner.get(f"{job}/revisions").json()
    assert len(revisions) == 1 + answers.count(201)
    assert [r["number"] for r in revisions] == list(range(len(revisions), 0, -1))
    assert set(answers) <= {201, 409} and 201 in answers


def test_many_edits_at_once_all_arrive(planner: httpx.Client, job: str, address: str) -> None:
    """Two tabs of one person write into one draft; neither overwrites the other's field."""
    edits = [
        ("arrays.1.rows.tilt_deg", "31"),
        ("trench.width_m", "16 in"),
        ("arrays.1.structure.span_limit_m", "7 ft"),
        ("materials.spare_posts", "3"),
        ("wiring.slack_m", "6 ft"),
    ]

    def send(path: str, text: str) -> None:
        with signed_in(address, PLANNER) as client:
            gate.wait()
            assert edit(client, job, (path, text)).status_code == 200

    show(planner, job)
    gate = threading.Barrier(len(edits))
    threads = [threading.Thread(target=send, args=pair) for pair in edits]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    found = planner.get(f"{job}/compare", params={"before": 1}).json()
    assert {field["path"] for field in found["fields"]} == {path for path, _ in edits}


def test_a_draft_keeps_its_last_steps_and_no_more(planner: httpx.Client, job: str) -> None:
    from openfurrow.store import drafts

    kept = drafts.MOST_STEPS
    drafts.MOST_STEPS = 5
    try:
        for number in range(9):
            path = "arrays.1.rows.tilt_deg" if number % 2 else "arrays.1.rows.rows"
            edit(planner, job, (path, str(10 + number)))
    finally:
        drafts.MOST_STEPS = kept
    steps = show(planner, job)["draft"]["steps"]
    assert len(steps) == 5
    assert show(planner, job)["draft"]["position"] == steps[-1]["number"]


def test_the_screens_are_served_for_any_address_but_the_api_is_not(address: str) -> None:
    for path in ("/", "/jobs/x/rows", "/anything"):
        page = httpx.get(f"{address}{path}")
        assert page.status_code == 200 and '<div id="root">' in page.text
    assert httpx.get(f"{address}/api/anything").status_code == 404
    outside = httpx.get(f"{address}/..%2f..%2fpyproject.toml")
    assert "openfurrow" not in outside.text


def test_a_database_that_is_away_is_said_plainly_and_stores_nothing() -> None:
    from openfurrow.store.cluster import private_cluster, throwaway_home
    from openfurrow.store.database import migrate, open_database
    from openfurrow.web.app import create_app

    with throwaway_home() as home:
        with private_cluster(home, lasting=False) as url:
            engine = open_database(url)
            migrate(engine)
        with served(create_app(engine)) as address:
            answer = httpx.post(f"{address}/api/session", json={"name": "x", "password": "y" * 9})
        engine.dispose()
    assert answer.status_code == 503
    assert answer.headers["content-type"] == "application/problem+json"
    assert "Nothing was stored" in answer.json()["detail"]


def test_a_page_may_run_nothing_but_its_own(address: str) -> None:
    policy = httpx.get(address).headers["content-security-policy"]
    assert "default-src 'self'" in policy and "unsafe-eval" not in policy
    assert "script-src" not in policy and "http" not in policy


def at_once(count: int, work: Callable[[], int]) -> list[int]:
    """Run the same work in threads that begin together; the status codes."""
    gate, answers = threading.Barrier(count), []

    def run() -> None:
        gate.wait()
        answers.append(work())

    threads = [threading.Thread(target=run) for _ in range(count)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


def test_many_tabs_that_open_a_job_at_once_share_one_draft(
    planner: httpx.Client, job: str, address: str
) -> None:
    cookie = {"Cookie": f"furrow_sign_in={planner.cookies['furrow_sign_in']}"}
    answers = at_once(
        8, lambda: httpx.get(f"{address}/api{job}/stages/rows", headers=cookie, timeout=30).status_code
    )
    assert answers == [200] * 8
    assert len(show(planner, job)["draft"]["steps"]) == 1


def test_a_name_taken_twice_at_once_is_given_once(address: str, planner: httpx.Client) -> None:
    body = {"name": "Twice Asked", "password": "long enough"}
    answers = at_once(
        5, lambda: httpx.post(f"{address}/api/accounts", json=body, timeout=30).status_code
    )
    assert sorted(answers) == [200, 422, 422, 422, 422]
