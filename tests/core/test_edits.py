"""Typed text becomes a new design, or a problem that names field, range and remedy."""

import json
from datetime import date
from pathlib import Path

import pytest

from openfurrow.core.design import SCHEMA_VERSION, Design
from openfurrow.core.design_versions import read_document
from openfurrow.core.edits import DesignError, apply, differences, validated
from openfurrow.core.fields import fields, fields_of, value_at, write
from openfurrow.core.merging import merged
from openfurrow.core.own_words import OTHERWISE, WORDS
from openfurrow.core.paths import address_of
from openfurrow.core.paths import read as read_at
from openfurrow.core.plan import plan
from openfurrow.core.typed import read
from openfurrow.exchange.design_json import read_design, write_design
from tests.designs import changed, plain_larkspur


def test_every_field_says_what_it_means_where_from_and_what_is_usual() -> None:
    for path, field in fields().items():
        assert field.label and len(field.meaning) > 8 and len(field.where) > 8, path
        if field.measured and field.low is not None and field.high is not None:
            usual = field.usual
            assert field.low < field.high, path
            assert usual is None or field.low <= usual[0] < usual[1] <= field.high, path
            # What is left to the plan has the plan's own as its usual.
            assert (
                usual is not None
                or field.optional
                or path
                in {
                    "site.latitude_deg",
                    "site.longitude_deg",
                    "site.falls_toward_deg",
                }
            ), path


@pytest.mark.parametrize("units", ["us", "metric"])
def test_every_field_reads_what_it_writes(demo: Design, units: str) -> None:
    for path, field in fields_of(demo).items():
        value = value_at(demo, path)
        if field.item:
            assert field.item in (type(item) for item in (*value, field.item()))
            continue
        again = read(field, write(field, value, units), units)
        if field.kind == "temperature" and value is not None:
            assert again == pytest.approx(value, abs=0.3), path
        elif isinstance(value, float):
            assert again == pytest.approx(value, rel=0.01, abs=1e-3), path
        elif field.kind == "date":
            assert again == (value.isoformat() if value else None)
        elif field.kind == "route":
            assert [tuple(point) for point in again] == [pytest.approx(p, abs=0.01) for p in value]
        elif field.kind == "forecast":
            assert [tuple(one) for one in again] == [
                (day, pytest.approx(low, abs=0.51), pytest.approx(wind, abs=0.25))
                for day, low, wind in value
            ]
        elif field.kind == "shifts":
            assert [tuple(shift) for shift in again] == list(value)
        else:
            assert again == value, path


def test_feet_and_metres_land_in_the_same_place(demo: Design) -> None:
    feet = apply(demo, [("arrays.1.rows.lower_edge_m", "5'6\"")], "us")
    metres = apply(demo, [("arrays.1.rows.lower_edge_m", "1.6764 m")], "us")
    edges = [one.arrays[0].rows.lower_edge_m for one in (feet, metres)]
    assert edges == pytest.approx([1.6764, 1.6764])
    assert demo.arrays[0].rows.lower_edge_m == 0.9


def test_an_empty_optional_field_is_left_to_the_plan(demo: Design) -> None:
    held = apply(demo, [("arrays.1.footings.depth_m", "6 ft")], "us")
    assert held.arrays[0].footings.depth_m == pytest.approx(1.8288)
    assert apply(held, [("arrays.1.footings.depth_m", "")], "us") == demo


@pytest.mark.parametrize(
    ("path", "text", "says"),
    [
        ("arrays.1.rows.tilt_deg", "99", "above what is allowed"),
        ("arrays.1.rows.tilt_deg", "steep", "not a number"),
        ("arrays.1.rows.modules_high", "1.5", "not a whole number"),
        ("site.time_zone", "Mars/Base", "IANA time zone"),
        ("site.soil_class", "peat", "sandy gravel"),
        ("site.route", "1, 2, 3", "east, north"),
        ("site.route", "9999 m, 1", "5000"),
        ("sun.walk_date", "yesterday", "not a date"),
        ("arrays.1.structure.purlin_section", "Z 1", "one of"),
        ("trench.room_for_growth", "perhaps", "yes nor no"),
        ("arrays.1.rows.nonsense", "1", "not a field"),
        ("name", "", "says nothing"),
    ],
)
def test_a_wrong_entry_names_the_field_the_range_and_the_remedy(
    demo: Design, path: str, text: str, says: str
) -> None:
    with pytest.raises(DesignError) as error:
        apply(demo, [(path, text)], "us")
    (problem,) = error.value.problems
    assert problem.path.startswith(path)
    assert says in problem.message + problem.allowed
    if "nonsense" not in path:
        assert problem.allowed and problem.remedy


def test_a_lap_that_eats_the_stick_is_refused(demo: Design) -> None:
    with pytest.raises(DesignError, match="a third"):
        apply(demo, [("arrays.1.frame.stock_length_m", "8 ft"), ("arrays.1.frame.lap_m", "3 ft")], "us")


def test_bounds_are_told_in_the_units_that_are_shown(demo: Design) -> None:
    for units, words in (("us", "13' 1 1/2\""), ("metric", "4\u202f000 mm")):
        with pytest.raises(DesignError) as error:
            apply(demo, [("arrays.1.rows.lower_edge_m", "9 m")], units)
        assert words in error.value.problems[0].allowed


def test_differences_are_in_words_and_merging_keeps_both_sides(demo: Design) -> None:
    mine = apply(demo, [("arrays.1.rows.tilt_deg", "30"), ("arrays.1.rows.rows", "2")], "us")
    theirs = apply(demo, [("arrays.1.rows.tilt_deg", "25"), ("trench.width_m", "16 in")], "us")
    assert [(d.label, d.before, d.after) for d in differences(demo, mine, "us")] == [
        ("Rows", "1", "2"),
        ("Tilt", "34.0°", "30.0°"),
    ]
    both = merged(demo, mine, theirs, frozenset())
    assert (both.arrays[0].rows.tilt_deg, both.arrays[0].rows.rows) == (30, 2)
    assert both.trench.width_m == pytest.approx(0.4064)
    taken = merged(demo, mine, theirs, frozenset({"arrays.1.rows.tilt_deg"}))
    assert taken.arrays[0].rows.tilt_deg == 25


def test_a_change_to_one_thing_of_a_list_is_told_as_that(demo: Design) -> None:
    (ours,) = differences(demo, apply(demo, [("site.features.3.depth_m", "4 ft")], "us"), "us")
    assert (ours.before, ours.after) == (
        "fuel line, depth to its top: 3' 6\"",
        "fuel line, depth to its top: 4' 0\"",
    )
    (added,) = differences(demo, apply(demo, [("site.features.+", "drain")], "us"), "us")
    assert (added.before, added.after) == ("none", "drain")


@pytest.mark.parametrize(
    ("path", "text", "value"),
    [
        (
            "arrays.1.structure.shifts",
            "1.1/3, 7 in\n1.1 / 5, -0.1 m",
            (("1.1/3", 0.1778), ("1.1/5", -0.1)),
        ),
        ("arrays.1.structure.shifts", "", ()),
        ("site.surveys.0.left_out", "3, 12 , 5", (3, 12, 5)),
        (
            "site.test_holes.0.layers",
            "6 in, clay, 40 kPa; 9 ft, sandy gravel",
            ((0.1524, "clay", 40e3), (2.7432, "sandy gravel", None)),
        ),
        (
            "site.surveys.1.readings",
            "0, 0, 1 ft, edge\n2 ft, 0, 1.5 ft",
            ((0.0, 0.0, 0.3048, "edge"), (0.6096, 0.0, 0.4572, "")),
        ),
        ("site.tickets.3.responded", "2026-04-17", date(2026, 4, 17)),
        ("site.tickets.3.responded", "", None),
        ("site.notes.2.settled", "no", False),
    ],
)
def test_fields_of_several_lines_are_read_as_they_are_typed(
    demo: Design, path: str, text: str, value: object
) -> None:
    design = apply(demo, [(path, text)], "us")
    place = read_at(design, address_of(path))
    if isinstance(value, tuple) and value and isinstance(value[0], tuple):
        assert [tuple(item) for item in place] == [
            pytest.approx(item)
            if all(isinstance(v, int | float) for v in item)
            else tuple(pytest.approx(v) if isinstance(v, float) else v for v in item)
            for item in value
        ]
    else:
        assert place == value


def flat(document: dict) -> dict:
    """A document of today as the fourth version wrote it: the stages of its one array side by side."""
    (array,) = document.pop("arrays")
    stages = {name: array[name] for name in ("rows", "structure", "footings", "frame", "modules")}
    turn = stages["rows"].pop("turn_deg")
    return document | stages | {"sun": document["sun"] | {"turn_deg": turn}, "schema_version": 4}


def test_version_four_held_one_array_and_the_turn_on_the_sun_stage(demo: Design) -> None:
    turned = changed(demo, "rows", turn_deg=12.0)
    old = flat(json.loads(write_design(turned)))
    assert "arrays" not in old and old["sun"]["turn_deg"] == 12.0
    assert read_document(old) == turned


def test_version_one_is_brought_up_to_date() -> None:
    kept = Path(__file__).parent.parent / "documents/larkspur.version-2.json"
    second = json.loads(kept.read_text())
    old = second | {"schema_version": 1}
    old["site"] = {k: v for k, v in old["site"].items() if k not in ("rule_pack", "display_units")} | {
        "units": "metric"
    }
    design = read_document(old)
    assert (design.site.rule_pack, design.site.display_units) == ("metric", "metric")
    assert design.arrays == read_document(second).arrays


@pytest.mark.parametrize("version", [0, -1, SCHEMA_VERSION + 1, "2", None, True, 1.0])
def test_an_unknown_version_is_refused_with_the_reason(demo: Design, version: object) -> None:
    with pytest.raises(DesignError) as error:
        read_document(json.loads(write_design(demo)) | {"schema_version": version})
    assert error.value.problems[0].path == "schema_version"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "not JSON"),
        (b"{", "line 1"),
        (b"[]", "not a JSON object"),
        (b"\xff\xfe{", "UTF-8"),
        (b'{"schema_version": 2, "name": "x", "rows": {"tilt_deg": NaN}}', "NaN"),
        pytest.param(b"[" * 200_000, "not", id="deep"),
        pytest.param(b" " * 4_000_001, "bytes", id="large"),
        (b'{"schema_version": 2}', "name"),
        (b'{"schema_version": 2, "name": "x", "rows": {"tilt_deg": 1e999}}', "tilt"),
    ],
)
def test_a_broken_file_says_which_part_is_wrong(data: bytes, says: str) -> None:
    with pytest.raises(DesignError) as error:
        read_design(data)
    assert says in str(error.value)


def test_a_design_of_version_3_keeps_every_profile_span_and_shift(demo: Design) -> None:
    """What left footings and frame for the structure is what it was; nothing else moved."""
    held = {
        "post_section": "pipe 3 in",
        "span_limit_m": 2.2,
        "cantilever_ratio": 0.3,
        "shifts": [[2, 0.1]],
        "post_top_m": 0.07,
    }
    frame = {
        "purlin_section": "Z 100 x 50 x 2.0",
        "beam_section": "C 125 x 64 x 2.0",
        "strut_reach_m": 0.9,
        "strut_section": "pipe 1-1/4 in",
        "strut_foot_m": 0.25,
        "deflection_divisor": 240,
    }
    old = flat(demo.model_dump(mode="json")) | {"schema_version": 3}
    del old["structure"]
    old["footings"] = {"depth_m": 2.5, "predrilled": True, **held}
    old["frame"] = {"stock_length_m": 6.0, "lap_m": 0.4, **frame}
    design = read_document(old).model_dump(mode="json")
    new = design["arrays"][0]
    # A post is known by its table and its place there by now.
    now = held | frame | {"shifts": [["1.1/2", 0.1]]}
    assert {name: new["structure"][name] for name in now} == now
    assert (new["footings"]["depth_m"], new["footings"]["predrilled"]) == (2.5, True)
    assert (new["frame"]["stock_length_m"], new["frame"]["lap_m"]) == (6.0, 0.4)
    assert design["site"] == demo.model_dump(mode="json")["site"]


def test_under_other_rules_the_wind_is_asked_for_anew() -> None:
    whole = plain_larkspur()
    other = apply(whole, [("site.rule_pack", "metric")], "us")
    assert other.site.wind_speed_m_s is None
    assert "site.wind_speed_m_s" in plan(other).missing
    assert not [answer for answer in plan(other).answers if answer.stage in ("structure", "footings")]
    # Said in the same breath, before or after, it is what was said.
    both = [("site.rule_pack", "metric"), ("site.wind_speed_m_s", "25 m/s")]
    for edits in (both, both[::-1]):
        assert apply(whole, edits, "us").site.wind_speed_m_s == 25.0
    # Typed as it stood, nothing changed but that somebody has looked at it.
    again = apply(whole, [("site.rule_pack", "us")], "us")
    assert again.model_copy(update={"looked": whole.looked}) == whole


def test_what_pydantic_finds_wrong_is_told_in_our_own_words() -> None:
    """Every kind of error that a design can hold, and none of the library's phrases."""
    whole = json.loads(plain_larkspur().model_dump_json())

    def told(part: str, **wrong: object) -> str:
        data = json.loads(json.dumps(whole))
        (data[part] if part else data).update(wrong)
        with pytest.raises(DesignError) as refused:
            validated(data)
        (problem,) = refused.value.problems
        return problem.message

    assert told("", name="") == "says nothing"
    assert told("", name="x" * 121) == "is longer than 120 letters"
    assert told("", name=7) == "is not text"
    assert told("site", slope="steep") == "is not a number"
    assert told("site", slope=float("nan")) == "is not a number that ends"
    assert told("site", slope=4) == "is above what is allowed"
    assert told("site", rule_pack="lunar") == "is none of 'us' or 'metric'"
    assert told("site", ticket_wait_days=1.5) == "is not a whole number"
    assert told("site", dig_date="soon") == "is not a date: write 2026-04-18"
    assert told("site", notes=7) == "is not a list"
    assert told("site", tickets=[7]) == "is not an object with fields"
    assert told("site", colour="green") == "is not a field of a design"
    assert told("site", time_zone="Mars/Base").startswith("is not an IANA time zone")
    assert told("trench", under_driveway="maybe") == "is neither yes nor no"
    assert told("", arrays=[]) == "needs at least 1 in it"
    words = (*WORDS.values(), OTHERWISE)
    assert not any("should" in word or "valid" in word or "Input" in word for word in words)


# What version 7 took for what a document did not say, as its own form showed it.
TAKEN_UNTIL_EIGHT = {
    "latitude_deg": 44.9,
    "longitude_deg": -116.1,
    "elevation_m": 1530.0,
    "time_zone": "America/Boise",
    "slope": 0.04,
    "falls_toward_deg": 180.0,
    "dig_date": "2026-04-20",
    "soil_class": "sandy gravel",
    "frost_depth_m": 0.9,
    "wind_speed_m_s": 47.0,
    "ground_snow_pa": 2400.0,
    "lowest_temperature_c": -31.0,
    "hottest_temperature_c": 33.0,
    "route": [[6.0, 6.0], [24.0, 30.0]],
}


@pytest.mark.parametrize("version", [4, 5, 6, 7])
def test_an_older_document_keeps_what_it_was_read_as_holding(version: int) -> None:
    """A job that stood on what nobody had typed stands on it still; a new one asks."""
    old = {"schema_version": version, "name": "old", "site": {}}
    for typed in ({}, {"wind_speed_m_s": 51.0, "slope": 0.0}):
        now = json.loads(read_document(old | {"site": typed}).model_dump_json())
        said = {name: now["site"][name] for name in TAKEN_UNTIL_EIGHT}
        assert said == TAKEN_UNTIL_EIGHT | typed
    assert [array["rows"]["modules_along"] for array in now["arrays"]] == [18]
    assert plan(read_document(old)).missing == ()
    new = read_document({"schema_version": 8, "name": "new"})
    assert len(plan(new).missing) == len(TAKEN_UNTIL_EIGHT) + 1
    two = {
        "schema_version": 7,
        "name": "old",
        "arrays": [{"id": "a"}, {"id": "b", "rows": {"rows": 2}}],
    }
    assert [one.rows.modules_along for one in read_document(two).arrays] == [18, 18]
