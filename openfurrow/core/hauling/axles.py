"""What a load puts on the axles of one's own truck, or on a trailer's coupling and its axle.

A beam on two supports: the load's middle lies so far behind the front axle (of a trailer the coupling),
and what the truck weighs empty comes on top.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.hauling.loads import Load
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.quantities import spoken
from openfurrow.core.working import GIVEN, Answer, Input, Source, Working

STATICS = Source("moments about the front axle", "physics")
STEERS = Source(
    "common practice: a fifth of a truck on what steers, a twentieth of a trailer on its coupling",
    "common practice",
)
STAYS = {"a truck": "steers_share", "a trailer": "coupling_share"}


@dataclass(frozen=True)
class Axles:
    """A truck that has been weighed: empty on each axle, what each may bear, and where the bed is.

    ``apart_m`` is from the front axle to the rear one, ``bed_m`` from the front axle back to where the
    bed begins; ``stays`` is the least share of the whole that has to stay on the front axle.
    """

    apart_m: float
    bed_m: float
    bed_long_m: float
    empty_kg: tuple[float, float]
    limits_kg: tuple[float, float]
    stays: float


@dataclass(frozen=True)
class OnAxles:
    """One load: its weight, how far behind the bed's front its middle lies, and what axles get."""

    mass_kg: float
    middle_m: float
    front_kg: float
    rear_kg: float


def axles_of(givens: MaterialsGivens) -> Axles | None:
    """None until all of it has been said."""
    said = (
        *(givens.axles_apart_m, givens.bed_begins_m, givens.truck_bed_m),
        *(givens.empty_front_kg, givens.empty_rear_kg, givens.front_axle_kg, givens.rear_axle_kg),
    )
    known = [one for one in said if one is not None]
    if len(known) < len(said):
        return None
    apart, bed, long, *kg = known
    stays = constant("common", STAYS[givens.loads_ride_on]).value
    return Axles(apart, bed, long, (kg[0], kg[1]), (kg[2], kg[3]), stays)


def middle_m(load: Load, bed_m: float) -> float:
    """How far behind the bed's front a load's middle lies.

    Long things lie against the front wall, their middle half their length behind it; all else is
    spread about the middle of the bed.
    """
    weights = [(one.mass_kg, one.part.line.length_m) for one in load.carried]
    total = sum(mass for mass, _ in weights)
    if total <= 0:
        return bed_m / 2
    return sum(mass * max(long, bed_m) / 2 for mass, long in weights) / total


def on_axles(axles: Axles, mass_kg: float, behind_front_m: float) -> OnAxles:
    """By moments about the front axle."""
    rear = mass_kg * (axles.bed_m + behind_front_m) / axles.apart_m
    return OnAxles(
        mass_kg, behind_front_m, axles.empty_kg[0] + mass_kg - rear, axles.empty_kg[1] + rear
    )


def reach_m(axles: Axles, mass_kg: float) -> tuple[float, float]:
    """Between which places, behind the bed's front, a load's middle may lie; the first may be more.

    Neither axle bears more than it may, and enough of the whole stays on the front one.
    """
    whole = mass_kg + sum(axles.empty_kg)
    most_rear = min(axles.limits_kg[1], whole * (1 - axles.stays))
    least_rear = whole - axles.limits_kg[0]
    return tuple(  # type: ignore[return-value]
        (rear - axles.empty_kg[1]) * axles.apart_m / mass_kg - axles.bed_m
        for rear in (least_rear, most_rear)
    )


def axle_answers(own: Sequence[Load], givens: MaterialsGivens) -> tuple[Answer, ...]:
    """Of the heaviest load: what each axle gets, and where its middle may lie."""
    axles = axles_of(givens)
    if axles is None or not own:
        return ()
    load = max(own, key=lambda one: one.mass_kg)
    mass = load.mass_kg * (1 + givens.unweighed)
    if mass <= 0:
        return ()
    found = on_axles(axles, mass, middle_m(load, axles.bed_long_m))
    (low, high), bed = reach_m(axles, mass), axles.bed_long_m
    nearest, furthest = (spoken(one, "run") for one in (max(low, 0.0), min(high, bed)))
    where = (
        f"Its middle may lie {nearest} to {furthest} behind the bed's front; as it is stowed it lies "
        f"{spoken(found.middle_m, 'run')}."
        if low <= high and high > 0 and low < bed
        else "There is no place on the bed at which both axles bear it."
    )
    shared = (
        Input("m", "the heaviest load", mass, "haul"),
        Input("b", "its middle behind the bed's front", found.middle_m, "run"),
        Input("a", "bed's front behind the front axle", axles.bed_m, "run"),
        Input("L", "from axle to axle", axles.apart_m, "run"),
    )
    return (
        Answer(
            "materials",
            "rear_axle",
            "On the rear axle",
            Working(
                "R",
                "E_r + m * (a + b) / L",
                (Input("E_r", "on it empty", axles.empty_kg[1], "haul"), *shared),
                found.rear_kg,
                "haul",
                STATICS,
                where,
            ),
        ),
        Answer(
            "materials",
            "front_axle",
            "On the front axle, or the coupling",
            Working(
                "F",
                "E_f + m * (1 - (a + b) / L)",
                (Input("E_f", "on it empty", axles.empty_kg[0], "haul"), *shared),
                found.front_kg,
                "haul",
                STATICS,
                "What hangs out behind lifts it.",
            ),
        ),
    )


def axle_checks(own: Sequence[Load], givens: MaterialsGivens) -> tuple[Check, ...]:
    """Every load of the own truck, as it is stowed, against both plates and what has to steer."""
    if not own:
        return ()
    axles = axles_of(givens)
    if axles is None:
        return (
            holds(
                "materials",
                "axles",
                "Axles bear every load",
                False,
                "not looked at",
                "axles weighed empty, and their plates",
                remedy="Over a weighbridge axle by axle, empty; plates and a tape for the rest. Until "
                "then: heavy things over or before the rear axle, never behind it.",
                source=GIVEN,
                given="materials.axles_apart_m",
                otherwise="look",
            ),
        )
    bears = [
        on_axles(axles, load.mass_kg * (1 + givens.unweighed), middle_m(load, axles.bed_long_m))
        for load in own
    ]
    shares = [(one.rear_kg / axles.limits_kg[1], one.front_kg / axles.limits_kg[0]) for one in bears]
    steers = min(one.front_kg / (one.front_kg + one.rear_kg) for one in bears)
    return (
        at_most(
            "materials",
            "axles",
            "Axles bear every load",
            max(max(pair) for pair in shares),
            1.0,
            "ratio",
            remedy="Stow it further forward or back, as the answer on the rear axle says; less on it, "
            "or shorter sticks.",
            source=GIVEN,
            given="materials.rear_axle_kg",
        ),
        holds(
            "materials",
            "steers",
            "Enough stays on the front axle",
            steers >= axles.stays,
            f"{steers:.0%} of the whole at the least",
            f"{axles.stays:.0%}",
            remedy="Heavy things forward; less hanging out behind. Of a trailer: a light coupling "
            "makes it swing.",
            source=STEERS,
            given="materials.truck_over_m",
        ),
    )
