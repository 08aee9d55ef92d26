"""plan(design): the stages in the order of the job, nothing else."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, replace
from itertools import zip_longest
from typing import TypeVar

from openfurrow.core.checks import Check
from openfurrow.core.design import ARRAY_STAGES, ArrayGivens, Design
from openfurrow.core.footings.plan import FootingsPlan, plan_footings
from openfurrow.core.frame.plan import plan_frame
from openfurrow.core.memo import Kept, Memo
from openfurrow.core.modules.plan import plan_modules
from openfurrow.core.needs import Lacks, lacks_of, missing
from openfurrow.core.planned import ENERGY, HAULING, StagePlan
from openfurrow.core.planned import ArrayPlan as ArrayPlan
from openfurrow.core.planned import Plan as Plan
from openfurrow.core.rows.between import Met, Stood, between_checks, meet, neighbours
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.site.plan import SitePlan, plan_site
from openfurrow.core.site.said import weather_of
from openfurrow.core.stamping import T, stamped_stage
from openfurrow.core.standing import as_found
from openfurrow.core.structures.plan import plan_structure, stack_m
from openfurrow.core.structures.told import ON_BLOCKS
from openfurrow.core.sun.plan import SunPlan, plan_sun
from openfurrow.core.sun.spot import spot_of
from openfurrow.core.together import Together
from openfurrow.core.trial import with_mends_that_hold
from openfurrow.core.unsaid import unsaid_checks

S = TypeVar("S", bound=StagePlan)


def untried(design: Design) -> Plan:
    """The same without the year's energy, and nothing that checks offer has been tried.

    For an action on the design that asks where things stand: a part of the time.
    """
    return _computed(design, energy=False)


def plan(design: Design) -> Plan:
    """Compute everything that follows from ``design``; pure, and the same for the same design.

    What a check offers as a mend has been tried: it betters the check and stops nothing new.
    """
    found = _computed(design)
    checks = tuple(check for stage in found.stages() for check in stage.checks)
    if not any(check.mends for check in checks):
        return found
    tried = with_mends_that_hold(design, checks, lambda other: untried(other).checks)
    offered = {id(check): now for check, now in zip(checks, tried, strict=True)}

    def with_those(stage: T) -> T:
        return replace(stage, checks=tuple(offered[id(check)] for check in stage.checks))

    def each(made: Mapping[str, StagePlan]) -> dict[str, StagePlan]:
        return {name: with_those(stage) for name, stage in made.items()}

    return replace(
        found,
        site=with_those(found.site),
        arrays=tuple(one.with_stages(each(one.made)) for one in found.arrays),
        known_suns=tuple(
            with_those(sun) if all(id(check) in offered for check in sun.checks) else sun
            for sun in found.known_suns
        ),
        made=each(found.made),
    )


@dataclass(frozen=True)
class _Stood:
    """An array as far as it could be computed, and the numbers of its rows and its structure."""

    plan: Kept[ArrayPlan]
    rows: int | None
    structure: int | None


def _planned_array(
    design: Design, site: Kept[SitePlan], sun: Kept[SunPlan] | None, array: ArrayGivens
) -> _Stood:
    """One array from its tables to its modules, as far as what was said goes.

    The structure's number stands for site, rows and the places of supports too: it was made of them.
    """
    given, whose = array.modules, (array.id,)
    all_lacks = lacks_of(design)
    lacks = {stage: all_lacks[array.id, stage] for stage in ARRAY_STAGES}
    made: dict[str, StagePlan] = {}
    numbers: dict[str, int] = {}

    def remember(stage: str, inputs: tuple[Hashable, ...], make: Callable[[], S]) -> Kept[S]:
        kept = MEMO.remember(
            stage, (*whose, *inputs), lambda: stamped_stage(make(), array.id, own=True)
        )
        numbers[stage], made[stage] = kept.number, kept.value
        return kept

    def whole(rows: int | None = None, structure: int | None = None) -> _Stood:
        key = (array.name, array.standing, *numbers.items())
        plan = MEMO.remember(
            "array",
            (*whose, *key, tuple(lacks.items())),
            lambda: ArrayPlan(
                id=array.id,
                name=array.name,
                standing=bool(array.standing),
                made=dict(made),
                lacks=lacks,
            ),
            of_kept=True,
        )
        return _Stood(plan, rows, structure)

    if sun is None or lacks["rows"]:
        return whole()
    size = given.size
    stack, travel = stack_m(array.structure, given.thickness_m), array.structure.travel
    # The site's plan says what its givens were.
    on_posts = array.structure.family != ON_BLOCKS
    rows = remember(
        "rows",
        (site.number, sun.number, array.rows, size, stack, travel, on_posts),
        lambda: plan_rows(site.value, sun.value, array.rows, size, stack, travel, on_posts=on_posts),
    )
    if lacks["structure"]:
        return whole(rows.number)
    structure = remember(
        "structure",
        (site.number, rows.number, array.structure, given.mass_kg, given.purlin_end_m),
        lambda: plan_structure(
            weather_of(design.site),
            site.value,
            rows.value,
            array.structure,
            given.mass_kg,
            given.purlin_end_m,
        ),
    )

    def sized() -> FootingsPlan:
        found = plan_footings(site.value, rows.value, structure.value, array.footings)
        return as_found(found, array.footings) if array.standing else found

    if not lacks["footings"]:
        remember(
            "footings",
            (site.number, rows.number, structure.number, array.footings, array.standing),
            sized,
        )
    frame = remember(
        "frame",
        (rows.number, structure.number, array.frame, design.site.air_bites),
        lambda: plan_frame(
            rows.value, structure.value, array.frame, design.site.rule_pack, design.site.air_bites
        ),
    )
    remember(
        "modules",
        (site.number, rows.number, structure.number, frame.number, given),
        lambda: plan_modules(site.value, rows.value, structure.value, frame.value, given),
    )
    return whole(rows.number, structure.number)


def _beside_each_other(
    design: Design, sun: Kept[SunPlan] | None, arrays: tuple[_Stood, ...]
) -> tuple[ArrayPlan, ...]:
    """The arrays with what each says of the others; none says anything before all are laid out."""
    alone = tuple(one.plan.value for one in arrays)
    rows = tuple(one.rows for one in arrays if one.rows is not None)
    if len(arrays) == 1 or sun is None or len(rows) < len(arrays):
        return alone
    names = tuple(one.name for one in design.arrays)
    stood = tuple(Stood(one.rows.lies, one.rows.taken) for one in alone)

    def met(pair: tuple[int, int]) -> Met:
        first, second = pair
        return MEMO.remember(
            "pair",
            (rows[first], rows[second], sun.number),
            lambda: meet(stood[first], stood[second], sun.value),
        ).value

    def checked() -> tuple[tuple[Check, ...], ...]:
        pairs = {pair: met(pair) for pair in neighbours(stood, sun.value)}
        return between_checks(names, tuple(one.rows.tables.count for one in alone), pairs)

    found = MEMO.remember("between", (names, sun.number, rows), checked).value

    def beside(one: ArrayPlan, checks: tuple[Check, ...]) -> ArrayPlan:
        said = stamped_stage(replace(one.rows, checks=checks), one.id, own=True)
        return one.with_stages({"rows": replace(one.rows, checks=(*one.rows.checks, *said.checks))})

    return tuple(map(beside, alone, found))


# Shared by all plans; what it holds follows from its keys alone, so that plans stay pure.
MEMO = Memo()


def _computed(design: Design, *, energy: bool = True) -> Plan:
    """The stages one after the other, each computed only where its inputs are new.

    One that lacks what only people can say is left out, and all that stand on it. ``energy`` stops
    nothing, so that what is only tried goes without.
    """
    lacks, directions = lacks_of(design), design.sun.directions()
    site = MEMO.remember("site", (design.site,), lambda: plan_site(design.site))

    def sun_of(array: ArrayGivens) -> Kept[SunPlan]:
        spot, turn, tubes = spot_of(design.site), array.rows.turn_deg, array.structure.on_tubes
        return MEMO.remember(
            "sun",
            (spot, directions, turn, tubes),
            lambda: plan_sun(spot, directions, turn, on_tubes=tubes),
        )

    def told_of(kept: Kept[T], name: str, array: str, *, own: bool = False) -> T:
        """A stage of the job's that speaks of an array; ``own`` where it is so of that one alone."""
        return MEMO.remember(
            name, (kept.number, array, own), lambda: stamped_stage(kept.value, array, own=own)
        ).value

    suns = [] if lacks["", "sun"] else [sun_of(one) for one in design.arrays]
    stood = tuple(
        _planned_array(design, site, sun, array) for array, sun in zip_longest(design.arrays, suns)
    )
    # Nothing that follows asks what stands beside an array.
    job = Together(
        MEMO,
        design,
        site,
        tuple(one.plan for one in stood),
        tuple(one.rows for one in stood if one.rows is not None),
        tuple(one.structure for one in stood if one.structure is not None),
    )
    return Plan(
        site=told_of(site, "site of", job.first),
        known_suns=tuple(
            told_of(sun, "sun of", one.id, own=sun.value.facing_deg != suns[0].value.facing_deg)
            for sun, one in zip(suns, design.arrays, strict=bool(suns))
        ),
        arrays=_beside_each_other(design, suns[0] if suns else None, stood),
        made=_of_the_job(job, lacks, energy=energy),
        lacks=lacks,
        missing=missing(design),
        unsaid=unsaid_checks(design),
    )


def _of_the_job(job: Together, lacks: Lacks, *, energy: bool) -> dict[str, StagePlan]:
    """The stages that are the job's own, as far as what was said goes."""
    made: dict[str, StagePlan] = {}
    if not lacks["", "stakeout"]:
        made["stakeout"] = job.staked().value
    if lacks["", "trench"]:
        return made
    tree = job.ways()
    routes = job.routes(tree.value)
    circuits = job.circuits(tree.value, routes)
    runs = job.runs(tree.value, routes, circuits)
    trench = job.dug(tree, runs)
    made["trench"] = trench.value
    wired = job.wired(circuits)
    made["wiring"] = wired.value
    if energy:
        made[ENERGY] = job.energy(wired).value
    if lacks["", "materials"]:
        return made
    listed = job.listed(circuits, runs, trench)
    made["materials"] = listed.value
    if not lacks["", "schedule"]:
        scheduled = job.scheduled(circuits, trench)
        made["schedule"] = scheduled.value
        made[HAULING] = job.hauled(listed, scheduled).value
    return made
