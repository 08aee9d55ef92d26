"""One array's year: its tables by kind, and what its modules bring before wires and converters."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.around import around_of, with_rows
from openfurrow.core.energy.cells import Cells, Electronics
from openfurrow.core.energy.ground_light import RowsOver
from openfurrow.core.energy.horizon import FarHorizon
from openfurrow.core.energy.kinds import ahead_of_tables, kinds_of, normals_of_kinds
from openfurrow.core.energy.plane import normal_of
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Field, LightYear, Panel, Upkeep, light_year
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import Standing
from openfurrow.core.sun.givens import SunGivens

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True)
class ArrayYear:
    """What an array's modules bring in a year.

    ``kind_of`` is each table's kind in ``field`` and ``light``, ``watts`` the rated power of all its
    modules.
    """

    field: Field
    panel: Panel
    upkeep: Upkeep
    light: LightYear
    kind_of: Integers
    watts: float
    modules: int

    @property
    def by_table_h(self) -> Floats:
        """Full hours of each table."""
        return np.asarray(self.light.by_kind_h[self.kind_of])


def panel_of(rows: RowsPlan, modules: ModulesGivens, electronics: Electronics) -> Panel:
    """The modules as they lie on these tables."""
    upright = not rows.across
    return Panel(
        cells=Cells(
            upright=upright,
            high=rows.modules_high,
            up_m=rows.module_up_m,
            across_m=rows.module_along_m,
            gap_m=rows.gap_up_m,
            groups=modules.bypass_groups,
            halved=modules.cells_halved,
        ),
        coefficient_per_c=modules.power_coefficient_per_c,
        back=modules.back_share,
        electronics=electronics,
    )


def upkeep_of(sun: SunGivens) -> Upkeep:
    """What is said of dirt, snow and the rest."""
    return Upkeep(albedo=sun.albedo, dirt=sun.dirt, other=sun.other_losses, snow_days=sun.snow_days)


def field_of(
    sky: Sky, rows: RowsPlan, standing: Standing, others: Iterable[Lie], far: FarHorizon
) -> tuple[Field, Integers]:
    """The tables of an array by kind, and the kind of each."""
    lie, section = rows.lie, rows.section
    of, ahead, turned = kinds_of(lie.tables, ahead_of_tables(lie))
    modules = np.bincount(of, lie.tables.columns * rows.modules_high).astype(float)
    pitch = rows.pitch_m if np.isfinite(ahead.before_m).any() else None
    plain = normal_of(section.tilt_deg, rows.facing_deg)
    found = Field(
        over=(RowsOver(section, section.lower_edge_m, pitch),),
        facing_deg=rows.facing_deg,
        along_deg=rows.along_deg,
        normals=normals_of_kinds(rows, ahead.rise, turned),
        turned_deg=turned,
        modules=modules,
        ahead=ahead,
        around=around_of(sky, with_rows(standing, others, lie), far, lie, plain),
    )
    return found, of


def year_of_array(
    sky: Sky, field: tuple[Field, Integers], panel: Panel, watts: float, upkeep: Upkeep
) -> ArrayYear:
    """Follow the light through the year; ``watts`` is the rated power of all modules."""
    tables, of = field
    return ArrayYear(
        field=tables,
        panel=panel,
        upkeep=upkeep,
        light=light_year(sky, tables, panel, upkeep),
        kind_of=of,
        watts=watts,
        modules=round(float(tables.modules.sum())),
    )
