"""Conductors, conduit and counts against printed tables and trade facts."""

import math

import pytest

from openfurrow.core.codes import constant, table
from openfurrow.core.design import Design
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import FOOT_M, INCH_M
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.trench.conduit import Pull, size_conduit
from openfurrow.core.wiring.conductors import (
    conductor,
    conductors,
    grounding_conductor,
    heat_factor,
    protection_a,
    string_drop,
)
from openfurrow.core.wiring.strings import at_temperature, divide


@pytest.mark.parametrize(
    ("method", "trade", "size", "most"),
    [
        ("PVC conduit", "3/4", "10", 9), ("PVC conduit", "1", "10", 15),
        ("PVC conduit", "1-1/4", "10", 27), ("PVC conduit", "1", "8", 9),
        ("PVC conduit", "2", "6", 25), ("PVC conduit", "1", "6", 6),
        ("rigid metal conduit", "1", "10", 16), ("rigid metal conduit", "3/4", "8", 5),
    ],
)
def test_most_wires_in_a_conduit(method: str, trade: str, size: str, most: int) -> None:
    """From memory of NEC 2020, Annex C, Tables C.11 (PVC-40) and C.1 (EMT, whose areas the metal
    column holds): THHN, over two wires. The annex rounds 0.8 up, which none of these rows needs."""
    wire = conductor("us", size)
    label = {"3/4": "3/4 in", "1": "1 in", "1-1/4": "1-1/4 in", "2": "2 in"}[trade]

    def chosen(count: int) -> str:
        pull = Pull(count, count * wire.outside_area_m2, 1.0, 1e-5)
        return size_conduit("us", method, pull, growth=False).label

    assert chosen(most) == label
    assert chosen(most + 1) != label


def test_room_for_growth_takes_the_next_size_and_says_so() -> None:
    pull = Pull(7, 7 * conductor("us", "10").outside_area_m2, 1.0, 1e-5)
    tight = size_conduit("us", "PVC conduit", pull, growth=False)
    roomy = size_conduit("us", "PVC conduit", pull, growth=True)
    assert (tight.label, roomy.label) == ("3/4 in", "1 in")
    assert roomy.grown and not tight.grown and roomy.fill < tight.fill <= 0.4


@pytest.mark.parametrize(
    ("size", "amperes_75", "amperes_90", "ohm_per_kft", "square_inches"),
    [("10", 35, 40, 1.24, 0.0211), ("8", 50, 55, 0.778, 0.0366), ("6", 65, 75, 0.491, 0.0507),
     ("4", 85, 95, 0.308, 0.0824), ("2", 115, 130, 0.194, 0.1158), ("1/0", 150, 170, 0.122, 0.1855),
     ("4/0", 230, 260, 0.0608, 0.3237)],
)
def test_the_conductor_table(
    size: str, amperes_75: float, amperes_90: float, ohm_per_kft: float, square_inches: float
) -> None:
    """From memory of NEC 2020, Chapter 9 Tables 5 and 8, and Table 310.16."""
    wire = conductor("us", size)
    assert (wire.ampacity_75_a, wire.ampacity_90_a) == (amperes_75, amperes_90)
    assert wire.resistance_ohm_per_m * 1000 * FOOT_M == pytest.approx(ohm_per_kft, rel=2e-3)
    assert wire.outside_area_m2 / INCH_M**2 == pytest.approx(square_inches, rel=2e-3)


def test_resistance_follows_from_copper_itself() -> None:
    """IEC 60028: annealed copper 1/58 ohm mm²/m at 20 °C, +0.393 % a degree; stranding adds some."""
    for pack, celsius in (("us", 75), ("metric", 20)):
        for wire in conductors(pack):
            bare = (1 / 58) * (1 + 0.00393 * (celsius - 20)) / wire.copper_mm2
            # 50 mm² of the standard holds about 47 mm² of copper; all others are within 9 %.
            most = 1.13 if wire.size == "50" else 1.09
            assert 0.98 <= wire.resistance_ohm_per_m / bare <= most, wire.label


def test_voltage_drop_agrees_with_the_circular_mil_formula() -> None:
    """Common formula of electricians: VD = 2 K I L / CM, K = 12.9 ohm cmil/ft for copper at 75 °C."""
    feet, amperes, volts, circular_mils = 150.0, 13.24, 390.0, 10380.0
    formula = 2 * 12.9 * amperes * feet / circular_mils / volts
    ours = string_drop(conductor("us", "10").resistance_ohm_per_m, feet * FOOT_M, 0.0, amperes, volts)
    assert ours == pytest.approx(formula, rel=0.01)


def test_heat_takes_from_ampacity_as_the_table_says() -> None:
    """From memory of NEC 2020, Table 310.15(B)(1), 90 °C column: 0.96 at 31-35 °C, 0.91 at 36-40,
    0.82 at 46-50; the table rounds the formula at each band's top."""
    for top, factor in ((35, 0.96), (40, 0.91), (50, 0.82)):
        assert heat_factor("us", top) == pytest.approx(factor, abs=0.006)


@pytest.mark.parametrize(("fuse", "size"), [(15, "10"), (25, "10"), (60, "10"), (70, "8"),
                                            (100, "8"), (200, "6"), (400, "3")])
def test_grounding_conductor_by_the_fuse(fuse: float, size: str) -> None:
    """From memory of NEC 2020, Table 250.122; 10 AWG is the smallest that the list carries."""
    assert grounding_conductor("us", fuse, conductor("us", "4/0")).size == size


def test_standard_fuses() -> None:
    """From memory of NEC 240.6(A): 14 A x 1.25 x 1.25 = 21.9 A takes 25 A."""
    assert protection_a("us", 14 * 1.25 * 1.25) == 25


@pytest.mark.parametrize(
    ("method", "driveway", "inches"),
    [("direct-buried cable", False, 24), ("rigid metal conduit", False, 6),
     ("PVC conduit", False, 18), ("PVC conduit", True, 18)],
)
def test_least_cover(method: str, driveway: bool, inches: float) -> None:
    """From memory of NEC 2020, Table 300.5, columns and the dwelling driveway row."""
    cover = table("us", "cover")
    column = "driveway_m" if driveway else "open_ground_m"
    assert cover.number(column, cover.row("method", method)) == pytest.approx(inches * INCH_M)


def test_the_demo_trench_is_dug_as_inspectors_measure_it(demo_plan: Plan) -> None:
    """Common practice, no published source: 18 in to the top of plastic conduit, 20 to 21 in
    measured at inspection."""
    assert 19.5 * INCH_M <= demo_plan.trench.route.cover_m <= 21 * INCH_M


def test_cold_voltage_by_hand() -> None:
    """By hand: 38.6 V x (1 + 0.0025 x 56) = 44.00 V; 600 / 44.00 = 13.6, so 13 in a string."""
    assert at_temperature(38.6, -0.0025, -31.0) == pytest.approx(44.004)
    assert math.floor(600 / 44.004) == 13


@pytest.mark.parametrize(
    ("modules", "longest", "lengths"),
    [(28, 9, (4, 7)), (60, 17, (4, 15)), (9372, 22, (426, 22))],
)
def test_equal_strings(modules: int, longest: int, lengths: tuple[int, int]) -> None:
    """Common practice, no published source: 4 x 7 of 28, 4 x 15 of 60, 22 in each of 426."""
    found = divide(modules, longest, 3)
    assert (found.size, found[0]) == lengths
    assert (found == found[0]).all()


def test_unequal_strings_when_nothing_divides() -> None:
    """Common practice, no published source: 9 + 9 + 10 of 28, where strings of 7 start too low."""
    assert sorted(divide(28, 10, 9).tolist()) == [9, 9, 10]


def test_clamps_of_a_small_array() -> None:
    """Common practice, no published source: two rails a module, four clamps a module, mid clamps
    shared; so one row of n takes 2 (n - 1) mid and 4 end clamps."""
    design = Design(name="one row", rows=RowsGivens(modules_high=1, modules_along=6))
    found = plan(design).modules
    assert (found.mid_clamps, found.end_clamps) == (10, 4)
    assert 2 * found.mid_clamps + found.end_clamps == 4 * 6


def test_purlin_reaches_past_the_last_module() -> None:
    """Common practice, no published source: 50 to 100 mm (2 to 4 in) beyond, 20 mm between rows."""
    given = ModulesGivens()
    assert 0.05 <= given.purlin_end_m <= 0.1
    assert given.gap_up_m == pytest.approx(0.020, abs=0.001)


def test_metric_cable_resistances() -> None:
    """From memory of IEC 60228, class 2, 20 °C, ohm/km."""
    printed = {"4": 4.61, "6": 3.08, "10": 1.83, "16": 1.15, "25": 0.727, "35": 0.524, "50": 0.387,
               "70": 0.268, "95": 0.193}
    for wire in conductors("metric"):
        assert wire.resistance_ohm_per_m * 1000 == pytest.approx(printed[wire.size])


def test_pull_limit_of_copper() -> None:
    """From memory of IEEE 525/576 practice: 0.008 lbf per circular mil of copper."""
    per_square_metre = 0.008 * 4.44822 / (math.pi / 4 * (0.001 * INCH_M) ** 2)
    assert constant("common", "pull_per_copper_pa").value == pytest.approx(per_square_metre, rel=0.01)
