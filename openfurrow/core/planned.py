"""What follows from a design: the plan of a job and of each of its arrays."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, worst_first
from openfurrow.core.design import ARRAY_STAGES, STAGES
from openfurrow.core.footings.plan import FootingsPlan
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.materials.plan import MaterialsPlan
from openfurrow.core.modules.plan import ModulesPlan
from openfurrow.core.rows.array import RowsPlan
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
    | MaterialsPlan
    | StakeoutPlan
)


@dataclass(frozen=True, kw_only=True)
class ArrayPlan:
    """What follows for one array: its stages, each answer and check stamped with whose it is."""

    id: str
    name: str
    standing: bool
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

    ``rows`` to ``modules`` are those of the array that is ``open``: the first, unless ``on`` says else;
    so are ``run``, ``circuit`` and ``setting_out``, its part of what is dug, wired and staked.
    ``suns`` differ in nothing but the way an array looks.
    """

    site: SitePlan
    suns: tuple[SunPlan, ...]
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

    def stages(self) -> Iterator[StagePlan]:
        """Every stage in the order of the job, an array's own one array after the other.

        Of the suns those stand apart whose array is turned another way than the first.
        """
        for stage in STAGES:
            if stage == "sun":
                yield from (
                    sun
                    for number, sun in enumerate(self.suns)
                    if not number or sun.facing_deg != self.suns[0].facing_deg
                )
            elif stage not in ARRAY_STAGES:
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

    def shown(self, stage: str) -> tuple[tuple[Answer, ...], tuple[Check, ...]]:
        """A stage's answers and checks that are the job's own, or of the array that is open."""
        part = getattr(self, stage)
        whose = ("", self.array.id)
        return (
            tuple(answer for answer in part.answers if answer.array in whose),
            tuple(check for check in part.checks if check.array in whose),
        )

    def answer(self, stage: str, key: str) -> Answer:
        """One answer, of the array that is open; KeyError if the plan has none such."""
        found: dict[str, Answer] = {item.key: item for item in self.shown(stage)[0]}
        return found[key]
