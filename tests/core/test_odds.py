"""What may go wrong: trials repeat, meet the closed forms, and nothing is made up."""

import math
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any, get_args

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import binom, norm

from openfurrow.core.as_built import as_built
from openfurrow.core.compare.families import UNDER, footings_of
from openfurrow.core.compare.footings import comes_to
from openfurrow.core.compare.risk import (
    Odds,
    cheapest_order,
    concrete_in,
    fails_in,
    odds_of,
    stopped_in,
)
from openfurrow.core.compare.risk_beside import odds_beside
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.footings.sizing import curve_of, withstood
from openfurrow.core.footings.spare import strength_asked
from openfurrow.core.plan import plan, untried
from openfurrow.sheets.odds import odds_sheet
from tests.core.breaks_piers import PULLED, having_tested, piers
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

MANY = 40_000


def job(**footing: Any) -> Design:
    said = {"stone_chance_per_m": 0.1, "bore_spread_m": 0.04, "bored_diameter_m": 0.45}
    return broken(plain_larkspur(), piers(**({"pier_diameter_m": 0.4} | said | footing)))


def odds(design: Design) -> dict[str, Odds]:
    first = design.arrays[0]
    found = odds_of(untried(design).on(first.id), first.footings, design.materials)
    return {one.key: one for one in found}


def test_nothing_that_nobody_said_is_looked_at() -> None:
    silent = job(stone_chance_per_m=None, bore_spread_m=None)
    assert odds(silent) == {}
    sheet = odds_sheet(silent, plan(silent), "us")
    assert not sheet.drawings and "nothing is looked at" in sheet.note
    assert odds(job(bore_spread_m=None)).keys() == {"stopped", "hours"}
    assert odds(job(stone_chance_per_m=None)).keys() == {"concrete"}
    # A tube is as wide as it is.
    assert "concrete" not in odds(job(pier_side="in a form tube"))
    assert "concrete" not in odds(changed(job(), "footings", family="driven post"))


def test_the_same_job_has_the_same_odds() -> None:
    one, two = odds(job()), odds(job())
    assert all(np.array_equal(one[key].values, two[key].values) for key in one)


@settings(max_examples=25, deadline=None)
@given(
    st.floats(0.005, 0.4),
    st.floats(0, 0.9),
    st.lists(st.sampled_from([1.2, 1.5, 1.8, 2.4]), min_size=1, max_size=60),
)
def test_stops_meet_their_mean_and_spread(per_m: float, alike: float, depths: list[float]) -> None:
    draw = np.random.default_rng(7)
    shared = draw.standard_normal(MANY)
    found = stopped_in(draw, shared, np.array(depths), per_m, alike)
    chances = np.array([1 - (1 - per_m) ** deep for deep in depths])
    mean, count = float(chances.sum()), len(depths)
    # Alike ones move together: n (1 + (n - 1) alike) is no less than their spread.
    error = math.sqrt(float((chances * (1 - chances)).sum()) * (1 + (count - 1) * alike) / MANY)
    assert float(found.mean()) == pytest.approx(mean, abs=5 * error + 1e-9)
    assert found.min() >= 0 and found.max() <= count
    if alike == 0:
        assert float(found.var()) == pytest.approx(float((chances * (1 - chances)).sum()), rel=0.06)


def test_each_by_itself_is_a_binomial() -> None:
    draw = np.random.default_rng(3)
    found = stopped_in(draw, draw.standard_normal(MANY), np.full(20, 1.5), 0.1, 0.0)
    chance = 1 - 0.9**1.5
    for stops in range(8):
        expected = float(binom.pmf(stops, 20, chance))
        assert float((found == stops).mean()) == pytest.approx(expected, abs=0.008)


def test_widths_spread_as_they_were_said_to() -> None:
    """E w² of a normal width cut off at the auger, by its closed form."""
    found = untried(job(alike_share=0.3))
    taken = found.footings.piers
    assert taken is not None
    draw = np.random.default_rng(5)
    poured = concrete_in(draw, draw.standard_normal(MANY), taken, 0.04, 0.3)
    at = (0.4 - 0.45) / 0.04
    above = float(norm.sf(at))
    squared = (0.45**2 + 0.04**2) * above + (0.45 + 0.4) * 0.04 * float(norm.pdf(at))
    squared += 0.4**2 * (1 - above)
    deep = float((taken.depths_m + taken.top_m).sum())
    assert float(poured.mean()) == pytest.approx(math.pi / 4 * squared * deep, rel=2e-3)
    # As wide as they come out, all of them: what is ordered.
    still = concrete_in(draw, draw.standard_normal(10), taken, 0.0, 0.3)
    assert still == pytest.approx(taken.order_m3)
    belled = untried(job(bell_diameter_m=0.8)).footings.piers
    assert belled is not None
    assert concrete_in(draw, np.zeros(3), belled, 0.0, 0.3) == pytest.approx(belled.order_m3)


def test_what_is_ordered_and_how_often_it_runs_short() -> None:
    design = job()
    one = odds(design)["concrete"]
    line = next(x for x in untried(design).materials.lines if x.key == "concrete")
    assert one.planned == pytest.approx(line.quantity)
    counted = sum(value > one.planned for value in one.values.tolist()) / one.values.size
    assert one.short == pytest.approx(counted, abs=1e-4)
    covered = one.at(0.95)
    assert sum(value > covered for value in one.values.tolist()) <= 0.05 * one.values.size
    # With so much ordered it runs short in fewer than one job in twenty.
    assert replace_planned(one, covered).short <= 0.05
    bags = odds(job(concrete_from="bags", bag_yield_m3=0.01))["concrete"]
    assert np.array_equal(bags.values, np.round(bags.values))
    assert float(np.abs(bags.values * 0.01 - one.values).max()) <= 0.01 + 1e-9


def replace_planned(one: Odds, planned: float) -> Odds:
    return Odds(key=one.key, title=one.title, kind=one.kind, values=one.values, planned=planned)


def test_hours_grow_by_what_each_stop_costs() -> None:
    found = odds(job(stone_hours=4.0))
    assert found["hours"].values - found["hours"].planned == pytest.approx(
        4.0 * found["stopped"].values
    )
    assert found["stopped"].planned == 0.0
    posts = changed(changed(job(), "footings", family="driven post"), "materials", spare_posts=2)
    assert odds(posts)["stopped"].planned == 2.0


def test_a_sheet_says_the_odds_in_its_units() -> None:
    design = job()
    sheet = odds_sheet(design, plan(design), "metric")
    assert [one.key for one in sheet.drawings][:3] == ["stopped", "concrete", "hours_beside"]
    bars = [mark for mark in sheet.drawings[0].marks if mark.layer == "chart-bar"]
    assert bars
    rows = {row[0]: row[1:] for row in sheet.tables[0].rows}
    assert rows["Concrete"][0].endswith("m³") and rows["Concrete"][3].endswith("of 100 jobs")


@settings(max_examples=30)
@given(
    st.lists(st.floats(0.5, 20), min_size=5, max_size=60),
    st.floats(1, 300),
    st.floats(0, 2000),
    st.sampled_from([0.1, 0.25, 1.0]),
)
def test_the_cheapest_order_by_trying_each(
    trials: list[float], each: float, short: float, pack: float
) -> None:
    values = np.sort(np.array(trials))
    found = cheapest_order(values, pack, each, short)

    def costs(order: float) -> float:
        runs_short = values > order + 1e-9
        bought = np.where(runs_short, values, order)
        return float((each * bought + short * runs_short).mean())

    tried = [costs(k * pack) for k in range(math.ceil(max(trials) / pack) + 3)]
    assert costs(found) == pytest.approx(min(tried))
    assert found / pack == pytest.approx(round(found / pack))


def test_a_dear_second_truck_asks_for_more_in_the_first() -> None:
    def cheapest(**materials: Any) -> float | None:
        design = changed(job(stone_chance_per_m=None), "materials", **materials)
        return odds(design)["concrete"].cheapest

    assert cheapest(short_cost=None) is None
    priced = [cheapest(short_cost=cost) for cost in (1.0, 200.0, 2000.0)]
    assert None not in priced and priced == sorted(priced) and priced[2] > priced[0]
    # Without a price of concrete there is no cheapest.
    assert cheapest(short_cost=200.0, prices=()) is None


def test_the_chance_that_the_book_met_is_offered() -> None:
    design = job()
    found = plan(design)
    at = found.places
    records = [
        Record(
            id=f"r{index}",
            kind="refusal" if index < 2 else "depth",
            of=f"1:1.1/{index + 1}",
            value=0.8 if index < 2 else 1.6,
            typed="",
            by="Ada",
            device="d",
            at=datetime(2026, 4, 20, 8, index, tzinfo=UTC),
            east_m=float(at.east_m[index]),
            north_m=float(at.north_m[index]),
        )
        for index in range(5)
    ]
    built = as_built(design, found, records)
    (take,) = odds_sheet(design, built, "us").takes
    # Two of five, over 2 x 0.8 and 3 x 1.6 m.
    assert "2 of 5 stopped, 31.2 % a metre" in take.words
    said = apply(design, [(edit.path, edit.text) for edit in take.edits], "us")
    assert said.arrays[0].footings.stone_chance_per_m == pytest.approx(2 / 6.4, abs=1e-3)
    assert odds_sheet(design, found, "us").takes == ()


# Strength that spreads ---------------------------------------------------------------------------


def holds_at(design: Design, share: float) -> bool:
    """Whether every post still carries at its depth, were all that its soil holds so much less."""
    first = untried(design).on(design.arrays[0].id)
    kinds, called = first.footings.posts.kinds, []
    for kind in kinds:
        at, profile = kind.ground, curve_of(kind.ground)
        weaker = replace(
            at,
            profile=replace(
                profile,
                push_n_per_m=profile.push_n_per_m * share,
                friction_n=profile.friction_n * share,
                tip_pa=profile.tip_pa * share,
                helix_pa=None if profile.helix_pa is None else profile.helix_pa * share,
            ),
        )
        depths, holds = withstood(weaker, kind.loads)
        here = int(np.searchsorted(depths, kind.depth_m + 1e-9, side="right")) - 1
        # What frost asks of depth is no matter of strength.
        called.append(bool(holds[[0, 1, 2, 4], here].all()))
    return all(called)


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["us", "metric"]),
    st.sampled_from(["driven post", "ground screw", "bored pier"]),
    st.floats(25.0, 55.0),
    st.floats(0.1, 1.0),
)
def test_weaker_by_what_is_asked_it_holds_and_weaker_still_it_does_not(
    pack: str, family: str, wind: float, frost: float
) -> None:
    """The printed rules on soil that is all of it so much weaker, at the depth that is called out."""
    wind = wind if pack == "us" else 0.6 * wind
    site = {"rule_pack": pack, "wind_speed_m_s": round(wind, 1), "frost_depth_m": round(frost, 2)}
    design = changed(changed(plain_larkspur(), "site", **site), "footings", family=family)
    kinds = untried(design).footings.posts.kinds
    most = max(strength_asked(kind) for kind in kinds)
    assert 0 < most <= 1.02
    assert holds_at(design, min(1.0, most * 1.03))
    assert not holds_at(design, most * 0.95)


def test_weak_ones_are_counted_by_the_normal_law_of_what_each_can_do_without() -> None:
    design = job(strength_spread=0.3, alike_share=0.0, stone_chance_per_m=None, bore_spread_m=None)
    found = untried(design)
    kinds, kind = found.footings.posts.kinds, found.structure.supports.kind
    chances = [float(norm.cdf((strength_asked(kinds[one]) - 1) / 0.3)) for one in kind.tolist()]
    weak = odds(design)["weak"]
    mean, count = sum(chances), len(chances)
    error = math.sqrt(sum(one * (1 - one) for one in chances) / weak.values.size)
    assert float(weak.values.mean()) == pytest.approx(mean, abs=5 * error + 1e-9)
    assert weak.planned == 0.0 and float(weak.values.max()) <= count
    # The wider it spreads the more hold less, as long as all of them hold as planned.
    wider = odds(changed(design, "footings", strength_spread=0.5))["weak"]
    assert float(wider.values.mean()) > float(weak.values.mean())


def test_tests_shift_the_mean_and_offer_what_they_spread_by() -> None:
    """Three posts that were pulled: the least is planned with, their mean lies above it."""
    pulls = [PULLED | {"readings": ((force, 0.004),)} for force in (3e4, 3.6e4, 4.2e4)]
    design = broken(plain_larkspur(), having_tested(*pulls))
    found = untried(design)
    pulled = found.footings.posts.kinds[0].ground.proved.pulled
    assert pulled is not None and pulled.shares.size == 3
    chances = fails_in(found, 0.25)
    kinds, kind = found.footings.posts.kinds, found.structure.supports.kind
    by_hand = [
        float(norm.cdf((strength_asked(kinds[one]) * pulled.taken / pulled.mean - 1) / 0.25))
        for one in kind.tolist()
    ]
    assert chances == pytest.approx(by_hand)
    offered = [take for take in odds_sheet(design, plan(design), "us").takes if "spread" in take.words]
    (take,) = offered
    assert take.edits[0].path.endswith("footings.strength_spread")
    taken = apply(design, [(take.edits[0].path, take.edits[0].text)], "us")
    spread = taken.arrays[0].footings.strength_spread
    assert spread == pytest.approx(pulled.spread, rel=6e-3)


# Family by family --------------------------------------------------------------------------------


def test_each_family_has_the_odds_of_its_own_plan() -> None:
    design = broken(job(), {"materials": {"hour_cost": 60.0}})
    beside = {one.footing: one for one in odds_beside(design, "1")}
    assert set(beside) == set(get_args(FamilyName))
    for family, one in beside.items():
        under = UNDER.get(family)
        alone = changed(design, "footings", family=family)
        alone = changed(alone, "structure", family=under) if under else alone
        found = untried(alone).on("1")
        own = {two.key: two for two in odds_of(found, alone.arrays[0].footings, alone.materials)}
        if found.footings.weights is not None:
            # Nothing stops what enters nothing.
            assert own == {} and one.stopped is None and one.concrete is None
            assert one.hours.values.min() == one.hours.values.max() == one.hours.planned
            continue
        assert one.stopped is not None
        assert np.array_equal(one.stopped.values, own["stopped"].values)
        assert np.array_equal(one.hours.values, own["hours"].values)
        assert (one.concrete is not None) is (family == "bored pier")


def test_cost_goes_with_hours_and_concrete_where_all_of_it_has_a_price() -> None:
    design = broken(plain_larkspur(), piers(stone_chance_per_m=0.15, bore_spread_m=0.03))
    open_ = {
        one.line.item
        for on in footings_of(design, "1")
        for one in comes_to(on, design.materials).cost.open
    }
    prices = (
        *design.materials.model_dump()["prices"],
        *({"id": f"q{n}", "item": item, "price": 10.0} for n, item in enumerate(sorted(open_))),
    )
    priced = broken(design, {"materials": {"prices": prices, "hour_cost": 50.0}})
    # Before, what has no price somewhere costs nothing that is known.
    assert any(one.cost is None for one in odds_beside(design, "1"))
    found = {one.footing: one for one in odds_beside(priced, "1")}
    pier, post = found["bored pier"], found["driven post"]
    assert post.cost is not None and pier.cost is not None and pier.concrete is not None
    # A post's cost moves with its hours alone.
    assert post.cost.values - post.cost.planned == pytest.approx(
        50.0 * (post.hours.values - post.hours.planned)
    )
    # A pier's by its concrete besides, at what a cubic metre costs in its own list.
    on = next(one for one in footings_of(priced, "1") if one.footing == "bored pier")
    line = next(one for one in comes_to(on, priced.materials).cost.priced if one.line.key == "concrete")
    each = (line.cost or 0.0) / line.line.quantity
    mean = 50.0 * (pier.hours.values.mean() - pier.hours.planned)
    mean += each * (pier.concrete.values.mean() - pier.concrete.planned)
    assert float(pier.cost.values.mean()) - pier.cost.planned == pytest.approx(mean, rel=1e-6)
    sheet = odds_sheet(priced, plan(priced), "us")
    assert {"hours_beside", "cost_beside"} <= {one.key for one in sheet.drawings}
    (table,) = [one for one in sheet.tables if one.key == "odds_beside"]
    assert [row[0].lower() for row in table.rows] == [one for one in get_args(FamilyName)]


def test_no_chance_said_no_family_is_compared() -> None:
    assert odds_beside(job(stone_chance_per_m=None), "1") == ()
