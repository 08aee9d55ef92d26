"""What follows from a design: the plan of a job and of each of its arrays."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType
from typing import Protocol, TypeVar

from openfurrow.core.checks import Check, worst_first
from openfurrow.core.design import ARRAY_STAGES, BUILT_STAGES, STAGES
from openfurrow.core.energy.plan import EnergyPlan
from openfurrow.core.footings.plan import FootingsPlan
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.hauling.plan import HaulingPlan
from openfurrow.core.lacking import Lacking
from openfurrow.core.materials.plan import MaterialsPlan
from openfurrow.core.modules.plan import ModulesPlan
from openfurrow.core.needs import OF_THE_PLANE, Lacks
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.stakeout.plan import SettingOut, StakeoutPlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.trench.plan import TrenchPlan
from openfurrow.core.trench.runs import Run
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.plan import WiringPlan
from openfurrow.core.working import Answer

StagePlan = (
    SitePlan
    | SunPlan
    | RowsPlan
    | StructurePlan
    | FootingsPlan
    | FramePlan
    | ModulesPlan
    | TrenchPlan
    | WiringPlan
    | EnergyPlan
    | MaterialsPlan
    | StakeoutPlan
    | SchedulePlan
    | HaulingPlan
)


P = TypeVar("P", bound=StagePlan)


class Told(Protocol):
    """Anything with answers and checks."""

    @property
    def answers(self) -> tuple[Answer, ...]:
        """Its answers."""

    @property
    def checks(self) -> tuple[Check, ...]:
        """Its checks."""


# What the stages that follow from records stand on.
BUILT_ON = MappingProxyType({"fieldbook": "stakeout", "handover": "schedule"})
# What is no stage of the walk: after which stage it follows, and with which it is told.
ENERGY, HAULING = "energy", "hauling"
FOLLOWS = MappingProxyType({ENERGY: "wiring", HAULING: "schedule"})
TOLD_WITH = MappingProxyType({"sun": ENERGY, "materials": HAULING})
NOTHING_BUILT: Mapping[str, Told] = MappingProxyType({})


def _made(found: Mapping[str, StagePlan], stage: str, of: type[P], lacks: tuple[str, ...]) -> P:
    """A stage that could be computed. Raises Lacking for one that could not."""
    one = found.get(stage)
    if one is None:
        raise Lacking(lacks)
    assert isinstance(one, of)
    return one


@dataclass(frozen=True, kw_only=True)
class ArrayPlan:
    """What follows for one array: its stages, each answer and check stamped with whose it is.

    ``made`` holds those stages that could be computed, ``lacks`` what the others lack; each is asked
    for by its name, and raises Lacking where it is not there.
    """

    id: str
    name: str
    standing: bool
    made: Mapping[str, StagePlan]
    lacks: Mapping[str, tuple[str, ...]]

    def with_stages(self, stages: Mapping[str, StagePlan]) -> "ArrayPlan":
        """The same array with some of its stages in another form."""
        return replace(self, made={**self.made, **stages})

    def _stage(self, stage: str, of: type[P]) -> P:
        return _made(self.made, stage, of, self.lacks.get(stage, ()))

    @property
    def rows(self) -> RowsPlan:
        """Its tables."""
        return self._stage("rows", RowsPlan)

    @property
    def structure(self) -> StructurePlan:
        """What carries them."""
        return self._stage("structure", StructurePlan)

    @property
    def footings(self) -> FootingsPlan:
        """What holds that in the ground."""
        return self._stage("footings", FootingsPlan)

    @property
    def frame(self) -> FramePlan:
        """What is cut and bolted."""
        return self._stage("frame", FramePlan)

    @property
    def modules(self) -> ModulesPlan:
        """What is clamped on it."""
        return self._stage("modules", ModulesPlan)

    @property
    def places(self) -> SupportPlaces:
        """Where every support stands."""
        return self.structure.supports.places


@dataclass(frozen=True, kw_only=True)
class Plan:
    """What follows from a design. Always recomputed, never edited.

    ``rows`` to ``modules`` are those of the array that is ``open``: the first, unless ``on`` says else;
    so are ``run``, ``circuit`` and ``setting_out``, its part of what is dug, wired and staked.
    ``suns`` differ in nothing but the way an array looks. A stage that lacks what only people can say
    is not there: asked for, it raises Lacking; its one check says what is missing. ``built`` are the
    stages that follow from what was measured on site.
    """

    site: SitePlan
    arrays: tuple[ArrayPlan, ...]
    known_suns: tuple[SunPlan, ...]
    made: Mapping[str, StagePlan]
    lacks: Lacks
    missing: tuple[str, ...]
    unsaid: tuple[Check, ...]
    built: Mapping[str, Told] = field(default_factory=lambda: NOTHING_BUILT)
    open: int = 0

    def _stage(self, stage: str, of: type[P]) -> P:
        return _made(self.made, stage, of, self.lacks["", stage])

    @property
    def suns(self) -> tuple[SunPlan, ...]:
        """Sun and directions, for each array."""
        if not self.known_suns:
            raise Lacking(self.lacks["", "sun"])
        return self.known_suns

    @property
    def trench(self) -> TrenchPlan:
        """What is dug."""
        return self._stage("trench", TrenchPlan)

    @property
    def wiring(self) -> WiringPlan:
        """What is wired."""
        return self._stage("wiring", WiringPlan)

    @property
    def energy(self) -> EnergyPlan:
        """What it brings in a year: known with the wiring."""
        return _made(self.made, ENERGY, EnergyPlan, self.lacks["", FOLLOWS[ENERGY]])

    @property
    def materials(self) -> MaterialsPlan:
        """What is bought."""
        return self._stage("materials", MaterialsPlan)

    @property
    def stakeout(self) -> StakeoutPlan:
        """What is staked."""
        return self._stage("stakeout", StakeoutPlan)

    @property
    def schedule(self) -> SchedulePlan:
        """When what is done."""
        return self._stage("schedule", SchedulePlan)

    @property
    def hauling(self) -> HaulingPlan:
        """When what comes and on what: known with the schedule."""
        return _made(self.made, HAULING, HaulingPlan, self.lacks["", FOLLOWS[HAULING]])

    @property
    def falls_unknown(self) -> bool:
        """Whether nobody has said, or shot, how the ground falls."""
        return self.site.known.surface is None and any(path in self.missing for path in OF_THE_PLANE)

    def lacking(self, stage: str) -> tuple[str, ...]:
        """What a stage lacks, of the array that is open; nothing where it could be computed."""
        stage = BUILT_ON.get(stage, stage)
        return self.lacks[self.array.id if stage in ARRAY_STAGES else "", stage]

    def has(self, *stages: str) -> bool:
        """Whether stages could be computed, those of an array for the one that is open."""
        return not any(self.lacking(stage) for stage in stages)

    def on(self, array: str) -> "Plan":
        """The same plan seen on one of its arrays. Raises KeyError."""
        for number, one in enumerate(self.arrays):
            if one.id == array:
                return replace(self, open=number)
        raise KeyError(array)

    def each(self) -> tuple["Plan", ...]:
        """The same plan seen on each of its arrays in turn."""
        return tuple(replace(self, open=number) for number in range(len(self.arrays)))

    @property
    def several(self) -> bool:
        """Whether there is more than one array, so that it must be said which is meant."""
        return len(self.arrays) > 1

    @property
    def array(self) -> ArrayPlan:
        """The array that is open."""
        return self.arrays[self.open]

    @property
    def sun(self) -> SunPlan:
        """Sun and directions for the array that is open."""
        return self.suns[self.open]

    @property
    def run(self) -> Run:
        """What lies in the trench for the array that is open, and its way."""
        return self.trench.runs[self.open]

    @property
    def circuit(self) -> Circuit:
        """Strings and conductors of the array that is open."""
        return self.wiring.circuits[self.open]

    @property
    def setting_out(self) -> SettingOut:
        """Stakes of the array that is open."""
        return self.stakeout.arrays[self.open]

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

    def told(self, stage: str) -> Told:
        """A stage that follows from records. Raises Lacking where it could not be computed."""
        if stage not in self.built:
            raise Lacking(self.lacking(stage))
        return self.built[stage]

    def stages(self) -> Iterator[StagePlan]:
        """Every planned stage that could be computed in the order of the job, array after array.

        Of the suns those stand apart whose array is turned another way than the first.
        """
        for stage in STAGES:
            if stage == "site":
                yield self.site
            elif stage == "sun":
                yield from (
                    sun
                    for number, sun in enumerate(self.known_suns)
                    if not number or sun.facing_deg != self.known_suns[0].facing_deg
                )
            elif stage not in ARRAY_STAGES:
                if stage in self.made:
                    yield self.made[stage]
                yield from (
                    self.made[also]
                    for also, after in FOLLOWS.items()
                    if after == stage and also in self.made
                )
            elif stage == ARRAY_STAGES[0]:
                for array in self.arrays:
                    yield from (array.made[own] for own in ARRAY_STAGES if own in array.made)

    @property
    def answers(self) -> tuple[Answer, ...]:
        """Every answer in the order of the job."""
        return tuple(answer for stage in self._all_told() for answer in stage.answers)

    @property
    def checks(self) -> tuple[Check, ...]:
        """Every check, worst first."""
        return worst_first(
            (*self.unsaid, *(check for stage in self._all_told() for check in stage.checks))
        )

    def _all_told(self) -> Iterator[Told]:
        yield from self.stages()
        yield from self.built.values()

    def shown(self, stage: str) -> tuple[tuple[Answer, ...], tuple[Check, ...]]:
        """A stage's answers and checks that are the job's own, or of the array that is open."""
        whose = ("", self.array.id)
        if not self.has(stage):
            unsaid = (check for check in self.unsaid if check.stage == BUILT_ON.get(stage, stage))
            return (), tuple(check for check in unsaid if check.array in whose)
        parts: list[Told] = []
        if stage not in BUILT_STAGES:
            parts.append(getattr(self, stage))
        elif stage in self.built:
            parts.append(self.built[stage])
        if (also := TOLD_WITH.get(stage, "")) in self.made:
            parts.append(self.made[also])
        return (
            tuple(answer for part in parts for answer in part.answers if answer.array in whose),
            tuple(check for part in parts for check in part.checks if check.array in whose),
        )

    def answer(self, stage: str, key: str) -> Answer:
        """One answer, of the array that is open; KeyError if the plan has none such."""
        found: dict[str, Answer] = {item.key: item for item in self.shown(stage)[0]}
        return found[key]
