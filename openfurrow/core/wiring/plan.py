"""Wiring: strings to the inverters at the building, conductors by heat and by drop, grounding."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import constant, table
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.quantities import round_up
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.wiring.circuit import Circuit, lay_circuit
from openfurrow.core.wiring.conductors import bundling_factor, heat_factor
from openfurrow.core.wiring.givens import Losses
from openfurrow.core.wiring.inverters import (
    Inverters,
    Load,
    Volts,
    given_to,
    inverter_answers,
    inverter_checks,
    takers,
)
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

Integers = NDArray[np.int64]
COLD = Source("NEC 690.7(A)(1) and IEC 60364-7-712: voltage at the lowest temperature", "from memory")
OHM = Source("Ohm's law over the table's resistance", "physics")


@dataclass(frozen=True)
class ArrayWiring:
    """One array's circuit, the answers about it and its checks."""

    circuit: Circuit
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


@dataclass(frozen=True)
class WiringPlan:
    """The circuit of each array in their order, and what they ask of the inverters together.

    ``landed`` are the strings of each array on each inverter, (arrays, inverters).
    """

    circuits: tuple[Circuit, ...]
    landed: Integers
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def wire_array(
    site: SiteGivens,
    rows: RowsPlan,
    posts: SupportPlaces,
    modules: ModulesGivens,
    trench: TrenchGivens,
    route: Route,
    loss: Losses,
    volts: Volts,
    inputs: int,
) -> ArrayWiring:
    """Lay one array's circuit and explain it.

    ``volts`` are those of the inverters that take it, ``inputs`` how many of theirs it may have.
    """
    circuit = lay_circuit(site, rows, posts, modules, trench, route, loss, volts, inputs)
    answers = (
        *_string_answers(circuit, site, rows, modules, volts, inputs),
        *_conductor_answers(circuit, site, modules, route, loss),
    )
    return ArrayWiring(circuit, answers, _checks(circuit, modules, volts))


def plan_wiring(
    circuits: tuple[Circuit, ...],
    watts: tuple[float, ...],
    arrays: tuple[str, ...],
    inverters: Inverters,
) -> WiringPlan:
    """What all arrays together ask of the inverters; ``watts`` is the power of each one's modules."""
    loads = tuple(
        Load(circuit.strings.count, power) for circuit, power in zip(circuits, watts, strict=True)
    )
    landed = given_to(
        tuple(load.strings for load in loads),
        takers(inverters, arrays),
        tuple(one.inverter_inputs for one in inverters),
    )
    return WiringPlan(
        circuits,
        landed,
        (*_all_strings(loads, inverters), *inverter_answers(inverters, loads, landed)),
        inverter_checks(inverters, arrays, loads, landed),
    )


def _all_strings(loads: tuple[Load, ...], inverters: Inverters) -> tuple[Answer, ...]:
    """The strings of several arrays on the inverters' inputs."""
    if len(loads) < 2:
        return ()
    return (
        Answer(
            "wiring",
            "all_strings",
            "Strings of all arrays",
            Working(
                "n_all",
                "",
                (
                    Input("k", "arrays", float(len(loads)), "count"),
                    Input("i", "inputs", float(sum(one.inverter_inputs for one in inverters)), "count"),
                ),
                float(sum(load.strings for load in loads)),
                "count",
                GEOMETRY,
                "Each on an input of its own: strings of different arrays are never joined. Inputs "
                "that share a tracker take strings that are alike: which input is whose is not "
                "looked at.",
            ),
            True,
        ),
    )


def _string_answers(
    circuit: Circuit,
    site: SiteGivens,
    rows: RowsPlan,
    modules: ModulesGivens,
    volts: Volts,
    inputs: int,
) -> tuple[Answer, ...]:
    strings, cold_v = circuit.strings, circuit.cold_v
    lengths, counts = np.unique(strings.lengths, return_counts=True)
    spelled = " and ".join(
        f"{count} x {length}" for length, count in zip(lengths[::-1], counts[::-1], strict=True)
    )
    heat = constant("common", "heat_over_air_c")
    return (
        Answer(
            "wiring",
            "strings",
            "Strings",
            Working(
                "strings",
                "",
                (
                    Input("N", "modules", float(rows.module_count), "count"),
                    Input("n_max", "longest string allowed", float(strings.longest_allowed), "count"),
                    Input("n_min", "shortest string allowed", float(strings.shortest_allowed), "count"),
                    Input("i", "inputs", float(inputs), "count"),
                ),
                spelled,
                "text",
                GEOMETRY,
                "The fewest equal strings within the limits and the inputs, up to half as many again "
                "as the fewest; where none divide, they differ by one.",
            ),
            True,
        ),
        Answer(
            "wiring",
            "longest",
            "Longest string allowed",
            Working(
                "n_max",
                "floor(V_max / V_cold)",
                (
                    Input("V_max", "most volts at the inverter", volts.maximum_dc_v, "voltage"),
                    Input("V_cold", "one module in the cold", cold_v, "voltage"),
                ),
                float(strings.longest_allowed),
                "count",
                COLD,
            ),
        ),
        Answer(
            "wiring",
            "cold",
            "One module in the cold",
            Working(
                "V_cold",
                "V_oc * (1 + beta * (T_low - 25))",
                (
                    Input("V_oc", "open-circuit voltage at 25 °C", modules.open_circuit_v, "voltage"),
                    Input(
                        "beta",
                        "change with heat",
                        modules.voltage_coefficient_per_c,
                        "temperature_coefficient",
                    ),
                    Input("T_low", "lowest temperature", site.lowest_temperature_c, "temperature"),
                ),
                cold_v,
                "voltage",
                COLD,
            ),
        ),
        Answer(
            "wiring",
            "string_cold",
            "Longest string in the cold",
            Working(
                "V_s",
                "n * V_cold",
                (
                    Input("n", "modules in the longest string", float(strings.lengths.max()), "count"),
                    Input("V_cold", "one module in the cold", cold_v, "voltage"),
                ),
                circuit.coldest_string_v,
                "voltage",
                COLD,
                "Live as soon as light falls on it.",
            ),
            True,
        ),
        Answer(
            "wiring",
            "string_hot",
            "Shortest string in the heat",
            Working(
                "V_h",
                "n * V_mp * (1 + gamma * (T_high + dT - 25))",
                (
                    Input("n", "modules in the shortest string", float(strings.lengths.min()), "count"),
                    Input("V_mp", "voltage at full power", modules.maximum_power_v, "voltage"),
                    Input(
                        "gamma",
                        "change with heat",
                        modules.power_coefficient_per_c,
                        "temperature_coefficient",
                    ),
                    Input("T_high", "hottest air", site.hottest_temperature_c, "temperature"),
                    Input("dT", "cells above the air", heat.value, "factor"),
                ),
                circuit.hottest_string_v,
                "voltage",
                heat.source,
            ),
        ),
    )


def _conductor_answers(
    circuit: Circuit,
    site: SiteGivens,
    modules: ModulesGivens,
    route: Route,
    loss: Losses,
) -> tuple[Answer, ...]:
    choice, grounding, fuse = circuit.choice, circuit.grounding, circuit.fuse_a
    one_way, strings = circuit.one_way_m, circuit.strings
    pack = site.rule_pack
    data = table(pack, "conductor")
    factor = constant(pack, "current_factor")
    isc = Input("I_sc", "short-circuit current", modules.short_circuit_a, "current")
    fuse_factor = constant(pack, "fuse_factor")
    step = constant(pack, "tape_step_m").value
    sizes = 75 if pack == "us" else 90
    return (
        Answer(
            "wiring",
            "conductor",
            "Wire in the trench",
            Working(
                "size",
                "",
                (
                    Input("I", "current to carry", factor.value * modules.short_circuit_a, "current"),
                    Input("I_z", "this size may carry", choice.carries_a, "current"),
                    Input(
                        "f_b",
                        "left by crowding",
                        bundling_factor(pack, 2 * circuit.strings_in_conduit),
                        "factor",
                    ),
                    Input(
                        "f_t", "left by heat", heat_factor(pack, site.hottest_temperature_c), "factor"
                    ),
                ),
                choice.conductor.label,
                "text",
                data.source,
                f"Asked for by {choice.asked_by}. Terminals at {sizes} °C. A licensed electrician "
                "confirms it.",
            ),
            True,
        ),
        Answer(
            "wiring",
            "drop",
            "Voltage drop of the farthest string",
            Working(
                "u",
                "I_mp * (2 * L * r + R_a) / V",
                (
                    Input("I_mp", "current at full power", modules.maximum_power_a, "current"),
                    Input("L", "one way with slack", one_way, "run"),
                    Input(
                        "r",
                        "resistance of the wire",
                        choice.conductor.resistance_ohm_per_m,
                        "line_resistance",
                    ),
                    Input("R_a", "array wire, there and back, ohm", circuit.array_ohm, "factor"),
                    Input("V", "string at full power", circuit.string_v, "voltage"),
                ),
                choice.drop,
                "ratio",
                OHM,
            ),
            True,
        ),
        Answer(
            "wiring",
            "fuse",
            "Fuse or breaker of a string",
            Working(
                "I_n",
                "",
                (
                    isc,
                    Input("k_f", "of short-circuit current", fuse_factor.value, "factor"),
                    Input("I_m", "largest the module allows", modules.series_fuse_a, "current"),
                ),
                fuse,
                "current",
                fuse_factor.source,
                "Next standard rating at or above k_f × I_sc; needed where three strings or more share "
                "an input.",
            ),
        ),
        Answer(
            "wiring",
            "grounding",
            "Grounding conductor in the conduit",
            Working(
                "size_g",
                "",
                (Input("I_n", "fuse", fuse, "current"),),
                grounding.label,
                "text",
                table("us", "grounding").source
                if pack == "us"
                else Source("IEC 60364-5-54, Table 54.2", "from memory"),
            ),
        ),
        Answer(
            "wiring",
            "one_way",
            "Cut each trench wire at",
            Working(
                "L_w",
                "ceil((L_g + h + 2 * s) / step) * step",
                (
                    Input("L_g", "trench along the ground", route.ground_length_m, "run"),
                    Input("h", "up and down at both ends", route.rises_m, "tape"),
                    Input("s", "slack at each end", loss.slack_m, "tape"),
                    Input("step", "cut in steps of", step, "tape"),
                ),
                round_up(one_way, step),
                "run",
                GEOMETRY,
                f"{2 * strings.count} of them, marked by string before they go in.",
            ),
            True,
        ),
    )


def _checks(circuit: Circuit, modules: ModulesGivens, volts: Volts) -> tuple[Check, ...]:
    strings, choice = circuit.strings, circuit.choice
    return (
        at_most(
            "wiring",
            "cold",
            "Strings stay under the inverter's limit in the cold",
            circuit.coldest_string_v,
            volts.maximum_dc_v,
            "voltage",
            remedy="Shorter strings: one cold morning over the limit ends the inverter.",
            source=COLD,
            given=f"wiring.inverters.{volts.most_of}.maximum_dc_v",
        ),
        at_least(
            "wiring",
            "hot",
            "Strings start the inverter in the heat",
            circuit.hottest_string_v,
            volts.start_v,
            "voltage",
            remedy="Longer strings, or an inverter that starts lower.",
            source=COMMON_PRACTICE,
            given=f"wiring.inverters.{volts.least_of}.start_v",
        ),
        holds(
            "wiring",
            "equal",
            "Strings are equal",
            strings.equal,
            f"{strings.lengths.max()} and {strings.lengths.min()}"
            if not strings.equal
            else f"all {strings.lengths[0]}",
            "all alike",
            remedy="Change the modules along so that the count divides; or keep unequal strings "
            "on inputs of their own.",
            source=COMMON_PRACTICE,
            given="rows.modules_along",
            otherwise="look",
        ),
        holds(
            "wiring",
            "conductor",
            "A listed wire carries it within the drop",
            choice.fits,
            choice.conductor.label if choice.fits else "none listed",
            "a listed size",
            remedy="A nearer inverter, fewer strings in a conduit, or accept more drop.",
            source=COMMON_PRACTICE,
            given="wiring.drop_limit",
        ),
        at_most(
            "wiring",
            "series_fuse",
            "The string's fuse is one the module allows",
            circuit.fuse_a,
            modules.series_fuse_a,
            "current",
            remedy="No more than two strings on an input need no fuse; else a module that allows a "
            "larger one.",
            source=Source("the module's label: maximum series fuse rating", "given"),
            given="modules.series_fuse_a",
            otherwise="stop" if strings.count > 2 else "look",
        ),
    )
