"""Records of the field over the API: once each, never changed, read as they are typed."""

import csv
import io
import uuid
from typing import Any

import httpx
import pytest
from sqlalchemy import Engine, text
from sqlalchemy.exc import DBAPIError

from openfurrow.demo.seed import CREW_LEAD
from tests.conftest import signed_in
from tests.web.test_jobs import edit


def book(client: httpx.Client, job: str, units: str = "us") -> dict[str, Any]:
    answer = client.get(f"{job}/field", params={"units": units})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def made(post: dict[str, Any], typed: str, **but: Any) -> dict[str, Any]:
    """A record as a phone sends it."""
    return {
        "id": str(uuid.uuid4()),
        "device": "phone",
        "kind": "depth",
        "of": post["of"],
        "typed": typed,
        "east_m": post["east_m"],
        "north_m": post["north_m"],
        "device_time": "2026-04-20T15:10:00Z",
        **but,
    }


def send(client: httpx.Client, job: str, *records: dict[str, Any], units: str = "us") -> httpx.Response:
    return client.post(f"{job}/field/records", json={"units": units, "records": list(records)})


def sent(client: httpx.Client, job: str, *records: dict[str, Any], units: str = "us") -> dict[str, Any]:
    """The book after records were sent."""
    answer = send(client, job, *records, units=units)
    assert answer.status_code == 200, answer.text
    assert answer.json()["kept"] == len(records)
    return book(client, job)


def kept(store: Engine) -> list[tuple[str, float, str]]:
    with store.connect() as connection:
        rows = connection.execute(text("select id, value, typed from field_record order by id"))
        return [(str(one.id), one.value, one.typed) for one in rows]


def test_a_record_is_kept_once_however_often_and_by_whatever_way_it_comes(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    posts = book(planner, job)["posts"]
    before = len(kept(store))
    day = [made(post, post["planned"]) for post in posts[:4]]
    for part, new in ((day[:2], 2), (day, 2), (day[1:], 0), (day, 0)):
        answer = send(planner, job, *part)
        assert answer.status_code == 200, answer.text
        assert answer.json() == {"added": new, "kept": len(part)}
    assert len(kept(store)) == before + 4
    found = book(planner, job)
    assert found["measured"] == 4
    assert [post["verdict"] for post in found["posts"][:5]] == ["sound"] * 4 + ["not yet"]
    # The same id with another value is the same row: what was sent first stands.
    assert send(planner, job, day[0] | {"typed": "1 ft"}).status_code == 200
    (value,) = (value for id_, value, _ in kept(store) if id_ == day[0]["id"])
    assert value == pytest.approx(posts[0]["planned_m"], abs=1e-6)


def test_a_depth_is_read_in_the_units_it_was_tapped_in_and_judged(
    planner: httpx.Client, job: str
) -> None:
    first, second, *_ = book(planner, job)["posts"]
    send(planner, job, made(first, "1 200 mm"), units="metric")
    found = sent(planner, job, made(second, "3' 11 1/4\"", kind="refusal", note="rock"))
    one, other = found["posts"][:2]
    assert (one["depth"], one["verdict"]) == ("3' 11 1/4\"", "not sound")
    assert other["refused"] and other["verdict"] == "not sound"
    assert "wind tips it" in other["words"] and "drill" in other["words"]
    assert "not cut before it carries" in other["words"]
    assert other["records"][0]["note"] == "rock" and other["records"][0]["by"] == "Wren Alder"
    checks = {check["key"]: check["level"] for check in found["checks"]}
    assert checks["carries"] == "stop"
    # What the phone looked up for it says the same.
    rungs = found["ladders"][other["ladder"]]
    step = found["step_m"]
    assert not rungs[int(1.2002 / step)]["carries"]
    assert rungs[round(other["planned_m"] / step)]["carries"]


@pytest.mark.parametrize(
    ("wrong", "path"),
    [
        ({"typed": "deep"}, "records.1.typed"),
        ({"typed": "90 ft"}, "records.1.typed"),
        ({"typed": "-2 ft"}, "records.1.typed"),
        ({"kind": "colour"}, "records.1.kind"),
        ({"id": "seven"}, "records.1.id"),
        ({"device_time": "2026-04-20T15:10:00"}, "records.1.device_time"),
        ({"east_m": 1e9}, "records.1.east_m"),
        ({"surprise": 1}, "records.1.surprise"),
    ],
)
def test_one_wrong_record_adds_none_of_them_and_is_named(
    store: Engine, planner: httpx.Client, job: str, wrong: dict[str, Any], path: str
) -> None:
    posts = book(planner, job)["posts"]
    before = kept(store)
    refused = send(planner, job, made(posts[0], "9 ft"), made(posts[1], "9 ft") | wrong)
    assert refused.status_code == 422, refused.text
    assert any(problem["path"].endswith(path) for problem in refused.json()["problems"])
    assert kept(store) == before


def test_rows_are_never_changed_and_an_id_is_nobody_elses(
    store: Engine, planner: httpx.Client, job: str
) -> None:
    post = book(planner, job)["posts"][0]
    mine = made(post, "9 ft")
    assert send(planner, job, mine).status_code == 200
    with pytest.raises(DBAPIError, match="never changed"), store.begin() as connection:
        connection.execute(text("update field_record set value = 1"))
    planner.post(f"{job}/members", json={"name": CREW_LEAD, "role": "editor"})
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as other:
        before = kept(store)
        assert send(other, job, made(post, "8 ft"), mine | {"typed": "1 ft"}).status_code == 422
        assert kept(store) == before


def test_a_rod_reading_is_kept_beside_the_depth_and_told_in_the_table(
    planner: httpx.Client, job: str
) -> None:
    post = book(planner, job)["posts"][0]
    found = sent(
        planner,
        job,
        made(post, post["planned"]),
        made(post, f"{(post['rod_m'] - 0.03) * 1000:.0f} mm", kind="top"),
    )
    one = found["posts"][0]
    assert one["verdict"] == "sound" and 'cut 1 3/16" off the top' in one["words"]
    assert one["rod_off"] == '1 3/16"'
    assert {record["kind"] for record in one["records"]} == {"depth", "top"}
    assert {check["key"]: check["level"] for check in found["checks"]}["tops"] == "look"
    rows = list(csv.DictReader(io.StringIO(planner.get(f"{job}/files/as-built.csv?units=us").text)))
    assert rows[0]["rod_off"] == '1 3/16"' and rows[0]["rod_planned"] == post["rod_top"]
    # Over the line of sight it reads below nought.
    above = send(planner, job, made(post, "-2' 1\"", kind="top"))
    assert above.status_code == 200, above.text


def test_two_hands_keep_both_until_somebody_settles_it(planner: httpx.Client, job: str) -> None:
    post = book(planner, job)["posts"][0]
    planner.post(f"{job}/members", json={"name": CREW_LEAD, "role": "editor"})
    send(planner, job, made(post, post["planned"]))
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as other:
        found = sent(other, job, made(post, "10' 6\""))
        one = found["posts"][0]
        assert one["verdict"] == "asked" and len(one["records"]) == 2
        assert "measure again" in one["words"]
        ids = [record["id"] for record in one["records"]]
        settled = sent(other, job, made(post, post["planned"], settles=ids))["posts"][0]
        assert settled["verdict"] == "sound" and len(settled["records"]) == 1


def test_who_may_only_look_adds_nothing_and_strangers_see_nothing(
    store: Engine, planner: httpx.Client
) -> None:
    own = f"/jobs/{planner.post('/jobs', json={'name': 'Kestrel barn'}).json()['id']}"
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as other:
        assert other.get(f"{own}/field").status_code == 404
        post = {"of": "1:1.1/1", "east_m": 0.0, "north_m": 0.0}
        assert send(other, own, made(post, "5 ft")).status_code == 404
        planner.post(f"{own}/members", json={"name": CREW_LEAD, "role": "viewer"})
        before = kept(store)
        assert send(other, own, made(post, "5 ft")).status_code == 403
        assert kept(store) == before
    # Before the footings can be planned there is nothing to measure, and it says what is missing.
    refused = planner.get(f"{own}/field")
    assert refused.status_code == 422 and refused.json()["title"] == "Not known yet"


def test_it_is_built_from_what_was_issued_and_not_from_anybodys_draft(
    planner: httpx.Client, job: str
) -> None:
    edit(planner, job, ("arrays.1.rows.modules_along", "12"))
    assert len(book(planner, job)["posts"]) == 9 and book(planner, job)["revision"] == 1
    planner.post(f"{job}/revisions", json={"note": "shorter"})
    shorter = book(planner, job)
    assert shorter["revision"] == 2 and not shorter["issued"] and len(shorter["posts"]) < 9
    planner.post(f"{job}/revisions", json={"note": "to build", "issue": True})
    edit(planner, job, ("arrays.1.rows.modules_along", "18"))
    planner.post(f"{job}/revisions", json={"note": "longer again"})
    issued = book(planner, job)
    assert issued["revision"] == 3 and issued["issued"]
    assert len(issued["posts"]) == len(shorter["posts"])


def test_the_as_built_table_holds_every_post(planner: httpx.Client, job: str) -> None:
    posts = book(planner, job)["posts"]
    send(planner, job, made(posts[0], posts[0]["planned"]), made(posts[1], "7' 2\"", kind="refusal"))
    answer = planner.get(f"{job}/files/as-built.csv", params={"units": "us"})
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    assert len(rows) == len(posts)
    assert [row["verdict"] for row in rows[:3]] == ["sound", "not sound", "not yet"]
    assert rows[1]["built"] == "7' 2\"" and rows[1]["by"] == "Wren Alder"
    assert rows[0]["difference"] == '0"'


def test_every_demo_has_a_field_book_of_what_goes_into_its_ground(planner: httpx.Client) -> None:
    """Legs in weights have no depth to measure; the book of their job opens all the same."""
    found = {}
    for line in planner.get("/jobs").json():
        found[line["name"]] = [post["array"] for post in book(planner, f"/jobs/{line['id']}")["posts"]]
    assert found["Quillay trout station"] == []
    assert all(posts for name, posts in found.items() if name != "Quillay trout station")


def test_parts_are_counted_onto_their_load_and_what_is_no_count_is_refused(
    planner: httpx.Client, job: str
) -> None:
    loads = book(planner, job)["loads"]
    part = next(one for load in loads for one in load["parts"] if (one["pieces"] or 0) > 1)
    here = {"of": part["of"], "east_m": 0.0, "north_m": 0.0}

    def seen(of_book: dict[str, Any]) -> dict[str, Any]:
        return next(p for load in of_book["loads"] for p in load["parts"] if p["of"] == part["of"])

    assert seen(sent(planner, job, made(here, part["much"], kind="loaded")))["verdict"] == "there"
    later = {"kind": "short", "note": "Ada brings it", "device_time": "2026-04-20T15:20:00Z"}
    found = seen(sent(planner, job, made(here, "1", **later)))
    assert found["verdict"] == "short" and found["words"].startswith("1 missing")
    assert found["records"][0]["note"] == "Ada brings it"
    for typed in ("0", "-2", "many", "2000000"):
        answer = send(planner, job, made(here, typed, kind="short"))
        assert answer.status_code == 422
        (problem,) = answer.json()["problems"]
        assert problem["path"] == "records.0.typed" and problem["label"] == "Missing"
        assert "from 1 to" in problem["allowed"]
