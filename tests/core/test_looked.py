"""What is practice is not yet anybody's own: the book of what somebody has looked at."""

import csv
import io
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.beginning import begun_like, from_nothing
from openfurrow.core.codes import RulePack
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.edits import DesignError, apply, differences
from openfurrow.core.fields import fields_of, value_at, write
from openfurrow.core.footings.families import OF_BALLAST, OF_PIERS, OF_PILES, OF_RUST, OF_SCREWS
from openfurrow.core.frame.givens import OF_BELOW, OF_POSTS
from openfurrow.core.looked import LOOKED, not_looked
from openfurrow.core.merging import clashing, merged
from openfurrow.core.plan import plan
from openfurrow.core.practice_list import practice_list
from openfurrow.core.structures.shelter_givens import OF_SHELTER
from openfurrow.core.structures.told import NOT_OF, OF_TRAVELS
from openfurrow.core.trench.givens import OF_ARMOUR, OF_BACK, OF_OVER, OF_WALLS
from openfurrow.core.wiring.backup_givens import OF_A_GENERATOR, OF_BACKUP
from openfurrow.core.wiring.givens import OF_BOXES, OF_CONNECTION
from openfurrow.demo.designs import grifo, larkspur, larkspur_with_pump_house
from openfurrow.exchange.design_json import read_design, write_design
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.write import job_sheet, stage_sheet
from tests.core.test_unsaid import OTHERS, typed
from tests.designs import designs

DAY = date(2027, 3, 1)
TILT, EDGE = "arrays.1.rows.tilt_deg", "arrays.1.rows.lower_edge_m"


def begun(pack: RulePack = "us") -> Design:
    return from_nothing("Kestrel barn", pack, DAY)


def mine(design: Design, *paths: str) -> Design:
    return apply(design, [(LOOKED, "\n".join(paths))], design.site.display_units)


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_at_first_everything_is_either_to_be_said_or_to_be_looked_at(pack: RulePack) -> None:
    new = begun(pack)
    open_, said = set(not_looked(new)), set(plan(new).missing)
    assert not open_ & said
    for path, field in fields_of(new).items():
        if value_at(new, path) in (None, "", ()) or field.item or len(field.choices) == 1:
            assert path not in open_
        elif path.split(".")[-2:] in [
            *(["structure", name] for name in NOT_OF["one post line"]),
            *(["footings", name] for name in (OF_BALLAST | OF_PILES | OF_PIERS | OF_SCREWS) - OF_RUST),
            *(["structure", name] for name in OF_TRAVELS | OF_SHELTER),
            *(["frame", name] for name in OF_POSTS | OF_BELOW | {"slot_held"}),
            *(
                ["trench", name]
                for name in OF_WALLS | OF_OVER | OF_BACK | OF_ARMOUR | {"plates_over", "before_pour"}
            ),
            *(["wiring", name] for name in OF_BOXES | OF_CONNECTION | {"rapid_shutdown"}),
            *(["wiring", name] for name in OF_BACKUP | OF_A_GENERATOR),
        ]:
            # Of a family that nobody took nothing is asked.
            assert path not in open_
        elif path.startswith("arrays.1.name") or field.pack not in (None, pack):
            continue
        elif path not in ("site.rule_pack", "site.display_units", "trench.of_dwelling"):
            assert path in open_, path
    # Of things that a job begins with too: the inverter is nobody's yet.
    assert "wiring.inverters.1.maximum_dc_v" in open_


def test_what_is_typed_has_been_looked_at_even_where_it_stays_what_it_was() -> None:
    new = begun()
    same = apply(new, [(TILT, write(fields_of(new)[TILT], value_at(new, TILT), "us"))], "us")
    assert value_at(same, TILT) == value_at(new, TILT)
    assert set(not_looked(new)) - set(not_looked(same)) == {TILT}
    (told,) = differences(new, same, "us")
    assert (told.path, told.label) == (LOOKED, "Practice: tilt")
    other = apply(new, [(TILT, "20")], "us")
    assert TILT not in not_looked(other)
    # A step that changes a value says so once.
    assert [one.path for one in differences(new, other, "us")] == [TILT]
    # Typed back it is still somebody's.
    assert TILT not in not_looked(apply(other, [(TILT, "34")], "us"))
    # A thing's own values likewise.
    volts = "wiring.inverters.1.maximum_dc_v"
    assert volts not in not_looked(apply(new, [(volts, "600 V")], "us"))


def test_one_press_says_mine_of_many_and_nothing_else_moves() -> None:
    new = begun()
    group = tuple(path for path in not_looked(new) if ".modules." in path)
    seen = mine(new, *group)
    assert set(not_looked(new)) - set(not_looked(seen)) == set(group)
    assert seen.model_copy(update={"looked": new.looked}) == new
    assert mine(seen, *group) == seen
    assert read_design(write_design(seen).encode()) == seen
    for wrong in ("rows.tilt_deg", "arrays.9.rows.tilt_deg", "site.features.1.depth_m", "x", "looked"):
        with pytest.raises(DesignError) as refused:
            mine(new, TILT, wrong)
        assert refused.value.problems[0].path == wrong


def test_a_new_array_is_looked_at_as_the_one_it_is_like_and_one_that_goes_leaves_no_trace() -> None:
    seen = mine(begun(), TILT)
    two = apply(seen, [("arrays.+b", "1")], "us")
    assert "arrays.b.rows.tilt_deg" not in not_looked(two)
    assert "arrays.b.rows.lower_edge_m" in not_looked(two)
    plain = apply(seen, [("arrays.+b", "")], "us")
    assert "arrays.b.rows.tilt_deg" in not_looked(plain)
    one = apply(two, [("arrays.1", "")], "us")
    assert not [path for path in one.looked if path.startswith("arrays.1.")]
    # Typed into and taken out in one breath, there is nothing left to have seen.
    assert apply(two, [("arrays.b.rows.tilt_deg", "20"), ("arrays.b", "")], "us").looked == seen.looked


def test_two_who_look_at_different_things_have_both_looked() -> None:
    base = mine(begun(), "materials.waste")
    one, other = mine(base, TILT), mine(base, EDGE)
    assert clashing(base, one, other) == frozenset()
    both = merged(base, one, other, frozenset())
    assert set(both.looked) == {*base.looked, TILT, EDGE}
    # Who takes a look back takes back that one alone.
    undone = base.model_copy(update={"looked": ()})
    assert set(merged(base, undone, other, frozenset()).looked) == {EDGE}


def test_under_other_rules_practice_is_what_it_is_there_and_what_is_mine_stays() -> None:
    us = begun("us")
    kept = mine(us, "arrays.1.structure.post_section")
    moved = apply(kept, [("site.rule_pack", "metric")], "us")
    fresh = begun("metric")
    assert moved.arrays[0].structure.post_section == us.arrays[0].structure.post_section == "W6x9"
    assert fresh.arrays[0].structure.post_section != "W6x9"
    for path in not_looked(fresh):
        if path in not_looked(moved):
            assert value_at_any(moved, path) == value_at_any(fresh, path), path
    assert moved.arrays[0].frame.stock_length_m == fresh.arrays[0].frame.stock_length_m == 6.0
    back = apply(moved, [("site.rule_pack", "us")], "us")
    assert back.arrays == us.arrays
    # What was typed is not practice, though it lies near it.
    typed_in = apply(
        us, [("arrays.1.frame.stock_length_m", "20 ft"), ("site.rule_pack", "metric")], "us"
    )
    assert typed_in.arrays[0].frame.stock_length_m == pytest.approx(6.096)


def value_at_any(design: Design, path: str) -> object:
    return value_at(design, path) if path in fields_of(design) else None


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_practice_is_round_in_the_units_of_its_rules(pack: RulePack) -> None:
    """Tape marks of a whole inch, or of five millimetres; the module's own are its data sheet's."""
    new = begun(pack)
    step_m = 0.0254 if pack == "us" else 0.005
    for path in not_looked(new):
        field = fields_of(new).get(path)
        if (
            field is None
            or field.kind != "tape"
            or (path.startswith("arrays.1.modules.") and (path.endswith(("length_m", "width_m"))))
        ):
            continue
        marks = value_at(new, path) / step_m
        assert marks == pytest.approx(round(marks), abs=1e-9), path


def test_what_was_taken_stays_what_it_is_under_other_rules() -> None:
    """It is nobody's here yet, but neither is it practice."""
    model = apply(
        begun("metric"), [(EDGE, "700 mm"), ("arrays.1.frame.stock_length_m", "7 m")], "metric"
    )
    new = begun_like(begun("us"), model)
    assert EDGE in not_looked(new)
    moved = apply(new, [("site.rule_pack", "metric")], "us")
    assert value_at(moved, EDGE) == value_at(new, EDGE) == pytest.approx(0.7)
    assert value_at(moved, "arrays.1.frame.stock_length_m") == pytest.approx(7.0)


def test_what_is_like_something_taken_is_taken_and_what_stood_elsewhere_is_asked_about() -> None:
    new = begun_like(begun(), larkspur_with_pump_house())
    more = apply(new, [("arrays.+b", "1")], "us")
    assert "arrays.b.rows.tilt_deg" in not_looked(more)
    stood = apply(larkspur_with_pump_house(), [("arrays.2.standing", "yes")], "us")
    like = begun_like(begun(), stood)
    assert [one.standing for one in like.arrays] == [False, None]
    assert "arrays.2.standing" in plan(like).missing
    # Merged, what either took from elsewhere is still from elsewhere.
    assert merged(begun(), begun(), new, frozenset()).taken == new.taken


def test_what_another_ground_was_tested_for_proves_nothing_here() -> None:
    """Pulls, grips, widths and chances were met there; what was looked at there is not here."""
    told = [
        ("arrays.1.footings.pull_tested", "yes"),
        ("arrays.1.footings.predrilled", "yes"),
        ("arrays.1.footings.stone_chance_per_m", "5 %"),
        ("arrays.1.footings.loose_top_m", "1 ft"),
        ("arrays.1.footings.slab_holds", "yes"),
        ("arrays.1.footings.ground_bites", "peaty or polluted ground"),
    ]
    model = apply(larkspur_with_pump_house(), told, "us")
    new = begun_like(begun(), model)
    held = new.arrays[0].footings
    assert (held.pull_tested, held.predrilled, held.stone_chance_per_m) == (False, False, None)
    assert (held.loose_top_m, held.slab_holds, held.ground_bites) == (0.0, False, "natural ground")
    open_ = not_looked(new)
    assert {"arrays.1.footings.pull_tested", "arrays.1.footings.ground_bites"} <= set(open_)
    # What was decided for any ground goes along.
    assert held.family == model.arrays[0].footings.family


def test_begun_like_another_job_it_has_its_arrays_and_nothing_of_its_ground() -> None:
    apart = [("arrays.1.rows.at_east_m", "12 m"), ("arrays.1.rows.at_north_m", "-7 m")]
    model = apply(larkspur_with_pump_house(), apart, "metric")
    new = begun_like(begun(), model)
    assert new.site == begun().site and new.trench == begun().trench
    assert [one.name for one in new.arrays] == [one.name for one in model.arrays]
    for ours, theirs in zip(new.arrays, model.arrays, strict=True):
        assert ours.modules == theirs.modules and ours.frame == theirs.frame
        assert ours.structure.post_section == theirs.structure.post_section
        assert (ours.structure.shifts, ours.rows.tables, ours.rows.turn_deg) == ((), (), 0.0)
        assert (ours.footings.depth_m, ours.rows.pitch_m, ours.standing) == (None, None, False)
    places = [(one.rows.at_east_m, one.rows.at_north_m) for one in new.arrays]
    theirs_at = [(one.rows.at_east_m, one.rows.at_north_m) for one in model.arrays]
    assert places[0] == (0.0, 0.0)
    assert places[1] == pytest.approx([b - a for a, b in zip(theirs_at[0], theirs_at[1], strict=True)])
    assert new.wiring == model.wiring
    # How the rows lie was decided elsewhere, whatever it is: it is to be looked at again.
    for array in new.arrays:
        for name in ("tilt_deg", "rows", "modules_along", "lower_edge_m"):
            assert f"arrays.{array.id}.rows.{name}" in not_looked(new)
    tilt = f"arrays.{new.arrays[0].id}.rows.tilt_deg"
    assert tilt not in not_looked(mine(new, tilt))
    assert tilt not in not_looked(apply(new, [(tilt, "31")], "us"))
    # It is said of its place and weather what a bare job is asked for, and no more of its arrays.
    assert set(plan(new).missing) == {
        path for path in plan(begun()).missing if path.startswith("site.")
    }


def test_the_list_of_what_is_taken_for_granted_is_the_book() -> None:
    new = begun("metric")
    lines = practice_list(new, "metric")
    assert [line.path for line in lines] == list(not_looked(new))
    by_path = {line.path: line for line in lines}
    assert by_path[EDGE].value == "900 mm" and by_path[EDGE].label == "Lower edge"
    written = EXPORTS["practice.csv"].write(new, plan(new), Wanted(units="metric"))
    rows = list(csv.DictReader(io.StringIO(written)))
    assert [row["path"] for row in rows] == list(not_looked(new))
    assert next(row for row in rows if row["path"] == EDGE)["value"] == "900 mm"
    two = larkspur_with_pump_house().model_copy(update={"looked": ()})
    assert {line.array for line in practice_list(two, "us") if line.stage in ARRAY_STAGES} == {
        one.name for one in two.arrays
    }


@settings(max_examples=60, deadline=None)
@given(design=st.one_of(designs(), st.sampled_from((larkspur(), grifo()))), data=st.data())
def test_forms_strip_and_stops_count_the_same(design: Design, data: st.DataObject) -> None:
    paths = not_looked(design)
    some = data.draw(st.sets(st.sampled_from(paths))) if paths else set()
    seen = mine(design, *some) if some else design
    open_ = not_looked(seen)
    assert set(open_) == set(paths) - some
    found = plan(seen)
    sheet = job_sheet(seen, found, "us")
    assert sum(len(group.labels) for group in sheet.practice) == len(open_)
    assert sum(mark.practice for mark in sheet.stages) == len(open_)
    thin = [
        path
        for one in found.each()
        for mark in sheet.stages
        for shown in (stage_sheet(mark.stage, seen, one, "us"),)
        for path in (
            *(given.path for given in shown.givens if given.practice),
            *(
                f"{item.path}.{name}"
                for things in shown.lists
                for item in things.items
                for name in item.practice
            ),
        )
    ]
    assert set(thin) == set(open_)


@pytest.mark.parametrize("path", [path for path in OTHERS if path.startswith("site.")])
def test_what_only_people_can_say_is_never_practice(path: str) -> None:
    assert path not in not_looked(typed(begun(), path, OTHERS[path][0]))
