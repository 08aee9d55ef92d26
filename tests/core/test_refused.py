"""One that stopped: every way is what planning the whole job that way comes to."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.compare.refused import refused_at
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.footings.met import Met
from openfurrow.core.plan import plan, untried
from openfurrow.core.quantities import format_value
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.refusal import refusal_sheet
from tests.core.breaks_piers import piers
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur
from tests.reference.test_load_tests import needed_m

RULES = {
    "lateral": "wind tips it",
    "uplift": "wind lifts it",
    "bearing": "weight presses it",
    "frost": "below frost",
    "heave": "frost lifts it",
}


TIPS = "wind tips it"


def failing(design: Design, depth_m: float) -> set[str]:
    """What the whole array fails by, held at a depth."""
    found = untried(changed(design, "footings", depth_m=depth_m))
    levels = {check.key: check.level for check in found.checks if check.stage == "footings"}
    return {words for key, words in RULES.items() if levels[key] == "stop"}


@settings(max_examples=15, deadline=None)
@given(
    st.sampled_from(["driven post", "ground screw", "bored pier"]),
    st.floats(0.3, 2.5).map(lambda d: round(d, 2)),
)
def test_what_is_kept_carries_as_the_same_depth_does_planned(family: str, reached: float) -> None:
    design = changed(plain_larkspur(), "footings", family=family, pier_diameter_m=0.4)
    found = untried(design)
    every = {
        fail.removesuffix(", twisted")
        for index in range(found.structure.supports.count)
        for fail in refused_at(design, found, index, reached).fails
    }
    assert every == failing(design, reached)


def test_it_carries_at_the_next_depth_and_not_just_above() -> None:
    for name in ("larkspur", "varnbeck"):
        design = DESIGNS[name]()
        found = untried(design)
        index = int(found.footings.posts.asked_m.argmax())
        told = refused_at(design, found, index, 0.6)
        assert told.next_m is not None and told.fails
        assert refused_at(design, found, index, told.next_m).fails == ()
        step = 0.0254 if name == "larkspur" else 0.025
        assert refused_at(design, found, index, told.next_m - step).fails
        assert told.cut_m == pytest.approx(told.planned_m - 0.6)


def test_a_shift_that_is_offered_moves_its_bent_and_stops_nothing_new() -> None:
    design = changed(plain_larkspur(), "structure", span_limit_m=3.6)
    found = plan(design)
    before = {(c.stage, c.key) for c in found.checks if c.level == "stop"}
    sheet = refusal_sheet(design, found, "us", 2, 1.0)
    shifts = [take for take in sheet.takes if "Shift" in take.words]
    assert shifts and all("by 1' 0\"" in take.words for take in shifts)
    for take in shifts:
        ((path, text),) = [(one.path, one.text) for one in take.edits]
        moved = plan(apply(design, [(path, text)], "us"))
        assert {(c.stage, c.key) for c in moved.checks if c.level == "stop"} <= before
        places, now = found.places, moved.places
        away = np.hypot(now.east_m - places.east_m, now.north_m - places.north_m)
        assert away[2] == pytest.approx(0.3048, abs=2e-3)
        assert np.delete(away, 2) == pytest.approx(0, abs=1e-9)
    told = dict(design.arrays[0].structure.shifts)
    for one in refused_at(design, found, 2, 1.0).shifted:
        ((bent, by_m),) = set(one.shifts) - set(told.items())
        assert by_m - told.get(bent, 0.0) == pytest.approx(one.by_m)
        # Along the row counts from its first post to its last.
        shifted = untried(changed(design, "structure", shifts=one.shifts))
        moved_m = shifted.places.from_middle_m[2] - found.places.from_middle_m[2]
        assert moved_m == pytest.approx(one.by_m, abs=1e-9)
    # Where the spans are spent, nothing is offered that would stop.
    tight = changed(plain_larkspur(), "structure", span_limit_m=2.2)
    for one in refused_at(tight, untried(tight), 2, 1.0).shifted:
        shifted = changed(tight, "structure", shifts=one.shifts)
        after = {(c.stage, c.key) for c in untried(shifted).checks if c.level == "stop"}
        then = {(c.stage, c.key) for c in untried(tight).checks if c.level == "stop"}
        assert {(c.stage, c.key) for c in one.stops} <= after - then


def test_a_pier_instead_is_the_pier_that_the_array_would_get() -> None:
    shared = {"pier_diameter_m": 0.45, "bored_diameter_m": 0.5, "depths": "each post's own"}
    design = changed(plain_larkspur(), "footings", **shared)
    on_piers = untried(broken(plain_larkspur(), piers(**shared)))
    poured = on_piers.footings.piers
    assert poured is not None
    for index in range(0, on_piers.structure.supports.count, 3):
        told = refused_at(design, untried(design), index, 0.9)
        pier = next(one for one in told.instead if one.family == "bored pier")
        assert pier.depth_m == pytest.approx(float(on_piers.footings.posts.depths_m[index]))
        assert pier.concrete_m3 == pytest.approx(float(poured.bored_m3[index]))
    # A pier that stopped is not bored anew.
    own = refused_at(broken(plain_larkspur(), piers(**shared)), on_piers, 0, 0.9)
    assert [one.family for one in own.instead] == ["ground screw"]


def test_the_span_that_opens_is_the_one_between_its_neighbours() -> None:
    design = plain_larkspur()
    found = untried(design)
    places = found.places
    first = np.flatnonzero(places.of_table == 0)
    along = places.from_middle_m[first]
    for number, index in enumerate(first.tolist()):
        gap = refused_at(design, found, index, 1.0).gap_m
        if number in (0, first.size - 1):
            assert gap is None
        else:
            assert gap == pytest.approx(float(along[number + 1] - along[number - 1]))


def test_weights_are_stopped_by_nothing_and_a_sheet_says_its_numbers() -> None:
    quillay = DESIGNS["quillay"]()
    assert not refusal_sheet(quillay, plan(quillay), "metric", 0, 1.0).tables
    design = plain_larkspur()
    (table,) = refusal_sheet(design, plan(design), "metric", 1, 1.0).tables
    assert table.title.startswith("Support 2, 1.1/2: stopped at 1\u202f000 mm")
    rows = {row[0]: row[1:] for row in table.rows}
    told = refused_at(design, untried(design), 1, 1.0)
    assert told.next_m is not None
    assert rows["Go on down"][0] == format_value(told.next_m, "tape", "metric")
    assert len(rows) == 8


@settings(max_examples=10, deadline=None)
@given(st.floats(100, 9000), st.sampled_from(["us", "metric"]))
def test_neighbours_of_one_that_is_left_out_carry_half_of_it_each(snow: float, pack: str) -> None:
    """Its neighbour as it would be planned with so much more of everything, whatever carries it."""
    design = broken(
        plain_larkspur(),
        {
            "site": {
                "ground_snow_pa": snow,
                "rule_pack": pack,
                "terrain": "II",
                "soil_class": "sand",
                "test_holes": (),
                "frost_depth_m": 0.2,
            },
            "footings": {"depths": "each post's own"},
        },
    )
    found = untried(design)
    supports, posts = found.structure.supports, found.footings.posts
    told = refused_at(design, found, 3, 0.6)
    assert [one.index for one in told.neighbours] == [2, 4]
    for one in told.neighbours:
        kind = posts.kinds[int(supports.kind[one.index])]
        carries = found.structure.posts.kinds.tributary_m[int(supports.kind[one.index])]
        assert one.more == pytest.approx(1 + supports.tributary_m[3] / 2 / carries)
        # Friction in sand grows with the square of depth: safety x T x more on the same shaft.
        k, u = kind.needs.shaft.growing, kind.needs.shaft.perimeter_m
        need = np.sqrt(
            kind.needs.shaft.start_m**2
            + 2 * kind.ground.lift.safety * kind.needs.uplift_n * one.more / (u * k)
        )
        depth = float(posts.depths_m[one.index])
        assert ("wind lifts it" in one.fails) == (kind.needs.uplift_n > 0 and need > depth + 1e-9)
        # Each to its own depth has next to nothing to spare for a half more.
        assert one.fails
    # The last of a table has nobody beyond it.
    assert refused_at(design, found, 0, 0.6).neighbours == ()


def test_a_depth_with_much_to_spare_lets_one_be_left_out() -> None:
    """Posts far deeper than asked, nearer than their span: their ground carries one less of them."""
    design = changed(plain_larkspur(), "footings", depth_m=6.0)
    design = changed(design, "structure", span_limit_m=2.0)
    found = untried(design)
    told = refused_at(design, found, 4, 0.6)
    assert told.neighbours and not any(one.fails for one in told.neighbours)
    row = refusal_sheet(design, found, "us", 4, 0.6).tables[0].rows[-1]
    assert row[0] == "Leave it out"
    wide = changed(design, "structure", span_limit_m=4.5, shifts=())
    sheet = refusal_sheet(wide, untried(wide), "us", 1, 0.6).tables[0].rows[-1]
    assert row[2] == "stops" and "span that opens" in row[3]
    assert sheet[2] in ("look", "stops")


def test_what_would_be_written_down_is_what_was_typed_of_that_support() -> None:
    design = DESIGNS["larkspur"]()
    found = untried(design)
    record = refusal_sheet(design, found, "us", 3, 1.0668).record
    assert record is not None and record.kind == "refusal" and record.of == "1:1.1/4"
    assert record.typed == format_value(1.0668, "tape", "us") == "3' 6\""
    assert record.east_m == pytest.approx(float(found.places.east_m[3]))


def test_a_pier_that_stopped_short_is_stopped_by_its_concrete_too() -> None:
    """What the whole array is stopped by, all of it held at that depth, and nothing else."""
    stormy = {"structure": {"family": "two post lines"}, "site": {"wind_speed_m_s": 85.0}}
    design = broken(plain_larkspur(), piers(foot_bar=False, post_in_m=0.2) | stormy)
    found = untried(design)
    for reached in (0.5, 0.9, 1.4):
        held = untried(changed(design, "footings", depth_m=reached))
        stops = {
            check.key
            for check in held.footings.checks
            if check.level == "stop" and check.key in ("below_post", "bedding", "pull_out", "bending")
        }
        mine = {
            check.key
            for index in range(found.structure.supports.count)
            for check in refused_at(design, found, index, reached).strength
        }
        assert stops <= mine
        if reached == 0.5:
            assert stops
            row = refusal_sheet(design, found, "us", 3, reached).tables[0].rows[0]
            assert row[2].startswith("does not carry: ")
    # A driven post has no more to be stopped by when it ends higher.
    plain = untried(plain_larkspur())
    assert refused_at(plain_larkspur(), plain, 3, 1.2).strength == ()


# It leans, or water stands in its hole ------------------------------------------------------------


@settings(max_examples=20, deadline=None)
@given(st.floats(0.0, 12.0), st.sampled_from(["driven post", "bored pier"]))
def test_one_that_leans_is_tipped_by_what_comes_down_on_it(lean: float, family: str) -> None:
    """IBC 1807.3.2.1 by trial over every load, each moment grown by |V| h tan(lean)."""
    plain = changed(plain_larkspur(), "site", soil_class="sand", test_holes=(), frost_depth_m=0.2)
    design = changed(plain, "footings", family=family, pier_diameter_m=0.4)
    found = untried(design)
    index = int(found.footings.posts.asked_m.argmax())
    kind = found.footings.posts.kinds[int(found.structure.supports.kind[index])]
    over = float(found.structure.supports.reveals_m[index]) * math.tan(math.radians(lean))
    loads, width = kind.loads, kind.ground.body.across_m
    moment = np.hypot(np.abs(loads.moment_n_m) + np.abs(loads.down_n) * over, loads.along_moment_n_m)
    # Sand: 150 psf a foot of depth, doubled where half an inch of movement does no harm.
    doubled = 2.0 if design.arrays[0].footings.half_inch_moves else 1.0
    needed = needed_m(doubled * 150 * 47.88026 / 0.3048, np.abs(loads.push_n), moment, width)
    met = Met(lean_deg=lean)
    above, below = (
        any(fail.startswith(TIPS) for fail in refused_at(design, found, index, deep, met).fails)
        for deep in (needed - 0.02, needed + 0.02)
    )
    assert above and not below


def test_water_in_its_hole_is_water_in_the_soil() -> None:
    """What a test hole with water would have said of the same place."""
    holes = ({"id": "h", "name": "h", "layers": ((6.0, "sand", None),)},)
    dry = broken(plain_larkspur(), {"site": {"test_holes": holes, "frost_depth_m": 0.2}})
    hole = dry.site.test_holes[0].model_copy(update={"water_m": 0.8})
    wet = changed(dry, "site", test_holes=(hole,))
    on_dry, on_wet = untried(dry), untried(wet)
    differs = 0
    for index in range(on_dry.structure.supports.count):
        for reached in (1.0, 1.5, 2.0, 2.4, 2.8):
            met = refused_at(dry, on_dry, index, reached, Met(water_m=0.8))
            assert met.fails == refused_at(wet, on_wet, index, reached).fails
            differs += met.fails != refused_at(dry, on_dry, index, reached).fails
    assert differs
    index = int(on_wet.footings.posts.asked_m.argmax())
    told = refused_at(dry, on_dry, index, 1.2, Met(water_m=0.8)).instead
    assert told == refused_at(wet, on_wet, index, 1.2).instead
    assert told != refused_at(dry, on_dry, index, 1.2).instead


def test_the_desk_says_what_is_done_first() -> None:
    design = changed(plain_larkspur(), "footings", family="bored pier", pier_diameter_m=0.4)
    found = untried(design)
    met = Met(lean_deg=3.0, water_m=0.9)
    rows = {row[0]: row[1:] for row in refusal_sheet(design, found, "us", 1, 1.2, met).tables[0].rows}
    assert rows["Pull it straight"][1] == "leans too far"
    assert "Pump it out" in rows["Water in the hole"][2]
    near = refusal_sheet(design, found, "us", 1, 1.2, Met(lean_deg=0.5)).tables[0].rows
    assert near[0][2] == "near enough"
    assert not any(
        row[0] in rows and row[0] in ("Pull it straight", "Water in the hole")
        for row in refusal_sheet(design, found, "us", 1, 1.2).tables[0].rows
    )
