"""Links for who only looks, photos, and the papers, over the API."""

import hashlib
import io
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import httpx
import pytest
from pypdf import PdfReader
from sqlalchemy import Engine, text

from openfurrow.core.fieldbook.book import field_book
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import plan
from openfurrow.core.reading import parse
from openfurrow.demo.designs import larkspur
from openfurrow.demo.seed import CREW_LEAD
from openfurrow.store import photos
from tests.conftest import signed_in
from tests.web.requests import PHOTO, PHOTO_NAME
from tests.web.test_field import book, made, send
from tests.web.test_jobs import edit


def link(client: httpx.Client, job: str, **but: object) -> httpx.Response:
    return client.post(f"{job}/links", json={"words": "the inspector", "days": 14} | but)


@pytest.fixture
def guest(address: str) -> Iterator[httpx.Client]:
    """Somebody without an account."""
    with httpx.Client(base_url=f"{address}/api", timeout=60) as client:
        yield client


def test_a_link_shows_the_papers_and_nothing_else(
    planner: httpx.Client, guest: httpx.Client, job: str
) -> None:
    answer = link(planner, job)
    assert answer.status_code == 201, answer.text
    token = answer.json()["token"]
    expires = datetime.fromisoformat(answer.json()["expires_at"])
    assert timedelta(days=13, hours=23) < expires - datetime.now(UTC) <= timedelta(days=14)
    seen = guest.get(f"/look/{token}").json()
    assert seen["name"] == "Larkspur Ferry landing" and seen["units"] == "us"
    titles = [page["title"] for page in seen["pages"]]
    assert titles[0] == "The job" and titles[-2:] == ["As built", "Hand-over"]
    metric = guest.get(f"/look/{token}", params={"units": "metric"}).json()
    assert metric["units"] == "metric" and metric["pages"] != seen["pages"]
    # The token is told once; the list of links does not have it, nor does the database.
    listed = planner.get(f"{job}/links").json()
    assert [(one["words"], one["by"], one["token"]) for one in listed] == [
        ("the inspector", "Wren Alder", "")
    ]
    for path in ("/jobs", f"{job}/stages/rows", f"{job}/links", f"{job}/field"):
        assert guest.get(path, cookies={"furrow_sign_in": token}).status_code == 401


def test_a_job_of_which_nothing_is_known_is_looked_at_as_that(
    planner: httpx.Client, guest: httpx.Client
) -> None:
    own = f"/jobs/{planner.post('/jobs', json={'name': 'Kestrel barn'}).json()['id']}"
    token = link(planner, own).json()["token"]
    seen = guest.get(f"/look/{token}").json()
    assert seen["missing"] > 10 and seen["pages"][0]["title"] == "The job"
    assert not any("Footings" in page["title"] for page in seen["pages"])
    assert guest.get(f"/look/{token}/papers.pdf").status_code == 200
    # Nor has its field book anything to build from.
    assert planner.get(f"{own}/field").status_code == 422
    assert planner.get(f"{own}/files/as-built.csv").status_code == 422
    for stage in ("fieldbook", "handover"):
        shown = planner.get(f"{own}/stages/{stage}").json()["stage"]
        assert shown["answers"] == [] and shown["drawings"] == [] and shown["tables"] == []


def test_only_a_good_link_leads_anywhere(
    planner: httpx.Client, guest: httpx.Client, job: str, store: Engine
) -> None:
    token, other = (link(planner, job).json()["token"] for _ in range(2))
    assert guest.get(f"/look/{token}").status_code == 200
    for wrong in (token[:-1] + ("a" if token[-1] != "a" else "b"), "x" * 43):
        assert guest.get(f"/look/{wrong}").status_code == 404
    assert guest.get("/look/short").status_code == 422
    taken = planner.get(f"{job}/links").json()[-1]["id"]
    assert planner.delete(f"{job}/links/{taken}").status_code == 204
    # Once more changes nothing.
    assert planner.delete(f"{job}/links/{taken}").status_code == 204
    answers = {guest.get(f"/look/{one}").status_code for one in (token, other)}
    assert answers == {200, 404}
    with store.begin() as connection:
        connection.execute(text("update look_link set expires_at = now()"))
    for one in (token, other):
        assert guest.get(f"/look/{one}").status_code == 404
        assert guest.get(f"/look/{one}/papers.pdf").status_code == 404
    assert planner.get(f"{job}/links").json() == []


def test_a_job_that_is_gone_is_not_looked_at(
    planner: httpx.Client, guest: httpx.Client, job: str
) -> None:
    token = link(planner, job).json()["token"]
    assert planner.put(f"{job}/state", json={"state": "deleted"}).status_code == 204
    assert guest.get(f"/look/{token}").status_code == 404
    assert planner.put(f"{job}/state", json={"state": "open"}).status_code == 204
    assert guest.get(f"/look/{token}").status_code == 200


def test_who_may_only_read_makes_no_link_and_takes_none_back(planner: httpx.Client, job: str) -> None:
    own = f"/jobs/{planner.post(f'{job}/copy', json={'name': 'Mine'}).json()['id']}"
    mine = link(planner, own).json()["id"]
    planner.post(f"{own}/members", json={"name": CREW_LEAD, "role": "viewer"})
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as reader:
        assert link(reader, own).status_code == 403
        assert reader.delete(f"{own}/links/{mine}").status_code == 403
        # Of another job it is no link at all.
        assert reader.delete(f"{job}/links/{mine}").status_code == 404
    assert len(planner.get(f"{own}/links").json()) == 1


@pytest.mark.parametrize(
    "but, field", [({"days": 0}, "days"), ({"days": 400}, "days"), ({"words": " "}, "words")]
)
def test_a_link_says_for_whom_and_for_how_long(
    planner: httpx.Client, job: str, but: dict[str, object], field: str
) -> None:
    answer = link(planner, job, **but)
    assert answer.status_code == 422 and field in answer.text


def test_a_link_shows_what_was_issued_not_what_is_being_drafted(
    planner: httpx.Client, guest: httpx.Client, job: str
) -> None:
    token = link(planner, job).json()["token"]
    edit(planner, job, ("arrays.1.rows.tilt_deg", "22"))
    planner.post(f"{job}/revisions", json={"note": "flatter", "issue": True})
    edit(planner, job, ("arrays.1.rows.tilt_deg", "41"))
    planner.post(f"{job}/revisions", json={"note": "steeper"})
    seen = guest.get(f"/look/{token}").json()
    assert seen["issue"].startswith("revision 2, issued")
    rows = next(page for page in seen["pages"] if page["title"].startswith("Rows"))
    issued = planner.get(f"{job}/compare", params={"before": 2, "after": 3}).json()
    now = {one["label"]: one["before"] for one in issued["answers"] if one["stage"] == "rows"}
    shown = {one["label"]: one["text"] for one in rows["answers"]}
    assert now and all(shown[label] == text_ for label, text_ in now.items())


# --- photos ------------------------------------------------------------------------------------
def put(client: httpx.Client, job: str, content: bytes, named: str = "") -> httpx.Response:
    named = named or hashlib.sha256(content).hexdigest()
    return client.put(f"{job}/field/photos/{named}", content=content)


def test_a_photo_is_kept_once_and_only_as_what_it_is(
    planner: httpx.Client, job: str, store: Engine
) -> None:
    assert planner.get(f"{job}/field/photos/{PHOTO_NAME}").status_code == 404
    for _ in range(2):
        assert put(planner, job, PHOTO).status_code == 204
    seen = planner.get(f"{job}/field/photos/{PHOTO_NAME}")
    assert seen.content == PHOTO and seen.headers["content-type"] == "image/png"
    assert seen.headers["x-content-type-options"] == "nosniff"
    with store.connect() as connection:
        assert connection.execute(text("select count(*) from field_photo")).scalar_one() == 1
    # A page or a program is no picture, whatever it is called; nor is one that was hurt on its way.
    assert put(planner, job, b"<svg onload=alert(1)>").status_code == 422
    assert put(planner, job, PHOTO + b"x", PHOTO_NAME).status_code == 422
    assert put(planner, job, PHOTO, "../x").status_code in (404, 405, 422)
    assert put(planner, job, PHOTO[:8] + bytes(photos.MOST_OF_ONE)).status_code == 422


def test_photos_of_a_job_have_a_limit_and_are_nobody_elses(
    planner: httpx.Client, guest: httpx.Client, job: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(photos, "MOST_OF_JOB", 100)
    assert put(planner, job, PHOTO).status_code == 204
    other = PHOTO + bytes(60)
    refused = put(planner, job, other)
    assert refused.status_code == 422 and "photos of this job" in refused.text
    # What is there already takes no more room.
    assert put(planner, job, PHOTO).status_code == 204
    assert guest.get(f"{job}/field/photos/{PHOTO_NAME}").status_code == 401
    copy = f"/jobs/{planner.post(f'{job}/copy', json={'name': 'Other'}).json()['id']}"
    assert planner.get(f"{copy}/field/photos/{PHOTO_NAME}").status_code == 404
    planner.post(f"{copy}/members", json={"name": CREW_LEAD, "role": "viewer"})
    with signed_in(str(planner.base_url).removesuffix("/api/"), CREW_LEAD) as reader:
        assert put(reader, copy, PHOTO).status_code == 403


# --- records of other things -------------------------------------------------------------------
@pytest.mark.parametrize(
    "kind, typed, beside, named, words",
    [
        ("voltage", "480 V", "", "records.0.beside", "Modules are at"),
        ("voltage", "480 V", "300 °C", "records.0.beside", "outside of what is measured"),
        ("voltage", "9 kV", "20 °C", "records.0.typed", "outside of what is measured"),
        ("current", "8 A", "", "records.0.beside", "Light on the glass"),
        ("current", "8 A", "2000 W/m²", "records.0.beside", "outside of what is measured"),
        ("current", "-8 A", "800 W/m²", "records.0.typed", "outside of what is measured"),
        ("plumb", "60°", "", "records.0.typed", "45.0°"),
        ("cover", "30 ft", "", "records.0.typed", "outside of what is measured"),
        ("insulation", "wet", "", "records.0.typed", "is not a"),
        ("passed", "Passed", "", "records.0.note", "who said so"),
    ],
)
def test_what_cannot_be_read_is_refused_by_its_field_and_nothing_is_kept(
    planner: httpx.Client, job: str, kind: str, typed: str, beside: str, named: str, words: str
) -> None:
    post = book(planner, job)["posts"][0]
    answer = send(planner, job, made(post, typed, kind=kind, beside=beside))
    assert answer.status_code == 422
    assert named in answer.text and words in answer.json()["detail"] + answer.text
    found = book(planner, job)
    assert found["measured"] == 0 and not any(one["records"] for one in found["inspections"])


def test_what_is_read_is_told_in_the_book_in_the_files_and_on_the_stage(
    planner: httpx.Client, job: str
) -> None:
    found = book(planner, job)
    cover, string = found["covers"][0], found["strings"][0]
    warm = next(one for one in found["warmths"][string["warmth"]] if one["warm"] == 95)
    at = {"of": string["of"], "east_m": 0.0, "north_m": 0.0}
    serial = {"of": found["grids"][0]["of"] + "/c1.1", "east_m": 0.0, "north_m": 0.0}
    whole = {"of": "inspection:trench", "east_m": 0.0, "north_m": 0.0}
    answer = send(
        planner,
        job,
        made(cover, "2 ft", kind="cover"),
        made(at, f"{warm['expected_v']} V", kind="voltage", beside="95 °F"),
        made(at, "200 MΩ", kind="insulation"),
        made(at, "9.9 A", kind="current", beside="750 W/m2"),
        made(serial, "=OF-1", kind="serial"),
        made(whole, "Passed", kind="passed", note="Rowan Vale"),
    )
    assert answer.status_code == 200, answer.text
    again = book(planner, job)
    assert again["covers"][0]["verdict"] == again["strings"][0]["verdict"] == "sound"
    assert again["strings"][0]["insulation"] == "200.0 MΩ"
    assert again["strings"][0]["running"] == "9.90 A"
    # I_mp of 13.24 A, a tenth to either side; its back is closed.
    assert string["low_a"] == pytest.approx(13.24 * 0.9)
    assert string["high_a"] == pytest.approx(13.24 * 1.1)
    assert [one["beside"] for one in again["strings"][0]["records"]] == ["95 °F", "", "750 W/m²"]
    assert again["inspections"][0]["state"] == "passed"

    def line(name: str, number: int = 1) -> str:
        return str(planner.get(f"{job}/files/{name}").text.splitlines()[number])

    assert "2' 0\"" in line("covers.csv").replace('""', '"') and "sound" in line("covers.csv")
    assert "95 °F" in line("strings.csv") and "as its modules should" in line("strings.csv")
    # What begins as a formula is none in a spreadsheet.
    assert "'=OF-1" in line("serials.csv")
    assert "Rowan Vale" in line("inspections.csv")
    assert planner.get(f"{job}/files/care.ics").text.startswith("BEGIN:VCALENDAR")
    shown = planner.get(f"{job}/stages/fieldbook").json()["stage"]
    assert {one["key"]: one["text"] for one in shown["answers"]} == {
        "posts": "0",
        "covers": "1",
        "strings": "1",
        "serials": "1",
        "parts": "0",
    }
    state = next(
        one
        for one in planner.get(f"{job}/stages/rows").json()["sheet"]["stages"]
        if one["stage"] == "fieldbook"
    )
    assert state["state"] == "look"


@pytest.mark.parametrize("units", ["us", "metric"])
def test_what_a_phone_looks_up_is_what_the_server_says_of_the_same_reading(
    planner: httpx.Client, job: str, units: str
) -> None:
    found = book(planner, job, units)
    strings = field_book(larkspur(), plan(larkspur()), ()).strings
    degree = found["warm_unit"]
    for string, told in zip(strings, found["strings"], strict=True):
        assert (string.of, string.modules) == (told["of"], told["modules"])
        for rung in found["warmths"][told["warmth"]]:
            warm = parse(f"{rung['warm']} {degree}", "temperature", units)  # type: ignore[arg-type]
            at = {"kind": "voltage", "typed": "", "by": "", "device": "", "east_m": 0, "north_m": 0}
            for volts, sound in (
                (rung["low_v"] - 0.01, False),
                (rung["low_v"] + 0.01, True),
                (rung["high_v"] - 0.01, True),
                (rung["high_v"] + 0.01, False),
            ):
                read = Record(id="x", of="x", value=volts, beside=warm, at=datetime.now(UTC), **at)
                assert string.right(read) is sound, (rung, volts)


def test_a_clock_that_is_ahead_does_not_have_the_last_word_for_good(
    planner: httpx.Client, job: str
) -> None:
    post = book(planner, job)["posts"][0]
    for typed, at in (("3 ft", "2099-01-01T00:00:00Z"), (post["planned"], "")):
        at = at or datetime.now(UTC).isoformat()
        assert send(planner, job, made(post, typed, device_time=at)).status_code == 200
    assert book(planner, job)["posts"][0]["verdict"] == "sound"


def test_a_screen_that_was_seen_before_a_record_came_is_not_the_same(
    planner: httpx.Client, job: str
) -> None:
    first = planner.get(f"{job}/stages/rows", params={"units": "us"})
    tag = {"If-None-Match": first.headers["etag"]}
    assert planner.get(f"{job}/stages/rows", params={"units": "us"}, headers=tag).status_code == 304
    post = book(planner, job)["posts"][0]
    send(planner, job, made(post, "3 ft"))
    again = planner.get(f"{job}/stages/rows", params={"units": "us"}, headers=tag)
    assert again.status_code == 200
    assert any(stop["key"] == "carries" for stop in again.json()["sheet"]["stops"])


# --- papers ------------------------------------------------------------------------------------
def test_papers_are_of_what_was_issued_on_the_paper_that_is_wanted(
    planner: httpx.Client, guest: httpx.Client, job: str
) -> None:
    send(planner, job, made(book(planner, job)["posts"][0], "9' 4\""))
    token = link(planner, job).json()["token"]
    sizes = {}
    for paper in ("letter", "a4"):
        answer = guest.get(f"/look/{token}/papers.pdf", params={"paper": paper})
        assert answer.status_code == 200, answer.text
        reader = PdfReader(io.BytesIO(answer.content))
        sizes[paper] = {
            (round(float(p.mediabox.width)), round(float(p.mediabox.height))) for p in reader.pages
        }
        count = len(reader.pages)
        for number, page in enumerate(reader.pages, start=1):
            # Every sheet says of what it is, of which revision, and which of how many.
            words = " ".join(page.extract_text().split())
            assert "Larkspur Ferry landing" in words and "revision 1, not issued" in words
            assert f"sheet {number} of {count}" in words
        every = " ".join(" ".join(p.extract_text().split()) for p in reader.pages)
        for title in ("Site plan", "Footings", "Trench", "Wiring", "Stakes", "As built", "Hand-over"):
            assert title in every
        assert "worked out line by line" in every and "Posts measured 1" in every
    assert sizes == {"letter": {(792, 612)}, "a4": {(842, 595)}}


def test_papers_are_asked_for_as_work_and_come_as_pdf(planner: httpx.Client, job: str) -> None:
    answer = planner.post(f"{job}/work", json={"kind": "papers", "paper": "a4", "units": "metric"})
    assert answer.status_code == 202 and answer.json()["kind"] == "papers"
    assert planner.post(f"{job}/work", json={"kind": "papers", "paper": "a3"}).status_code == 422
