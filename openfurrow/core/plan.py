"""plan(design): the stages in the order of the job, nothing else."""

from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, worst_first
from openfurrow.core.design import STAGES, Design
from openfurrow.core.footings.plan import FootingsPlan, plan_footings
from openfurrow.core.frame.plan import FramePlan, plan_frame
from openfurrow.core.materials.plan import MaterialsPlan, plan_materials
from openfurrow.core.materials.takes import all_takes
from openfurrow.core.modules.plan import ModulesPlan, plan_modules
from openfurrow.core.rows.array import ModuleSize, RowsPlan
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.site.plan import SitePlan, plan_site
from openfurrow.core.stakeout.plan import StakeoutPlan, plan_stakeout
from openfurrow.core.structures.plan import StructurePlan, plan_structure, stack_m
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.sun.plan import SunPlan, plan_sun
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.plan import TrenchPlan, plan_trench
from openfurrow.core.trench.route import lay_route
from openfurrow.core.trial import with_mends_that_hold
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.plan import WiringPlan, plan_wiring
from openfurrow.core.working import Answer


@dataclass(frozen=True)
class Plan:
    """What follows from a design. Always recomputed, never edited."""

    site: SitePlan
    sun: SunPlan
    rows: RowsPlan
    structure: StructurePlan
    footings: FootingsPlan
    frame: FramePlan
    modules: ModulesPlan
    trench: TrenchPlan
    wiring: WiringPlan
    materials: MaterialsPlan
    stakeout: StakeoutPlan

    @property
    def places(self) -> SupportPlaces:
        """Where every support stands."""
        return self.structure.supports.places

    @property
    def answers(self) -> tuple[Answer, ...]:
        """Every answer in the order of the job."""
        return tuple(answer for stage in STAGES for answer in getattr(self, stage).answers)

    @property
    def checks(self) -> tuple[Check, ...]:
        """Every check, worst first."""
        return worst_first(
            tuple(check for stage in STAGES for check in getattr(self, stage).checks)
        )

    def answer(self, stage: str, key: str) -> Answer:
        """One answer; KeyError if the plan has none such."""
        return {(item.stage, item.key): item for item in self.answers}[stage, key]


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
    by_stage = {stage: getattr(found, stage) for stage in STAGES}
    checks = tuple(check for stage in by_stage.values() for check in stage.checks)
    if not any(check.mends for check in checks):
        return found
    offered = with_mends_that_hold(design, checks, lambda other: _computed(other).checks)
    return replace(found, **{
        name: replace(stage, checks=tuple(check for check in offered if check.stage == name))
        for name, stage in by_stage.items()
    })


def _computed(design: Design) -> Plan:
    """The stages one after the other."""
    given = design.modules
    size = ModuleSize(given.length_m, given.width_m, given.gap_along_m, given.gap_up_m)

    site = plan_site(design.site)
    sun = plan_sun(design.site, design.sun)
    rows = plan_rows(site, sun, design.rows, size, stack_m(design.structure, given.thickness_m))
    structure = plan_structure(
        design.site, site, rows, design.structure, given.mass_kg, given.purlin_end_m)
    footings = plan_footings(site, rows, structure, design.footings)
    frame = plan_frame(rows, structure, design.frame)
    modules = plan_modules(site, rows, structure.loads, given)
    places = structure.supports.places
    # The way comes first, then the wires by its length, then the pipe by the wires.
    route = lay_route(site, places, design.trench)
    wiring = plan_wiring(design.site, rows, places, given, design.trench, route, design.wiring)
    circuit = wiring.circuit
    trench = plan_trench(site, design.trench, route, conduit_pull(circuit), circuit.conduits)
    takes = all_takes(
        site.rule_pack, rows, structure, footings, frame, modules, trench, circuit, given,
        design.frame.stock_length_m,
    )
    materials = plan_materials(design.materials, takes)
    stakeout = plan_stakeout(site, rows, structure, footings.posts, design.stakeout)
    return Plan(
        site, sun, rows, structure, footings, frame, modules, trench, wiring, materials, stakeout
    )
