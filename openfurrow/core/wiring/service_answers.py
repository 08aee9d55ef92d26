"""What is answered of the outputs in the building: breakers, wires, what is asked of the bus."""

from openfurrow.core.codes import constant, table
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.ac_workings import OHM, breaker_working, drop_working
from openfurrow.core.wiring.bus import RuleWay
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverters import title
from openfurrow.core.wiring.service import Leg, Service
from openfurrow.core.wiring.upstream import upstream_answers
from openfurrow.core.working import Answer, Input, Source, Working

BUS = {
    "us": Source("NEC 2020, 705.12(B)(3) and 705.11", "from memory"),
    "metric": Source("IEC 60364-5-551, 551.7.2; EN 61439-3", "from memory"),
}
# By which rule it is borne, and what is added up there.
SAID: dict[RuleWay, str] = {
    "main and sources": "The main breaker and all that feeds back, within what the bus bears.",
    "at the far end": "From the far end of the bus: with the main breaker within 120 % of what it "
    "bears. A breaker that is moved to another place breaks the rule.",
    "all breakers": "All breakers but the main within what the bus bears: no load may be added past "
    "that.",
    "the service": "All breakers ahead of the main within what the service bears. How near to the tap "
    "the guarded switch must be is not looked at.",
    "transformer": "All outputs at once, at a power factor of one.",
}


def service_answers(
    service: Service, given: WiringGivens, site: Air, circuits: tuple[Circuit, ...]
) -> tuple[Answer, ...]:
    """All outputs together, each one's breaker and wire, the feeder, the bus, what is lost in all."""
    if not service.legs:
        return ()
    named = {one.id: title(one) for one in given.inverters}
    several = len(service.legs) > 1
    legs = [
        answer
        for leg in service.legs
        if leg.wire is not None
        for answer in _leg_answers(
            leg, site, f", {named[leg.inverter]}" if several else "", f"_{leg.inverter}" * several
        )
    ]
    feeder = () if service.feeder is None else _leg_answers(service.feeder, site, ", feeder", "_feeder")
    return (
        *_all_outputs(service),
        *legs,
        *feeder,
        *_borne(service, given, site),
        *upstream_answers(service.upstream, site.rule_pack),
        *_in_all(service, circuits),
    )


def _all_outputs(service: Service) -> tuple[Answer, ...]:
    return (
        Answer(
            "wiring",
            "all_outputs",
            "All outputs at full power",
            Working(
                "I_ac",
                "",
                (
                    Input("n", "outputs", float(service.outputs), "count"),
                    Input("P", "all of them", service.watts, "power"),
                    Input("V", "output voltage", service.legs[0].volts, "voltage"),
                ),
                service.amps,
                "current",
                OHM,
                "In one line, as if all fed that one: how outputs of one phase are shared among three "
                "is not looked at.",
            ),
            True,
        ),
    )


def _leg_answers(leg: Leg, site: Air, whose: str, mark: str) -> tuple[Answer, ...]:
    assert leg.wire is not None
    pack, wire = site.rule_pack, leg.wire
    return (
        Answer(
            "wiring",
            f"ac_breaker{mark}",
            f"Breaker of the output{whose}",
            breaker_working(pack, leg.amps, leg.breaker_a, "where it comes to"),
        ),
        Answer(
            "wiring",
            f"ac_wire{mark}",
            f"Wire in the building{whose}",
            Working(
                "size",
                "",
                (
                    Input("I", "output in each line", leg.amps, "current"),
                    Input("I_z", "this size may carry", wire.carries_a, "current"),
                    Input("L", "one way with slack", leg.one_way_m, "run"),
                ),
                wire.conductor.label,
                "text",
                table(pack, "conductor").source,
                f"{leg.lines} lines and a neutral to each output; grounding "
                f"{'' if leg.grounding is None else leg.grounding.label}. Asked for by "
                f"{wire.asked_by}. A licensed electrician confirms it.",
            ),
        ),
        Answer(
            "wiring",
            f"ac_drop{mark}",
            f"Lost in the building{whose}",
            drop_working(
                3**0.5 if leg.lines == 3 else 2.0,
                leg.amps,
                leg.one_way_m,
                wire.conductor.resistance_ohm_per_m,
                leg.volts,
                wire.drop,
            ),
        ),
    )


def _borne(service: Service, given: WiringGivens, site: Air) -> tuple[Answer, ...]:
    if not service.rules:
        return ()
    rule, pack = service.rules[0], site.rule_pack
    lasting = constant(pack, "continuous_factor").value
    parts = {
        "I_m": ("main breaker", given.panel_main_a or 0.0, "current"),
        "k": ("for a load that lasts", lasting, "factor"),
        "I_ac": ("all outputs", service.amps, "current"),
        "I_b": ("breakers by which they come", service.lands_a, "current"),
        "I_o": ("other sources on it", given.panel_other_a, "current"),
        "I_l": ("breakers of the loads", given.panel_loads_a or 0.0, "current"),
        "P": ("all outputs", service.watts, "power"),
    }
    sums: dict[RuleWay, str] = {
        "main and sources": "I_m + k * I_ac + I_o" if pack == "us" else "I_m + I_b + I_o",
        "at the far end": "I_m + k * I_ac + I_o",
        "all breakers": "I_l + I_b + I_o",
        "the service": "I_b + I_o",
        "transformer": "P",
    }
    formula = sums[rule.way]
    kind = "power" if rule.way == "transformer" else "current"
    return (
        Answer(
            "wiring",
            "bus",
            "Asked of what it connects to",
            Working(
                "I_s" if kind == "current" else "S",
                formula,
                (
                    *(Input(name, *parts[name]) for name in parts if name in formula.split()),
                    Input("R", "what it bears by this rule", rule.bears, kind),
                ),
                rule.asked,
                kind,
                BUS[pack],
                SAID[rule.way],
            ),
            True,
        ),
    )


def _in_all(service: Service, circuits: tuple[Circuit, ...]) -> tuple[Answer, ...]:
    worst = max(circuits, key=lambda one: one.string_drop + one.output_drop)
    return (
        Answer(
            "wiring",
            "lost_in_all",
            "Lost from the modules to where it connects",
            Working(
                "u_all",
                "u_s + u_o + u_b",
                (
                    Input("u_s", "on the strings", worst.string_drop, "ratio"),
                    Input("u_o", "on outputs in the trench", worst.output_drop, "ratio"),
                    Input("u_b", "in the building", service.drop, "ratio"),
                ),
                worst.string_drop + worst.output_drop + service.drop,
                "ratio",
                OHM,
                "Of the farthest string at full power; over the year it is less."
                + ("" if service.length_said else " In the building nobody has measured the way."),
            ),
        ),
    )
