"""plan(design): the stages in the order of the job, nothing else."""

from dataclasses import replace

from openfurrow.core.checks import Check
from openfurrow.core.design import ARRAY_STAGES, JOB_STAGES, ArrayGivens, Design
from openfurrow.core.footings.plan import FootingsPlan, plan_footings
from openfurrow.core.frame.plan import plan_frame
from openfurrow.core.memo import Kept, Memo
from openfurrow.core.modules.plan import plan_modules
from openfurrow.core.planned import ArrayPlan as ArrayPlan
from openfurrow.core.planned import Plan as Plan
from openfurrow.core.rows.array import ModuleSize
from openfurrow.core.rows.between import Met, between_checks, meet, neighbours
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.site.plan import SitePlan, plan_site
from openfurrow.core.stamping import T, stamped_stage
from openfurrow.core.standing import as_found
from openfurrow.core.structures.plan import plan_structure, stack_m
from openfurrow.core.sun.plan import SunPlan, plan_sun
from openfurrow.core.sun.spot import spot_of
from openfurrow.core.together import Together
from openfurrow.core.trial import with_mends_that_hold


def plan(design: Design) -> Plan:
    """Compute everything that follows from ``design``; pure, and the same for the same design.

    What a check offers as a mend has been tried: it betters the check and stops nothing new.
    """
    found = _computed(design)
    checks = tuple(check for stage in found.stages() for check in stage.checks)
    if not any(check.mends for check in checks):
        return found
    tried = with_mends_that_hold(design, checks, lambda other: _computed(other).checks)
    offered = {id(check): now for check, now in zip(checks, tried, strict=True)}

    def with_those(stage: T) -> T:
        return replace(stage, checks=tuple(offered[id(check)] for check in stage.checks))

    return replace(
        found,
        arrays=tuple(
            replace(one, **{stage: with_those(getattr(one, stage)) for stage in ARRAY_STAGES})
            for one in found.arrays
        ),
        suns=tuple(
            with_those(sun) if all(id(check) in offered for check in sun.checks) else sun
            for sun in found.suns
        ),
        **{stage: with_those(getattr(found, stage)) for stage in JOB_STAGES if stage != "sun"},
    )


def _planned_array(
    design: Design, site: Kept[SitePlan], sun: Kept[SunPlan], array: ArrayGivens
) -> tuple[Kept[ArrayPlan], int, int]:
    """One array from its tables to its modules, and the numbers of its rows and its structure.

    The structure's number stands for site, rows and the places of supports too: it was made of them.
    """
    given, whose = array.modules, (array.id,)
    size = ModuleSize(given.length_m, given.width_m, given.gap_along_m, given.gap_up_m)
    stack = stack_m(array.structure, given.thickness_m)
    # The site's plan says what its givens were.
    rows = MEMO.remember(
        "rows",
        (*whose, site.number, sun.number, array.rows, size, stack),
        lambda: stamped_stage(
            plan_rows(design.site, site.value, sun.value, array.rows, size, stack), array.id, own=True
        ),
    )
    structure = MEMO.remember(
        "structure",
        (*whose, site.number, rows.number, array.structure, given.mass_kg, given.purlin_end_m),
        lambda: stamped_stage(
            plan_structure(
                design.site,
                site.value,
                rows.value,
                array.structure,
                given.mass_kg,
                given.purlin_end_m,
            ),
            array.id,
            own=True,
        ),
    )

    def sized() -> FootingsPlan:
        found = plan_footings(site.value, rows.value, structure.value, array.footings)
        return as_found(found, array.footings) if array.standing else found

    footings = MEMO.remember(
        "footings",
        (*whose, site.number, rows.number, structure.number, array.footings, array.standing),
        lambda: stamped_stage(sized(), array.id, own=True),
    )
    frame = MEMO.remember(
        "frame",
        (*whose, rows.number, structure.number, array.frame),
        lambda: stamped_stage(plan_frame(rows.value, structure.value, array.frame), array.id, own=True),
    )
    modules = MEMO.remember(
        "modules",
        (*whose, site.number, rows.number, structure.number, given),
        lambda: stamped_stage(
            plan_modules(site.value, rows.value, structure.value.loads, given), array.id, own=True
        ),
    )
    whole = MEMO.remember(
        "array",
        (
            *whose,
            array.name,
            array.standing,
            *(one.number for one in (rows, structure, footings, frame, modules)),
        ),
        lambda: ArrayPlan(
            id=array.id,
            name=array.name,
            standing=array.standing,
            rows=rows.value,
            structure=structure.value,
            footings=footings.value,
            frame=frame.value,
            modules=modules.value,
        ),
        of_kept=True,
    )
    return whole, rows.number, structure.number


def _beside_each_other(
    design: Design, sun: Kept[SunPlan], arrays: tuple[Kept[ArrayPlan], ...], rows: tuple[int, ...]
) -> tuple[ArrayPlan, ...]:
    """The arrays with what each says of the others; ``rows`` are the numbers of their rows."""
    alone = tuple(one.value for one in arrays)
    if len(arrays) == 1:
        return alone
    names, lies = tuple(one.name for one in design.arrays), tuple(one.rows.lie for one in alone)

    def met(pair: tuple[int, int]) -> Met:
        first, second = pair
        return MEMO.remember(
            "pair",
            (rows[first], rows[second], sun.number),
            lambda: meet(lies[first], lies[second], sun.value),
        ).value

    def checked() -> tuple[tuple[Check, ...], ...]:
        pairs = {pair: met(pair) for pair in neighbours(lies, sun.value)}
        return between_checks(names, tuple(len(lie.tables.row) for lie in lies), pairs)

    found = MEMO.remember("between", (names, sun.number, rows), checked).value

    def beside(one: ArrayPlan, checks: tuple[Check, ...]) -> ArrayPlan:
        said = stamped_stage(replace(one.rows, checks=checks), one.id, own=True)
        return replace(one, rows=replace(one.rows, checks=(*one.rows.checks, *said.checks)))

    return tuple(map(beside, alone, found))


# Shared by all plans; what it holds follows from its keys alone, so that plans stay pure.
MEMO = Memo()


def _computed(design: Design) -> Plan:
    """The stages one after the other, each computed only where its inputs are new."""
    site = MEMO.remember("site", (design.site,), lambda: plan_site(design.site))
    spot = spot_of(design.site)

    def sun_of(turn_deg: float) -> Kept[SunPlan]:
        return MEMO.remember(
            "sun", (spot, design.sun, turn_deg), lambda: plan_sun(spot, design.sun, turn_deg)
        )

    def told_of(kept: Kept[T], name: str, array: str, *, own: bool = False) -> T:
        """A stage of the job's that speaks of an array; ``own`` where it is so of that one alone."""
        return MEMO.remember(
            name, (kept.number, array, own), lambda: stamped_stage(kept.value, array, own=own)
        ).value

    suns = [sun_of(one.rows.turn_deg) for one in design.arrays]
    planned = [
        _planned_array(design, site, sun, array) for array, sun in zip(design.arrays, suns, strict=True)
    ]
    alone, rows, stands = zip(*planned, strict=True)
    # Nothing that follows asks what stands beside an array.
    job = Together(MEMO, design, site, alone, stands)
    tree = job.ways()
    routes = job.routes(tree.value)
    circuits = job.circuits(routes)
    runs = job.runs(tree.value, routes, circuits)
    trench = job.dug(tree, runs)
    return Plan(
        site=told_of(site, "site of", job.first),
        suns=tuple(
            told_of(sun, "sun of", one.id, own=sun.value.facing_deg != suns[0].value.facing_deg)
            for sun, one in zip(suns, design.arrays, strict=True)
        ),
        arrays=_beside_each_other(design, suns[0], alone, rows),
        trench=trench.value,
        wiring=job.wired(circuits).value,
        materials=job.listed(circuits, runs, trench).value,
        stakeout=job.staked().value,
    )
