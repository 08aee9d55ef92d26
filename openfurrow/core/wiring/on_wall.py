"""The wall with all that hangs on it: what is in the way of what, and where a person can stand."""

import itertools
import math
from dataclasses import dataclass

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.wiring.wall_givens import OF_THE_BUILDING, WORKED_AT, OnWallGivens
from openfurrow.core.working import COMMON_PRACTICE, Source

MAKER = Source("the maker's instructions, as they were typed", "given")
HAIR_M = 1e-6
LIST = "wiring.on_wall"
Things = tuple[OnWallGivens, ...]


@dataclass(frozen=True)
class Standing:
    """The free place before a thing: ``short_m`` is what its width lacks, nought where it has all."""

    of: OnWallGivens
    from_m: float
    to_m: float
    up_m: float
    short_m: float


@dataclass(frozen=True)
class Near:
    """Two things and how far they are apart, or how far one is from where it should be."""

    first: OnWallGivens
    second: OnWallGivens
    apart_m: float
    wanted_m: float

    @property
    def words(self) -> str:
        """Both by name."""
        return f"{self.first.called} and {self.second.called}"


def apart_m(first: OnWallGivens, second: OnWallGivens) -> float:
    """The least between two outlines; negative by how deep they lie on each other."""
    across = max(first.left_m - second.right_m, second.left_m - first.right_m)
    up = max(first.bottom_m - second.top_m, second.bottom_m - first.top_m)
    if across >= 0 and up >= 0:
        return math.hypot(across, up)
    return max(across, up)


def _wants(one: OnWallGivens) -> tuple[float, float, float]:
    """Free beside, over and under it; parts of the building want nothing."""
    if one.kind in OF_THE_BUILDING:
        return 0.0, 0.0, 0.0
    return one.clear_beside_m, one.clear_over_m, one.clear_under_m


def lacking_m(one: OnWallGivens, other: OnWallGivens) -> float:
    """How far another reaches into the room that a thing wants; nought or less where it does not."""
    beside, over, under = _wants(one)
    return min(
        other.right_m - (one.left_m - beside),
        one.right_m + beside - other.left_m,
        other.top_m - (one.bottom_m - under),
        one.top_m + over - other.bottom_m,
    )


def crowding(things: Things) -> Near | None:
    """The two of which one reaches furthest into the other's room; None of fewer than two."""
    pairs = [
        Near(one, other, -lacking_m(one, other), 0.0)
        for one, other in itertools.permutations(things, 2)
    ]
    return min(pairs, key=lambda pair: pair.apart_m, default=None)


def standing(things: Things, pack: RulePack) -> tuple[Standing, ...]:
    """Before each thing that is worked at, the widest free place that takes in its whole width.

    What stands out further than its face, by more than is let pass, and lower than a person's head,
    takes room there.
    """
    wide, high = constant(pack, "standing_wide_m").value, constant(pack, "standing_high_m").value
    past = constant("common", "standing_past_m").value
    found = []
    for one in things:
        if one.kind not in WORKED_AT:
            continue
        wanted = max(wide, one.width_m)
        left, right = one.right_m - wanted, one.left_m + wanted
        up = max(high, one.top_m)
        for other in things:
            if other is one or other.depth_m <= one.depth_m + past or other.bottom_m >= up:
                continue
            if other.right_m <= one.left_m + HAIR_M:
                left = max(left, other.right_m)
            elif other.left_m >= one.right_m - HAIR_M or other.left_m > one.left_m:
                right = min(right, other.left_m)
            else:
                left = max(left, other.right_m)
        free = max(0.0, right - left)
        short = max(0.0, wanted - free)
        middle = (one.left_m + one.right_m) / 2
        begin = min(max(middle - wanted / 2, left), max(left, right - wanted))
        found.append(Standing(one, begin, begin + min(wanted, free), up, short))
    return tuple(found)


def wall_checks(things: Things, pack: RulePack) -> tuple[Check, ...]:
    """Room around things, room to stand, batteries, the switch in sight of the meter, reach."""
    if not things:
        return (
            holds(
                "wiring",
                "on_wall",
                "The wall was laid out before anything is hung",
                condition=False,
                measured="not looked at: nothing is said to hang there",
                wanted="laid out",
                remedy="Inverter, panel, switch, meter, doors and windows by a tape from one point: "
                "what is in the way is seen before a hole is drilled.",
                source=COMMON_PRACTICE,
                given=LIST,
                otherwise="look",
            ),
        )
    return (
        *_crowding_check(things),
        *_standing_check(things, pack),
        *_battery_checks(things, pack),
        *_reach_checks(things, pack),
    )


def _crowding_check(things: Things) -> tuple[Check, ...]:
    worst = crowding(things)
    if worst is None:
        return ()
    return (
        at_least(
            "wiring",
            "wall_room",
            "Nothing hangs in another's room"
            + ("" if worst.apart_m >= 0 else f": {worst.words} are too near"),
            worst.apart_m,
            0.0,
            "tape",
            remedy="Hang them further apart, or side by side instead of one over the other.",
            source=MAKER,
            given=f"{LIST}.{worst.first.id}.left_m",
        ),
    )


def _standing_check(things: Things, pack: RulePack) -> tuple[Check, ...]:
    places = standing(things, pack)
    if not places:
        return ()
    worst = max(places, key=lambda one: one.short_m)
    return (
        at_most(
            "wiring",
            "wall_standing",
            "A person can stand before all that is opened"
            + ("" if worst.short_m <= HAIR_M else f": not before {worst.of.called}"),
            worst.short_m,
            0.0,
            "tape",
            remedy="Move what stands out beside it: the place before it is as wide as it is itself, "
            "and as a person with both arms.",
            source=constant(pack, "standing_wide_m").source,
            given=f"{LIST}.{worst.of.id}.left_m",
        ),
    )


def _battery_checks(things: Things, pack: RulePack) -> tuple[Check, ...]:
    batteries = [one for one in things if one.kind == "battery"]
    others = [one for one in things if one.kind == "door or window"]
    between, off = constant(pack, "batteries_apart_m"), constant(pack, "battery_off_openings_m")
    found = []
    pairs = [Near(a, b, apart_m(a, b), between.value) for a, b in itertools.combinations(batteries, 2)]
    doors = [Near(a, b, apart_m(a, b), off.value) for a in batteries for b in others]
    for key, title, near, limit in (
        ("batteries_apart", "Batteries keep off each other", pairs, between),
        ("battery_openings", "Batteries keep off doors and windows", doors, off),
    ):
        if not near:
            continue
        worst = min(near, key=lambda one: one.apart_m)
        found.append(
            at_least(
                "wiring",
                key,
                title + ("" if worst.apart_m >= limit.value else f": {worst.words} do not"),
                worst.apart_m,
                limit.value,
                "tape",
                remedy="Hang it elsewhere: what burns in one must not reach the next, nor the way out. "
                "Nearer only where its listing says so.",
                source=limit.source,
                given=f"{LIST}.{worst.first.id}.left_m",
            )
        )
    return tuple(found)


def _reach_checks(things: Things, pack: RulePack) -> tuple[Check, ...]:
    found = []
    handled = [one for one in things if one.kind in ("panel", "switch")]
    if handled:
        highest, limit = max(handled, key=lambda one: one.top_m), constant(pack, "handle_high_m")
        found.append(
            at_most(
                "wiring",
                "handle_high",
                f"Handles are within reach: {highest.called}",
                highest.top_m,
                limit.value,
                "tape",
                remedy="Lower: what counts is the handle at its highest; its top stands for it.",
                source=limit.source,
                given=f"{LIST}.{highest.id}.bottom_m",
                otherwise="look",
            )
        )
    meters = [one for one in things if one.kind == "meter"]
    switches = [one for one in things if one.kind == "switch"]
    if meters and switches:
        limit = constant(pack, "switch_meter_m")
        nearest = min(
            (Near(a, b, apart_m(a, b), limit.value) for a in switches for b in meters),
            key=lambda one: one.apart_m,
        )
        found.append(
            at_most(
                "wiring",
                "switch_meter",
                "The switch is in sight of the meter",
                max(0.0, nearest.apart_m),
                limit.value,
                "run",
                remedy="Hang it beside the meter, or ask the grid's owner for another place and put a "
                "sign at the meter that says where it is.",
                source=limit.source,
                given=f"{LIST}.{nearest.first.id}.left_m",
                otherwise="look",
            )
        )
    return tuple(found)
