"""Several tabs and people at once: late edits, locks, a full pool, answers kept, sign-ins counted."""

import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from sqlalchemy import Engine, text

from openfurrow.demo.seed import PASSWORD, PLANNER
from tests.web.test_jobs import edit, given, show

THINGS = "site.features"


def named(client: httpx.Client, job: str) -> list[str]:
    """What is there, by name."""
    lists = show(client, job, "site")["stage"]["lists"]
    return [item["values"]["name"] for item in next(f for f in lists if f["path"] == THINGS)["items"]]


def position(client: httpx.Client, job: str) -> int:
    return show(client, job)["draft"]["position"]


@pytest.fixture
def oaks(planner: httpx.Client, job: str) -> int:
    """Three oaks after what the demo has; gives the first one's number in the list."""
    first = len(named(planner, job))
    for number in range(3):
        edit(planner, job, (f"{THINGS}.+oak{number}", "tree"))
        edit(
            planner,
            job,
            (f"{THINGS}.oak{number}.name", f"oak {number + 1}"),
            (f"{THINGS}.oak{number}.points", f"{60 + 9 * number}, 40"),
        )
    return first


def test_a_stale_screen_changes_what_was_meant(planner: httpx.Client, job: str, oaks: int) -> None:
    seen = position(planner, job)
    assert edit(planner, job, (f"{THINGS}.oak0", ""), step=seen).status_code == 200
    # The other tab still shows three: its second is oak 2.
    late = edit(planner, job, (f"{THINGS}.oak1.name", "the old oak"), step=seen)
    assert late.status_code == 200
    assert named(planner, job)[oaks:] == ["the old oak", "oak 3"]


def test_a_stale_screen_takes_out_what_was_meant(planner: httpx.Client, job: str, oaks: int) -> None:
    seen = position(planner, job)
    edit(planner, job, (f"{THINGS}.oak0", ""), step=seen)
    assert edit(planner, job, (f"{THINGS}.oak1", ""), step=seen).status_code == 200
    assert named(planner, job)[oaks:] == ["oak 3"]


def test_a_late_edit_of_what_another_tab_took_out_is_refused_with_both_sides(
    planner: httpx.Client, job: str, oaks: int
) -> None:
    seen = position(planner, job)
    edit(planner, job, (f"{THINGS}.oak1", ""), step=seen)
    late = edit(planner, job, (f"{THINGS}.oak1.name", "the old oak"), step=seen)
    assert late.status_code == 409
    (clash,) = late.json()["clashes"]
    assert clash["path"] == THINGS and "the old oak" in clash["mine"]
    assert named(planner, job)[oaks:] == ["oak 1", "oak 3"]


def test_a_late_edit_of_the_same_field_is_refused_with_both_sides(
    planner: httpx.Client, job: str
) -> None:
    seen = position(planner, job)
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"), step=seen)
    late = edit(planner, job, ("arrays.1.rows.tilt_deg", "20"), ("trench.width_m", "16 in"), step=seen)
    assert late.status_code == 409
    (clash,) = late.json()["clashes"]
    assert clash["path"] == "arrays.1.rows.tilt_deg"
    assert (clash["mine"], clash["theirs"]) == ("20.0°", "30.0°")
    assert given(show(planner, job), "arrays.1.rows.tilt_deg") == "30.0°"
    # Of the same edit sent again, because its answer was lost, nothing is left to do.
    again = edit(planner, job, ("arrays.1.rows.tilt_deg", "30"), step=seen)
    assert again.status_code == 200 and again.json()["moved"] == []


def test_an_edit_of_a_list_must_say_its_step_and_one_long_gone_is_refused(
    planner: httpx.Client, job: str, oaks: int
) -> None:
    body = {"stage": "site", "units": "us", "edits": [{"path": f"{THINGS}.oak0.name", "text": "x"}]}
    missing = planner.post(f"{job}/edits", json=body)
    assert missing.status_code == 422 and missing.json()["problems"][0]["path"] == "step"
    gone = planner.post(f"{job}/edits", json=body | {"step": 900})
    assert gone.status_code == 409
    assert named(planner, job)[oaks] == "oak 1"


def test_edits_of_different_things_are_steps_of_their_own(
    planner: httpx.Client, job: str, oaks: int
) -> None:
    before = len(show(planner, job)["draft"]["steps"])
    edit(planner, job, (f"{THINGS}.oak0.name", "ash 1"))
    edit(planner, job, (f"{THINGS}.oak1.name", "ash 2"))
    edit(planner, job, (f"{THINGS}.oak1.name", "ash 2b"))
    assert len(show(planner, job)["draft"]["steps"]) == before + 2


def test_a_step_that_was_left_behind_gives_its_number_to_no_other(
    planner: httpx.Client, job: str
) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"))
    dropped = position(planner, job)
    planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": 0})
    edit(planner, job, ("trench.width_m", "16 in"))
    steps = [step["number"] for step in show(planner, job)["draft"]["steps"]]
    assert dropped not in steps and steps == sorted(steps)
    # An edit that was on its way when the other tab undid it still finds what it was made on.
    late = edit(planner, job, ("arrays.1.rows.rows", "2"), step=dropped)
    assert late.status_code == 200
    assert given(show(planner, job), "arrays.1.rows.tilt_deg") == "34.0°"
    assert given(show(planner, job), "arrays.1.rows.rows") == "2"
    gone = planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": dropped})
    assert gone.status_code == 422


def test_looking_writes_nothing_and_waits_for_no_lock(
    planner: httpx.Client, job: str, store: Engine
) -> None:
    def drafts() -> int:
        with store.connect() as connection:
            return connection.execute(text("select count(*) from draft")).scalar_one()

    show(planner, job)
    assert drafts() == 0
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"))
    assert drafts() == 1
    with store.begin() as held:
        held.execute(text("select * from draft for update"))
        held.execute(text("select * from job for update"))
        assert show(planner, job, "trench")["draft"]["changed"]
        for path in ("revisions", "scene", "compare?before=1", "files/stakes.csv", "members"):
            assert planner.get(f"{job}/{path}").status_code == 200
        waiting = edit(planner, job, ("arrays.1.rows.tilt_deg", "31"))
        assert waiting.status_code == 503 and int(waiting.headers["retry-after"]) >= 1
    assert edit(planner, job, ("arrays.1.rows.tilt_deg", "31")).status_code == 200


def test_sixty_requests_at_once_are_all_answered(planner: httpx.Client, job: str) -> None:
    cookies = {"furrow_sign_in": planner.cookies["furrow_sign_in"]}
    base = f"{str(planner.base_url).rstrip('/')}{job}"

    def ask(number: int) -> int:
        stage = ("rows", "site", "trench", "footings")[number % 4]
        return httpx.get(f"{base}/stages/{stage}", cookies=cookies, timeout=30).status_code

    with ThreadPoolExecutor(60) as pool:
        assert set(pool.map(ask, range(60))) == {200}


def test_a_full_pool_says_when_to_come_again(planner: httpx.Client, job: str, store: Engine) -> None:
    held = [store.connect() for _ in range(store.pool.size())]  # type: ignore[attr-defined]
    try:
        answer = planner.get(f"{job}/stages/rows")
    finally:
        for connection in held:
            connection.close()
    assert answer.status_code == 503 and int(answer.headers["retry-after"]) >= 1
    assert planner.get(f"{job}/stages/rows").status_code == 200


def test_who_has_a_screen_already_is_told_so_until_it_changes(
    planner: httpx.Client, crew_lead: httpx.Client, job: str
) -> None:
    first = planner.get(f"{job}/stages/rows")
    assert first.headers["cache-control"] == "private, no-cache"
    have = {"If-None-Match": first.headers["etag"]}
    same = planner.get(f"{job}/stages/rows", headers=have)
    assert (same.status_code, same.content) == (304, b"")
    plain = planner.get(f"{job}/stages/rows", headers={"Accept-Encoding": "identity"})
    assert "content-encoding" not in plain.headers and plain.json() == first.json()
    assert planner.get(f"{job}/stages/rows?units=metric", headers=have).status_code == 200
    assert crew_lead.get(f"{job}/stages/rows", headers=have).status_code == 200
    edit(planner, job, ("trench.width_m", "16 in"))
    changed = planner.get(f"{job}/stages/rows", headers=have)
    assert changed.status_code == 200 and changed.json()["draft"]["changed"]
    planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": 0})
    back = planner.get(f"{job}/stages/rows").json()
    assert not back["draft"]["changed"] and len(back["draft"]["steps"]) == 2
    planner.post(f"{job}/revisions", json={"note": "as it is"})
    assert crew_lead.get(f"{job}/stages/rows").json()["draft"]["base"] == 2
    assert planner.get("/jobs").headers["cache-control"] == "no-store"


def test_the_list_of_jobs_plans_nothing_it_has_planned(
    planner: httpx.Client, job: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = planner.get("/jobs").json()

    def planned(design: object) -> None:
        raise AssertionError("planned again")

    monkeypatch.setattr("openfurrow.web.views.planned", planned)
    assert planner.get("/jobs").json() == first


@pytest.fixture
def gate(address: str, store: Engine) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=f"{address}/api", timeout=30) as client:
        yield client


def test_guessing_a_password_is_stopped_and_a_right_one_forgives(gate: httpx.Client) -> None:
    def tried(password: str, name: str = PLANNER) -> httpx.Response:
        return gate.post("/session", json={"name": name, "password": password})

    assert [tried(f"guess {n}").status_code for n in range(9)] == [422] * 9
    assert tried(PASSWORD).status_code == 200
    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(lambda n: tried(f"guess {n}").status_code, range(30)))
    # Many at once are counted before any of them is looked at.
    assert answers.count(422) == 10 and answers.count(429) == 20
    stopped = tried(PASSWORD)
    assert stopped.status_code == 429 and 0 < int(stopped.headers["retry-after"]) <= 900
    # Others may go on, until the address itself has guessed too often.
    assert tried(PASSWORD, "Tobin Reed").status_code == 200
    others = [tried("guess", f"somebody {n}").status_code for n in range(60)]
    assert others.count(422) < 60 and others[-1] == 429


def test_changes_come_from_our_own_pages_and_hosts_we_go_by(
    planner: httpx.Client, job: str, address: str
) -> None:
    body = {"stage": "rows", "units": "us", "edits": [{"path": "arrays.1.rows.rows", "text": "2"}]}

    def sent(**headers: str) -> int:
        named = {name.replace("_", "-"): value for name, value in headers.items()}
        return planner.post(f"{job}/edits", json=body, headers=named).status_code

    assert sent(Origin="http://elsewhere.test") == 403
    assert sent(Origin="null") == 403
    assert sent(Sec_Fetch_Site="cross-site") == 403
    assert sent(Host="elsewhere.test") == 400
    assert given(show(planner, job), "arrays.1.rows.rows") == "1"
    assert sent(Origin=address, Sec_Fetch_Site="same-origin") == 200


def test_a_fall_keeps_its_headers_and_tells_nothing_of_what_was_typed(
    planner: httpx.Client, job: str, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    typed = str(47 * 100 + 11)

    def falls(*_: object) -> None:
        raise RuntimeError(f"the owner's gate code is {typed}")

    monkeypatch.setattr("openfurrow.web.stages.apply", falls)
    answer = edit(planner, job, ("arrays.1.rows.rows", "2"))
    assert answer.status_code == 500
    assert answer.headers["content-type"] == "application/problem+json"
    assert "frame-ancestors 'none'" in answer.headers["content-security-policy"]
    logged = "".join(record.getMessage() for record in caplog.records)
    assert typed not in answer.text + logged
    assert "RuntimeError" in logged and "stages.py" in logged


def test_behind_tls_the_cookie_is_secure_and_the_browser_is_told_to_stay(
    address: str, store: Engine
) -> None:
    body = {"name": PLANNER, "password": PASSWORD}
    plain = httpx.post(f"{address}/api/session", json=body)
    assert "secure" not in plain.headers["set-cookie"].lower()
    assert "strict-transport-security" not in plain.headers
    tls = httpx.post(f"{address}/api/session", json=body, headers={"X-Forwarded-Proto": "https"})
    assert "secure" in tls.headers["set-cookie"].lower()
    assert "max-age" in tls.headers["strict-transport-security"]


def test_the_server_says_whether_it_lives_and_whether_it_is_ready(address: str) -> None:
    assert httpx.get(f"{address}/healthz").json() == {"status": "up"}
    assert httpx.get(f"{address}/readyz").json() == {"status": "ready"}


def test_when_a_client_leaves_its_file_is_no_longer_read(planner: httpx.Client, job: str) -> None:
    """Many who give up at once must not keep the turns that others wait for."""
    slow = b"1,2,3\n" * 190_000
    for _ in range(6):
        with pytest.raises(httpx.TimeoutException):
            planner.post(f"{job}/ground/look", content=slow, params={"units": "us"}, timeout=0.15)
    time.sleep(0.3)
    answer = planner.post(
        f"{job}/ground/look", content=b"1,2,3\n4,5,6\n7,1,2", timeout=5, params={"units": "us"}
    )
    assert answer.status_code == 200
