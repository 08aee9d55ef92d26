"""Hauling: the loads day by day, whether they can be carried, and where modules lie until then."""

from dataclasses import dataclass
from datetime import date

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.hauling.laydown import Glass, Laydown, Worked, laydown_of
from openfurrow.core.hauling.loads import Load, arrivals, loads_of
from openfurrow.core.hauling.parts import Part, parts_of
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
    """Loads in the order of their days; ``laydown`` of the modules, None where none are to be set."""

    loads: tuple[Load, ...]
    parts: tuple[Part, ...]
    laydown: Laydown | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def own(self) -> tuple[Load, ...]:
        """Those of one's own truck."""
        return tuple(load for load in self.loads if load.rides == "own truck")


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
) -> HaulingPlan:
    """Which line comes when and on what. ``glass`` are the modules of every array that is built."""
    parts = parts_of(lines, schedule)
    most_kg = None if givens.truck_kg is None else givens.truck_kg / (1 + givens.unweighed)
    loads = loads_of(parts, deliveries, most_kg)
    comes = arrivals(deliveries, MODULES)
    laydown = _laid_down(glass, schedule, comes, givens.modules_a_pallet)
    return HaulingPlan(
        loads=loads,
        parts=parts,
        laydown=laydown,
        answers=(*_load_answers(loads, givens), *_pallet_answers(laydown, givens)),
        checks=(
            *_truck_checks(loads, givens),
            _time_check(loads),
            *_pallet_checks(laydown, len(comes), givens),
        ),
    )


def _load_answers(loads: tuple[Load, ...], givens: MaterialsGivens) -> tuple[Answer, ...]:
    own = [load for load in loads if load.rides == "own truck"]
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
                "What is needed first goes first; what has a delivery of its own is on none."
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


def _not_said(key: str, title: str, wanted: str, given: str, remedy: str) -> Check:
    return holds(
        "materials",
        key,
        title,
        False,
        "not looked at",
        wanted,
        remedy=remedy,
        source=COMMON_PRACTICE,
        given=given,
        otherwise="look",
    )


def _truck_checks(loads: tuple[Load, ...], givens: MaterialsGivens) -> tuple[Check, ...]:
    """No load is too heavy, nothing on it too long."""
    own = [load for load in loads if load.rides == "own truck"]
    if not own:
        return ()
    weight, length = "The own truck carries every load", "The longest piece goes on the own truck"
    longest = max((one.part.line.length_m for load in own for one in load.carried), default=0.0)
    heavy = (
        _not_said(
            "truck_load",
            weight,
            "what it may carry",
            "materials.truck_kg",
            "Look on its plate: what it may weigh less what it weighs with the crew in it.",
        )
        if givens.truck_kg is None
        else at_most(
            "materials",
            "truck_load",
            weight,
            max(_weighed_kg(load, givens) for load in own),
            givens.truck_kg,
            "haul",
            remedy="One piece is heavier than the truck may carry: have it delivered. Axles and tow "
            "bar are not looked at: heavy things over the axle, not behind it.",
            source=GIVEN,
            given="materials.truck_kg",
        )
    )
    if longest == 0.0:
        return (heavy,)
    if givens.truck_bed_m is None:
        long = _not_said(
            "truck_length",
            length,
            "how long its bed is",
            "materials.truck_bed_m",
            f"{spoken(longest, 'run')} is the longest: measure the bed before it is fetched.",
        )
    else:
        long = at_most(
            "materials",
            "truck_length",
            length,
            longest,
            givens.truck_bed_m + givens.truck_over_m,
            "run",
            remedy="Have it delivered, or order shorter sticks: a flag behind does not make it lawful.",
            source=GIVEN,
            given="materials.truck_bed_m",
        )
    return (heavy, long)


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
    lift, room = "What unloads lifts a pallet of modules", "There is ground for the pallets"
    area = laydown.ground_m2
    short = (
        holds(
            "materials",
            "modules_last",
            "Modules do not run out between deliveries",
            laydown.least >= -HALF_ONE,
            f"{-laydown.least:.0f} short before the next come"
            if laydown.least < -HALF_ONE
            else "enough at all times",
            "enough at all times",
            remedy="Earlier deliveries, or more in the first: equal parts are reckoned with.",
            source=COMMON_PRACTICE,
            given="schedule.deliveries",
            otherwise="look",
        ),
    )
    return (
        _not_said(
            "pallet_lift",
            lift,
            "what it lifts",
            "materials.lifter_kg",
            "Ask how the driver unloads: without a fork every module is carried off by two.",
        )
        if givens.lifter_kg is None
        else at_most(
            "materials",
            "pallet_lift",
            lift,
            laydown.heaviest_kg,
            givens.lifter_kg,
            "haul",
            remedy="A heavier fork, a tail lift, or modules off it one by one, two people each.",
            source=GIVEN,
            given="materials.lifter_kg",
        ),
        _not_said(
            "laydown",
            room,
            "how much there is",
            "materials.laydown_m2",
            f"{spoken(area, 'area')} are taken at once: pace it out where the truck can reach it.",
        )
        if givens.laydown_m2 is None
        else at_most(
            "materials",
            "laydown",
            room,
            area,
            givens.laydown_m2,
            "area",
            remedy="Have modules come in several deliveries, or find more firm ground.",
            source=GIVEN,
            given="materials.laydown_m2",
        ),
        *(short if deliveries > 1 else ()),
    )
