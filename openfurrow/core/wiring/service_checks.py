"""What would stop outputs from being connected: wires, the bus, switches, room, strings inside."""

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.ac_workings import RATED_OUTPUT
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.service import Service
from openfurrow.core.wiring.service_answers import BUS
from openfurrow.core.wiring.upstream import upstream_checks
from openfurrow.core.working import COMMON_PRACTICE, Source

SHUT_OFF = {
    "us": Source("NEC 2020, 690.13 and 705.20; the utility's own rules", "from memory"),
    "metric": Source("IEC 60364-7-712, 712.537; the grid owner's own rules", "from memory"),
}
RAPID = Source("NEC 2020, 690.12", "from memory")


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
    outputs = 1 if service.feeder is not None else service.outputs
    clear = given.panel_clear_m
    return (
        _bus_check(service, given, site),
        *_fed_by_check(given, service, pack),
        *upstream_checks(service.upstream, pack),
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


def _fed_by_check(given: WiringGivens, service: Service, pack: RulePack) -> tuple[Check, ...]:
    """Whether anything lies between the panel and the meter that carries it too."""
    if given.connects != "a breaker in the panel":
        return ()
    return (
        holds(
            "wiring",
            "fed_by",
            "Every panel on the way to the meter is listed",
            given.panel_fed_by == "the meter" or bool(service.upstream),
            ", ".join((given.panel_fed_by, *(one.name for one in service.upstream))),
            "the meter, or panels one by one",
            remedy="Follow the feeder: what comes back goes through every panel and feeder on the way. "
            "List them, the last at the meter.",
            source=BUS[pack],
            given="wiring.panels" if given.panel_fed_by == "another panel" else "wiring.panel_fed_by",
            otherwise="look",
        ),
    )


def _bus_check(service: Service, given: WiringGivens, site: Air) -> Check:
    head = ("wiring", "bus", "What it connects to bears it")
    source, panel = BUS[site.rule_pack], given.connects == "a breaker in the panel"
    if not service.one_voltage:
        return holds(
            *head,
            False,
            "outputs of unlike volts: not looked at",
            "outputs of one voltage",
            remedy="Amperes at one voltage are not those at another: what a transformer between them "
            "brings to the panel is for an engineer.",
            source=source,
            given="wiring.inverters",
            otherwise="look",
        )
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
    # Only one school's rule on strings inside is known here.
    looked = given.strings_inside == "no" or (given.strings_inside == "yes" and site.rule_pack == "us")
    found = [
        holds(
            "wiring",
            "inside",
            "What strings inside a building ask for was looked at",
            looked,
            given.strings_inside,
            "no, or yes and what follows",
            remedy="Look where the inverter hangs: live wires inside want a switch where they enter, "
            "metal around them, or another wall. Where the fire service has its own rules, ask it.",
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
