"""The API against real PostgreSQL: drafts, steps, revisions, conflicts, files, who may see what."""

import csv
import io
import json
import math
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from shapely.geometry import shape
from sqlalchemy import Engine, text
from sqlalchemy.exc import ProgrammingError

from openfurrow.core.design import BUILT_STAGES, PLACES, Design
from openfurrow.core.plan import Plan
from openfurrow.demo.seed import CREW_LEAD, PASSWORD, PLANNER
from tests.conftest import running, signed_in


def edit(
    client: httpx.Client,
    job: str,
    *edits: tuple[str, str],
    stage: str = "rows",
    units: str = "us",
    step: int | None = None,
) -> httpx.Response:
    """Edits as a screen sends them: of a list, on the step that is shown."""
    if step is None and any(path.count(".") > 1 for path, _ in edits):
        step = show(client, job)["draft"]["position"]
    body = {
        "stage": stage,
        "units": units,
        "step": step,
        "edits": [{"path": path, "text": words} for path, words in edits],
    }
    return client.post(f"{job}/edits", json=body)


def show(client: httpx.Client, job: str, stage: str = "rows") -> dict:
    answer = client.get(f"{job}/stages/{stage}")
    assert answer.status_code == 200, answer.text
    return answer.json()


def given(view: dict, path: str) -> str:
    return next(item["text"] for item in view["stage"]["givens"] if item["path"] == path)


def answer(view: dict, key: str) -> str:
    return next(item["text"] for item in view["stage"]["answers"] if item["key"] == key)


def test_the_list_shows_the_demo_with_its_numbers(planner: httpx.Client) -> None:
    job, *others = planner.get("/jobs").json()
    assert [other["name"] for other in others] == [
        "Quillay trout station",
        "Serra do Grifo observatory",
    ]
    assert (job["name"], job["role"], job["modules"]) == ("Larkspur Ferry landing", "owner", 36)
    # Two for posts and trench, one for the days: all for the owner who has not answered.
    assert job["stops"] == 3
    assert [item["key"] for item in job["headlines"]] == ["pitch", "depth", "length"]


@pytest.mark.parametrize("stage", PLACES)
def test_every_stage_has_givens_drawings_answers(planner: httpx.Client, job: str, stage: str) -> None:
    view = show(planner, job, stage)
    assert view["stage"]["answers"] and view["stage"]["drawings"]
    # Nothing is given where what was measured speaks.
    assert bool(view["stage"]["givens"]) is (stage not in BUILT_STAGES)
    assert all(mark["points"] for sheet in view["stage"]["drawings"] for mark in sheet["marks"])
    assert {part["stage"] for part in view["sheet"]["cut"]["parts"]} == {
        item["stage"] for item in view["sheet"]["stages"]
    }


def test_an_edit_is_kept_and_says_which_answers_moved(planner: httpx.Client, job: str) -> None:
    before = show(planner, job)
    after = edit(planner, job, ("arrays.1.rows.tilt_deg", "25")).json()
    assert answer(after, "pitch") != answer(before, "pitch")
    moved = {(m["stage"], m["key"]): m for m in after["moved"]}
    assert moved["rows", "pitch"]["before"] == answer(before, "pitch")
    assert {"rows", "footings", "frame"} <= {stage for stage, _ in moved}
    assert given(show(planner, job), "arrays.1.rows.tilt_deg") == "25.0°"


def test_a_wrong_edit_changes_nothing_and_names_the_field(planner: httpx.Client, job: str) -> None:
    before = show(planner, job)
    answer = edit(planner, job, ("arrays.1.rows.tilt_deg", "99"), ("arrays.1.rows.rows", "3"))
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    problem = answer.json()["problems"][0]
    assert (problem["path"], problem["allowed"]) == ("arrays.1.rows.tilt_deg", "from 0.0° to 75.0°")
    assert problem["remedy"]
    assert show(planner, job) == before


def test_feet_and_metres_are_both_read(planner: httpx.Client, job: str) -> None:
    feet = edit(planner, job, ("arrays.1.rows.lower_edge_m", "3'6\"")).json()
    assert given(feet, "arrays.1.rows.lower_edge_m") == "3' 6\""
    metres = edit(planner, job, ("arrays.1.rows.lower_edge_m", "1.0668 m"), units="metric").json()
    assert given(metres, "arrays.1.rows.lower_edge_m") == "1\u202f067 mm"
    assert metres["moved"] == []


def test_undo_and_redo_reach_any_step(planner: httpx.Client, job: str) -> None:
    first = show(planner, job)
    edit(planner, job, ("arrays.1.rows.tilt_deg", "25"))
    edit(planner, job, ("arrays.1.rows.rows", "2"))
    steps = show(planner, job)["draft"]["steps"]
    assert [step["label"] for step in steps[1:]] == ["Tilt 34.0° → 25.0°", "Rows 1 → 2"]

    def go(step: int) -> dict:
        return planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": step}).json()

    back = go(steps[0]["number"])
    assert given(back, "arrays.1.rows.tilt_deg") == given(first, "arrays.1.rows.tilt_deg")
    assert not back["draft"]["changed"]
    assert given(go(steps[2]["number"]), "arrays.1.rows.rows") == "2"
    go(steps[1]["number"])
    edit(planner, job, ("arrays.1.rows.lower_edge_m", "1 m"))
    labels = [step["label"] for step in show(planner, job)["draft"]["steps"]]
    assert labels[-1].startswith("Lower edge") and "Rows 1 → 2" not in labels
    assert (
        planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": 999}).status_code
        == 422
    )


def test_typing_in_one_field_is_one_step(planner: httpx.Client, job: str) -> None:
    for words in ("3", "30", "30.5"):
        edit(planner, job, ("arrays.1.rows.tilt_deg", words))
    assert [step["label"] for step in show(planner, job)["draft"]["steps"][1:]] == [
        "Tilt 34.0° → 30.5°"
    ]


def test_a_draft_survives_a_restart_of_the_server(
    planner: httpx.Client, job: str, database_url: str
) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "21"))
    with running(database_url) as address:
        kept = {"Cookie": f"furrow_sign_in={planner.cookies['furrow_sign_in']}"}
        view = httpx.get(f"{address}/api{job}/stages/rows", headers=kept).json()
    assert given(view, "arrays.1.rows.tilt_deg") == "21.0°"


def test_a_save_makes_a_revision_with_author_time_and_note(planner: httpx.Client, job: str) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "28"))
    saved = planner.post(f"{job}/revisions", json={"note": "lower for wind"})
    assert saved.status_code == 201
    newest, first = planner.get(f"{job}/revisions").json()
    assert (newest["number"], newest["author"], newest["note"]) == (2, PLANNER, "lower for wind")
    assert newest["saved_at"] > first["saved_at"]
    view = show(planner, job)
    assert (view["draft"]["base"], view["draft"]["changed"]) == (2, False)


def test_compare_tells_what_was_decided_and_what_followed(planner: httpx.Client, job: str) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "28"))
    found = planner.get(f"{job}/compare", params={"before": 1}).json()
    assert [(f["path"], f["before"], f["after"]) for f in found["fields"]] == [
        ("arrays.1.rows.tilt_deg", "34.0°", "28.0°")
    ]
    assert {"pitch", "depth"} <= {a["key"] for a in found["answers"]}
    planner.post(f"{job}/revisions", json={})
    same = planner.get(f"{job}/compare", params={"before": 2, "after": 2}).json()
    assert same == {"fields": [], "answers": []}
    assert planner.get(f"{job}/compare", params={"before": 9}).status_code == 404


def test_going_back_to_a_revision_is_a_step_like_any_other(planner: httpx.Client, job: str) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "28"))
    planner.post(f"{job}/revisions", json={})
    back = planner.post(f"{job}/revisions/1/restore").json()
    assert back["draft"]["changed"]
    assert back["draft"]["steps"][-1]["label"] == "back to revision 1"
    assert given(show(planner, job), "arrays.1.rows.tilt_deg") == "34.0°"


def test_a_revision_is_never_changed(planner: httpx.Client, job: str, store: Engine) -> None:
    with pytest.raises(ProgrammingError, match="never changed") as error, store.begin() as connection:
        connection.execute(text("update revision set note = 'x'"))
    assert error


def test_two_who_save_over_each_other_see_both_sides(
    planner: httpx.Client, crew_lead: httpx.Client, job: str
) -> None:
    edit(planner, job, ("arrays.1.rows.tilt_deg", "30"), ("arrays.1.rows.rows", "2"))
    edit(crew_lead, job, ("arrays.1.rows.tilt_deg", "26"), ("trench.width_m", "16 in"))
    assert crew_lead.post(f"{job}/revisions", json={"note": "bucket"}).status_code == 201
    clash = planner.post(f"{job}/revisions", json={"note": "two rows"})
    assert clash.status_code == 409
    body = clash.json()
    assert (body["head"], body["author"], body["note"]) == (2, CREW_LEAD, "bucket")
    assert {c["path"]: (c["mine"], c["theirs"]) for c in body["clashes"]} == {
        "arrays.1.rows.tilt_deg": ("30.0°", "26.0°"),
        "arrays.1.rows.rows": ("2", ""),
        "trench.width_m": ("", "1' 4\""),
    }
    # Nothing is lost: the draft is still there, and the two are saved together by choice.
    assert given(show(planner, job), "arrays.1.rows.rows") == "2"
    settled = planner.post(
        f"{job}/revisions", json={"note": "both", "onto": 2, "take_theirs": ["arrays.1.rows.tilt_deg"]}
    )
    assert settled.json()["number"] == 3
    view = show(planner, job)
    assert given(view, "arrays.1.rows.tilt_deg") == "26.0°" and given(view, "arrays.1.rows.rows") == "2"
    assert given(show(planner, job, "trench"), "trench.width_m") == "1' 4\""
    # The other one, with nothing of their own, follows.
    assert given(show(crew_lead, job), "arrays.1.rows.rows") == "2"


def test_two_who_add_to_one_list_both_find_theirs_in_it(
    planner: httpx.Client, crew_lead: httpx.Client, job: str
) -> None:
    edit(planner, job, ("site.features.+", "drain"), ("site.features.3.depth_m", "4 ft"))
    edit(crew_lead, job, ("site.features.+", "tree"), ("site.tickets.3.note", "called twice"))
    assert crew_lead.post(f"{job}/revisions", json={"note": "the ash"}).status_code == 201
    clash = planner.post(f"{job}/revisions", json={"note": "the drain"}).json()
    sides = {c["path"]: (c["together"], c["mine"] != "", c["theirs"] != "") for c in clash["clashes"]}
    assert sides == {"site.features": (True, True, True), "site.tickets": (False, False, True)}
    assert (
        planner.post(
            f"{job}/revisions", json={"note": "both", "onto": 2, "take_theirs": ["site.tickets"]}
        ).status_code
        == 201
    )
    things = next(
        found
        for found in show(planner, job, "site")["stage"]["lists"]
        if found["path"] == "site.features"
    )["items"]
    assert [thing["title"] for thing in things[-2:]] == ["tree", "drain"]
    assert things[3]["values"]["depth_m"] == "4' 0\""


@pytest.fixture
def stranger(address: str, store: Engine) -> Iterator[httpx.Client]:
    """Someone who has not signed in."""
    with httpx.Client(base_url=f"{address}/api") as client:
        yield client


def test_only_members_see_a_job(planner: httpx.Client, job: str, stranger: httpx.Client) -> None:
    calls = [
        ("GET", f"{job}/stages/rows", None),
        ("GET", f"{job}/revisions", None),
        ("GET", f"{job}/files/design.json", None),
        ("GET", f"{job}/members", None),
        ("GET", f"{job}/compare?before=1", None),
        ("POST", f"{job}/revisions", {}),
        ("POST", f"{job}/revisions/1/restore", None),
        ("POST", f"{job}/step", {"stage": "rows", "units": "us", "step": 0}),
        ("POST", f"{job}/edits", {"stage": "rows", "units": "us", "edits": []}),
        ("PUT", f"{job}/design", {"schema_version": 2, "name": "x"}),
        ("POST", f"{job}/members", {"name": "x", "role": "viewer"}),
    ]
    for method, path, body in calls:
        assert stranger.request(method, path, json=body).status_code == 401, path
    made = stranger.post("/accounts", json={"name": "Someone Else", "password": "long enough"})
    assert made.status_code == 200
    assert stranger.get("/jobs").json() == []
    for method, path, body in calls:
        assert stranger.request(method, path, json=body).status_code == 404, path


def test_a_reader_may_look_but_not_change(
    planner: httpx.Client, job: str, stranger: httpx.Client
) -> None:
    reader = stranger
    reader.post("/accounts", json={"name": "Inspector", "password": "long enough"})
    shared = planner.post(f"{job}/members", json={"name": "Inspector", "role": "viewer"})
    assert shared.status_code == 204
    assert show(reader, job)["role"] == "viewer"
    assert edit(reader, job, ("arrays.1.rows.tilt_deg", "20")).status_code == 403
    assert reader.post(f"{job}/revisions", json={}).status_code == 403
    assert reader.post(f"{job}/members", json={"name": PLANNER}).status_code == 403
    assert planner.post(f"{job}/members", json={"name": "Nobody"}).status_code == 404


def test_signing_in_and_out(address: str, store: Engine, stranger: httpx.Client) -> None:
    client = stranger
    assert client.get("/session").status_code == 401
    wrong = client.post("/session", json={"name": PLANNER, "password": "guess"})
    assert wrong.status_code == 422 and "do not match" in wrong.json()["detail"]
    short = client.post("/accounts", json={"name": "New", "password": "short"})
    assert "at least 8" in short.json()["detail"]
    taken = client.post("/accounts", json={"name": PLANNER, "password": PASSWORD})
    assert "taken" in taken.json()["detail"]
    with signed_in(address, PLANNER) as entered:
        assert entered.get("/session").json() == {"name": PLANNER}
        cookie = entered.cookies["furrow_sign_in"]
        assert entered.delete("/session").status_code == 204
        kept = httpx.get(f"{address}/api/session", headers={"Cookie": f"furrow_sign_in={cookie}"})
        assert kept.status_code == 401
    with store.connect() as connection:
        assert PASSWORD not in str(connection.execute(text("select * from account")).all())


def test_files_are_what_other_programs_read(
    planner: httpx.Client, job: str, demo: Design, demo_plan: Plan
) -> None:
    design = planner.get(f"{job}/files/design.json")
    assert Design.model_validate(design.json()) == demo
    assert 'filename="larkspur-ferry-landing-design.json"' in design.headers["content-disposition"]
    stakes = list(csv.DictReader(io.StringIO(planner.get(f"{job}/files/stakes.csv?length=m").text)))
    assert len(stakes) == demo_plan.structure.supports.count
    assert float(stakes[-1]["running_tape_m"]) == pytest.approx(
        float(demo_plan.setting_out.stakes.tape_m[-1]), abs=1e-3
    )
    materials = list(csv.DictReader(io.StringIO(planner.get(f"{job}/files/materials.csv").text)))
    assert {row["key"]: row["order"] for row in materials}["module"] == "36"
    missing = planner.get(f"{job}/files/plan.dwg")
    assert missing.status_code == 404 and "plan.geojson" in missing.json()["detail"]


def test_the_map_has_tables_posts_and_trench_in_their_places(
    planner: httpx.Client, job: str, demo_plan: Plan, demo: Design
) -> None:
    collection = planner.get(f"{job}/files/plan.geojson").json()
    shapes = {
        kind: [shape(f["geometry"]) for f in collection["features"] if f["properties"]["kind"] == kind]
        for kind in ("table", "post", "trench")
    }
    (table,), (trench,) = shapes["table"], shapes["trench"]
    assert table.is_valid and table.exterior.is_ccw
    assert all(table.contains(post) for post in shapes["post"])
    # Degrees to metres on a sphere, to a per cent: no projection library.
    north = 111_195.0
    east = north * math.cos(math.radians(demo.site.latitude_deg))
    area = demo_plan.rows.table_length_m * demo_plan.rows.section.level_depth_m
    assert table.area * north * east == pytest.approx(area, rel=0.01)
    assert trench.length > 0


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"{", "not JSON"),
        (b'{"schema_version": 10, "name": "x"}', "newer"),
        (b'{"schema_version": 2, "name": "x", "rows": {"tilt_deg": 400}}', "Tilt"),
        (b'{"schema_version": 2, "name": "x", "roof": {}}', "roof"),
        pytest.param(b"\xff" * 4_000_001, "bytes", id="large"),
    ],
)
def test_a_broken_import_says_why_and_changes_nothing(
    planner: httpx.Client, job: str, data: bytes, says: str
) -> None:
    before = show(planner, job)
    for method, path in (("PUT", f"{job}/design"), ("POST", "/jobs/import")):
        answer = planner.request(method, path, content=data)
        assert answer.status_code == 422
        assert says in json.dumps(answer.json()), answer.text
    assert show(planner, job) == before
    assert len(planner.get("/jobs").json()) == 3


def test_an_import_is_one_step_and_a_job_of_its_own(planner: httpx.Client, job: str) -> None:
    document = planner.get(f"{job}/files/design.json").json()
    document["arrays"][0]["rows"]["tilt_deg"] = 20.0
    taken = planner.put(f"{job}/design", json=document, params={"stage": "rows"}).json()
    assert given(taken, "arrays.1.rows.tilt_deg") == "20.0°"
    assert taken["draft"]["steps"][-1]["label"] == "imported from a file"
    kept = Path(__file__).parent.parent / "documents/larkspur.version-2.json"
    old = json.loads(kept.read_text()) | {"schema_version": 1, "name": "Older job"}
    old["site"] = {k: v for k, v in old["site"].items() if k != "rule_pack"} | {"units": "us"}
    old["site"].pop("display_units")
    made = planner.post("/jobs/import", json=old)
    assert made.status_code == 201
    names = {line["name"] for line in planner.get("/jobs").json()}
    assert {"Larkspur Ferry landing", "Older job"} <= names and len(names) == 4


def test_a_new_job_begins_in_the_units_of_its_rules(planner: httpx.Client) -> None:
    made = planner.post("/jobs", json={"name": "Spare ground", "rule_pack": "metric"}).json()
    view = show(planner, f"/jobs/{made['id']}", "site")
    assert (view["units"], given(view, "site.rule_pack")) == ("metric", "metric")
    assert planner.post("/jobs", json={"name": ""}).status_code == 422
    assert planner.post("/jobs", json={"name": "x", "colour": 1}).status_code == 422


def test_unknown_addresses_answer_with_problem_details(planner: httpx.Client) -> None:
    for path in (
        "/nothing",
        "/jobs/not-an-id/revisions",
        "/jobs/00000000-0000-0000-0000-000000000000/revisions",
    ):
        answer = planner.get(path)
        assert answer.status_code in (404, 422), path
        assert answer.headers["content-type"] == "application/problem+json"
