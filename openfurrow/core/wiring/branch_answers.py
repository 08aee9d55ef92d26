"""What is answered of branches, and what would stop them: how many, how strong, what is lost."""

from openfurrow.core.checks import Check, at_least, at_most
from openfurrow.core.codes import constant
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.branches import Branch, trunk_ohm_per_m
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.inverters import Volts
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

SHEET = Source("the inverter's data sheet", "given")
COLD = Source("NEC 690.7(A)(1) and IEC 60364-7-712: voltage at the lowest temperature", "from memory")
OHM = Source("Ohm's law over the trunk, which carries less toward its end", "physics")


def branch_answers(circuit: Circuit, branch: Branch, site: Air) -> tuple[Answer, ...]:
    """How many branches of how many, what one carries, what the trunk takes and loses."""
    strings = circuit.strings
    modules, longest = float(strings.lengths.sum()), float(strings.lengths.max())
    return (
        Answer(
            "wiring",
            "strings",
            "Branches",
            Working(
                "branches",
                "",
                (
                    Input("N", "modules, an inverter behind each", modules, "count"),
                    Input("n_max", "most on a branch", float(branch.most), "count"),
                ),
                strings.words,
                "text",
                SHEET,
                "The fewest there may be, alike but for one.",
            ),
            True,
        ),
        Answer(
            "wiring",
            "cold",
            "One module in the cold",
            Working("V_cold", "", (), circuit.cold_v, "voltage", COLD, "At the inverter behind it."),
        ),
        Answer(
            "wiring",
            "branch_a",
            "A branch carries",
            Working(
                "I_br",
                "n * I_1",
                (
                    Input("n", "inverters on the longest", longest, "count"),
                    Input("I_1", "each adds to a line", branch.box_a, "current"),
                ),
                longest * branch.box_a,
                "current",
                SHEET,
            ),
            True,
        ),
        *_trunk_answers(circuit, branch, site),
    )


def _trunk_answers(circuit: Circuit, branch: Branch, site: Air) -> tuple[Answer, ...]:
    """What the trunk loses, and its plugs."""
    strings, leads = circuit.strings, circuit.leads
    modules = float(strings.lengths.sum())
    ohm, moment_m = trunk_ohm_per_m(site.rule_pack), circuit.trunk_moment_m
    return (
        Answer(
            "wiring",
            "trunk_drop",
            "Lost along the trunk, to its farthest inverter",
            Working(
                "u_t",
                "f * I_1 * r * M / V",
                (
                    Input("f", "there and back, or root of three", branch.times, "factor"),
                    Input("I_1", "each adds to a line", branch.box_a, "current"),
                    Input("M", "pieces, each times the inverters beyond it", moment_m, "run"),
                    Input("r", "resistance of the trunk", ohm, "line_resistance"),
                    Input("V", "output voltage", branch.volts, "voltage"),
                ),
                circuit.array_drop,
                "ratio",
                OHM,
                "By as much the voltage rises at that inverter; its way on to the panel counts too.",
            ),
            True,
        ),
        Answer(
            "wiring",
            "trunk_plugs",
            "Plugs of the trunk cable",
            Working(
                "n_t",
                "N + n_s",
                (
                    Input("N", "modules", modules, "count"),
                    Input("n_s", "that stay empty and are sealed", float(leads.sealed), "count"),
                    Input("s", "from plug to plug", branch.plug_spacing_m, "tape"),
                ),
                modules + leads.sealed,
                "count",
                GEOMETRY,
                f"An end cap on each of {strings.count}. To the next line of tables and home it runs "
                "without plugs.",
            ),
        ),
    )


def branch_checks(circuit: Circuit, branch: Branch, site: Air, volts: Volts) -> tuple[Check, ...]:
    """Whether an inverter stands its module, and the trunk what hangs on it."""
    lasting = constant(site.rule_pack, "continuous_factor").value
    entry = f"wiring.inverters.{branch.inverter}"
    return (
        at_most(
            "wiring",
            "cold",
            "A module stays under its inverter's limit in the cold",
            circuit.coldest_string_v,
            volts.maximum_dc_v,
            "voltage",
            remedy="An inverter for more volts: one cold morning over the limit ends them all.",
            source=COLD,
            given=f"wiring.inverters.{volts.most_of}.maximum_dc_v",
        ),
        at_least(
            "wiring",
            "hot",
            "A module starts its inverter in the heat",
            circuit.hottest_string_v,
            volts.start_v,
            "voltage",
            remedy="An inverter that starts lower.",
            source=SHEET,
            given=f"wiring.inverters.{volts.least_of}.start_v",
        ),
        at_most(
            "wiring",
            "branch",
            "A branch stays within what its trunk may be guarded by",
            lasting * float(circuit.strings.lengths.max()) * branch.box_a,
            branch.guard_a,
            "current",
            remedy="Fewer on a branch: its breaker would trip at noon, or the trunk burn first.",
            source=SHEET,
            given=f"{entry}.branch_most",
        ),
        at_most(
            "wiring",
            "branch_guard",
            "The breaker of a branch is one its trunk allows",
            circuit.feed.protection_a,
            branch.guard_a,
            "current",
            remedy="Fewer on a branch, so that a smaller breaker serves.",
            source=SHEET,
            given=f"{entry}.branch_most",
        ),
    )
