"""A post, screw or bore that stopped short: every way on, each with its number."""

from dataclasses import dataclass, replace

import numpy as np

from openfurrow.core.checks import Check
from openfurrow.core.codes import constant
from openfurrow.core.compare.one_support import OF_ALL, on_one_support
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.footings.bored.bore import concrete_m3
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.footings.ladder import fails_at, ladder_of
from openfurrow.core.footings.met import NOTHING_MET, Met, as_met, as_wet
from openfurrow.core.footings.posts import called_in, depth_step_m
from openfurrow.core.footings.sizing import BEYOND_M, beside, sized
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.supports import bent_id

# Rules of the soil, which are told by themselves, and of the place, which does not change.
OF_SOIL = frozenset({"lateral", "uplift", "bearing", "frost", "heave"})
OF_PLACE = frozenset({"refusal", "rock", "seen", "keep_out", "known", "boundary"})
# Shallower than this no footing is looked at.
LEAST_M = 0.3


@dataclass(frozen=True, kw_only=True)
class Shifted:
    """Its bent moved along the row: ``shifts`` of all bents then, ``stops`` what it newly stops."""

    by_m: float
    shifts: tuple[tuple[str, float], ...]
    stops: tuple[Check, ...]


@dataclass(frozen=True, kw_only=True)
class Instead:
    """Another footing for this one alone, by the array's own givens of it; None where none carries."""

    family: FamilyName
    depth_m: float | None
    concrete_m3: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Neighbour:
    """A support beside one that is left out, by its number counted from nought.

    It carries ``more`` times what it does; ``fails`` is what its footing does not carry then.
    """

    index: int
    more: float
    fails: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Refused:
    """One support that reached so deep, and what may be done.

    ``fails`` is what it does not carry there, ``cut_m`` how much it stands too high, ``next_m`` where
    it would carry. ``gap_m`` is the span that opens where it is left out, None at the end of a table,
    and ``neighbours`` take over what it would have carried. ``strength`` are rules of post, shaft and
    concrete that stop it at the depth that it reached, ``met`` what else was found of it.
    """

    index: int
    reached_m: float
    planned_m: float
    fails: tuple[str, ...]
    cut_m: float
    next_m: float | None
    shifted: tuple[Shifted, ...]
    instead: tuple[Instead, ...]
    gap_m: float | None
    span_limit_m: float
    neighbours: tuple[Neighbour, ...] = ()
    strength: tuple[Check, ...] = ()
    met: Met = NOTHING_MET


def refused_at(
    design: Design, plan: Plan, index: int, reached_m: float, met: Met = NOTHING_MET
) -> Refused:
    """Every way on for a support of the open array, by its number counted from nought.

    ``met`` is what else was found of it. Only of what enters the ground. Raises IndexError for no such
    support.
    """
    posts, supports = plan.footings.posts, plan.structure.supports
    kind = posts.kinds[int(supports.kind[index])]
    if met != NOTHING_MET:
        own = design.array(plan.array.id).footings
        kind = as_met(kind, plan.site, own, float(supports.reveals_m[index]), met)
    ladder = ladder_of(kind, depth_step_m(plan.site.display_units))
    planned = float(posts.depths_m[index])
    return Refused(
        index=index,
        reached_m=reached_m,
        planned_m=planned,
        fails=fails_at(kind, reached_m),
        cut_m=planned - reached_m,
        next_m=ladder.next_m(reached_m),
        shifted=_shifted(design, plan, index),
        instead=_instead(design, plan, index, met),
        gap_m=_gap_m(plan, index),
        neighbours=_neighbours(plan, index),
        strength=_strength(design, plan, index, reached_m),
        met=met,
        span_limit_m=plan.structure.posts.givens.span_limit_m,
    )


def _strength(design: Design, plan: Plan, index: int, reached_m: float) -> tuple[Check, ...]:
    """What stops it there besides its soil: a post that ends higher in its pier, a shaft, a cage."""
    if reached_m < LEAST_M:
        return ()
    there = on_one_support(design, plan, index, reached_m).footings.checks
    return tuple(
        check
        for check in there
        if check.level == "stop" and check.key not in OF_ALL | OF_PLACE | OF_SOIL
    )


def _stops(plan: Plan) -> dict[tuple[str, str], Check]:
    """The stops of the array that is open, by stage and key."""
    return {
        (check.stage, check.key): check
        for stage in ARRAY_STAGES
        if plan.has(stage)
        for check in plan.shown(stage)[1]
        if check.level == "stop"
    }


def _shifted(design: Design, plan: Plan, index: int) -> tuple[Shifted, ...]:
    """Its bent moved both ways by what usually misses a stone, each planned anew."""
    stand, array = plan.structure.posts, plan.array.id
    if not stand.spaced:
        return ()
    away = constant(plan.site.display_units, "refusal_shift_m").value
    bent = bent_id(plan.rows, plan.places, index)
    told = dict(stand.givens.shifts)
    now, found = _stops(plan), []
    for by_m in (-away, away):
        shifts = told | {bent: told.get(bent, 0.0) + by_m}
        kept = tuple((name, by) for name, by in shifts.items() if abs(by) > 1e-9)
        own = design.array(array)
        moved = own.model_copy(update={"structure": own.structure.model_copy(update={"shifts": kept})})
        arrays = tuple(moved if one.id == array else one for one in design.arrays)
        tried = untried(design.model_copy(update={"arrays": arrays})).on(array)
        new = tuple(check for key, check in _stops(tried).items() if key not in now)
        found.append(Shifted(by_m=by_m, shifts=kept, stops=new))
    return tuple(found)


def _instead(design: Design, plan: Plan, index: int, met: Met) -> tuple[Instead, ...]:
    """What else would carry this one, plumb, where it stands, in the water that was met there."""
    supports, own = plan.structure.supports, design.array(plan.array.id).footings
    soil = as_wet(plan.site.soils[int(supports.soil_of[index])], met)
    loads = plan.structure.reactions.of(int(supports.kind[index]))
    found: list[Instead] = []
    others: tuple[tuple[FamilyName, dict[str, object]], ...] = (
        ("bored pier", {}),
        ("ground screw", {"screw_kind": "rock screw"}),
    )
    for family, more in others:
        if family == own.family and (family != "ground screw" or own.screw_kind == "rock screw"):
            continue
        givens = own.model_copy(update={"family": family, "depth_m": None} | more)
        called = called_in(plan.site.display_units, givens)
        at = beside(plan.site, soil, givens, plan.structure.posts.post, called)
        ((needs, depth),) = sized(at, [loads], None)
        carried = max(needs.all_m) < BEYOND_M and depth <= _deepest_m(family)
        concrete = 0.0
        if carried and family == "bored pier":
            wide = max(givens.bored_diameter_m or 0.0, givens.pier_diameter_m)
            concrete = concrete_m3(
                wide, givens.bell_diameter_m, np.array([depth]), givens.pier_top_m
            ).item()
        found.append(Instead(family=family, depth_m=depth if carried else None, concrete_m3=concrete))
    return tuple(found)


def _deepest_m(family: FamilyName) -> float:
    """Deeper than this nobody goes with it."""
    pier = family == "bored pier"
    limit = constant("common", "deepest_bore_m" if pier else "screw_piece_m").value
    return limit if pier else 2 * limit


def _beside(plan: Plan, index: int) -> tuple[int, int] | None:
    """The supports either side of one, of its table and line; None at an end."""
    places = plan.places
    line = np.flatnonzero(
        (places.of_table == places.of_table[index]) & (places.role == places.role[index])
    )
    line = line[np.argsort(places.from_middle_m[line])]
    at = int(np.flatnonzero(line == index)[0])
    if at in (0, line.size - 1):
        return None
    return int(line[at - 1]), int(line[at + 1])


def _gap_m(plan: Plan, index: int) -> float | None:
    """The span from one neighbour of its bent to the other; none at the end of a table."""
    beside_it = _beside(plan, index)
    if beside_it is None:
        return None
    first, last = plan.places.from_middle_m[list(beside_it)].tolist()
    return float(last - first)


def _neighbours(plan: Plan, index: int) -> tuple[Neighbour, ...]:
    """Each takes over half of what it would have carried, at the depth that is planned for it."""
    posts, supports = plan.footings.posts, plan.structure.supports
    found = []
    for other in _beside(plan, index) or ():
        kind = posts.kinds[int(supports.kind[other])]
        carries = float(plan.structure.posts.kinds.tributary_m[int(supports.kind[other])])
        more = 1 + float(supports.tributary_m[index]) / 2 / carries
        loads = kind.loads.times(more)
        depth = float(posts.depths_m[other])
        ((needs, _),) = sized(kind.ground, [loads], depth)
        heavier = replace(kind, loads=loads, needs=needs)
        found.append(Neighbour(index=other, more=more, fails=fails_at(heavier, depth)))
    return tuple(found)
