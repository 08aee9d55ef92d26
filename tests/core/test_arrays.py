"""Arrays of a job: known by their ids, planned each by itself, put together thing by thing."""

from dataclasses import replace

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from openfurrow.core import edits
from openfurrow.core.design import ARRAY_STAGES, ArrayGivens, Design
from openfurrow.core.edits import DesignError, apply, differences
from openfurrow.core.fields import array_labels, fields_of, value_at
from openfurrow.core.merging import _arrays, clashing, merged
from openfurrow.core.paths import Writing, address_of
from openfurrow.core.paths import read as path_read
from openfurrow.core.plan import MEMO, plan
from openfurrow.core.site.ways import SpurGivens
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.write import once, stage_sheet
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
        ("arrays.1.order", "2", "no place in the order"),
        ("arrays.1.order", "first", "no place in the order"),
        ("arrays.9.order", "1", "not a field"),
        ("site.spurs.+w.array", "Array", "not a field"),
        ("arrays.1", "", "the only array"),
        ("arrays.1", "x", "field by field"),
        ("arrays.+k2", "9", "no such array"),
        ("arrays.9", "", "not a field"),
        ("arrays.1.name", "", "says nothing"),
        ("arrays.1.site.route", "0, 0", "not a field"),
    ],
)
def test_what_cannot_be_done_to_an_array_is_told(path: str, text: str, says: str) -> None:
    with pytest.raises(DesignError, match=says):
        apply(plain_larkspur(), [(path, text)], "us")


def test_more_arrays_than_a_job_may_hold_are_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(edits, "MOST_ARRAYS", 1)
    with pytest.raises(DesignError, match="one array more"):
        apply(plain_larkspur(), [("arrays.+k2", "1")], "us")


def test_an_id_that_is_none_is_refused_in_words() -> None:
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
            between = {"apart", "shade_other"}
            assert [c.level for c in ours.checks if c.key not in between] == [
                c.level for c in theirs.checks
            ]
            assert {c.key for c in ours.checks} - {c.key for c in theirs.checks} == (
                between if stage == "rows" else set()
            )
            for check in ours.checks:
                assert check.array == array.id
                assert path_read(two, address_of(check.given)) is not None or (
                    check.given in fields_of(two)
                )
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


def test_a_copy_stands_behind_and_is_called_another(two: Design) -> None:
    copied = apply(two, [("arrays.+k", "shed"), ("arrays.k.rows.tilt_deg", "40")], "us")
    *_, new = copied.arrays
    shed = two.array("shed")
    assert (new.id, new.name, new.rows.tilt_deg) == ("k", "By the shed 2", 40.0)
    assert new.modules == shed.modules and new.rows.modules_along == shed.rows.modules_along
    checks = {c.key: c.level for c in plan(copied).on("k").shown("rows")[1]}
    assert checks["apart"] == "sound"
    plain = apply(two, [("arrays.+k", "")], "us").arrays[-1]
    assert plain.rows.modules_along is None


def test_the_order_is_as_it_is_put_and_the_first_is_the_benchmark(two: Design) -> None:
    turned = apply(two, [("arrays.shed.order", "1")], "us")
    assert [one.id for one in turned.arrays] == ["shed", "1"]
    assert turned.arrays[0] == two.array("shed")
    (one,) = differences(two, turned, "us")
    assert (one.label, one.after) == ("Order of arrays", "By the shed, Array")
    assert plan(turned).stakeout.arrays[0].stakes.ground_m[0] == 0.0


def test_a_way_names_its_array_and_goes_with_it(two: Design) -> None:
    drawn = apply(
        two,
        [
            ("site.spurs.+w", ""),
            ("site.spurs.w.array", "By the shed"),
            ("site.spurs.w.points", "8 m, 12 m"),
        ],
        "metric",
    )
    assert drawn.site.spurs[0].array == "shed"
    assert apply(drawn, [("site.spurs.w.array", "shed")], "us") == drawn
    with pytest.raises(DesignError, match="no array of this job: Array, By the shed"):
        apply(drawn, [("site.spurs.w.array", "By the barn")], "us")
    (one,) = (d for d in differences(two, drawn, "metric"))
    assert one.path == "site.spurs" and "shed" not in one.after
    assert apply(drawn, [("arrays.shed", "")], "us").site.spurs == ()
    # Put together from two people it may dangle: that is a stop, not an invalid job.
    gone = with_arrays(drawn, two.arrays[0])
    idle = next(c for c in plan(gone).checks if c.key == "idle")
    assert idle.level == "stop" and "gone" in str(idle.measured)


def test_an_array_that_is_turned_has_bearings_of_its_own(two: Design) -> None:
    """One that looks the same way shares them."""
    found = plan(two)
    turned = {a.key: a.value for a in found.answers if (a.stage, a.array) == ("sun", "shed")}
    straight = {a.key: a.value for a in found.answers if (a.stage, a.array) == ("sun", "")}
    assert turned["facing"] == pytest.approx(float(straight["facing"]) + 8.0)
    assert turned["noon"] == straight["noon"]
    alike = apply(two, [("arrays.shed.rows.turn_deg", "0")], "us")
    assert {a.key for a in plan(alike).answers if (a.stage, a.array) == ("sun", "shed")} == {
        "full_hours"
    }
    assert plan(alike).on("shed").answer("sun", "facing").value == straight["facing"]


def test_an_array_that_stands_already_is_wired_and_never_ordered_or_set_out(two: Design) -> None:
    stands = apply(two, [("arrays.shed.standing", "yes")], "us")
    found, was = plan(stands), plan(two)
    (one,) = differences(two, stands, "us")
    assert (one.label, one.before, one.after) == (
        "By the shed: An array stands there already",
        "no",
        "yes",
    )
    alone = plan(with_arrays(two, two.arrays[0]))
    for line in found.materials.lines:
        of_alone = next((o for o in alone.materials.lines if o.key == line.key), None)
        if line.stage in ("footings", "frame", "modules"):
            assert of_alone is not None and line.net == of_alone.net, line.key
    # Its wires are those of the day it was planned with the others.
    assert found.materials.quantity("trench_wire") == was.materials.quantity("trench_wire")
    assert found.wiring.circuits[1].strings.count == was.wiring.circuits[1].strings.count
    keys = {c.key: c.level for c in found.on("shed").shown("footings")[1]}
    assert keys["as_found"] == "look" and "locate" not in keys and "drivable" not in keys
    assert {c.key for c in found.checks if (c.stage, c.array) == ("stakeout", "shed")} == set()
    # Held at what was found: too little is a stop, as for any post.
    shallow = plan(apply(stands, [("arrays.shed.footings.depth_m", "2 ft")], "us")).on("shed")
    levels = {c.key: c.level for c in shallow.shown("footings")[1]}
    assert levels["as_found"] == "sound" and "stop" in levels.values()
    for file in ("stakes.csv", "cuts.csv"):
        text = EXPORTS[file].write(stands, found, Wanted(units="us"))
        assert "By the shed" not in text and "Array," in text
        assert "By the shed" in EXPORTS[file].write(two, was, Wanted(units="us"))
    # A copy of it is a new one.
    assert not apply(stands, [("arrays.+k", "shed")], "us").array("k").standing


def test_an_inverter_says_which_arrays_it_takes_by_their_names(two: Design) -> None:
    edits_made = [("wiring.inverters.+b", ""), ("wiring.inverters.b.takes", "By the shed\nArray")]
    found = apply(two, edits_made, "us")
    assert found.wiring.inverters[1].takes == ("shed", "1")
    (one,) = differences(two, apply(found, [("wiring.inverters.b.takes", "shed")], "us"), "us")
    assert one.path == "wiring.inverters"
    (one,) = differences(found, apply(found, [("wiring.inverters.b.takes", "")], "us"), "us")
    assert "By the shed, Array" in one.before and "none" in one.after
    with pytest.raises(DesignError, match="no array of this job"):
        apply(two, [("wiring.inverters.1.takes", "the barn")], "us")
    with pytest.raises(DesignError, match="at least 1"):
        apply(two, [("wiring.inverters.1", "")], "us")
    # Gone, it leaves a stop and not an invalid job; nothing is taken by one it was not said of.
    left = apply(found, [("wiring.inverters.b.takes", "shed"), ("arrays.shed", "")], "us")
    assert left.wiring.inverters[1].takes == ("shed",)
    check = next(c for c in plan(left).checks if c.key == "taken")
    assert check.level == "stop" and "gone" in str(check.measured)


def test_the_cut_shows_another_array_where_it_stands_behind(two: Design) -> None:
    """Its posts as far behind the open one's as on the ground; before this one, seen from the other."""
    straight = apply(
        two, [("arrays.shed.rows.turn_deg", "0"), ("arrays.shed.rows.at_north_m", "12 m")], "metric"
    )
    found = plan(straight)
    behind = straight.array("shed").rows.at_north_m - straight.array("1").rows.at_north_m

    def posts(of: str) -> list[float]:
        marks = [m for m in cut(found.on(of)).drawing.marks if m.layer == "ghost"]
        return [m.points[0][0] for m in marks if m.points[0][0] == m.points[1][0]]

    assert posts("1") == [pytest.approx(found.on("1").rows.section.post_x_m + behind, abs=1e-3)]
    assert posts("shed") == []
    assert [m for m in cut(plan(plain_larkspur())).drawing.marks if m.layer == "ghost"] == []


def test_what_all_arrays_say_is_told_once_and_what_some_say_is_told_of_each(two: Design) -> None:
    check = plan(two).checks[0]
    a, b, c = (replace(check, array=of, key="k") for of in ("a", "b", "c"))
    (told,) = once((a, b, c), 3)
    assert told.array == ""
    assert [one.array for one in once((a, b), 3)] == ["a", "b"]
    other = replace(c, measured="another")
    assert [one.array for one in once((a, b, other), 3)] == ["a", "b", "c"]
    assert once((a,), 1) == (a,)


def test_a_pull_that_turns_too_far_leads_to_the_way_of_its_own_array(two: Design) -> None:
    spur = SpurGivens(id="w", array="shed", points=((9.0, 12.0), (7.0, 11.0), (9.0, 10.0), (6.0, 9.0)))
    found = plan(changed(two, "site", spurs=(spur,)))
    given = {c.array: c.given for c in found.trench.checks if c.key == "bends"}
    assert given == {"1": "site.route", "shed": "site.spurs.w.points"}


def test_what_is_said_to_stand_can_be_unsaid_when_it_is_the_only_array(two: Design) -> None:
    alone = apply(two, [("arrays.shed.standing", "yes"), ("arrays.1", "")], "us")
    found = plan(alone)
    fields = {given.path for given in stage_sheet("site", alone, found, "us").givens}
    assert "arrays.shed.standing" in fields
    assert EXPORTS["stakes.csv"].write(alone, found, Wanted(units="us")).count("\n") == 1


def test_names_that_are_alike_are_told_apart() -> None:
    arrays = tuple(
        ArrayGivens(id=one, name=name)
        for one, name in (("a", "Field"), ("b", "Field"), ("c", "Barn"), ("d", "Field"))
    )
    assert array_labels(arrays) == {"a": "Field", "b": "Field (2)", "c": "Barn", "d": "Field (3)"}


def test_an_edit_in_one_array_computes_nothing_of_another(two: Design) -> None:
    MEMO.forget()
    plan(two)
    MEMO.made = []
    plan(apply(two, [("arrays.shed.rows.tilt_deg", "26")], "us"))
    made, MEMO.made = MEMO.made, None
    for stage in ("rows", "structure", "footings", "frame", "modules", "array", "wiring", "run"):
        assert made.count(stage) == 1, stage
    assert "site" not in made and "sun" not in made


# An array's id, name, tilt, and the tables that are told of one by one.
Told = tuple[str, str, float, tuple[str, ...]]


class Edited(RuleBasedStateMachine):
    """Arrays put in, copied, named, ordered, taken out and undone at random: none lost or misplaced."""

    def __init__(self) -> None:
        super().__init__()
        self.steps = [plain_larkspur()]
        self.told: list[list[Told]] = [[("1", "Array", 34.0, ())]]
        self.count = 0

    @property
    def now(self) -> list[Told]:
        return list(self.told[-1])

    def edit(self, path: str, text: str, told: list[Told]) -> None:
        self.steps.append(apply(self.steps[-1], [(path, text)], "us"))
        self.told.append(told)

    @rule(data=st.data(), plain=st.booleans())
    def put_in(self, data: st.DataObject, plain: bool) -> None:
        if len(self.now) >= 6:
            return
        self.count += 1
        new = f"k{self.count}"
        like = ("", "Array", 34.0, ()) if plain else data.draw(st.sampled_from(self.now))
        self.edit(f"arrays.+{new}", like[0], self.now)
        added = self.steps[-1].arrays[-1]
        assert added.id == new and added.name not in {name for _, name, _, _ in self.now}
        self.told[-1] = [*self.now, (new, added.name, *like[2:])]

    @rule(data=st.data())
    def take_out(self, data: st.DataObject) -> None:
        if len(self.now) > 1:
            gone = data.draw(st.sampled_from(self.now))
            self.edit(f"arrays.{gone[0]}", "", [one for one in self.now if one != gone])

    @rule(data=st.data(), tilt=st.integers(5, 60))
    def tilt(self, data: st.DataObject, tilt: int) -> None:
        which = data.draw(st.sampled_from(self.now))
        self.edit(
            f"arrays.{which[0]}.rows.tilt_deg",
            str(tilt),
            [(*one[:2], float(tilt), one[3]) if one == which else one for one in self.now],
        )

    @rule(data=st.data())
    def tell_of_a_table(self, data: st.DataObject) -> None:
        which = data.draw(st.sampled_from(self.now))
        self.count += 1
        new = f"t{self.count}"
        self.edit(
            f"arrays.{which[0]}.rows.tables.+{new}",
            "",
            [(*one[:3], (*one[3], new)) if one == which else one for one in self.now],
        )

    @rule(data=st.data())
    def tell_no_more_of_a_table(self, data: st.DataObject) -> None:
        which = data.draw(st.sampled_from(self.now))
        if which[3]:
            gone = data.draw(st.sampled_from(which[3]))
            left = tuple(one for one in which[3] if one != gone)
            self.edit(
                f"arrays.{which[0]}.rows.tables.{gone}",
                "",
                [(*one[:3], left) if one == which else one for one in self.now],
            )

    @rule(data=st.data(), name=st.sampled_from(["North", "Barn", "By the pond"]))
    def name(self, data: st.DataObject, name: str) -> None:
        which = data.draw(st.sampled_from(self.now))
        self.edit(
            f"arrays.{which[0]}.name",
            name,
            [(one[0], name, *one[2:]) if one == which else one for one in self.now],
        )

    @rule(data=st.data())
    def order(self, data: st.DataObject) -> None:
        which = data.draw(st.sampled_from(self.now))
        place = data.draw(st.integers(1, len(self.now)))
        told = [one for one in self.now if one != which]
        told.insert(place - 1, which)
        self.edit(f"arrays.{which[0]}.order", str(place), told)

    @rule()
    def undo(self) -> None:
        if len(self.steps) > 1:
            self.steps.pop()
            self.told.pop()

    @rule(data=st.data())
    def merge(self, data: st.DataObject) -> None:
        """What another did to one array meanwhile is had beside what was done here since."""
        back = data.draw(st.integers(0, len(self.steps) - 1))
        base = self.steps[back]
        kept = [one for one in self.told[back] if one[0] in {now[0] for now in self.now}]
        if not kept:
            return
        which = data.draw(st.sampled_from(kept))
        theirs = apply(base, [(f"arrays.{which[0]}.rows.modules_along", "7")], "us")
        found = merged(base, self.steps[-1], theirs, frozenset())
        assert found.array(which[0]).rows.modules_along == 7
        assert [one.id for one in found.arrays] == [one[0] for one in self.now]

    @invariant()
    def nothing_is_lost(self) -> None:
        held = [
            (one.id, one.name, one.rows.tilt_deg, tuple(table.id for table in one.rows.tables))
            for one in self.steps[-1].arrays
        ]
        assert held == self.now


TestEdited = Edited.TestCase
TestEdited.settings = settings(max_examples=25, stateful_step_count=20, deadline=None)
