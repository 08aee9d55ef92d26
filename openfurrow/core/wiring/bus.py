"""What a panel's bus bears: the ways by which it may carry what comes back, whichever panel it is."""

from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes import RulePack, constant

RuleWay = Literal["main and sources", "at the far end", "all breakers", "the service", "transformer"]


@dataclass(frozen=True)
class Rule:
    """One way by which what is fed may be borne: ``asked`` against ``bears``, in amperes or watts."""

    way: RuleWay
    asked: float
    bears: float

    @property
    def over(self) -> float:
        """What is asked, in parts of what it bears."""
        return self.asked / self.bears

    @property
    def holds(self) -> bool:
        """Whether it is borne so."""
        return self.asked <= self.bears * (1 + 1e-9)


@dataclass(frozen=True, kw_only=True)
class Bus:
    """A panel's label: what its bars bear, what guards them, what else feeds them, and its loads.

    ``far_end``: what comes back sits away from the main. ``loads_a`` is None where nobody has counted.
    """

    bus_a: float
    main_a: float
    other_a: float
    far_end: bool
    loads_a: float | None


def bus_rules(pack: RulePack, bus: Bus, amps: float, lands_a: float) -> tuple[Rule, ...]:
    """Every way by which a panel may bear ``amps`` that come back past breakers of ``lands_a``.

    us: NEC 705.12(B)(3) has 125 % of what flows beside the main breaker within the bus, or within
    120 % of it from its far end, or all breakers but the main within the bus. metric: main breaker and
    sources within the bus (IEC 60364-5-551, 551.7.2, as EN 61439-3 has it of boards).
    """
    if pack == "metric":
        return (Rule("main and sources", bus.main_a + lands_a + bus.other_a, bus.bus_a),)
    flows = constant("us", "continuous_factor").value * amps + bus.other_a
    found = [Rule("main and sources", bus.main_a + flows, bus.bus_a)]
    if bus.far_end:
        far = constant("us", "bus_far_end").value
        found.append(Rule("at the far end", bus.main_a + flows, far * bus.bus_a))
    if bus.loads_a is not None:
        found.append(Rule("all breakers", bus.loads_a + lands_a + bus.other_a, bus.bus_a))
    return tuple(found)


def least_asked(rules: tuple[Rule, ...]) -> tuple[Rule, ...]:
    """Those that hold first, as they stand; of those that do not the nearest."""
    return tuple(sorted(rules, key=lambda one: (not one.holds, 0.0 if one.holds else one.over)))
