"""Prices laid on the list: matched by name, times what is ordered, never surer than they are."""

import csv
import io
from datetime import date
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.compare.families import footings_of
from openfurrow.core.compare.figures import figures
from openfurrow.core.compare.footings import comes_to, recommended
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.materials.prices import PriceGivens, cost_of
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.prices_csv import prices_csv, read_prices, with_prices
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.choosing import choosing_sheet
from openfurrow.sheets.write import stage_sheet
from tests.designs import changed

# A pound, a foot and a cubic yard: NIST SP 811, exact.
POUND, FOOT, CUBIC_YARD = 0.45359237, 0.3048, 0.9144**3


def price(item: str, amount: float | None, per: str = "piece", **more: Any) -> PriceGivens:
    return PriceGivens.model_validate(
        {
            "id": item[:9].lower().replace(" ", "").replace(",", "") or "x",
            "item": item,
            "price": amount,
            "per": per,
        }
        | more
    )


def priced(design: Design, *prices: PriceGivens, **more: Any) -> Plan:
    named = tuple(one.model_copy(update={"id": f"p{n}"}) for n, one in enumerate(prices))
    return plan(changed(design, "materials", prices=named, **more))


def bare() -> Design:
    return changed(DESIGNS["larkspur-two"](), "materials", prices=())


def test_each_line_costs_what_is_ordered_of_it_by_its_own_measure() -> None:
    """By hand: pieces, feet, pounds, cubic yards of what the list says."""
    found = priced(
        bare(),
        price("Module, 430 W", 100.0),
        price("Wire 10 AWG", 0.5, "ft"),
        price("Post stock, pipe 4 in", 1.25, "lb"),
        price("Concrete by truck", 170.0, "cu yd"),
        price("Array wire", 2.0, "m"),
        price("Purlin stock, Z 150", 1.5, "ft"),
        tax=0.1,
    )
    lines = {line.item.split(",")[0] + line.item[-20:]: line for line in found.materials.lines}
    by_item = {one.line.item: one for one in found.materials.cost.priced}

    def line(start: str) -> Any:
        return next(one for name, one in by_item.items() if name.startswith(start))

    assert line("Module, 430").cost == pytest.approx(36 * 100.0)
    wire = line("Wire 10 AWG")
    assert wire.cost == pytest.approx(wire.line.quantity / FOOT * 0.5)
    pipes = line("Post stock, pipe 4 in")
    # 4 in schedule 40 weighs 10.79 lb/ft (ASME B36.10M, from memory).
    assert pipes.cost == pytest.approx(pipes.line.quantity * 24.0 * 10.79 * 1.25, rel=0.01)
    concrete = line("Concrete by truck")
    assert concrete.cost == pytest.approx(concrete.line.quantity / CUBIC_YARD * 170.0)
    # Sticks of 24 ft, by the foot.
    purlins = line("Purlin stock")
    assert purlins.cost == pytest.approx(purlins.line.quantity * 24.0 * 1.5)
    assert line("Array wire").cost == pytest.approx(line("Array wire").line.quantity * 2.0)
    known = sum(one.cost for one in by_item.values() if one.cost is not None)
    told = {answer.key: answer for answer in found.materials.answers}
    assert told["cost"].value == pytest.approx(known * 1.1)
    watts = 36 * 430 + 12 * 400
    assert told["cost_per_watt"].value == pytest.approx(known * 1.1 / watts)
    # The wire of that size in the building is priced with that of the trench.
    assert len(found.materials.cost.open) == len(lines) - 7
    assert f"{len(lines) - 7} lines not priced" in told["cost"].label


def test_the_longest_beginning_that_fits_counts_and_words_are_whole() -> None:
    found = priced(
        bare(),
        price("module", 1.0),
        price("Module, 400 W", 2.0),
        price("Bo", 9.0),
        price("wire 1", 9.0),
    )
    costs = {one.line.item: one for one in found.materials.cost.priced}
    assert costs["Module, 430 W"].cost == pytest.approx(36.0)
    assert costs["Module, 400 W"].cost == pytest.approx(24.0)
    assert all(one.cost is None for item, one in costs.items() if not item.startswith("Module"))
    # One that is written down without a price leaves the line to a shorter one that has one.
    kept = priced(bare(), price("Module", 3.0), price("Module, 430 W", None))
    assert next(
        one for one in kept.materials.cost.priced if one.line.item == "Module, 430 W"
    ).cost == pytest.approx(108.0)


def test_the_whole_name_of_one_line_prices_no_other() -> None:
    """Heavy conduit begins as the light one does, and is dearer."""
    items = {line.item for line in plan(bare()).materials.lines}
    assert {"Conduit, 1 in", "Conduit, 1 in, heavy wall"} <= items
    light = priced(bare(), price("Conduit, 1 in", 5.0))
    costs = {one.line.item: one.cost for one in light.materials.cost.priced}
    assert costs["Conduit, 1 in"] and costs["Conduit, 1 in, heavy wall"] is None
    both = priced(bare(), price("Conduit", 5.0))
    told = {one.line.item: one.cost for one in both.materials.cost.priced}
    assert told["Conduit, 1 in"] and told["Conduit, 1 in, heavy wall"]


def test_a_price_by_what_is_not_known_is_no_price() -> None:
    """Clamps have no weight here, modules no length."""
    found = priced(bare(), price("End clamp", 4.0, "kg"), price("Module", 4.0, "m"))
    whys = {one.line.item: one.why for one in found.materials.cost.priced if one.cost is None}
    assert whys["End clamp"] == "priced by the kg, but its weight is not in the list"
    assert whys["Module, 430 W"] == "priced by the m, but its length is not in the list"
    assert not [answer for answer in found.materials.answers if answer.key == "cost"]


def test_prices_grow_old_and_a_day_that_is_missing_is_not_fresh() -> None:
    def fresh(*prices: PriceGivens) -> Any:
        found = priced(bare(), *prices).materials.checks
        return next((check for check in found if check.key == "fresh_prices"), None)

    assert fresh() is None
    # The job begins on 20 April 2026.
    assert fresh(price("Module", 1.0, priced_on=date(2026, 1, 5))).level == "sound"
    assert fresh(price("Module", 1.0, priced_on=date(2025, 12, 20))).level == "look"
    mixed = price("Module", 1.0, priced_on=date(2026, 4, 1)), price("Fuse", 1.0)
    assert fresh(*mixed).level == "look" and "1 without their day" in str(fresh(*mixed).measured)
    # One that fits nothing says nothing.
    assert fresh(price("Module", 1.0, priced_on=date(2026, 4, 1)), price("Gold", 1.0)).level == "sound"


def test_choosing_goes_by_cost_only_where_all_of_each_is_priced() -> None:
    design = DESIGNS["larkspur-two"]()
    every = tuple(comes_to(one, design.materials) for one in footings_of(design, "1"))
    for one in every:
        assert (one.comes_to is None) == bool(one.cost.open or not one.cost.priced)
        if one.comes_to is None:
            continue
        by_hand = sum(line.cost or 0.0 for line in one.cost.priced) + (one.hours or 0.0) * 52.0
        assert one.comes_to == pytest.approx(by_hand)
    best = recommended(every)
    assert best is not None and best.on.footing == "driven post"
    assert "least cost of what is priced" in choosing_sheet(design, plan(design), "us").note
    # Make steel of driven posts dear: now a pier is advised, though it takes more hours.
    dear = changed(
        design,
        "materials",
        prices=tuple(
            one.model_copy(update={"price": 0.01})
            if one.item in ("Concrete by truck", "Stone for the bores", "Bar through")
            else one.model_copy(update={"price": 9.0})
            if one.item == "Strut"
            else one
            for one in design.materials.prices
        ),
        hour_cost=0.01,
    )
    cheap = recommended(tuple(comes_to(one, dear.materials) for one in footings_of(dear, "1")))
    hours = {
        one.on.footing: one.comes_to
        for one in (comes_to(of, dear.materials) for of in footings_of(dear, "1"))
    }
    possible = {name: cost for name, cost in hours.items() if name in ("driven post", "bored pier")}
    assert cheap is not None and cheap.on.footing == min(possible, key=lambda name: possible[name] or 0)
    # Without the price of an hour nothing is added up, and hours decide.
    unknown = changed(design, "materials", hour_cost=None)
    told = choosing_sheet(unknown, plan(unknown), "us")
    assert "fewest hours of people" in told.note and "An hour of work has no price" in told.note
    sums = next(row for row in told.tables[0].rows if row[0].startswith("With the hours"))
    assert set(sums[1:]) == {""}


def test_variants_show_cost_only_where_there_is_one() -> None:
    told = {one.label: one.value for one in figures(plan(DESIGNS["larkspur-two"]()))}
    none = {one.label: one.value for one in figures(plan(bare()))}
    assert told.keys() == none.keys()
    assert isinstance(told["Cost of materials"], float) and told["Lines without a price"] == 1.0
    parts = [told[f"Of that {stage}"] for stage in ("footings", "frame", "modules", "trench", "wiring")]
    assert sum(parts) == pytest.approx(told["Cost of materials"])
    watts = told["Power"]
    assert told["Cost for each watt"] == pytest.approx(told["Cost of materials"] / watts)
    assert none["Cost for each watt"] is None and none["Of that frame"] is None
    assert none["Cost of materials"] == "not looked at: nothing has a price yet"


def test_what_it_costs_adds_up_stage_by_stage() -> None:
    design = changed(DESIGNS["larkspur-two"](), "materials", tax=0.07)
    sheet = stage_sheet("materials", design, plan(design), "us")
    costs = next(table for table in sheet.tables if table.key == "costs")

    def number(text: str) -> float:
        return float("".join(one for one in text if one in "0123456789."))

    *stages, tax, total = [number(row[1]) for row in costs.rows]
    assert total == pytest.approx(sum(stages) + tax, abs=0.05)
    assert tax == pytest.approx(0.07 * sum(stages), abs=0.02)
    rows = next(table for table in sheet.tables if table.key == "priced").rows
    assert sum(number(row[3]) for row in rows if row[3]) == pytest.approx(sum(stages), abs=0.5)


@given(
    st.lists(
        st.tuples(
            st.text("abcdefgh ,=+-@", min_size=1, max_size=12).filter(lambda one: one.strip()),
            st.floats(0, 1e6).map(lambda one: round(one, 2)),
            st.sampled_from(["piece", "m", "ft", "kg", "lb", "m³", "cu yd"]),
            st.none() | st.dates(date(2020, 1, 1), date(2030, 1, 1)),
        ),
        min_size=1,
        max_size=8,
        unique_by=lambda one: one[0].strip().casefold(),
    )
)
def test_a_list_that_goes_out_comes_back_the_same(told: list) -> None:
    design = DESIGNS["larkspur"]()
    said = tuple(
        PriceGivens(id=f"x{n}", item=item.strip(), price=amount, per=per, priced_on=day, quoted_by="y")
        for n, (item, amount, per, day) in enumerate(told)
    )
    found = changed(design, "materials", prices=said)
    text = prices_csv(found, plan(found), Wanted(units="us"))
    again = {one.item.casefold(): one for one in read_prices(text.encode(), "USD")}
    for one in said:
        # What fits a line goes out under the line's own name.
        back = again.get(one.item.casefold())
        if back is not None:
            held = replace_id(back)
            assert held == replace_id(one) or (
                one.price is not None and back.price == pytest.approx(one.price, rel=1e-5)
            )


def replace_id(one: PriceGivens) -> PriceGivens:
    return one.model_copy(update={"id": "same"})


def test_a_file_lands_on_what_was_there() -> None:
    design = changed(
        bare(), "materials", prices=(price("Module, 430 W", 9.0), price("Fuse", 2.0)), currency="USD"
    )
    data = "Item;Price;per;Priced on\nModule, 430 W;118,50;;2026-03-01\nSand;40;cu yd;\nTape;;ft;\n"
    new, words = with_prices(design, data.encode(), "yard.csv")
    assert words == "2 prices from yard.csv"
    told = {one.item: one for one in new.materials.prices}
    assert told["Module, 430 W"].price == 118.5 and told["Module, 430 W"].priced_on == date(2026, 3, 1)
    assert told["Fuse"].price == 2.0 and told["Sand"].per == "cu yd" and "Tape" not in told
    cost = cost_of(plan(new).materials.lines, new.materials.prices)
    assert {one.line.item.split(",")[0] for one in cost.priced if one.cost} == {
        "Module",
        "Fuse 25 A",
        "Fuse 20 A",
        "Sand",
    }


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "is empty"),
        ("item,cost\nFuse,3\n", "no column 'price'"),
        ("item,price,price\nFuse,3,4\n", "two columns 'price'"),
        ("item,price\nFuse,\n", "holds no price"),
        ("item,price\n,3\n", "without an item in line 2"),
        ("item,price\nFuse,3\nfuse,4\n", "in line 2 and again in line 3"),
        ("item,price\nFuse,three\n", "'three' for a price in line 2"),
        ("item,price\nFuse,-3\n", "'-3' for a price in line 2"),
        ("item,price\nFuse,nan\n", "'nan' for a price in line 2"),
        ("item;price\nFuse;1.200\n", "thousands, or parts of one"),
        ('item,price\nFuse,"12,50"\n', "'12,50' for a price in line 2"),
        ("item,price,per\nFuse,3,dozen\n", "per 'dozen' in line 2"),
        ("item,price,priced on\nFuse,3,1.4.2026\n", "'1.4.2026' for a day in line 2"),
        ("item,price,currency\nFuse,3,EUR\n", "is in EUR in line 2"),
    ],
)
def test_a_list_that_cannot_be_read_is_refused_by_its_line(text: str, says: str) -> None:
    with pytest.raises(DesignError) as refused:
        read_prices(text.encode(), "USD")
    (problem,) = refused.value.problems
    assert says in problem.message and problem.remedy


def test_the_list_goes_out_with_room_for_every_price() -> None:
    design = bare()
    rows = list(csv.DictReader(io.StringIO(prices_csv(design, plan(design), Wanted(units="us")))))
    assert len(rows) == len({line.item for line in plan(design).materials.lines})
    assert {row["price"] for row in rows} == {""} and {row["currency"] for row in rows} == {"USD"}


@pytest.mark.parametrize("name", ["larkspur-two", "grifo", "quillay", "varnbeck", "marram"])
@pytest.mark.parametrize("units", ["us", "metric"])
def test_a_list_filled_in_as_it_went_out_prices_every_line(name: str, units: Any) -> None:
    """By what stands in the column for each: nothing is left to be found out."""
    design = changed(DESIGNS[name](), "materials", prices=())
    out = prices_csv(design, plan(design), Wanted(units=units))
    rows = list(csv.DictReader(io.StringIO(out)))
    filled = io.StringIO()
    writer = csv.DictWriter(filled, rows[0].keys())
    writer.writeheader()
    writer.writerows(row | {"price": "3"} for row in rows)
    new, _ = with_prices(design, filled.getvalue().encode(), "yard")
    assert plan(new).materials.cost.open == ()
