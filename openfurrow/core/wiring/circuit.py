"""The circuit from the modules to the inverter: strings, conductors, lengths."""

import math
from dataclasses import dataclass, replace

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.quantities import round_up
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.said import Air
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.wiring.branches import Branch, branches_of, trunk_drop, trunk_moments_m
from openfurrow.core.wiring.conductors import Choice, Conductor, Way, protection_a, warm_factor
from openfurrow.core.wiring.feed import Feed, Outputs, output_feed, string_feed
from openfurrow.core.wiring.givens import Laying, Losses
from openfurrow.core.wiring.input_rules import UNTOLD, Inputs
from openfurrow.core.wiring.inverters import Volts
from openfurrow.core.wiring.leads import Leads, lead_on
from openfurrow.core.wiring.strings import (
    StringPlan,
    at_temperature,
    divide,
    homeruns_m,
    tour_m,
)


@dataclass(frozen=True)
class Fed:
    """What an array's strings come to: the volts and inputs they may have, and the inverters' outputs.

    ``outputs`` are those of inverters that stand at the array; None where they are at the building.
    ``laying`` is how strings go from module to module; ``branch`` what inverters behind every module
    say, None where there are none. ``beside`` are the lines in the ground beside each other where most
    are, those of other arrays among them, ``at_input`` what one input stands.
    """

    volts: Volts
    inputs: int
    outputs: Outputs | None
    laying: Laying
    branch: Branch | None = None
    beside: int = 1
    at_input: Inputs = UNTOLD


@dataclass(frozen=True)
class Circuit:
    """Strings and conductors of one array, ``joined`` to an input. Lengths include slack, not waste.

    ``cold_v`` and ``hot_v`` are one module's; ``string_v`` is the shortest string at full power,
    ``array_ohm`` the array wire of the farthest string, there and back, and ``array_drop`` the share of
    its volts that is lost there, ``string_a`` what a string's wires must carry. ``feed`` is what lies
    in the trench, ``leads`` how modules are joined. Where inverters stand behind every module its
    strings are branches of these, by ``branch``: modules side by side, each with its own volts, on a
    trunk cable that goes ``trunk_home_m`` without plugs, to other lines and home; ``trunk_moment_m``
    are the pieces of the worst, each times the inverters whose current it carries.
    """

    branch: Branch | None
    strings: StringPlan
    joined: int
    leads: Leads
    cold_v: float
    hot_v: float
    string_v: float
    array_ohm: float
    array_drop: float
    string_a: float
    feed: Feed
    fuse_a: float
    trench_wire_m: float
    array_wire_m: float
    trunk_moment_m: float
    trunk_home_m: float
    grounding_wire_m: float
    bare_copper_m: float

    @property
    def lines(self) -> int:
        """How many inputs its strings want: one for as many as are joined."""
        return math.ceil(self.strings.count / self.joined)

    @property
    def jumpers(self) -> int:
        """Wires that are made up because leads do not reach."""
        return self.leads.jumpers

    @property
    def choice(self) -> Choice:
        """The wire in the trench."""
        return self.feed.choice

    @property
    def grounding(self) -> Conductor:
        """The grounding conductor beside it."""
        return self.feed.grounding

    @property
    def conduits(self) -> int:
        """Conduits side by side."""
        return self.feed.conduits

    @property
    def one_way_m(self) -> float:
        """One wire of the trench, with its slack."""
        return self.feed.way.one_way_m

    @property
    def string_drop(self) -> float:
        """Share of a string's power lost on its way to the inverter, of the farthest one."""
        if self.branch is not None:
            return 0.0
        return self.choice.drop if self.feed.outputs is None else self.array_drop

    @property
    def output_drop(self) -> float:
        """Share of what inverters out at the array give that is lost on its way, trunk and trench."""
        if self.branch is not None:
            return self.array_drop + self.choice.drop
        return 0.0 if self.feed.outputs is None else self.choice.drop

    @property
    def coldest_string_v(self) -> float:
        """Open-circuit voltage of the longest string at the lowest temperature."""
        return float(1 if self.branch else self.strings.lengths.max()) * self.cold_v

    @property
    def hottest_string_v(self) -> float:
        """Voltage at full power of the shortest string on the hottest day."""
        return float(1 if self.branch else self.strings.lengths.min()) * self.hot_v


def string_up(
    site: Air, module_count: int, modules: ModulesGivens, fed: Fed
) -> tuple[StringPlan, float, float]:
    """The strings, and one module's voltage in the cold (open) and in the heat (at full power)."""
    longest, shortest, cold_v, hot_v = string_limits(site, modules, fed.volts)
    if fed.branch is not None:
        return branches_of(module_count, fed.branch), cold_v, hot_v
    lengths = divide(module_count, longest, shortest, fed.inputs * fed.at_input.joined)
    return StringPlan(longest, shortest, lengths), cold_v, hot_v


def circuits_out(site: Air, module_count: int, modules: ModulesGivens, fed: Fed) -> int:
    """How many circuits go through the ground: strings, branches, or the outputs of inverters."""
    if fed.outputs is not None:
        return fed.outputs.units
    strings = string_up(site, module_count, modules, fed)[0].count
    return strings if fed.branch is not None else math.ceil(strings / fed.at_input.joined)


def outputs_of_branches(branch: Branch, strings: StringPlan) -> Outputs:
    """What comes home from them: each as strong as the longest."""
    longest = int(strings.lengths.max())
    return Outputs(strings.count, longest * branch.box_w, branch.volts, branch.three)


def string_limits(site: Air, modules: ModulesGivens, volts: Volts) -> tuple[int, int, float, float]:
    """The longest and the shortest string, and one module's voltage in the cold and in the heat."""
    cold_v = at_temperature(
        modules.open_circuit_v, modules.voltage_coefficient_per_c, site.lowest_temperature_c
    )
    hot_v = at_temperature(
        modules.maximum_power_v,
        modules.power_coefficient_per_c,
        site.hottest_temperature_c + constant("common", "heat_over_air_c").value,
    )
    longest = math.floor(volts.maximum_dc_v / cold_v + 1e-9)
    shortest = math.ceil(volts.start_v / max(hot_v, 1e-6) - 1e-9)
    return longest, shortest, cold_v, hot_v


def lay_circuit(
    site: Air,
    rows: RowsPlan,
    posts: SupportPlaces,
    modules: ModulesGivens,
    trench: TrenchGivens,
    route: Route,
    loss: Losses,
    fed: Fed,
) -> Circuit:
    """Divide the modules into strings for the inputs there are, and carry them to the building."""
    pack = site.rule_pack
    strings, cold_v, hot_v = string_up(site, rows.module_count, modules, fed)
    box = route.start_post
    box_m = rows.tables.along_lines_m(posts.of_table[box], posts.from_middle_m[box])
    place = float(box_m[0]), float(box_m[1])
    at, leads = lead_on(rows, modules, strings.lengths, fed.laying, place)
    ends = homeruns_m(at, leads.order, strings.lengths, place)
    between = np.bincount(leads.string, leads.wire_m, strings.count)
    # A branch goes home from one end.
    inside = between + (sum(ends) if fed.branch is None else np.minimum(*ends))
    one_way = route.wire_m + 2 * loss.slack_m
    array_ohm = (
        float(inside.max()) * warm_factor(pack) * constant(pack, "array_resistance_ohm_per_m").value
    )
    string_v = float(strings.lengths.min() if fed.branch is None else 1) * modules.maximum_power_v
    array_drop = array_ohm * modules.maximum_power_a / string_v
    outputs, moment_m = fed.outputs, 0.0
    if fed.branch is not None:
        moments = trunk_moments_m(fed.branch, leads, strings.lengths, ends, loss.slack_m)
        moment_m = float(moments.max())
        array_drop = trunk_drop(fed.branch, moment_m, pack)
        outputs = outputs_of_branches(fed.branch, strings)
    string_a = constant(pack, "current_factor").value * modules.short_circuit_a
    fuse = protection_a(pack, modules.short_circuit_a * constant(pack, "fuse_factor").value)
    indoors_m = trench.inside_m if outputs is None else loss.indoors_m
    one_way += indoors_m
    if outputs is None:
        # Joined strings share the trench's wires, each on its own wire before.
        joined = fed.at_input.joined
        way = Way(one_way, 2.0, array_ohm / joined, joined * modules.maximum_power_a, string_v)
        guard = fuse
        if joined > 1:
            short_a = joined * modules.short_circuit_a
            guard = protection_a(pack, short_a * constant(pack, "fuse_factor").value)
        lines = math.ceil(strings.count / joined)
        feed = string_feed(
            site, trench, lines, joined * string_a, way, guard, loss.drop_limit, fed.beside
        )
    else:
        feed = output_feed(site, trench, outputs, one_way, loss.drop_limit, fed.beside)
    step = constant(pack, "tape_step_m").value
    return Circuit(
        branch=fed.branch,
        strings=strings,
        joined=1 if fed.branch is not None else fed.at_input.joined,
        leads=leads,
        cold_v=cold_v,
        hot_v=hot_v,
        string_v=string_v,
        array_ohm=array_ohm,
        array_drop=array_drop,
        string_a=string_a,
        feed=replace(feed, indoors_m=indoors_m, joined=fed.at_input.joined if outputs is None else 1),
        fuse_a=fuse,
        # Each is cut to a whole step: that, and not the way, is what the reel must hold.
        trench_wire_m=feed.wires.lines * feed.wires.circuits * round_up(one_way, step),
        array_wire_m=leads.box_wire_m
        + (0.0 if fed.branch else float(inside.sum()) + 2 * strings.count * loss.slack_m),
        trunk_moment_m=moment_m,
        trunk_home_m=float(inside.sum()) + strings.count * loss.slack_m if fed.branch else 0.0,
        grounding_wire_m=feed.conduits * round_up(one_way, step),
        bare_copper_m=tour_m(rows) + route.ground_length_m + 2 * loss.slack_m,
    )
