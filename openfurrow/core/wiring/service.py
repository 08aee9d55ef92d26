"""From the inverters to where the job connects: outputs, breakers, the feeder, what the panel bears."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.quantities import round_up
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.bus import Bus, Rule, bus_rules, least_asked
from openfurrow.core.wiring.conductors import (
    Choice,
    Conductor,
    Way,
    breaker_a,
    choose,
    grounding_conductor,
)
from openfurrow.core.wiring.feed import crowded
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.panel_givens import FAR_END
from openfurrow.core.wiring.upstream import Back, Upstream, not_looked_at, upstream_of

# Of inverters behind modules, by their id: how many branches, what the strongest gives, and all.
Branches = Mapping[str, tuple[int, float, float]]


@dataclass(frozen=True, kw_only=True)
class Leg:
    """The outputs of one inverter, or of several alike: ``units`` circuits, each on its own breaker.

    ``wire`` is from the inverter to the panel, ``one_way_m`` of it with its slack; None where it comes
    out of the trench, as the wire that lies there. ``lines`` carry current; a neutral goes with them.
    ``watts`` and ``amps`` are of one, of branches that differ of the strongest; ``all_watts`` of all.
    """

    inverter: str
    units: int
    watts: float
    all_watts: float
    volts: float
    lines: int
    amps: float
    breaker_a: float
    wire: Choice | None
    one_way_m: float
    grounding: Conductor | None

    @property
    def drop(self) -> float:
        """Share lost from the inverter on, past the trench."""
        return 0.0 if self.wire is None else self.wire.drop

    @property
    def all_amps(self) -> float:
        """All of them on one line."""
        return self.amps * self.all_watts / self.watts

    @property
    def wires(self) -> int:
        """Lines and a neutral."""
        return self.lines + 1


@dataclass(frozen=True, kw_only=True)
class Service:
    """All outputs at the building. ``legs`` are those of each inverter, ``feeder`` what they meet in.

    Chargers of batteries have none. ``amps`` are all outputs at full power, ``lands_a`` the breakers
    by which they come to the panel. ``rules`` are the ways by which it may bear them, the one that
    asks least of people first, of those that do not hold the nearest; none where nobody has said what
    it is, or where outputs differ in volts. ``lands_apart``: each goes past a switch of its own to a
    breaker in the panel. ``length_said``: somebody has measured the way in the building.
    """

    legs: tuple[Leg, ...]
    feeder: Leg | None
    amps: float
    lands_a: float
    rules: tuple[Rule, ...]
    lands_apart: bool
    length_said: bool
    upstream: tuple[Upstream, ...] = ()

    @property
    def watts(self) -> float:
        """All outputs."""
        return sum(leg.all_watts for leg in self.legs)

    @property
    def outputs(self) -> int:
        """How many come to where it connects, before any of them meet."""
        return sum(leg.units for leg in self.legs)

    @property
    def one_voltage(self) -> bool:
        """Whether all come with the same volts: else amperes of one are not those of another."""
        return len({leg.volts for leg in self.legs}) <= 1

    @property
    def switches(self) -> int:
        """Switches by which all of it is taken off."""
        return self.outputs if self.lands_apart else 1

    @property
    def alike(self) -> bool:
        """Whether all outputs come with the same volts and lines."""
        return len({(leg.volts, leg.lines) for leg in self.legs}) <= 1

    @property
    def circuits(self) -> tuple[Leg, ...]:
        """All that has wires in the building."""
        feeder = () if self.feeder is None else (self.feeder,)
        return tuple(leg for leg in (*self.legs, *feeder) if leg.wire is not None)

    @property
    def drop(self) -> float:
        """The most that any output loses in the building."""
        return max((self.lost_of(leg.inverter) for leg in self.legs), default=0.0)

    def lost_of(self, inverter: str) -> float:
        """What the outputs of an inverter, by its id, lose in the building."""
        own = [leg.drop for leg in self.legs if leg.inverter == inverter]
        onward = sum(one.drop or 0.0 for one in self.upstream) if own else 0.0
        return sum(own) + onward + (self.feeder.drop if own and self.feeder is not None else 0.0)


def wired(
    site: Air, given: WiringGivens, volts: float, amps: float, long_m: float, *, three: bool
) -> Leg:
    """One circuit in the building by itself, in a conduit of its own."""
    pack, lines = site.rule_pack, 3 if three else 2
    guard = breaker_a(pack, constant(pack, "continuous_factor").value * amps)
    way = Way(long_m, math.sqrt(3) if three else 2.0, 0.0, amps, volts)
    wire = choose(
        pack,
        amps,
        way,
        given.ac_drop_limit,
        crowded(pack, 1, lines),
        site.hottest_temperature_c,
        guard,
        three=three,
    )
    watts = amps * volts * (math.sqrt(3) if three else 1.0)
    return Leg(
        inverter="",
        units=1,
        watts=watts,
        all_watts=watts,
        volts=volts,
        lines=lines,
        amps=amps,
        breaker_a=guard,
        wire=wire,
        one_way_m=long_m,
        grounding=grounding_conductor(pack, guard, wire.conductor),
    )


def _leg(site: Air, given: WiringGivens, inverter: InverterGivens, branches: Branches) -> Leg:
    """Its outputs; beside a panel of their own they run no further than their slack."""
    three = inverter.phases == "three phases"
    units, watts, all_watts = inverter.units, inverter.each_w, inverter.inverter_ac_w
    if inverter.behind:
        units, watts, all_watts = branches[inverter.id]
    amps = watts / inverter.ac_v / (math.sqrt(3) if three else 1.0)
    indoors = 0.0 if given.gathers else given.inverter_to_panel_m or 0.0
    whole = wired(site, given, inverter.ac_v, amps, indoors + 2 * given.slack_m, three=three)
    return Leg(
        inverter=inverter.id,
        units=units,
        watts=watts,
        all_watts=all_watts,
        volts=inverter.ac_v,
        lines=whole.lines,
        amps=amps,
        breaker_a=whole.breaker_a,
        # What comes through the trench runs on to the breaker, its length counted there.
        wire=None if inverter.at_array else whole.wire,
        one_way_m=0.0 if inverter.at_array else whole.one_way_m,
        grounding=None if inverter.at_array else whole.grounding,
    )


def service_of(site: Air, given: WiringGivens, branches: Branches) -> Service:
    """Everything between the inverters and where the job connects."""
    legs = tuple(
        _leg(site, given, one, branches)
        for one in given.inverters
        if one.to_panel and (not one.behind or one.id in branches)
    )
    # All on one line: how outputs of one phase are shared among three is not said.
    amps = sum(leg.all_amps for leg in legs)
    feeder = None
    if given.gathers and legs:
        volts, three = legs[0].volts, any(leg.lines == 3 for leg in legs)
        long_m = (given.inverter_to_panel_m or 0.0) + 2 * given.slack_m
        feeder = wired(site, given, volts, amps, long_m, three=three)
    lands = sum(leg.breaker_a * leg.units for leg in legs) if feeder is None else feeder.breaker_a
    rules = _rules(site.rule_pack, given, amps, lands, sum(leg.all_watts for leg in legs))
    found = Service(
        legs=legs,
        feeder=feeder,
        amps=amps,
        lands_a=lands,
        rules=least_asked(rules),
        upstream=_upstream(site, given, legs, amps, lands),
        lands_apart=given.connects == "a breaker in the panel" and feeder is None,
        length_said=given.inverter_to_panel_m is not None,
    )
    if found.one_voltage:
        return found
    return replace(found, rules=(), upstream=not_looked_at(found.upstream))


def _upstream(
    site: Air, given: WiringGivens, legs: tuple[Leg, ...], amps: float, lands_a: float
) -> tuple[Upstream, ...]:
    """Panels and feeders past the one in which it connects; nothing comes back without outputs."""
    if not legs:
        return ()
    three = any(leg.lines == 3 for leg in legs)
    return upstream_of(site, given, Back(amps=amps, lands_a=lands_a, volts=legs[0].volts, three=three))


def _rules(
    pack: RulePack, given: WiringGivens, amps: float, lands_a: float, watts: float
) -> tuple[Rule, ...]:
    """Every way by which what it connects to may bear it; the one that asks least of people first.

    NEC 705.11 has breakers ahead of the main within the service; panels by `bus_rules`.
    """
    main, bus, other = given.panel_main_a, given.panel_bus_a, given.panel_other_a
    match given.connects:
        case "a transformer of its own":
            bears = given.transformer_va
            return () if bears is None else (Rule("transformer", watts, bears),)
        case "ahead of the main breaker":
            return () if main is None else (Rule("the service", lands_a + other, main),)
        case "a breaker in the panel" if bus is not None and main is not None:
            own = Bus(
                bus_a=bus,
                main_a=main,
                other_a=other,
                far_end=given.panel_place == FAR_END,
                loads_a=given.panel_loads_a,
            )
            return bus_rules(pack, own, amps, lands_a)
    return ()


def cut_m(leg: Leg, pack: RulePack) -> float:
    """How long each wire of a circuit is cut."""
    return round_up(leg.one_way_m, constant(pack, "tape_step_m").value)
