"""The numbers of a year, each with the losses that led to it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from openfurrow.core.energy.array import ArrayYear
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import LOST
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Source, Working
from openfurrow.core.year_days import DAYS_OF_MONTH, MONTHS

if TYPE_CHECKING:
    from openfurrow.core.energy.plan import EnergyPlan

CHAIN = Source(
    "hour by hour: Perez (1990) on the plane, rays between rows, Martin & Ruiz (2001, 2005) at "
    "the glass, cells in series by their diodes, Faiman (2008) for heat",
    "physics",
)
CONVERTED = Source("the same, through wires and Dobos, PVWatts 5 (2014)", "physics")
FOLLOWED = Source("the year hour by hour, load and battery as said", "physics")


@dataclass(frozen=True)
class Loss:
    """What takes, in a word or two; its symbol in a working, and what it leaves."""

    takes: str
    symbol: str
    leaves: str


LOSSES = {
    "things": Loss("hills, trees, buildings", "k_a", "left by hills, trees and other arrays"),
    "rows": Loss("rows before", "k_r", "left by the rows before, of beam, sky and ground"),
    "strings": Loss("strings partly shaded", "k_s", "left by strings whose modules are shaded in part"),
    "slant": Loss("slant on the glass", "k_g", "let in by the glass"),
    "back": Loss("back of the glass", "k_b", "with what the back adds"),
    "dirt": Loss("dirt and snow", "k_d", "left by dirt and snow"),
    "heat": Loss("heat", "k_h", "left by heat, or won by cold"),
    "other": Loss("what else was said", "k_o", "left by the rest that was said"),
}


def of_what(sky: Sky) -> str:
    """Where the light comes from, in words that stand in every answer that used it."""
    if not sky.estimate:
        return f"Weather: {sky.source}."
    return (
        f"An estimate ({sky.source}): a year may lie {sky.band * 100:.0f} % lower or higher. "
        "A weather file makes it sharper."
    )


def _left(array: ArrayYear) -> tuple[Input, ...]:
    """The waterfall: each share of what was left before it."""
    shares = (1.0, *array.light.left)
    return tuple(
        Input(
            LOSSES[name].symbol,
            LOSSES[name].leaves,
            shares[n + 1] / shares[n] if shares[n] else 1.0,
            "ratio",
        )
        for n, name in enumerate(LOST)
    )


FIXED = (
    "Before wires and inverters; rows are taken to be long where they take sky, and a tree's crown to "
    "be closed. Not looked at: rises of the site's own ground as a horizon, tables of one row that "
    "shade each other, strings that run from a shaded table to a bright one."
)
MOVED = (
    "Before wires and inverters. It follows the sun within its limits; what movers shade each other is "
    "counted by the hour. What stands around is seen from where it is put up. Not looked at: sky that "
    "neighbours hide, light from behind, days in stow or out of order, what drive and controller use."
)


def array_answers(sky: Sky, arrays: Sequence[ArrayYear], ids: Sequence[str]) -> tuple[Answer, ...]:
    """Of each array what a kilowatt of its modules brings, with the waterfall of its losses."""
    found = []
    for array, whose in zip(arrays, ids, strict=True):
        inputs = (
            Input("H", "light on the open plane in a year, kWh/m²", array.light.open_h, "factor"),
            *_left(array),
        )
        value = array.light.open_h * (array.light.left[-1] if array.light.left else 1.0)
        found.append(
            Answer(
                "sun",
                "full_hours",
                "Its modules bring in a year",
                Working(
                    "y",
                    " * ".join(item.symbol for item in inputs),
                    inputs,
                    value,
                    "full_hours",
                    CHAIN,
                    f"{MOVED if array.follows else FIXED} {of_what(sky)}",
                ),
                array=whose,
            )
        )
    return tuple(found)


def energy_answers(energy: "EnergyPlan", said: SunGivens) -> tuple[Answer, ...]:
    """The year at the meter, how far it may be off, the least month, and who uses it."""
    return (_year(energy), _over_power(energy), _band(energy), _least(energy), *_use(energy, said))


def _year(energy: "EnergyPlan") -> Answer:
    strings, arrived, given, held, out = energy.sums_wh

    def share(after: float, before: float) -> float:
        return after / before if before else 1.0

    inputs = (
        Input("E_s", "what the modules bring, kWh", strings / 1000, "factor"),
        Input("k_w", "left by the wires to the inverters", share(arrived, strings), "ratio"),
        Input("k_c", "given by the inverters", share(given, arrived), "ratio"),
        Input("k_l", "left by their limit", share(held, given), "ratio"),
        Input("k_m", "left by the wires behind them", share(out, held), "ratio"),
    )
    working = Working(
        "E",
        "1000 * E_s * k_w * k_c * k_l * k_m",
        inputs,
        out,
        "energy",
        CONVERTED,
        f"At the meter; each array's own losses stand with what its modules bring. "
        f"{of_what(energy.sky)}",
    )
    return Answer("sun", "energy", "Energy of a year", working, True)


def _over_power(energy: "EnergyPlan") -> Answer:
    inputs = (
        Input("E", "energy of a year, kWh", energy.year_wh / 1000, "factor"),
        Input("P", "rated power of all modules, kW", energy.watts / 1000, "factor"),
    )
    value = energy.year_wh / energy.watts
    return Answer(
        "sun",
        "yield",
        "For each kilowatt of modules",
        Working("Y", "E / P", inputs, value, "full_hours", CONVERTED, of_what(energy.sky)),
    )


def _band(energy: "EnergyPlan") -> Answer:
    """What a year may bring at the least: what a careful planner promises."""
    inputs = (
        Input("E", "energy of a year, kWh", energy.year_wh / 1000, "factor"),
        Input("b", "how far a year may lie below", energy.sky.band, "ratio"),
    )
    return Answer(
        "sun",
        "low_year",
        "In a poor year",
        Working(
            "E_low",
            "1000 * E * (1 - b)",
            inputs,
            energy.year_wh * (1 - energy.sky.band),
            "energy",
            COMMON_PRACTICE,
            of_what(energy.sky),
        ),
    )


def _least(energy: "EnergyPlan") -> Answer:
    by_day = energy.by_month_wh / DAYS_OF_MONTH
    month = int(by_day.argmin())
    inputs = (
        Input(
            "E_m", f"energy of {MONTHS[month]}, kWh", float(energy.by_month_wh[month]) / 1000, "factor"
        ),
        Input("d", "its days", float(DAYS_OF_MONTH[month]), "count"),
    )
    return Answer(
        "sun",
        "least_day",
        f"A day of the least month, {MONTHS[month].capitalize()}",
        Working(
            "E_d",
            "1000 * E_m / d",
            inputs,
            float(by_day[month]),
            "small_energy",
            CONVERTED,
            of_what(energy.sky),
        ),
    )


def _use(energy: "EnergyPlan", said: SunGivens) -> tuple[Answer, ...]:
    """Straight use, the battery's part, what is left over and what is still bought."""
    use = energy.use
    if use is None:
        return ()
    words = of_what(energy.sky)
    how = said.load_shape if said.year_of_use is None else f"by {said.year_of_use.name}"
    load = Input("L", f"used in a year, {how}, kWh", use.wanted_wh / 1000, "factor")
    straight = Input("E_u", "used as it comes, kWh", use.straight_wh / 1000, "factor")
    stored = Input("E_b", "out of the battery, kWh", use.stored_wh / 1000, "factor")
    own = (use.straight_wh + use.stored_wh) / use.wanted_wh
    return (
        Answer(
            "sun",
            "own_share",
            "Of what is used, from the sun",
            Working("s", "(E_u + E_b) / L", (straight, stored, load), own, "ratio", FOLLOWED, words),
            True,
        ),
        Answer(
            "sun",
            "left_over",
            "Left over in a year",
            Working("E_o", "", (straight, stored, load), use.over_wh, "energy", FOLLOWED, words),
        ),
        Answer(
            "sun",
            "still_bought",
            "Still bought in a year",
            Working(
                "E_n",
                "1000 * (L - E_u - E_b)",
                (load, straight, stored),
                use.bought_wh,
                "energy",
                FOLLOWED,
                words,
            ),
        ),
    )
