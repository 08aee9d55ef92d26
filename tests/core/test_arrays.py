"""Arrays of a job: known by their ids, planned each by itself, put together thing by thing.

A document holds one for now; two are put here past its validation, to hold what a second will need.
"""

import pytest

from openfurrow.core import edits
from openfurrow.core.design import ARRAY_STAGES, ArrayGivens, Design
from openfurrow.core.edits import DesignError, apply, differences
from openfurrow.core.fields import fields_of, value_at
from openfurrow.core.merging import _arrays, clashing
from openfurrow.core.paths import Writing
from openfurrow.core.plan import plan
from tests.designs import changed, plain_larkspur


def with_arrays(design: Design, *arrays: ArrayGivens) -> Design:
    return design.model_copy(update={"arrays": arrays})


@pytest.fixture
def two() -> Design:
    """The demo with a smaller array of other modules behind it."""
    plain = plain_larkspur()
    second = ArrayGivens(
        id="shed",
        name="By the shed",
        rows=plain.arrays[0].rows.model_copy(
            update={"modules_along": 6, "at_north_m": 14.0, "tilt_deg": 25.0, "turn_deg": 8.0}
        ),
        modules=plain.arrays[0].modules.model_copy(update={"length_m": 1.7, "power_w": 330.0}),
    )
    return with_arrays(plain, plain.arrays[0], second)


@pytest.mark.parametrize(
    ("path", "text", "says"),
    [
        ("arrays.+k2", "1", "one array more"),
        ("arrays.1", "", "the only array"),
        ("arrays.1", "x", "field by field"),
        ("arrays.+k2", "9", "no such array"),
        ("arrays.9", "", "not a field"),
        ("arrays.1.name", "", "at least 1"),
        ("arrays.1.site.route", "0, 0", "not a field"),
    ],
)
def test_what_cannot_be_done_to_an_array_is_told(path: str, text: str, says: str) -> None:
    with pytest.raises(DesignError, match=says):
        apply(plain_larkspur(), [(path, text)], "us")


def test_an_id_that_is_none_is_refused_in_words(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(edits, "MOST_ARRAYS", 9)
    with pytest.raises(DesignError, match="no id"):
        apply(plain_larkspur(), [("arrays.+K 2", "1")], "us")


def test_an_array_is_called_what_is_typed() -> None:
    named = apply(plain_larkspur(), [("arrays.1.name", "By the river")], "us")
    assert named.arrays[0].name == "By the river"
    (one,) = differences(plain_larkspur(), named, "us")
    assert (one.path, one.after) == ("arrays.1.name", "By the river")


def test_each_array_is_planned_as_if_it_stood_alone_and_says_whose_it_is(two: Design) -> None:
    found = plan(two)
    for array in two.arrays:
        alone = plan(with_arrays(two, array))
        for stage in ARRAY_STAGES:
            ours = getattr(found.on(array.id).array, stage)
            theirs = getattr(alone.array, stage)
            assert [a.value for a in ours.answers] == [a.value for a in theirs.answers]
            assert {a.array for a in ours.answers} == {array.id}
            assert [c.level for c in ours.checks] == [c.level for c in theirs.checks]
            for check in ours.checks:
                assert check.array == array.id
                assert check.given in fields_of(two)
                if check.given.startswith("arrays."):
                    assert check.given.startswith(f"arrays.{array.id}.")
    keys = [(a.array, a.stage, a.key) for a in found.answers]
    assert len(keys) == len(set(keys))
    assert found.on("shed").rows.facing_deg == pytest.approx(188.0)
    with pytest.raises(KeyError):
        found.on("gone")


def test_fields_of_two_arrays_are_written_apart(two: Design) -> None:
    writing = Writing(two, lambda errors: AssertionError(errors))
    for path in ("arrays.1.rows.tilt_deg", "arrays.shed.rows.tilt_deg"):
        assert path in fields_of(two)
        assert value_at(two, path) == two.array(path.split(".")[1]).rows.tilt_deg
    assert writing.arrays == two.arrays
    labels = {one.label for one in differences(two, changed(two, "rows", tilt_deg=20.0), "us")}
    assert labels == {"Array: Tilt"}


def test_arrays_of_two_people_are_put_together_by_their_ids(two: Design) -> None:
    first, shed = two.arrays
    pond = shed.model_copy(update={"id": "pond", "name": "By the pond"})
    moved = shed.model_copy(update={"name": "Behind the shed"})

    def together(mine: tuple, theirs: tuple, take: frozenset = frozenset()) -> list[str]:
        sides = with_arrays(two, *mine), with_arrays(two, *theirs)
        return [one.name for one in _arrays(two, *sides, take)]

    # Each puts in or takes out: both are had.
    assert together((first, shed, pond), (first, shed)) == ["Array", "By the shed", "By the pond"]
    assert together((first, shed), (first, shed, pond)) == ["Array", "By the shed", "By the pond"]
    assert together((first,), (first, shed, pond)) == ["Array", "By the pond"]
    assert together((first, shed, pond), (first,)) == ["Array", "By the pond"]
    # One took out what the other changed: both are told, and what was chosen counts.
    mine, theirs = with_arrays(two, first), with_arrays(two, first, moved)
    assert clashing(two, mine, theirs) == {"arrays.shed"}
    assert together((first,), (first, moved)) == ["Array"]
    assert together((first,), (first, moved), frozenset({"arrays.shed"})) == [
        "Array",
        "Behind the shed",
    ]
    assert together((first, moved), (first,)) == ["Array", "Behind the shed"]
    assert together((first, moved), (first,), frozenset({"arrays.shed"})) == ["Array"]
