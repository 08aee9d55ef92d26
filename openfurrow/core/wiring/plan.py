"""Wiring: strings to the inverters at the building, conductors by heat and by drop, grounding."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.said import Air
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.wiring.backup import Backup, backup_of
from openfurrow.core.wiring.backup_answers import backup_answers, backup_checks
from openfurrow.core.wiring.branch_answers import COLD, branch_answers, branch_checks
from openfurrow.core.wiring.branches import branches_by_inverter
from openfurrow.core.wiring.circuit import Circuit, Fed, lay_circuit
from openfurrow.core.wiring.earthing import (
    Earthing,
    earthing_answers,
    earthing_checks,
    earthing_of,
)
from openfurrow.core.wiring.feed_answers import feed_answers, feed_checks
from openfurrow.core.wiring.givens import Losses, WiringGivens
from openfurrow.core.wiring.input_rules import input_checks
from openfurrow.core.wiring.inverters import (
    Inverters,
    Load,
    Volts,
    given_to,
    inverter_answers,
    inverter_checks,
    takers,
)
from openfurrow.core.wiring.lead_answers import lead_answers, lead_checks
from openfurrow.core.wiring.on_wall import wall_checks
from openfurrow.core.wiring.service import Service, service_of
from openfurrow.core.wiring.service_answers import service_answers
from openfurrow.core.wiring.service_checks import service_checks
from openfurrow.core.wiring.signs import Sign, signs_of
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

Integers = NDArray[np.int64]


@dataclass(frozen=True)
class ArrayWiring:
    """One array's circuit, the answers about it and its checks."""

    circuit: Circuit
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


@dataclass(frozen=True)
class WiringPlan:
    """The circuit of each array in their order, and what they ask of the inverters together.

    ``loads`` are what each array brings, ``landed`` its strings on each inverter of those ``given``,
    (arrays, inverters); ``service`` is what follows them, ``signs`` what must stand on what,
    ``earthing`` the rods of each, ``backup`` what is kept on with the grid out.
    """

    given: WiringGivens
    circuits: tuple[Circuit, ...]
    loads: tuple[Load, ...]
    landed: Integers
    service: Service
    signs: tuple[Sign, ...]
    earthing: Earthing
    backup: Backup | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def wire_array(
    site: Air,
    rows: RowsPlan,
    posts: SupportPlaces,
    modules: ModulesGivens,
    trench: TrenchGivens,
    route: Route,
    loss: Losses,
    fed: Fed,
) -> ArrayWiring:
    """Lay one array's circuit and explain it."""
    circuit = lay_circuit(site, rows, posts, modules, trench, route, loss, fed)
    answers = (
        *(
            _string_answers(circuit, site, rows, modules, fed.volts, fed.inputs)
            if fed.branch is None
            else branch_answers(circuit, fed.branch, site)
        ),
        *lead_answers(circuit.leads, modules, fed.laying),
        *feed_answers(circuit, site, modules, route, loss),
    )
    checks = (
        *(
            _checks(circuit, site, modules, fed.volts, loss)
            if fed.branch is None
            else branch_checks(circuit, fed.branch, site, fed.volts)
        ),
        *feed_checks(circuit, site, loss),
        *(
            input_checks(
                fed.at_input, circuit.strings, modules, trench, site.rule_pack, circuit.coldest_string_v
            )
            if fed.branch is None
            else ()
        ),
        *lead_checks(circuit.leads, fed.laying),
        *_turning_check(rows, loss),
    )
    return ArrayWiring(circuit, answers, checks)


def plan_wiring(
    circuits: tuple[Circuit, ...],
    watts: tuple[float, ...],
    arrays: tuple[str, ...],
    site: Air,
    given: WiringGivens,
) -> WiringPlan:
    """What all arrays together ask of the inverters, and these of the building.

    ``watts`` is the power of each array's modules.
    """
    inverters = given.inverters
    loads = tuple(
        Load(circuit.lines, power, int(circuit.strings.lengths.sum()))
        for circuit, power in zip(circuits, watts, strict=True)
    )
    landed = given_to(
        tuple(load.strings for load in loads),
        takers(inverters, arrays),
        tuple(one.takes_strings for one in inverters),
    )
    branches = branches_by_inverter((one.branch, one.strings) for one in circuits)
    service, earthing = service_of(site, given, branches), earthing_of(site.rule_pack, given)
    backup = backup_of(site, given)
    return WiringPlan(
        given,
        circuits,
        loads,
        landed,
        service,
        signs_of(site.rule_pack, given, circuits, landed, service),
        earthing,
        backup,
        (
            *_all_strings(loads, inverters),
            *inverter_answers(inverters, loads, landed),
            *service_answers(service, given, site, circuits),
            *backup_answers(backup, given, site.rule_pack),
            *earthing_answers(earthing, given),
        ),
        (
            *inverter_checks(inverters, arrays, loads, landed),
            *service_checks(service, given, site),
            *backup_checks(backup, given, site.rule_pack),
            *wall_checks(given.on_wall, site.rule_pack),
            *earthing_checks(earthing, given, site.rule_pack),
        ),
    )


def _all_strings(loads: tuple[Load, ...], inverters: Inverters) -> tuple[Answer, ...]:
    """The strings of several arrays on the inverters' inputs."""
    if len(loads) < 2:
        return ()
    return (
        Answer(
            "wiring",
            "all_strings",
            "Inputs that all arrays want"
            if any(one.joined > 1 for one in inverters)
            else "Strings of all arrays",
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
    site: Air,
    rows: RowsPlan,
    modules: ModulesGivens,
    volts: Volts,
    inputs: int,
) -> tuple[Answer, ...]:
    strings, cold_v = circuit.strings, circuit.cold_v
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
                strings.words,
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


def _turning_check(rows: RowsPlan, loss: Losses) -> tuple[Check, ...]:
    """Where tables are set to several tilts: whether wires that leave them reach at each.

    A place on the table, r from the bolt, is carried over the chord 2 r sin(turn / 2) at the most; what
    turns about a pole winds them round it besides.
    """
    if not rows.moves:
        return ()
    low, high = rows.positions[0].tilt_deg, rows.steepest.tilt_deg
    # Bundled to the middle they leave at the glass over the bolt, no further off than half a module.
    arm_m = math.hypot(rows.section.stack_m, rows.module_up_m / 2)
    wound_m = 0.0 if rows.travel is None else rows.travel.wound_m
    return (
        at_least(
            "wiring",
            "turning_slack",
            "Wires that leave a table reach at every tilt",
            loss.slack_m,
            2 * arm_m * math.sin(math.radians(high - low) / 2) + wound_m,
            "tape",
            remedy="More slack, in a loop that drips; and let wires leave near the bolt.",
            source=GEOMETRY,
            given="wiring.slack_m",
        ),
    )


def _checks(
    circuit: Circuit, site: Air, modules: ModulesGivens, volts: Volts, loss: Losses
) -> tuple[Check, ...]:
    strings = circuit.strings
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
            remedy="Longer strings, or an inverter that starts lower; of so few modules, an inverter "
            "behind each, or a charge controller.",
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
