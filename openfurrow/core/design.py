"""What the planner gives: one validated, versioned document."""

from typing import Annotated, Literal

from pydantic import Field

from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.givens import Givens
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.stakeout.givens import StakeoutGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens

SCHEMA_VERSION = 4

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
)


class Design(Givens):
    """Everything people decide about one job, stage by stage, in SI units."""

    schema_version: Literal[4] = 4
    name: Annotated[str, Field(min_length=1, max_length=120, description="What the job is called")]
    site: SiteGivens = SiteGivens()
    sun: SunGivens = SunGivens()
    rows: RowsGivens = RowsGivens()
    structure: StructureGivens = StructureGivens()
    footings: FootingsGivens = FootingsGivens()
    frame: FrameGivens = FrameGivens()
    modules: ModulesGivens = ModulesGivens()
    trench: TrenchGivens = TrenchGivens()
    wiring: WiringGivens = WiringGivens()
    materials: MaterialsGivens = MaterialsGivens()
    stakeout: StakeoutGivens = StakeoutGivens()
