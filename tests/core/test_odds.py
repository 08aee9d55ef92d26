"""What may go wrong: trials repeat, meet the closed forms, and nothing is made up."""

import math
from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import binom, norm

from openfurrow.core.as_built import as_built
from openfurrow.core.compare.risk import Odds, cheapest_order, concrete_in, odds_of, stopped_in
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import plan, untried
from openfurrow.sheets.odds import odds_sheet
from tests.core.breaks_piers import piers
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
    assert [one.key for one in sheet.drawings] == ["stopped", "concrete"]
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
