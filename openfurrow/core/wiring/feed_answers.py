"""What is answered of the wires in the trench: their size, what they lose, what guards them."""

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.quantities import round_up
from openfurrow.core.site.said import Air
from openfurrow.core.trench.route import Route
from openfurrow.core.wiring.ac_workings import OHM, RATED_OUTPUT, breaker_working, drop_working
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.conductors import bundling_factor, heat_factor
from openfurrow.core.wiring.feed import crowded
from openfurrow.core.wiring.givens import Losses
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working


def feed_answers(
    circuit: Circuit, site: Air, modules: ModulesGivens, route: Route, loss: Losses
) -> tuple[Answer, ...]:
    """Wire, drop, fuse or breaker, grounding, and how long each is cut."""
    return (
        _conductor(circuit, site),
        *(
            _string_drop(circuit, modules)
            if circuit.feed.outputs is None
            else _output_drop(circuit, modules)
        ),
        *(() if circuit.branch else (_fuse(circuit, site, modules),)),
        *_breaker(circuit, site),
        _grounding(circuit, site),
        _one_way(circuit, site, route, loss),
    )


def _conductor(circuit: Circuit, site: Air) -> Answer:
    feed, pack = circuit.feed, site.rule_pack
    sizes = 75 if pack == "us" else 90
    crowd = crowded(pack, feed.in_conduit, feed.wires.loaded)
    return Answer(
        "wiring",
        "conductor",
        "Cores of the cable in the trench" if feed.armoured else "Wire in the trench",
        Working(
            "size",
            "",
            (
                Input("I", "current to carry", feed.current_a, "current"),
                Input("I_z", "this size may carry", feed.choice.carries_a, "current"),
                Input("f_b", "left by crowding", bundling_factor(pack, crowd), "factor"),
                *_beside(circuit, pack),
                Input("f_t", "left by heat", heat_factor(pack, feed.ambient_c), "factor"),
                Input("T", "about it", feed.ambient_c, "temperature"),
            ),
            feed.choice.conductor.label,
            "text",
            table(pack, "conductor").source,
            f"Asked for by {feed.choice.asked_by}. Terminals at {sizes} °C. A licensed electrician "
            "confirms it.",
        ),
        True,
    )


def _beside(circuit: Circuit, pack: RulePack) -> tuple[Input, ...]:
    """What lines side by side leave, told where there is more than one."""
    feed = circuit.feed
    if feed.beside < 2 or pack == "us":
        return ()
    return (
        Input("n", "lines side by side in the ground", float(feed.beside), "count"),
        Input("f_n", "left by what lies beside", feed.warmed, "factor"),
    )


def _string_drop(circuit: Circuit, modules: ModulesGivens) -> tuple[Answer, ...]:
    return (
        Answer(
            "wiring",
            "drop",
            "Voltage drop of the farthest string",
            Working(
                "u",
                "I_mp * (2 * L * r + R_a) / V",
                (
                    Input("I_mp", "current at full power", circuit.feed.way.amps, "current"),
                    Input("L", "one way with slack", circuit.one_way_m, "run"),
                    _resistance(circuit),
                    _in_array(circuit),
                    Input("V", "string at full power", circuit.string_v, "voltage"),
                ),
                circuit.choice.drop,
                "ratio",
                OHM,
            ),
            True,
        ),
    )


def _resistance(circuit: Circuit) -> Input:
    ohm = circuit.choice.conductor.resistance_ohm_per_m
    return Input("r", "resistance of the wire", ohm, "line_resistance")


def _in_array(circuit: Circuit) -> Input:
    ohm = circuit.array_ohm if circuit.feed.outputs else circuit.feed.way.before_ohm
    return Input("R_a", "array wire, there and back, ohm", ohm, "factor")


def _output_drop(circuit: Circuit, modules: ModulesGivens) -> tuple[Answer, ...]:
    """On the outputs, and before the inverter on the strings."""
    way, outputs = circuit.feed.way, circuit.feed.outputs
    assert outputs is not None
    whose = "branch" if circuit.branch else "inverter"
    return (
        Answer(
            "wiring",
            "drop",
            "Voltage drop of a branch, in the trench"
            if circuit.branch
            else "Voltage drop of an inverter's output",
            drop_working(
                way.times,
                way.amps,
                way.one_way_m,
                circuit.choice.conductor.resistance_ohm_per_m,
                way.volts,
                circuit.choice.drop,
            ),
            True,
        ),
        *_array_drop(circuit, modules),
        Answer(
            "wiring",
            "output",
            "Rated output in each line",
            Working(
                "I",
                "P / (V * k)",
                (
                    Input("P", f"one {whose}", outputs.watts, "power"),
                    Input("V", "output voltage", outputs.volts, "voltage"),
                    Input(
                        "k",
                        "one phase 1, three root of three",
                        3**0.5 if outputs.three else 1.0,
                        "factor",
                    ),
                ),
                outputs.current_a,
                "current",
                OHM,
                f"{outputs.units} of them come to where the way begins.",
            ),
            True,
        ),
    )


def _array_drop(circuit: Circuit, modules: ModulesGivens) -> tuple[Answer, ...]:
    """Before an inverter out there on the strings; what branches lose is told with them."""
    if circuit.branch:
        return ()
    return (
        Answer(
            "wiring",
            "array_drop",
            "Voltage drop of the farthest string, to its inverter",
            Working(
                "u_a",
                "I_mp * R_a / V",
                (
                    Input("I_mp", "current at full power", modules.maximum_power_a, "current"),
                    _in_array(circuit),
                    Input("V", "string at full power", circuit.string_v, "voltage"),
                ),
                circuit.array_drop,
                "ratio",
                OHM,
            ),
        ),
    )


def _fuse(circuit: Circuit, site: Air, modules: ModulesGivens) -> Answer:
    factor = constant(site.rule_pack, "fuse_factor")
    return Answer(
        "wiring",
        "fuse",
        "Fuse or breaker of a string",
        Working(
            "I_n",
            "",
            (
                Input("I_sc", "short-circuit current", modules.short_circuit_a, "current"),
                Input("k_f", "of short-circuit current", factor.value, "factor"),
                Input("I_m", "largest the module allows", modules.series_fuse_a, "current"),
            ),
            circuit.fuse_a,
            "current",
            factor.source,
            "Next standard rating at or above k_f × I_sc; needed where three strings or more share "
            "an input.",
        ),
    )


def _breaker(circuit: Circuit, site: Air) -> tuple[Answer, ...]:
    feed = circuit.feed
    if feed.outputs is None:
        return ()
    working = breaker_working(site.rule_pack, feed.current_a, feed.protection_a, "at the building")
    return (Answer("wiring", "breaker", "Breaker of each output", working, True),)


def _grounding(circuit: Circuit, site: Air) -> Answer:
    feed = circuit.feed
    what = "fuse" if feed.outputs is None else "breaker"
    return Answer(
        "wiring",
        "grounding",
        f"Grounding conductor in the {'cable' if feed.armoured else 'conduit'}",
        Working(
            "size_g",
            "",
            (Input("I_n", what, feed.protection_a, "current"),),
            feed.grounding.label,
            "text",
            table("us", "grounding").source
            if site.rule_pack == "us"
            else Source("IEC 60364-5-54, Table 54.2", "from memory"),
        ),
    )


def _one_way(circuit: Circuit, site: Air, route: Route, loss: Losses) -> Answer:
    wires, one_way = circuit.feed.wires, circuit.one_way_m
    indoors_m = circuit.feed.indoors_m
    step = constant(site.rule_pack, "tape_step_m").value
    whose = "string" if circuit.feed.outputs is None else "inverter"
    return Answer(
        "wiring",
        "one_way",
        f"Cut each {'cable' if circuit.feed.armoured else 'trench wire'} at",
        Working(
            "L_w",
            f"ceil((L_g + h{' + b' if indoors_m else ''} + 2 * s) / step) * step",
            (
                Input("L_g", "trench along the ground", route.ground_length_m, "run"),
                Input("h", "up and down at both ends", route.rises_m, "tape"),
                *((Input("b", "on in the building", indoors_m, "run"),) if indoors_m else ()),
                Input("s", "slack at each end", loss.slack_m, "tape"),
                Input("step", "cut in steps of", step, "tape"),
            ),
            round_up(one_way, step),
            "run",
            GEOMETRY,
            f"{circuit.conduits if circuit.feed.armoured else wires.lines * wires.circuits} of them, "
            f"marked by {whose} before they go in.",
        ),
        True,
    )


def feed_checks(circuit: Circuit, site: Air, loss: Losses) -> tuple[Check, ...]:
    """Whether a listed wire serves, a listed breaker, and what is lost in all."""
    feed = circuit.feed
    listed = holds(
        "wiring",
        "conductor",
        "A listed wire carries it within the drop",
        feed.choice.fits,
        feed.choice.conductor.label if feed.choice.fits else "none listed",
        "a listed size",
        remedy="A nearer inverter, fewer circuits in a conduit, or accept more drop.",
        source=COMMON_PRACTICE,
        given="wiring.drop_limit",
    )
    told = (listed, _volts_check(circuit, site), *_warmed_check(circuit, site))
    if feed.outputs is None:
        return told
    return (
        *told,
        at_least(
            "wiring",
            "breaker",
            "A listed breaker carries each output",
            feed.protection_a,
            constant(site.rule_pack, "continuous_factor").value * feed.current_a,
            "current",
            remedy="More and smaller inverters, three phases, or an engineer's own design.",
            source=RATED_OUTPUT,
            given="wiring.inverters",
        ),
        # The wire of the outputs is chosen for their own drop; the strings have lost theirs before.
        at_most(
            "wiring",
            "drop_in_all",
            "Strings and outputs together lose no more than is aimed at",
            circuit.array_drop + feed.choice.drop,
            loss.drop_limit,
            "ratio",
            remedy="Inverters nearer the middle of their strings, a higher output voltage, or accept "
            "more drop.",
            source=OHM,
            given="wiring.drop_limit",
            otherwise="look",
        ),
    )


def _volts_check(circuit: Circuit, site: Air) -> Check:
    """Whether the wires in the trench are listed for what they see: strings in the cold, or outputs."""
    outputs = circuit.feed.outputs
    return at_most(
        "wiring",
        "wire_volts",
        "Its wires are listed for the volts",
        circuit.coldest_string_v if outputs is None else outputs.volts,
        circuit.feed.listed_v,
        "voltage",
        remedy="Wire listed for more: read its jacket, and say so; or shorter strings.",
        source=table(site.rule_pack, "wire_volts").source,
        given="trench.wire_listed_v",
    )


def _warmed_check(circuit: Circuit, site: Air) -> tuple[Check, ...]:
    """Whether wires still carry theirs where lines side by side warm each other.

    The metric school's wires are chosen for it. The us table is of one line: beside others an engineer
    reckons what each leaves, and until then the metric factor is held against it.
    """
    feed, pack = circuit.feed, site.rule_pack
    if feed.beside < 2 or pack != "us":
        return ()
    wire, crowd = feed.choice.conductor, crowded(pack, feed.in_conduit, feed.wires.loaded)
    listed = wire.ampacity_three_a if feed.wires.loaded == 3 else wire.ampacity_90_a
    alone = listed * bundling_factor(pack, crowd) * heat_factor(pack, feed.ambient_c)
    return (
        at_least(
            "wiring",
            "warmed",
            "Wires carry it beside others in the ground",
            alone * feed.warmed,
            feed.current_a,
            "current",
            remedy="A size more, conduits further apart, or an engineer's reckoning of the heat "
            "(NEC 310.14(B)): the table's ampacity is that of one line alone.",
            source=table("common", "beside").source,
            given="trench.strings_per_conduit",
            otherwise="look",
        ),
    )
