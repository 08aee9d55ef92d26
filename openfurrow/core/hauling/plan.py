"""Hauling: the loads day by day, whether they can be carried, and where modules lie until then."""

from dataclasses import dataclass
from datetime import date

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.hauling.axles import axle_answers, axle_checks
from openfurrow.core.hauling.laydown import Glass, Laydown, Worked, laydown_of
from openfurrow.core.hauling.loads import Load, arrivals, loads_of
from openfurrow.core.hauling.parts import Part, parts_of
from openfurrow.core.hauling.walks import Walks, walk_answers
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.quantities import spoken
from openfurrow.core.schedule.givens import DeliveryGivens
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, GIVEN, Answer, Input, Working

MODULES = "modules"
# More than this make no sentence.
MOST_NAMED = 6
# Parts of a module are nobody's want.
HALF_ONE = 0.5


@dataclass(frozen=True, kw_only=True)
class HaulingPlan:
    """Loads in the order of their days; ``laydown`` of the modules, None where none are to be set.

    ``walks`` are by the array's name.
    """

    loads: tuple[Load, ...]
    parts: tuple[Part, ...]
    laydown: Laydown | None
    walks: tuple[tuple[str, Walks], ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def own(self) -> tuple[Load, ...]:
        """Those of one's own truck."""
        return _own(self.loads)


def _own(loads: tuple[Load, ...]) -> tuple[Load, ...]:
    return tuple(load for load in loads if load.rides == "own truck")


def _weighed_kg(load: Load, givens: MaterialsGivens) -> float:
    """What a load comes to, with what is allowed for small parts that nobody weighs."""
    return load.mass_kg * (1 + givens.unweighed)


def _laid_down(
    glass: tuple[Glass, ...], schedule: SchedulePlan, comes: tuple[date, ...], a_pallet: int
) -> Laydown | None:
    """All are there on the first morning where nobody said when they come."""
    if not glass:
        return None

    def worked(one: Glass) -> Worked:
        days = schedule.worked(f"{one.array}:{MODULES}")
        hours = tuple((day, end - begin) for day, begin, end in days)
        return Worked(comes or tuple(day for day, _ in hours[:1]), hours)

    return laydown_of(glass, tuple(map(worked, glass)), a_pallet)


def plan_hauling(
    givens: MaterialsGivens,
    deliveries: tuple[DeliveryGivens, ...],
    lines: tuple[MaterialLine, ...],
    schedule: SchedulePlan,
    glass: tuple[Glass, ...],
    walks: tuple[tuple[str, Walks], ...] = (),
) -> HaulingPlan:
    """Which line comes when and on what.

    ``glass`` are the modules of every array that is built, ``walks`` how they are carried to their
    places, by the array's name.
    """
    parts = parts_of(lines, schedule)
    most_kg = None if givens.truck_kg is None else givens.truck_kg / (1 + givens.unweighed)
    loads = loads_of(parts, deliveries, most_kg)
    comes = arrivals(deliveries, MODULES)
    laydown = _laid_down(glass, schedule, comes, givens.modules_a_pallet)
    return HaulingPlan(
        loads=loads,
        parts=parts,
        laydown=laydown,
        walks=walks,
        answers=(
            *_load_answers(loads, givens),
            *axle_answers(_own(loads), givens),
            *_pallet_answers(laydown, givens),
            *walk_answers(walks),
        ),
        checks=(
            *_truck_checks(loads, givens),
            *axle_checks(_own(loads), givens),
            _time_check(loads),
            *_pallet_checks(laydown, len(comes), givens),
        ),
    )


def _load_answers(loads: tuple[Load, ...], givens: MaterialsGivens) -> tuple[Answer, ...]:
    own = _own(loads)
    if not own:
        return ()
    heaviest = max(own, key=lambda load: load.mass_kg)
    days = {load.day for load in own}
    return (
        Answer(
            "materials",
            "own_loads",
            "Loads of the own truck",
            Working(
                "n",
                "",
                (Input("n_days", "days on which it is loaded", float(len(days)), "count"),),
                float(len(own)),
                "count",
                GEOMETRY,
                "What stops the most goes first; what has a delivery of its own is on none."
                if givens.truck_kg
                else "One a day: nobody has said what the truck carries.",
            ),
            True,
        ),
        Answer(
            "materials",
            "heaviest_load",
            "Heaviest load of the own truck",
            Working(
                "m",
                "m_known * (1 + a)",
                (
                    Input("m_known", "lines on it whose weight is known", heaviest.mass_kg, "haul"),
                    Input("a", "allowed for what is not weighed", givens.unweighed, "ratio"),
                ),
                _weighed_kg(heaviest, givens),
                "haul",
                COMMON_PRACTICE,
                f"{'Day not known' if heaviest.day is None else heaviest.day.isoformat()}, load "
                f"{heaviest.number} of {heaviest.count}.",
            ),
        ),
    )


def _pallet_answers(laydown: Laydown | None, givens: MaterialsGivens) -> tuple[Answer, ...]:
    if laydown is None:
        return ()
    on = f", on {laydown.most_on.isoformat()}" if laydown.most_on else ""
    return (
        Answer(
            "materials",
            "pallets",
            "Pallets of modules",
            Working(
                "n",
                "",
                (Input("n_p", "modules on a pallet", float(givens.modules_a_pallet), "count"),),
                float(laydown.pallets),
                "count",
                GEOMETRY,
                f"{laydown.at_once} at once at most{on}. Arrays apart; each set down where its table "
                "stands, the label to the lane.",
            ),
        ),
        Answer(
            "materials",
            "pallet_mass",
            "Heaviest pallet",
            Working(
                "m",
                "",
                (Input("m_e", "an empty one", constant("common", "pallet_kg").value, "haul"),),
                laydown.heaviest_kg,
                "haul",
                COMMON_PRACTICE,
                "No two people lift that: a fork, a tail lift, or modules off it one by one.",
            ),
        ),
        Answer(
            "materials",
            "laydown",
            "Ground that pallets take at once",
            Working(
                "A",
                "",
                (
                    Input("n", "pallets at once", float(laydown.at_once), "count"),
                    Input(
                        "k",
                        "ground to turn and reach, over theirs",
                        constant("common", "laydown_room").value,
                        "factor",
                    ),
                ),
                laydown.ground_m2,
                "area",
                COMMON_PRACTICE,
                "Level, firm, drained, not stacked two high. This is where a large job jams.",
            ),
        ),
    )


@dataclass(frozen=True)
class _Rule:
    """What is held against something that may not be said: ``wanted`` is what to say in ``given``."""

    key: str
    title: str
    kind: str
    given: str
    wanted: str
    ask: str
    remedy: str


TRUCK_LOAD = _Rule(
    "truck_load",
    "The own truck carries every load",
    "haul",
    "materials.truck_kg",
    "what it may carry",
    "Look on its plate: what it may weigh less what it weighs with the crew in it.",
    "One piece is heavier than the truck may carry: have it delivered. Heavy things over the "
    "axle, not behind it.",
)
TRUCK_LENGTH = _Rule(
    "truck_length",
    "The longest piece goes on the own truck",
    "run",
    "materials.truck_bed_m",
    "how long its bed is",
    "Measure the bed before anything is fetched.",
    "Have it delivered, or order shorter sticks: a flag behind does not make it lawful.",
)
PALLET_LIFT = _Rule(
    "pallet_lift",
    "What unloads lifts a pallet of modules",
    "haul",
    "materials.lifter_kg",
    "what it lifts",
    "Ask how the driver unloads: without a fork every module is carried off by two.",
    "A heavier fork, a tail lift, or modules off it one by one, two people each.",
)
LAYDOWN = _Rule(
    "laydown",
    "There is ground for the pallets",
    "area",
    "materials.laydown_m2",
    "how much there is",
    "Pace it out where the truck can reach it.",
    "Have modules come in several deliveries, or find more firm ground.",
)


def _held(rule: _Rule, measured: float, limit: float | None) -> Check:
    """Against what was said; where nobody did it is not looked at, and what it asks is told."""
    if limit is not None:
        return at_most(
            "materials",
            rule.key,
            rule.title,
            measured,
            limit,
            rule.kind,
            remedy=rule.remedy,
            source=GIVEN,
            given=rule.given,
        )
    return holds(
        "materials",
        rule.key,
        rule.title,
        False,
        "not looked at",
        rule.wanted,
        remedy=f"{rule.ask} It comes to {spoken(measured, rule.kind)}.",
        source=COMMON_PRACTICE,
        given=rule.given,
        otherwise="look",
    )


def _truck_checks(loads: tuple[Load, ...], givens: MaterialsGivens) -> tuple[Check, ...]:
    """No load is too heavy, nothing on it too long."""
    own = _own(loads)
    if not own:
        return ()
    longest = max(one.part.line.length_m for load in own for one in load.carried)
    bed = givens.truck_bed_m
    heavy = _held(TRUCK_LOAD, max(_weighed_kg(load, givens) for load in own), givens.truck_kg)
    if not longest:
        return (heavy,)
    return (heavy, _held(TRUCK_LENGTH, longest, None if bed is None else bed + givens.truck_over_m))


def _time_check(loads: tuple[Load, ...]) -> Check:
    """What is delivered is there when work begins with it."""
    late = [
        one.part.line.item
        for load in loads
        for one in load.carried
        if load.day and one.part.first and load.day > one.part.first
    ]
    more = f" and {len(late) - MOST_NAMED} more" if len(late) > MOST_NAMED else ""
    return holds(
        "materials",
        "in_time",
        "Everything is there when work begins with it",
        not late,
        f"comes after: {', '.join(late[:MOST_NAMED])}{more}" if late else "all of it",
        "before it is needed",
        remedy="Ask for an earlier delivery, or fetch these yourself.",
        source=COMMON_PRACTICE,
        given="schedule.deliveries",
    )


def _pallet_checks(
    laydown: Laydown | None, deliveries: int, givens: MaterialsGivens
) -> tuple[Check, ...]:
    """A pallet can be lifted, there is ground for all, modules last from delivery to delivery."""
    if laydown is None:
        return ()
    return (
        _held(PALLET_LIFT, laydown.heaviest_kg, givens.lifter_kg),
        _held(LAYDOWN, laydown.ground_m2, givens.laydown_m2),
        *((_lasting_check(laydown),) if deliveries > 1 else ()),
    )


def _lasting_check(laydown: Laydown) -> Check:
    short = laydown.least < -HALF_ONE
    return holds(
        "materials",
        "modules_last",
        "Modules do not run out between deliveries",
        not short,
        f"{-laydown.least:.0f} short before the next come" if short else "enough at all times",
        "enough at all times",
        remedy="Earlier deliveries, or more in the first: equal parts are reckoned with.",
        source=COMMON_PRACTICE,
        given="schedule.deliveries",
        otherwise="look",
    )
