"""Whatever is sent to whichever operation: an answer in words, never a fall."""

import itertools
import json
from typing import Any

import httpx
import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, assume, given, settings
from hypothesis import strategies as st

from openfurrow.web.app import create_app

# Above what any of them may take, beneath what a person would wait for.
ANSWERED_WITHIN_S = 30
LONGEST_QUERY = 3_000
BOUNDED = settings(
    max_examples=12,
    derandomize=True,
    deadline=None,
    database=None,
    phases=[Phase.generate],
    suppress_health_check=list(HealthCheck),
)
DESCRIPTION = create_app(None).openapi()
api = schemathesis.openapi.from_dict(DESCRIPTION)


@pytest.fixture(scope="module")
def in_turn() -> Any:
    """Signed in, signed out, and on whose job."""
    return itertools.cycle([(True, True), (True, False), (True, True), (False, True)])


@api.parametrize()
@BOUNDED
def test_every_operation_answers_whatever_it_is_sent(
    case: schemathesis.Case, planner: httpx.Client, job: str, address: str, in_turn: Any
) -> None:
    signed_in, on_ours = next(in_turn)
    if on_ours and "job_id" in case.path_parameters:
        case.path_parameters["job_id"] = job.split("/")[-1]
    # Longer addresses end at the server's door, before any of it is ours.
    assume(len(str(case.query)) < LONGEST_QUERY)
    cookies = {"furrow_sign_in": planner.cookies["furrow_sign_in"]} if signed_in else {}
    answer = case.call(base_url=address, cookies=cookies, timeout=ANSWERED_WITHIN_S)
    assert answer.status_code < 500, answer.text
    assert "nosniff" in answer.headers["x-content-type-options"]


odd_text = st.one_of(
    st.text(max_size=30),
    st.text(st.characters(categories=["Cs", "Cc", "Nd", "No"]), max_size=6),
    st.sampled_from(["\x00", "\ud800", "²", "9" * 200 + "/3", "9" * 5000, "1e400", "٣/٤", "½", "NaN"]),
)


@settings(BOUNDED, max_examples=60)
@given(
    path=st.one_of(
        odd_text,
        st.sampled_from(
            [
                "site.features.²",
                "site.features.+",
                "name",
                "arrays.1.rows.tilt_deg",
                "site.route",
                "arrays.1.structure.shifts",
                "arrays.1",
                "arrays.+",
            ]
        ),
    ),
    text=odd_text,
    step=st.one_of(st.none(), st.integers(0, 2**80)),
)
def test_any_text_typed_anywhere_is_answered_in_words(
    planner: httpx.Client, job: str, path: str, text: str, step: int | None
) -> None:
    body = {"stage": "rows", "units": "us", "step": step, "edits": [{"path": path, "text": text}]}
    # ASCII escapes carry what UTF-8 cannot.
    answer = planner.post(
        f"{job}/edits",
        content=json.dumps(body).encode(),
        headers={"Content-Type": "application/json"},
        timeout=ANSWERED_WITHIN_S,
    )
    assert answer.status_code in (200, 409, 422), answer.text


numbers = st.one_of(
    st.integers(-2, 3), st.integers(2**31 - 2, 2**70), st.sampled_from(["²", "1e3", " 1"])
)


@settings(BOUNDED, max_examples=40)
@given(number=numbers, other=numbers)
def test_any_number_of_a_step_or_a_revision_is_answered_in_words(
    planner: httpx.Client, job: str, number: object, other: object
) -> None:
    for answer in (
        planner.get(f"{job}/compare", params={"before": number, "after": other}),
        planner.post(f"{job}/revisions/{number}/restore"),
        planner.post(f"{job}/step", json={"stage": "rows", "units": "us", "step": number}),
        planner.post(f"{job}/revisions", json={"onto": number, "take_theirs": [str(other)]}),
    ):
        assert answer.status_code < 500, answer.text


@settings(BOUNDED, max_examples=60)
@given(
    document=st.recursive(
        st.none() | st.booleans() | st.integers(-(10**400), 10**400) | odd_text,
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(
                    [
                        "type",
                        "features",
                        "geometry",
                        "coordinates",
                        "properties",
                        "kind",
                        "name",
                        "geometries",
                        "code",
                    ]
                ),
                inner,
                max_size=5,
            )
        ),
        max_leaves=12,
    ),
    kind=st.sampled_from(["Point", "LineString", "Polygon", "MultiPolygon", "GeometryCollection"]),
)
def test_any_map_of_another_shape_is_refused_in_words(
    planner: httpx.Client, job: str, document: object, kind: str
) -> None:
    feature = {
        "type": "Feature",
        "properties": document,
        "geometry": {"type": kind, "coordinates": document, "geometries": document},
    }
    try:
        data = json.dumps({"type": "FeatureCollection", "features": [feature, document]}).encode()
    except ValueError:
        # More digits than Python writes.
        return
    answer = planner.post(
        f"{job}/ground/look", content=data, params={"units": "us"}, timeout=ANSWERED_WITHIN_S
    )
    assert answer.status_code in (200, 422), answer.text


def test_an_older_design_of_another_shape_is_refused_in_words(planner: httpx.Client, job: str) -> None:
    sites = ([], None, 7, "here", {"units": []}, {"units": "us", "rule_pack": {}})
    for version, site in itertools.product((1, 2, 0, True, 10**30), sites):
        answer = planner.put(
            f"{job}/design", json={"schema_version": version, "name": "x", "site": site}
        )
        assert answer.status_code == 422 and answer.json()["problems"], answer.text


@pytest.mark.parametrize("name", ["\\u0000", "\\ud800", "a\\u0000b"])
def test_what_is_not_text_is_refused_with_the_place_it_stands_in(
    planner: httpx.Client, job: str, name: str
) -> None:
    data = f'{{"schema_version": 2, "name": "x", "site": {{"notes": [{{"who": "{name}"}}]}}}}'
    answer = planner.put(f"{job}/design", content=data.encode())
    assert answer.status_code == 422, answer.text
    assert answer.json()["problems"][0]["path"].startswith("site.notes.0.who")


HOSTILE = {
    "a line of megabytes": b"1," * 12_000_000,
    "a million lines": b"1,2,3\n" * 1_000_000,
    "XML nested without end": b"<gpx>" + b"<rte>" * 700_000,
    "XML of a million elements": b"<gpx>" + b"<wpt/>" * 1_000_000 + b"</gpx>",
    "a drawing of lines": b"0\nSECTION\n2\nENTITIES\n" + b"0\nLINE\n" * 900_000,
    "JSON nested without end": b"[" * 1_000_000,
    "JSON of many features": b'{"type":"FeatureCollection","features":['
    + b'{"geometry":{"type":"Point","coordinates":[1]}},' * 300_000
    + b"{}]}",
    "a quotation left open": b'1,2,3,"' + b"x\n" * 190_000,
}


@pytest.mark.parametrize("which", sorted(HOSTILE))
def test_a_hostile_file_is_refused_in_words(planner: httpx.Client, job: str, which: str) -> None:
    answer = planner.post(
        f"{job}/ground/look", content=HOSTILE[which], params={"units": "us"}, timeout=ANSWERED_WITHIN_S
    )
    if answer.status_code == 200:
        # What may only be named wrongly is asked about, and nothing of it is read.
        assert answer.json()["asks"] and answer.json()["shots"] == 0
        return
    assert answer.status_code == 422, answer.text
    problem = answer.json()["problems"][0]
    assert problem["message"] and problem["allowed"] and problem["remedy"]


WRONG_DESIGNS = {
    "a million wrong things": json.dumps(
        {"schema_version": 2, "name": "x", "site": {"features": [{"k": 1}] * 400_000}}
    ).encode()[:3_900_000],
    "many wrong things": json.dumps(
        {"schema_version": 2, "name": "x", "site": {"features": [{"kind": 1}] * 100_000}}
    ).encode(),
    "nested": b'{"schema_version": 2, "name": "x", "site": ' + b'{"a": ' * 200 + b"1" + b"}" * 201,
    "corners": json.dumps(
        {
            "schema_version": 2,
            "name": "x",
            "site": {
                "features": [{"kind": "building", "points": [[k, k * k % 7] for k in range(500)]}] * 300
            },
        }
    ).encode(),
    "a way of thousands of kilometres": json.dumps(
        {
            "schema_version": 2,
            "name": "x",
            "site": {"route": [[5000 * (-1) ** k, k] for k in range(900)]},
        }
    ).encode(),
}


@pytest.mark.parametrize("which", sorted(WRONG_DESIGNS))
def test_a_hostile_design_is_refused_in_words(planner: httpx.Client, job: str, which: str) -> None:
    answer = planner.put(f"{job}/design", content=WRONG_DESIGNS[which], timeout=ANSWERED_WITHIN_S)
    assert answer.status_code == 422, answer.text[:500]
    assert 1 <= len(answer.json()["problems"]) <= 50


def test_a_level_no_ground_has_is_refused_by_both_calls(planner: httpx.Client, job: str) -> None:
    data = b"0,0,1\n10,0,1\n0,10,1e308\n"
    for method, path in (("POST", "ground/look"), ("PUT", "ground")):
        answer = planner.request(method, f"{job}/{path}", content=data, params={"units": "metric"})
        assert answer.status_code == 422 and "level" in answer.json()["detail"]


def test_a_long_address_and_odd_bytes_in_it_are_answered(address: str) -> None:
    for path in ("a" * 300, "a" * 4000, "%00", "%ff%fe", "..%2f" * 50, "api/" + "b" * 400):
        assert httpx.get(f"{address}/{path}").status_code in (200, 404)
