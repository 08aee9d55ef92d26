"""What the planner gives: one validated, versioned document of a job and its arrays."""

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.givens import Givens, Thing, identified
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.stakeout.givens import StakeoutGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens

SCHEMA_VERSION = 9

STAGES = (
    "site",
    "sun",
    "rows",
    "structure",
    "footings",
    "frame",
    "modules",
    "trench",
    "wiring",
    "materials",
    "stakeout",
    "schedule",
)
# What follows from records of the field, after all that is planned: nothing is given there.
BUILT_STAGES = ("fieldbook", "handover")
# Every place of the way, in its order.
PLACES = (*STAGES, *BUILT_STAGES)
# Stages that each array has its own of.
ARRAY_STAGES = ("rows", "structure", "footings", "frame", "modules")
JOB_STAGES = tuple(stage for stage in STAGES if stage not in ARRAY_STAGES)
# The id of the array that a document had before arrays had ids.
FIRST_ARRAY = "1"


class ArrayGivens(Thing):
    """One array: where it stands, what it is built of. Its id is never used again."""

    name: Annotated[str, Field(min_length=1, max_length=40, description="What the array is called")] = (
        "Array"
    )
    standing: Annotated[
        bool | None,
        Field(description="Whether it stands already: checked and wired, never ordered or cut"),
    ] = False
    rows: RowsGivens = RowsGivens()
    structure: StructureGivens = StructureGivens()
    footings: FootingsGivens = FootingsGivens()
    frame: FrameGivens = FrameGivens()
    modules: ModulesGivens = ModulesGivens()


# More than any ground-mount job is split into; every edit looks at all pairs of them.
MOST_ARRAYS = 40
Arrays = Annotated[
    tuple[ArrayGivens, ...], Field(min_length=1, max_length=MOST_ARRAYS), AfterValidator(identified)
]


# Paths of values, each once.
Paths = Annotated[
    tuple[Annotated[str, Field(max_length=120)], ...],
    Field(max_length=20_000),
    AfterValidator(lambda paths: tuple(sorted(set(paths)))),
]


class Design(Givens):
    """Everything people decide about one job, stage by stage, in SI units.

    ``taken`` are the paths of what was taken from another job or from the clock, ``looked`` of what is
    so, or is practice, and was looked at by somebody.
    """

    schema_version: Literal[9] = 9
    name: Annotated[str, Field(min_length=1, max_length=120, description="What the job is called")]
    site: SiteGivens = SiteGivens()
    sun: SunGivens = SunGivens()
    arrays: Arrays = (ArrayGivens(id=FIRST_ARRAY),)
    trench: TrenchGivens = TrenchGivens()
    wiring: WiringGivens = WiringGivens()
    materials: MaterialsGivens = MaterialsGivens()
    stakeout: StakeoutGivens = StakeoutGivens()
    schedule: ScheduleGivens = ScheduleGivens()
    looked: Paths = ()
    taken: Paths = ()

    def array(self, array_id: str) -> ArrayGivens:
        """The array with an id. Raises KeyError."""
        for one in self.arrays:
            if one.id == array_id:
                return one
        raise KeyError(array_id)


def one_array(name: str, **stages: Any) -> Design:
    """A job of one array, the stages of job and array said side by side."""
    own = {stage: stages.pop(stage) for stage in ARRAY_STAGES if stage in stages}
    return Design(name=name, arrays=(ArrayGivens(id=FIRST_ARRAY, **own),), **stages)
