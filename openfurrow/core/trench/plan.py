"""Trench: length, depth, conduit, bends and pulls, spoil and sand."""

import math
from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant, table
from openfurrow.core.quantities import (
    STANDARD_GRAVITY_M_S2,
    round_up,
    spoken,
    tape_step_m,
)
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.trench.conduit import (
    Conduit,
    Pull,
    pull_boxes,
    pulling_tension_n,
    size_conduit,
    straights_m,
)
from openfurrow.core.trench.crossings import Crossing, crossings_of, way_checks
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

PULLING = Source("IEEE 525/576 practice", "from memory")


@dataclass(frozen=True)
class TrenchPlan:
    """The trench and what lies in it; ``conduit`` is absent for direct-buried cable."""

    route: Route
    crossings: tuple[Crossing, ...]
    conduit: Conduit | None
    conduits: int
    pull: Pull
    width_m: float
    depth_m: float
    bends_deg: tuple[float, ...]
    boxes: int
    tension_n: float
    tension_limit_n: float
    sticks: int
    spoil_m3: float
    loose_m3: float
    bedding_m3: float
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def plan_trench(
    site: SitePlan, givens: TrenchGivens, route: Route, pull: Pull, conduits: int
) -> TrenchPlan:
    """Dig for the wires that must pass. ``pull`` is what one of the ``conduits`` takes."""
    pack = site.rule_pack
    cable = givens.method == "direct-buried cable"
    conduit = None if cable else size_conduit(pack, givens.method, pull, givens.room_for_growth)
    outside = conduit.outside_m if conduit else math.sqrt(4 * pull.area_m2 / math.pi)
    # Side by side, as wide apart as they are thick; the trench is widened when they do not fit.
    width = max(givens.width_m, (2 * conduits - 1) * outside + 0.1)
    depth = round_up(
        route.cover_m + outside + givens.bedding_m, tape_step_m(site.display_units)
    )
    bends = (90.0, *route.turns_deg, 90.0)
    boxes = pull_boxes(bends, constant(pack, "bend_limit_deg").value)
    straights = straights_m(route.east_m.tolist(), route.north_m.tolist()) or (0.0,)
    bends_at_ends = bends if len(bends) == len(straights) + 1 else (90.0, 90.0)
    tension = pulling_tension_n(
        straights, bends_at_ends, pull.mass_kg_per_m * STANDARD_GRAVITY_M_S2
    )
    limit = constant("common", "pull_per_copper_pa").value * pull.copper_m2
    stick = constant(pack, "stick_m").value
    spoil = route.ground_length_m * width * depth
    layers = 2 if cable else 1
    bedding = route.ground_length_m * width * givens.bedding_m * layers
    sticks = 0 if cable else conduits * math.ceil(route.ground_length_m / stick - 1e-9)
    crossings = crossings_of(site.keepouts, route)
    plan = TrenchPlan(
        route, crossings, conduit, conduits, pull, width, depth, bends, boxes, tension, limit, sticks,
        spoil, spoil * (1 + givens.swell), bedding, (), (),
    )
    checks = (*_checks(plan, site, givens), *way_checks(site, route, crossings, width, depth))
    return replace(plan, answers=_answers(plan, site, givens, outside), checks=checks)


def _answers(
    plan: TrenchPlan, site: SitePlan, givens: TrenchGivens, outside: float
) -> tuple[Answer, ...]:
    route = plan.route
    length = Input("L", "length along the ground", route.ground_length_m, "run")
    width = Input("w", "width", plan.width_m, "tape")
    depth = Input("d", "depth", plan.depth_m, "tape")
    cover = Input("c", "least cover", route.least_cover_m, "tape")
    step = tape_step_m(site.display_units)
    rise = float(route.level_m[-1] - route.level_m[0])
    return (
        Answer("trench", "depth", "Dig to", Working(
            "d", "ceil((c + x + D + b) / step) * step",
            (
                cover,
                Input("x", "deeper than the rule", givens.extra_depth_m, "tape"),
                Input("D", "outside of the conduit or cable", outside, "tape"),
                Input("b", "sand below", givens.bedding_m, "tape"),
                Input("step", "finest mark on the tape", step, "thickness"),
            ),
            plan.depth_m, "tape", GEOMETRY,
        ), True),
        Answer("trench", "length", "Trench along the ground", Working(
            "L", "", (
                Input("L_level", "level length", route.level_length_m, "run"),
                Input("n", "bends between", float(len(route.turns_deg)), "count"),
            ),
            route.ground_length_m, "run", GEOMETRY,
            f"From the post nearest the first bend to the wall, "
            f"{spoken(abs(rise), 'tape')} {'up' if rise >= 0 else 'down'}.",
        ), True),
        Answer("trench", "cover", "Cover over the wiring", Working(
            "c_t", "c + x",
            (cover, Input("x", "deeper than the rule", givens.extra_depth_m, "tape")),
            route.cover_m, "tape", route.cover_table.source,
            "To the top of the conduit or cable. Local rules and frost may ask for more.",
        )),
        *_hand_answers(plan),
        *_conduit_answers(plan, site),
        Answer("trench", "spoil", "Spoil in a heap", Working(
            "V", "L * w * d * (1 + q)",
            (length, width, depth, Input("q", "swell", givens.swell, "ratio")),
            plan.loose_m3, "volume", GEOMETRY, "Heaped at least 0.6 m (2 ft) from the edge.",
        ), True),
        Answer("trench", "bedding", "Sand", Working(
            "V_s", "L * w * b * k",
            (
                length, width,
                Input("b", "thickness", givens.bedding_m, "tape"),
                Input("k", "layers", 2.0 if plan.conduit is None else 1.0, "count"),
            ),
            plan.bedding_m3, "volume", GEOMETRY,
        )),
    )


def _hand_answers(plan: TrenchPlan) -> tuple[Answer, ...]:
    if not plan.crossings:
        return ()
    words = "; ".join(
        f"{crossing.zone.feature.label} from {spoken(crossing.from_m, 'run')} to "
        f"{spoken(crossing.to_m, 'run')}"
        for crossing in plan.crossings
    )
    return (
        Answer("trench", "by_hand", "Dug by hand", Working(
            "L_hand", "", (Input("n", "lines met", float(len(plan.crossings)), "count"),),
            sum(crossing.length_m for crossing in plan.crossings), "run",
            plan.crossings[0].zone.feature.facts.source,
            f"Chainage from the array: {words}. Level length through each hand-dig zone.",
        ), True),
    )


def _conduit_answers(plan: TrenchPlan, site: SitePlan) -> tuple[Answer, ...]:
    conduit, pull = plan.conduit, plan.pull
    if conduit is None:
        return ()
    pack = site.rule_pack
    side = "" if plan.conduits == 1 else f", {plan.conduits} side by side"
    bends = Input("B", "bends in all", sum(plan.bends_deg), "angle")
    return (
        Answer("trench", "conduit", "Conduit", Working(
            "size", "", (
                Input("A", "wires", pull.area_m2, "wire_area"),
                Input("f", "fill allowed", constant(pack, "conduit_fill").value, "ratio"),
                Input("A_i", "inside of this size", conduit.inside_m2, "wire_area"),
            ),
            f"{conduit.label}{side}", "text", table(pack, "conduit").source,
            "One size larger than the fill asks for." if conduit.grown else
            "The smallest size that takes the wires.",
        ), True),
        Answer("trench", "fill", "Fill", Working(
            "F", "A / A_i",
            (
                Input("A", f"{pull.conductors} wires", pull.area_m2, "wire_area"),
                Input("A_i", "inside", conduit.inside_m2, "wire_area"),
            ),
            conduit.fill, "ratio", constant(pack, "conduit_fill").source,
        )),
        Answer("trench", "riser_fill", "Fill where it comes up", Working(
            "F_r", "A / A_r",
            (
                Input("A", f"{pull.conductors} wires", pull.area_m2, "wire_area"),
                Input("A_r", "inside of the heavy wall", conduit.riser_inside_m2, "wire_area"),
            ),
            conduit.riser_fill, "ratio", constant(pack, "conduit_fill").source,
            "In the rises and the sweeps at both ends, whose wall is thicker.",
        )),
        Answer("trench", "sticks", "Sticks of conduit", Working(
            "n", "k * ceil(L / l)",
            (
                Input("k", "conduits", float(plan.conduits), "count"),
                Input("L", "length along the ground", plan.route.ground_length_m, "run"),
                Input("l", "stick", constant(pack, "stick_m").value, "run"),
            ),
            float(plan.sticks), "count", GEOMETRY,
            "In the trench; heavy-wall pieces for the two rises stand apart in the list. Glue "
            "needs about 4 °C (40 °F): dry fit first.",
        )),
        Answer("trench", "bends", "Bends in all", Working(
            "B", "", (bends,), sum(plan.bends_deg), "angle",
            constant(pack, "bend_limit_deg").source,
            "With the sweeps down at the array and up at the wall.",
        )),
        Answer("trench", "boxes", "Pull boxes on the way", Working(
            "n_b", "",
            (bends, Input("limit", "most between pulls",
                          constant(pack, "bend_limit_deg").value, "angle")),
            float(plan.boxes), "count", constant(pack, "bend_limit_deg").source,
        )),
        Answer("trench", "tension", "Pull at the far end", Working(
            "T", "", (
                Input("m", "wires together", pull.mass_kg_per_m, "line_mass"),
                bends,
                Input("mu", "friction, lubricated",
                      constant("common", "pulling_friction").value, "factor"),
            ),
            plan.tension_n, "force", PULLING,
            "T grows by w μ L on each straight and by e^(μθ) in each bend.",
        )),
    )


def _checks(plan: TrenchPlan, site: SitePlan, givens: TrenchGivens) -> tuple[Check, ...]:
    shared = (
        at_least(
            "trench", "cover", "Deep enough over the wiring",
            plan.depth_m - givens.bedding_m - (plan.conduit.outside_m if plan.conduit else 0.0),
            plan.route.least_cover_m, "tape", remedy="Dig deeper.",
            source=plan.route.cover_table.source, given="trench.extra_depth_m",
        ),
        within(
            "trench", "wall", "Trench walls stand", plan.depth_m,
            constant("common", "wall_danger_m"), "tape", most=True,
            remedy="Shore it, slope it, or stay out of it, as local law says.",
            given="trench.extra_depth_m",
        ),
        at_most(
            "trench", "width", "The machine's trench is wide enough", plan.width_m,
            givens.width_m, "tape", remedy="A wider bucket, or fewer conduits side by side.",
            source=GEOMETRY, given="trench.width_m", otherwise="look",
        ),
        within(
            "trench", "long", "Short enough to pull by hand", plan.route.ground_length_m,
            constant("common", "longest_pull_m"), "run", most=True,
            remedy="Put a pull box half way.", given="site.route", otherwise="look",
        ),
    )
    if plan.conduit is None:
        return shared
    return (
        *shared,
        at_most(
            "trench", "fill", "The wires fit the conduit, rises and sweeps too",
            max(plan.conduit.fill, plan.conduit.riser_fill),
            constant(site.rule_pack, "conduit_fill").value, "ratio",
            remedy="Fewer strings in one conduit.",
            source=table(site.rule_pack, "conduit").source, given="trench.strings_per_conduit",
        ),
        at_most(
            "trench", "tension", "The wires stand the pull", plan.tension_n,
            plan.tension_limit_n, "force", remedy="A pull box, fewer bends, more lubricant.",
            source=PULLING, given="site.route",
        ),
        holds(
            "trench", "bends", "No pull turns too far", plan.boxes == 0,
            f"{sum(plan.bends_deg):.0f}°", "360° at most",
            remedy=f"Set {plan.boxes} pull box{'es' if plan.boxes > 1 else ''} on the way, or "
            "straighten it.",
            source=constant(site.rule_pack, "bend_limit_deg").source, given="site.route",
            otherwise="look",
        ),
    )
