"""plan(design): the stages in the order of the job, nothing else."""

from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, replace
from typing import TypeVar

from openfurrow.core.checks import Check, Mend, worst_first
from openfurrow.core.design import ARRAY_STAGES, JOB_STAGES, STAGES, ArrayGivens, Design
from openfurrow.core.footings.plan import FootingsPlan, plan_footings
from openfurrow.core.frame.plan import FramePlan, plan_frame
from openfurrow.core.materials.plan import MaterialsPlan, plan_materials
from openfurrow.core.materials.takes import all_takes
from openfurrow.core.memo import Kept, Memo
from openfurrow.core.modules.plan import ModulesPlan, plan_modules
from openfurrow.core.paths import stamped
from openfurrow.core.rows.array import ModuleSize, RowsPlan
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.site.plan import SitePlan, plan_site
from openfurrow.core.stakeout.plan import StakeoutPlan, plan_stakeout
from openfurrow.core.structures.plan import StructurePlan, plan_structure, stack_m
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.sun.plan import SunPlan, plan_sun
from openfurrow.core.sun.spot import spot_of
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.plan import TrenchPlan, plan_trench
from openfurrow.core.trench.route import lay_route
from openfurrow.core.trial import with_mends_that_hold
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.plan import WiringPlan, plan_wiring
from openfurrow.core.working import Answer

StagePlan = (
    SitePlan | SunPlan | RowsPlan | StructurePlan | FootingsPlan | FramePlan | ModulesPlan | TrenchPlan
    | WiringPlan | MaterialsPlan | StakeoutPlan
)
T = TypeVar("T", bound=StagePlan)


@dataclass(frozen=True, kw_only=True)
class ArrayPlan:
    """What follows for one array: its stages, each answer and check stamped with whose it is."""

    id: str
    name: str
    rows: RowsPlan
    structure: StructurePlan
    footings: FootingsPlan
    frame: FramePlan
    modules: ModulesPlan

    @property
    def places(self) -> SupportPlaces:
        """Where every support stands."""
        return self.structure.supports.places


@dataclass(frozen=True, kw_only=True)
class Plan:
    """What follows from a design. Always recomputed, never edited.

    ``rows`` to ``modules`` are those of the array that is ``open``: the first, unless ``on`` says else.
    """

    site: SitePlan
    sun: SunPlan
    arrays: tuple[ArrayPlan, ...]
    trench: TrenchPlan
    wiring: WiringPlan
    materials: MaterialsPlan
    stakeout: StakeoutPlan
    open: int = 0

    def on(self, array: str) -> "Plan":
        """The same plan seen on one of its arrays. Raises KeyError."""
        for number, one in enumerate(self.arrays):
            if one.id == array:
                return replace(self, open=number)
        raise KeyError(array)

    @property
    def array(self) -> ArrayPlan:
        """The array that is open."""
        return self.arrays[self.open]

    @property
    def rows(self) -> RowsPlan:
        """Rows of the array that is open."""
        return self.array.rows

    @property
    def structure(self) -> StructurePlan:
        """Structure of the array that is open."""
        return self.array.structure

    @property
    def footings(self) -> FootingsPlan:
        """Footings of the array that is open."""
        return self.array.footings

    @property
    def frame(self) -> FramePlan:
        """Frame of the array that is open."""
        return self.array.frame

    @property
    def modules(self) -> ModulesPlan:
        """Modules of the array that is open."""
        return self.array.modules

    @property
    def places(self) -> SupportPlaces:
        """Where every support of the array that is open stands."""
        return self.array.places

    def stages(self) -> Iterator[StagePlan]:
        """Every stage in the order of the job, an array's own one array after the other."""
        for stage in STAGES:
            if stage not in ARRAY_STAGES:
                yield getattr(self, stage)
            elif stage == ARRAY_STAGES[0]:
                for array in self.arrays:
                    yield from (getattr(array, own) for own in ARRAY_STAGES)

    @property
    def answers(self) -> tuple[Answer, ...]:
        """Every answer in the order of the job."""
        return tuple(answer for stage in self.stages() for answer in stage.answers)

    @property
    def checks(self) -> tuple[Check, ...]:
        """Every check, worst first."""
        return worst_first(tuple(check for stage in self.stages() for check in stage.checks))

    def answer(self, stage: str, key: str) -> Answer:
        """One answer, of the array that is open; KeyError if the plan has none such."""
        of = self.array if stage in ARRAY_STAGES else self
        found: dict[str, Answer] = {item.key: item for item in getattr(of, stage).answers}
        return found[key]


def conduit_pull(circuit: Circuit) -> Pull:
    """The wires that one conduit takes: two a string and the grounding conductor."""
    line, ground = circuit.choice.conductor, circuit.grounding
    lines = 2 * circuit.strings_in_conduit
    return Pull(
        conductors=lines + 1,
        area_m2=lines * line.outside_area_m2 + ground.outside_area_m2,
        mass_kg_per_m=lines * line.mass_kg_per_m + ground.mass_kg_per_m,
        copper_m2=lines * line.copper_mm2 * 1e-6,
    )


def plan(design: Design) -> Plan:
    """Compute everything that follows from ``design``; pure, and the same for the same design.

    What a check offers as a mend has been tried: it betters the check and stops nothing new.
    """
    found = _computed(design)
    checks = tuple(check for stage in found.stages() for check in stage.checks)
    if not any(check.mends for check in checks):
        return found
    offered = with_mends_that_hold(design, checks, lambda other: _computed(other).checks)

    def of(stage: str, array: str = "") -> tuple[Check, ...]:
        return tuple(check for check in offered if (check.stage, check.array) == (stage, array))

    return replace(
        found,
        arrays=tuple(
            replace(one, **{
                stage: replace(getattr(one, stage), checks=of(stage, one.id)) for stage in ARRAY_STAGES
            })
            for one in found.arrays
        ),
        **{stage: replace(getattr(found, stage), checks=of(stage)) for stage in JOB_STAGES},
    )


def _stamped(stage: T, array: str, *, own: bool) -> T:
    """A stage that says whose its answers and checks are, and which array's givens mend them.

    Stages know nothing of arrays. ``own``: it is the array's; else the job's, which speaks of it.
    """
    whose = array if own else ""

    def mended(mend: Mend) -> Mend:
        return replace(mend, edits=tuple((stamped(path, array), text) for path, text in mend.edits))

    return replace(
        stage,
        answers=tuple(replace(answer, array=whose) for answer in stage.answers),
        checks=tuple(
            replace(check, array=whose, given=stamped(check.given, array),
                    mends=tuple(mended(mend) for mend in check.mends))
            for check in stage.checks
        ),
    )


def _planned_array(
    design: Design, site: Kept[SitePlan], sun: Kept[SunPlan], array: ArrayGivens
) -> tuple[Kept[ArrayPlan], int]:
    """One array from its tables to its modules, and the number of its structure.

    The structure's number stands for site, rows and the places of supports too: it was made of them.
    """
    given, whose = array.modules, (array.id,)
    size = ModuleSize(given.length_m, given.width_m, given.gap_along_m, given.gap_up_m)
    stack = stack_m(array.structure, given.thickness_m)
    # The site's plan says what its givens were.
    rows = MEMO.remember(
        "rows", (*whose, site.number, sun.number, array.rows, size, stack),
        lambda: _stamped(
            plan_rows(design.site, site.value, sun.value, array.rows, size, stack), array.id, own=True))
    structure = MEMO.remember(
        "structure",
        (*whose, site.number, rows.number, array.structure, given.mass_kg, given.purlin_end_m),
        lambda: _stamped(plan_structure(
            design.site, site.value, rows.value, array.structure, given.mass_kg, given.purlin_end_m,
        ), array.id, own=True))
    footings = MEMO.remember(
        "footings", (*whose, site.number, rows.number, structure.number, array.footings),
        lambda: _stamped(
            plan_footings(site.value, rows.value, structure.value, array.footings), array.id, own=True))
    frame = MEMO.remember(
        "frame", (*whose, rows.number, structure.number, array.frame),
        lambda: _stamped(
            plan_frame(rows.value, structure.value, array.frame), array.id, own=True))
    modules = MEMO.remember(
        "modules", (*whose, site.number, rows.number, structure.number, given),
        lambda: _stamped(
            plan_modules(site.value, rows.value, structure.value.loads, given), array.id, own=True))
    whole = MEMO.remember(
        "array",
        (*whose, array.name, *(one.number for one in (rows, structure, footings, frame, modules))),
        lambda: ArrayPlan(
            id=array.id, name=array.name, rows=rows.value, structure=structure.value,
            footings=footings.value, frame=frame.value, modules=modules.value,
        ))
    return whole, structure.number


# Shared by all plans; what it holds follows from its keys alone, so that plans stay pure.
MEMO = Memo()


def _computed(design: Design) -> Plan:
    """The stages one after the other, each computed only where its inputs are new."""
    site = MEMO.remember("site", (design.site,), lambda: plan_site(design.site))
    spot, turn = spot_of(design.site), design.arrays[0].rows.turn_deg
    sun = MEMO.remember("sun", (spot, design.sun, turn), lambda: plan_sun(spot, design.sun, turn))
    arrays = [_planned_array(design, site, sun, array) for array in design.arrays]
    # What is wired, trenched and staked is the first array's.
    (first, stands), given = arrays[0], design.arrays[0]
    array = first.value

    def of_job(name: str, inputs: tuple[Hashable, ...], make: Callable[[], T]) -> Kept[T]:
        return MEMO.remember(name, (stands, *inputs), lambda: _stamped(make(), array.id, own=False))

    # The way comes first, then the wires by its length, then the pipe by the wires.
    route = MEMO.remember(
        "route", (stands, design.trench), lambda: lay_route(site.value, array.places, design.trench))
    wiring = of_job("wiring", (given.modules, design.trench, design.wiring), lambda: plan_wiring(
        design.site, array.rows, array.places, given.modules, design.trench, route.value,
        design.wiring))
    circuit = wiring.value.circuit
    trench = of_job("trench", (design.trench, wiring.number), lambda: plan_trench(
        site.value, design.trench, route.value, conduit_pull(circuit), circuit.conduits))

    def listed() -> MaterialsPlan:
        takes = all_takes(
            site.value.rule_pack, array.rows, array.structure, array.footings, array.frame,
            array.modules, trench.value, circuit, given.modules, given.frame.stock_length_m,
        )
        return plan_materials(design.materials, takes)

    materials = of_job(
        "materials", (first.number, trench.number, wiring.number, given.modules, design.materials),
        listed)
    stakeout = of_job("stakeout", (first.number, design.stakeout), lambda: plan_stakeout(
        site.value, array.rows, array.structure, array.footings.posts, design.stakeout))
    return Plan(
        site=MEMO.remember(
            "site of", (site.number, array.id),
            lambda: _stamped(site.value, array.id, own=False)).value,
        sun=MEMO.remember(
            "sun of", (sun.number, array.id),
            lambda: _stamped(sun.value, array.id, own=False)).value,
        arrays=tuple(one.value for one, _ in arrays),
        trench=trench.value, wiring=wiring.value, materials=materials.value, stakeout=stakeout.value,
    )
