"""What is answered of the outputs in the building, and what would stop them from being connected."""

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverters import title
from openfurrow.core.wiring.service import Leg, RuleWay, Service
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Source, Working

OHM = Source("Ohm's law over the table's resistance", "physics")
RATED_OUTPUT = Source("NEC 2020, 690.8 and 690.9; IEC 60364-4-43", "from memory")
BUS = {
    "us": Source("NEC 2020, 705.12(B)(3) and 705.11", "from memory"),
    "metric": Source("IEC 60364-5-551, 551.7.2; EN 61439-3", "from memory"),
}
SHUT_OFF = {
    "us": Source("NEC 2020, 690.13 and 705.20; the utility's own rules", "from memory"),
    "metric": Source("IEC 60364-7-712, 712.537; the grid owner's own rules", "from memory"),
}
RAPID = Source("NEC 2020, 690.12", "from memory")
# By which rule it is borne, and what is added up there.
SAID: dict[RuleWay, str] = {
    "main and sources": "The main breaker and all that feeds back, within what the bus bears.",
    "at the far end": "From the far end of the bus: with the main breaker within 120 % of what it "
    "bears. A breaker that is moved to another place breaks the rule.",
    "all breakers": "All breakers but the main within what the bus bears: no load may be added past "
    "that.",
    "the service": "All breakers ahead of the main within what the service bears.",
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
        *_borne(service),
        *_in_all(service, circuits),
    )


def _all_outputs(service: Service) -> tuple[Answer, ...]:
    count = sum(leg.units for leg in service.legs)
    return (
        Answer(
            "wiring",
            "all_outputs",
            "All outputs at full power",
            Working(
                "I_ac",
                "",
                (
                    Input("n", "outputs", float(count), "count"),
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
    pack, wire, ohm = site.rule_pack, leg.wire, leg.wire.conductor.resistance_ohm_per_m
    phases = 3**0.5 if leg.lines == 3 else 2.0
    lasting = constant(pack, "continuous_factor").value
    return (
        Answer(
            "wiring",
            f"ac_breaker{mark}",
            f"Breaker of the output{whose}",
            Working(
                "I_b",
                "",
                (
                    Input("I", "output in each line", leg.amps, "current"),
                    Input("k", "for a load that lasts", lasting, "factor"),
                ),
                leg.breaker_a,
                "current",
                RATED_OUTPUT,
                "Next standard rating at or above k × I. What the inverter's maker allows at most "
                "stands on its label.",
            ),
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
            Working(
                "u",
                "f * I * L * r / V",
                (
                    Input("f", "there and back, or root of three", phases, "factor"),
                    Input("I", "output in each line", leg.amps, "current"),
                    Input("L", "one way with slack", leg.one_way_m, "run"),
                    Input("r", "resistance of the wire", ohm, "line_resistance"),
                    Input("V", "output voltage", leg.volts, "voltage"),
                ),
                wire.drop,
                "ratio",
                OHM,
                "By as much the voltage rises at the inverter.",
            ),
        ),
    )


def _borne(service: Service) -> tuple[Answer, ...]:
    if not service.rules:
        return ()
    rule = service.rules[0]
    kind = "power" if rule.way == "transformer" else "current"
    return (
        Answer(
            "wiring",
            "bus",
            "Asked of what it connects to",
            Working(
                "S" if kind == "power" else "I_s",
                "",
                (
                    Input("I_ac", "all outputs", service.amps, "current"),
                    Input("I_b", "breakers by which they come", service.lands_a, "current"),
                    Input("R", "what it bears by this rule", rule.bears, kind),
                ),
                rule.asked,
                kind,
                COMMON_PRACTICE,
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


def service_checks(service: Service, given: WiringGivens, site: Air) -> tuple[Check, ...]:
    """Whether anybody has said where it connects; whether that bears it; wires, switches, room."""
    if not service.legs:
        return _inside_checks(given, site)
    said = given.connects != "nobody has said"
    return (
        holds(
            "wiring",
            "connects",
            "Somebody has said where it connects",
            said,
            given.connects,
            "a panel, the service or a transformer",
            remedy="Open the panel and read its label: until then nobody knows whether it bears this.",
            source=COMMON_PRACTICE,
            given="wiring.connects",
            otherwise="look",
        ),
        *_wire_checks(service, site.rule_pack),
        *(_connection_checks(service, given, site) if said else ()),
        *_inside_checks(given, site),
    )


def _wire_checks(service: Service, pack: RulePack) -> tuple[Check, ...]:
    """Wires and breakers of all circuits in the building, and whether their way was measured."""
    lacking = [leg for leg in service.circuits if leg.wire is not None and not leg.wire.fits]
    # A breaker is the next one up; of more than the largest there is none.
    lasting = constant(pack, "continuous_factor").value
    over = [leg for leg in service.circuits if leg.breaker_a < lasting * leg.amps * (1 - 1e-9)]
    measured = service.length_said or not service.circuits
    return (
        holds(
            "wiring",
            "ac_wire",
            "A listed wire and breaker carry each output",
            not lacking and not over,
            f"{len(lacking) or len(over)} without" if lacking or over else "all",
            "listed sizes",
            remedy="Inverters nearer to the panel, outputs each on its own breaker, a higher voltage, "
            "or an engineer's own design.",
            source=RATED_OUTPUT,
            given="wiring.ac_drop_limit",
        ),
        holds(
            "wiring",
            "ac_length",
            "The way in the building was measured",
            measured,
            "measured" if measured else "nobody has",
            "a length",
            remedy="A tape along the wall: until then nothing is counted as lost there, and wire for "
            "the slack alone.",
            source=COMMON_PRACTICE,
            given="wiring.inverter_to_panel_m",
            otherwise="look",
        ),
        holds(
            "wiring",
            "ac_alike",
            "All outputs are of one kind",
            service.alike,
            "one kind" if service.alike else "unlike",
            "the same volts and phases",
            remedy="Outputs of other volts need a transformer between, of one phase beside three a "
            "plan of which feeds which: neither is looked at.",
            source=COMMON_PRACTICE,
            given="wiring.inverters",
            otherwise="look",
        ),
    )


def _connection_checks(service: Service, given: WiringGivens, site: Air) -> tuple[Check, ...]:
    pack = site.rule_pack
    space = constant(pack, "working_space_m")
    outputs = 1 if service.feeder is not None else sum(leg.units for leg in service.legs)
    clear = given.panel_clear_m
    return (
        _bus_check(service, given, site),
        *(
            ()
            if given.connects != "ahead of the main breaker"
            else (
                at_most(
                    "wiring",
                    "one_tap",
                    "One switch takes it off ahead of the main breaker",
                    float(outputs),
                    1.0,
                    "count",
                    remedy="Let the outputs meet in a panel of their own: one tap, one guarded switch.",
                    source=COMMON_PRACTICE,
                    given="wiring.outputs_meet",
                    otherwise="look",
                ),
            )
        ),
        holds(
            "wiring",
            "shut_off",
            "A lockable switch takes it off beside the meter",
            given.shut_off == "beside the meter",
            given.shut_off,
            "in sight of the meter",
            remedy="Ask the utility where it must be, and hang a plan of it at the meter where it is "
            "elsewhere.",
            source=SHUT_OFF[pack],
            given="wiring.shut_off",
            otherwise="look",
        ),
        within(
            "wiring",
            "working_space",
            "There is room to work before the panel",
            clear,
            space,
            "tape",
            most=False,
            remedy="Move what stands there, or ask for another place: nothing may be stored in it.",
            given="wiring.panel_clear_m",
        )
        if clear is not None
        else holds(
            "wiring",
            "working_space",
            "There is room to work before the panel",
            False,
            "nobody has measured",
            "a clear floor",
            remedy="A tape from the panel's face to the nearest thing.",
            source=space.source,
            given="wiring.panel_clear_m",
            otherwise="look",
        ),
    )


def _bus_check(service: Service, given: WiringGivens, site: Air) -> Check:
    head = ("wiring", "bus", "What it connects to bears it")
    source, panel = BUS[site.rule_pack], given.connects == "a breaker in the panel"
    if not service.rules:
        lacks = "wiring.transformer_va" if "transformer" in given.connects else "wiring.panel_main_a"
        if panel and given.panel_bus_a is None:
            lacks = "wiring.panel_bus_a"
        return holds(
            *head,
            False,
            "nobody has read its label",
            "what it is rated for",
            remedy="Read the label and the main breaker's handle: until then nothing says that it may "
            "be connected.",
            source=source,
            given=lacks,
            otherwise="look",
        )
    rule = service.rules[0]
    return at_most(
        *head,
        rule.asked,
        rule.bears,
        "power" if rule.way == "transformer" else "current",
        remedy={
            "transformer": "A larger transformer, or less inverter.",
            "the service": "A larger service, or less inverter.",
        }.get(
            rule.way,
            "A smaller main breaker where the loads allow it, a panel with more bus, a tap ahead of "
            "the main breaker, or less inverter.",
        ),
        source=source,
        given={"transformer": "wiring.transformer_va", "the service": "wiring.panel_main_a"}.get(
            rule.way, "wiring.panel_bus_a"
        ),
    )


def _inside_checks(given: WiringGivens, site: Air) -> tuple[Check, ...]:
    """Whether wires that are live in light run where people live or work."""
    if not given.at_the_building:
        return ()
    looked = given.strings_inside != "nobody has looked"
    found = [
        holds(
            "wiring",
            "inside",
            "Somebody has looked whether strings run inside a building",
            looked,
            given.strings_inside,
            "no, or yes and what follows",
            remedy="Look where the inverter hangs: live wires inside want a switch outside, metal "
            "around them, or another wall.",
            source=COMMON_PRACTICE,
            given="wiring.strings_inside",
            otherwise="look",
        )
    ]
    if site.rule_pack == "us" and given.strings_inside == "yes":
        found.append(
            holds(
                "wiring",
                "rapid_shutdown",
                "Strings inside can be shut down from outside",
                given.rapid_shutdown,
                "listed" if given.rapid_shutdown else "nothing",
                "rapid shutdown",
                remedy="Hang the inverter outside, or take what is listed to shut strings down. A "
                "house for the equipment alone is let off: then say no.",
                source=RAPID,
                given="wiring.rapid_shutdown",
            )
        )
    return tuple(found)
