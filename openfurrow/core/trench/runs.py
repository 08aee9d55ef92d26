"""One array's run: the conduit or cable that its wires lie in, and the pull on them."""

import math
from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import spoken
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.trench.armoured import ArmouredCable, armoured, sleeve_of
from openfurrow.core.trench.armoured_answers import armoured_answers, armoured_checks
from openfurrow.core.trench.conduit import (
    Conduit,
    Pull,
    pull_boxes,
    size_conduit,
)
from openfurrow.core.trench.crossings import Crossing, crossings_of
from openfurrow.core.trench.ends import Fittings, end_answers, fittings_of
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.pull_answers import pull_answers, pull_checks
from openfurrow.core.trench.pulling import Pulls, pieces_of, pulls_of
from openfurrow.core.trench.route import Route
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


@dataclass(frozen=True, kw_only=True)
class Run:
    """What lies in the ground for one array, and the way it takes.

    ``conduit`` is absent for cable; ``pull`` is what one of the ``conduits`` takes, or the wires of one
    of as many cables. ``cable`` is told where all its cores lie under one armour, ``sleeve`` is what a
    cable comes up through at both ends, if anything, ``fittings`` what goes onto one conduit;
    ``ups_m`` is how far both ends come up over ground together.
    """

    route: Route
    crossings: tuple[Crossing, ...]
    conduit: Conduit | None
    cable: ArmouredCable | None
    sleeve: Conduit | None
    fittings: Fittings | None
    conduits: int
    ups_m: float
    pull: Pull
    bends_deg: tuple[float, ...]
    boxes: int
    pulls: Pulls
    sticks: int
    answers: tuple[Answer, ...] = ()
    checks: tuple[Check, ...] = ()

    @property
    def label(self) -> str:
        """The conduit's size, or which cable."""
        if self.conduit is not None:
            return self.conduit.label
        return "cable" if self.cable is None else f"cable {self.cable.label}"

    @property
    def outside_m(self) -> float:
        """Outside of one conduit, or of the cable."""
        lies = self.conduit or self.cable
        if lies is not None:
            return lies.outside_m
        return math.sqrt(4 * self.pull.area_m2 / math.pi)


def plan_run(
    site: SitePlan,
    givens: TrenchGivens,
    route: Route,
    pull: Pull,
    conduits: int,
    way: str,
    inside_m: float,
) -> Run:
    """Size what the wires are drawn into, and follow the pull. ``pull`` is of one of ``conduits``.

    ``way`` is the path of the way that begins at the array, where its bends are changed, ``inside_m``
    how far strings run on in the building; outputs of inverters out there go another way.
    """
    pack = site.rule_pack
    cable = armoured(pack, pull) if givens.is_armoured else None
    conduit = (
        None if givens.is_cable else size_conduit(pack, givens.method, pull, givens.room_for_growth)
    )
    if conduit is not None and givens.is_over:
        # What lies open has the heavy wall all the way: that is what wires are drawn into.
        conduit = replace(conduit, inside_m2=conduit.riser_inside_m2, fill=conduit.riser_fill)
    bends = (90.0, *route.turns_deg, 90.0)
    pieces = pieces_of(route, *(up + route.cover_m for up in givens.ups_m))
    # What is laid in a trench bare is not drawn: it is told as if in a pipe of its own width.
    inside_m2 = conduit.inside_m2 if conduit else 4 * pull.area_m2
    radius_m = conduit.bend_radius_m if conduit else cable.bend_m if cable else 12 * pull.wire_m
    stick = constant(pack, "stick_m").value
    each = math.ceil(route.ground_length_m / stick - 1e-9)
    boxes = pull_boxes(bends, constant(pack, "bend_limit_deg").value)
    run = Run(
        route=route,
        crossings=() if givens.is_over else crossings_of(site.keepouts, route),
        conduit=conduit,
        cable=cable,
        sleeve=sleeve_of(pack, givens, pull, cable),
        conduits=conduits,
        ups_m=sum(givens.ups_m),
        pull=pull,
        bends_deg=bends,
        boxes=boxes,
        fittings=fittings_of(pack, givens, route, pull, (conduit, each, boxes), inside_m)
        if conduit
        else None,
        pulls=pulls_of(pieces, pull, math.sqrt(4 * inside_m2 / math.pi), radius_m),
        sticks=0 if givens.is_cable else conduits * each,
    )
    told = _answers(run, site, over=givens.is_over)
    return replace(run, answers=told, checks=_checks(run, site, givens, way))


def _answers(run: Run, site: SitePlan, *, over: bool) -> tuple[Answer, ...]:
    route = run.route
    rise = float(route.level_m[-1] - route.level_m[0])
    return (
        Answer(
            "trench",
            "length",
            "Way along the ground" if over else "Trench along the ground",
            Working(
                "L",
                "",
                (
                    Input("L_level", "level length", route.level_length_m, "run"),
                    Input("n", "bends between", float(len(route.turns_deg)), "count"),
                ),
                route.ground_length_m,
                "run",
                GEOMETRY,
                f"From the post nearest the first bend to the wall, "
                f"{spoken(abs(rise), 'tape')} {'up' if rise >= 0 else 'down'}.",
            ),
            True,
        ),
        *_hand_answers(run),
        *_conduit_answers(run, site, over=over),
        *armoured_answers(run.cable, run.route, run.conduits, site.rule_pack),
    )


def _hand_answers(run: Run) -> tuple[Answer, ...]:
    if not run.crossings:
        return ()
    words = "; ".join(
        f"{crossing.zone.feature.label} from {spoken(crossing.from_m, 'run')} to "
        f"{spoken(crossing.to_m, 'run')}"
        for crossing in run.crossings
    )
    return (
        Answer(
            "trench",
            "by_hand",
            "Dug by hand",
            Working(
                "L_hand",
                "",
                (Input("n", "lines met", float(len(run.crossings)), "count"),),
                sum(crossing.length_m for crossing in run.crossings),
                "run",
                run.crossings[0].zone.feature.facts.source,
                f"Chainage from the array: {words}. Level length through each hand-dig zone.",
            ),
            True,
        ),
    )


def _conduit_answers(run: Run, site: SitePlan, *, over: bool) -> tuple[Answer, ...]:
    """The conduit by its size, as it is laid, as it is pulled through, and at its ends."""
    conduit, pack = run.conduit, site.rule_pack
    if conduit is None:
        return ()
    bends = Input("B", "bends in all", sum(run.bends_deg), "angle")
    ends = run.fittings
    return (
        *_size_answers(run, conduit, pack),
        *_laid_answers(run, bends, pack, over=over),
        *pull_answers(run.pulls, run.pull, conduit, bends),
        *(() if ends is None else end_answers(pack, ends, conduit, run.conduits, run.boxes)),
    )


def _size_answers(run: Run, conduit: Conduit, pack: RulePack) -> tuple[Answer, ...]:
    """Which size takes the wires, and how full it is, in the trench and where it comes up."""
    pull = run.pull
    side = "" if run.conduits == 1 else f", {run.conduits} side by side"
    return (
        Answer(
            "trench",
            "conduit",
            "Conduit",
            Working(
                "size",
                "",
                (
                    Input("A", "wires", pull.area_m2, "wire_area"),
                    Input("f", "fill allowed", constant(pack, "conduit_fill").value, "ratio"),
                    Input("A_i", "inside of this size", conduit.inside_m2, "wire_area"),
                ),
                f"{conduit.label}{side}",
                "text",
                table(pack, "conduit").source,
                "One size larger than the fill asks for."
                if conduit.grown
                else "The smallest size that takes the wires.",
            ),
            True,
        ),
        Answer(
            "trench",
            "fill",
            "Fill",
            Working(
                "F",
                "A / A_i",
                (
                    Input("A", f"{pull.conductors} wires", pull.area_m2, "wire_area"),
                    Input("A_i", "inside", conduit.inside_m2, "wire_area"),
                ),
                conduit.fill,
                "ratio",
                constant(pack, "conduit_fill").source,
            ),
        ),
        Answer(
            "trench",
            "riser_fill",
            "Fill where it comes up",
            Working(
                "F_r",
                "A / A_r",
                (
                    Input("A", f"{pull.conductors} wires", pull.area_m2, "wire_area"),
                    Input("A_r", "inside of the heavy wall", conduit.riser_inside_m2, "wire_area"),
                ),
                conduit.riser_fill,
                "ratio",
                constant(pack, "conduit_fill").source,
                "In the rises and the sweeps at both ends, whose wall is thicker.",
            ),
        ),
    )


def _laid_answers(run: Run, bends: Input, pack: RulePack, *, over: bool) -> tuple[Answer, ...]:
    """How many sticks, how far they turn in all, and where a box stands between."""
    return (
        Answer(
            "trench",
            "sticks",
            "Sticks of conduit",
            Working(
                "n",
                "k * ceil(L / l)",
                (
                    Input("k", "conduits", float(run.conduits), "count"),
                    Input("L", "length along the ground", run.route.ground_length_m, "run"),
                    Input("l", "stick", constant(pack, "stick_m").value, "run"),
                ),
                float(run.sticks),
                "count",
                GEOMETRY,
                "Heavy wall all the way, since it lies open. Glue needs about 4 °C (40 °F): dry fit "
                "first."
                if over
                else "In the trench; heavy-wall pieces for the two rises stand apart in the list. Glue "
                "needs about 4 °C (40 °F): dry fit first.",
            ),
        ),
        Answer(
            "trench",
            "bends",
            "Bends in all",
            Working(
                "B",
                "",
                (bends,),
                sum(run.bends_deg),
                "angle",
                constant(pack, "bend_limit_deg").source,
                "With the sweeps down at the array and up at the wall.",
            ),
        ),
        Answer(
            "trench",
            "boxes",
            "Pull boxes on the way",
            Working(
                "n_b",
                "",
                (
                    bends,
                    Input(
                        "limit", "most between pulls", constant(pack, "bend_limit_deg").value, "angle"
                    ),
                ),
                float(run.boxes),
                "count",
                constant(pack, "bend_limit_deg").source,
            ),
        ),
    )


def _checks(run: Run, site: SitePlan, givens: TrenchGivens, way: str) -> tuple[Check, ...]:
    long = within(
        "trench",
        "long",
        "Short enough to pull by hand",
        run.route.ground_length_m,
        constant("common", "longest_pull_m"),
        "run",
        most=True,
        remedy="Put a pull box half way.",
        given=way,
        otherwise="look",
    )
    if run.conduit is None:
        # Nothing is drawn in: cable is laid down.
        return armoured_checks(run.cable, run.route, run.pull, givens, way)
    return (
        long,
        at_most(
            "trench",
            "fill",
            "The wires fit the conduit, rises and sweeps too",
            max(run.conduit.fill, run.conduit.riser_fill),
            constant(site.rule_pack, "conduit_fill").value,
            "ratio",
            remedy="Fewer strings in one conduit.",
            source=table(site.rule_pack, "conduit").source,
            given="trench.strings_per_conduit",
        ),
        *pull_checks(run.pulls, run.pull, run.conduit, way),
        holds(
            "trench",
            "bends",
            "No pull turns too far",
            run.boxes == 0,
            f"{sum(run.bends_deg):.0f}°",
            "360° at most",
            remedy=f"Set {run.boxes} pull box{'es' if run.boxes > 1 else ''} on the way, or "
            "straighten it.",
            source=constant(site.rule_pack, "bend_limit_deg").source,
            given=way,
            otherwise="look",
        ),
    )
