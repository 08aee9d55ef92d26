"""Panels and feeders between the panel in which the job connects and the meter: each carries it too."""

import math
from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.quantities import spoken
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.bus import Bus, Rule, bus_rules, least_asked
from openfurrow.core.wiring.conductors import (
    Way,
    bundling_factor,
    conductor,
    heat_factor,
    largest_fuse_a,
)
from openfurrow.core.wiring.feed import crowded
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.panel_givens import FAR_END, PanelGivens
from openfurrow.core.working import Answer, Input, Source, Working

PANELS = "wiring.panels"
FEEDER = {
    "us": Source("NEC 2020, 705.12(B)(1) and 215.2", "from memory"),
    "metric": Source("IEC 60364-4-43, 433.1, and IEC 60364-5-551, 551.7.2", "from memory"),
}


@dataclass(frozen=True, kw_only=True)
class Back:
    """What comes back at full power: amperes on each line, breakers they came past, volts, phases."""

    amps: float
    lands_a: float
    volts: float
    three: bool


@dataclass(frozen=True, kw_only=True)
class Upstream:
    """One panel: the ways by which its bus may bear it, and the feeder down from it.

    ``rules`` are none where nobody has read its label; ``asked_a`` is what comes back for a load that
    lasts, ``carries_a`` what the feeder's wire does, None where nobody has looked; ``drop`` is what is
    lost on it at full power, ``most_a`` the largest breaker that guards it.
    ``asked`` is what its bus is asked, by its parts.
    """

    name: str
    rules: tuple[Rule, ...]
    asked_a: float
    breaker_a: float | None
    carries_a: float | None
    drop: float | None
    most_a: float = 0.0
    asked: tuple[Input, ...] = ()

    @property
    def known(self) -> bool:
        """Whether panel and feeder were looked at."""
        return bool(self.rules) and None not in (self.breaker_a, self.carries_a, self.drop)


def upstream_of(site: Air, given: WiringGivens, back: Back) -> tuple[Upstream, ...]:
    """Every panel that was listed, on to the meter; none where it is fed from there."""
    if given.connects != "a breaker in the panel" or given.panel_fed_by != "another panel":
        return ()
    # Other sources of the panels below come back through every one above.
    found, below = [], given.panel_other_a
    for number, panel in enumerate(given.panels, start=1):
        found.append(_upstream(site, panel, back, below, panel.called or f"panel {number}"))
        below += panel.other_a
    return tuple(found)


def not_looked_at(found: tuple[Upstream, ...]) -> tuple[Upstream, ...]:
    """The same of outputs of unlike volts: their amperes are not those of one another."""
    return tuple(replace(one, rules=(), carries_a=None, drop=None) for one in found)


def _upstream(site: Air, panel: PanelGivens, back: Back, below_a: float, name: str) -> Upstream:
    """``below_a`` are the breakers of other sources that come back past the feeder too."""
    pack = site.rule_pack
    lasts = constant(pack, "continuous_factor").value * back.amps + below_a
    # What comes back past the feeder's breaker is no more than that lets through.
    lands = back.lands_a + below_a
    if panel.feeds_a is not None:
        lands = panel.feeds_a if pack == "us" else min(lands, panel.feeds_a)
    rules: tuple[Rule, ...] = ()
    asked: tuple[Input, ...] = ()
    if panel.bus_a is not None and panel.main_a is not None:
        bus = Bus(
            bus_a=panel.bus_a,
            main_a=panel.main_a,
            other_a=panel.other_a + below_a,
            far_end=panel.place == FAR_END,
            loads_a=panel.loads_a if panel.feeds_a is not None else None,
        )
        # Of all breakers the feeder's own stands there, with other sources below within it.
        rules = least_asked(bus_rules(pack, bus, back.amps, lands - below_a))
        asked = (
            Input("I_m", "what guards its bus", bus.main_a, "current"),
            Input("k", "for a load that lasts", constant(pack, "continuous_factor").value, "factor"),
            Input("I_ac", "all outputs", back.amps, "current"),
            Input("I_b", "breakers by which they come", lands - below_a, "current"),
            Input("I_o", "other sources on it and below", bus.other_a, "current"),
            Input("I_l", "breakers of its loads", bus.loads_a or 0.0, "current"),
        )
    size = panel.feeder_us if pack == "us" else panel.feeder_metric
    if size == "nobody has looked":
        return Upstream(
            name=name,
            rules=rules,
            asked_a=lasts,
            breaker_a=panel.feeds_a,
            carries_a=None,
            drop=None,
            asked=asked,
        )
    wire = conductor(pack, size)
    lines = 3 if back.three else 2
    factor = bundling_factor(pack, crowded(pack, 1, lines)) * heat_factor(
        pack, site.hottest_temperature_c
    )
    placed = (wire.ampacity_three_a if back.three else wire.ampacity_90_a) * factor
    way = Way(panel.feeder_m or 0.0, math.sqrt(3) if back.three else 2.0, 0.0, back.amps, back.volts)
    return Upstream(
        name=name,
        rules=rules,
        asked_a=lasts,
        breaker_a=panel.feeds_a,
        carries_a=min(wire.ampacity_75_a, placed),
        drop=None if panel.feeder_m is None else way.drop(wire.resistance_ohm_per_m),
        most_a=largest_fuse_a(pack, wire, placed),
        asked=asked,
    )


def _sum(rule: Rule, pack: RulePack) -> str:
    """What is added up by a rule."""
    if rule.way == "all breakers":
        return "I_l + I_b + I_o"
    return "I_m + k * I_ac + I_o" if pack == "us" else "I_m + I_b + I_o"


def upstream_answers(found: tuple[Upstream, ...], pack: RulePack) -> tuple[Answer, ...]:
    """What each panel is asked, and what is lost on the feeders."""
    if not found:
        return ()
    told = [
        Answer(
            "wiring",
            f"upstream_{number}",
            f"Asked of {one.name}",
            Working(
                "I_s",
                _sum(one.rules[0], pack),
                (
                    *(part for part in one.asked if part.symbol in _sum(one.rules[0], pack).split()),
                    Input("R", "what it bears by this rule", one.rules[0].bears, "current"),
                ),
                one.rules[0].asked,
                "current",
                FEEDER[pack],
                f"By the way of: {one.rules[0].way}.",
            ),
        )
        for number, one in enumerate(found, start=1)
        if one.rules
    ]
    drops = [one.drop for one in found if one.drop is not None]
    if drops:
        told.append(
            Answer(
                "wiring",
                "upstream_drop",
                "Lost on feeders between panels",
                Working(
                    "u_f",
                    "",
                    (Input("n", "feeders that were looked at", float(len(drops)), "count"),),
                    sum(drops),
                    "ratio",
                    FEEDER[pack],
                    "At full power; it lifts the volts at the inverter by as much.",
                ),
            )
        )
    return tuple(told)


def upstream_checks(found: tuple[Upstream, ...], pack: RulePack) -> tuple[Check, ...]:
    """Whether every panel and every feeder on the way to the meter bears what comes back."""
    if not found:
        return ()
    return (*_bus_check(found, pack), *_feeder_checks(found, pack))


def _bus_check(found: tuple[Upstream, ...], pack: RulePack) -> tuple[Check, ...]:
    unread = [one.name for one in found if not one.rules]
    if unread:
        return (
            holds(
                "wiring",
                "upstream_bus",
                "Every panel on the way to the meter bears it",
                False,
                f"nobody has read: {', '.join(unread)}",
                "bus and main of each",
                remedy="Open each of them and read its label.",
                source=FEEDER[pack],
                given=PANELS,
                otherwise="look",
            ),
        )
    worst = max(found, key=lambda one: one.rules[0].over)
    return (
        at_most(
            "wiring",
            "upstream_bus",
            "Every panel on the way to the meter bears it",
            worst.rules[0].asked,
            worst.rules[0].bears,
            "current",
            remedy=f"{worst.name}: a smaller main where its loads allow it, the feeder's breaker moved "
            "to the far end, more bus, or connect nearer to the meter.",
            source=FEEDER[pack],
            given=PANELS,
        ),
    )


def _feeder_checks(found: tuple[Upstream, ...], pack: RulePack) -> tuple[Check, ...]:
    unseen = [one.name for one in found if None in (one.breaker_a, one.carries_a, one.drop)]
    if unseen:
        return (
            holds(
                "wiring",
                "upstream_feeder",
                "Every feeder on the way to the meter carries it",
                False,
                f"nobody has looked: {', '.join(unseen)}",
                "breaker, wire and length of each",
                remedy="The breaker's handle, the print on the feeder's jacket, a tape along it.",
                source=FEEDER[pack],
                given=PANELS,
                otherwise="look",
            ),
        )
    # The breaker has to pass what lasts, the wire to carry that, and the breaker to guard the wire.
    wrong = [
        f"{one.name}: {spoken(one.asked_a, 'current')} past {spoken(one.breaker_a or 0.0, 'current')} "
        f"on wire for {spoken(one.carries_a or 0.0, 'current')}"
        for one in found
        if one.asked_a > (one.breaker_a or 0.0) * (1 + 1e-9)
        or one.asked_a > (one.carries_a or 0.0) * (1 + 1e-9)
        or (one.breaker_a or 0.0) > one.most_a
    ]
    return (
        holds(
            "wiring",
            "upstream_feeder",
            "Every feeder on the way to the meter carries it",
            not wrong,
            "; ".join(wrong) or "breakers and wires of all",
            "what lasts within breaker and wire",
            remedy="A heavier feeder and breaker, or connect nearer to the meter; a breaker is never "
            "made larger than its wire bears.",
            source=FEEDER[pack],
            given=PANELS,
        ),
    )
