"""One array's year: its tables by kind, and what its modules bring before wires and converters."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.around import around_of, with_rows
from openfurrow.core.energy.cells import Cells, Electronics
from openfurrow.core.energy.ground_light import RowsOver, Strip
from openfurrow.core.energy.horizon import FarHorizon
from openfurrow.core.energy.kinds import ahead_of_tables, kinds_of, normals_of_kinds
from openfurrow.core.energy.movers import Moving
from openfurrow.core.energy.plane import normal_of
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Field, LightYear, Panel, Upkeep, light_year, moved_year
from openfurrow.core.frame.below import Below
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import Standing
from openfurrow.core.sun.givens import SunGivens

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
# So that what is covered can be told as so many times what is not.
LEAST_ALBEDO = 1e-6


@dataclass(frozen=True, kw_only=True)
class ArrayYear:
    """What an array's modules bring in a year.

    ``light`` is that of all tilts that the tables are set to, each through its days, its kinds the
    tables one by one; ``field`` is as they are put up, ``watts`` the rated power of all modules.
    ``follows`` says that they follow the sun.
    """

    field: Field
    panel: Panel
    upkeep: Upkeep
    light: LightYear
    watts: float
    modules: int
    follows: bool

    @property
    def by_table_h(self) -> Floats:
        """Full hours of each table."""
        return self.light.by_kind_h


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
    return Upkeep(
        albedo=max(sun.albedo, LEAST_ALBEDO),
        dirt=sun.dirt,
        other=sun.other_losses,
        snow_days=sun.snow_days,
    )


def strip_of(below: Below | None, sun: SunGivens) -> Strip | None:
    """Ground that is covered, beside what throws back light elsewhere."""
    if below is None:
        return None
    return Strip(below.front_m, below.back_m, below.throws / max(sun.albedo, LEAST_ALBEDO))


def field_of(
    sky: Sky,
    rows: RowsPlan,
    standing: Standing,
    others: Iterable[Lie],
    far: FarHorizon,
    strip: Strip | None = None,
) -> tuple[Field, Integers]:
    """The tables of an array by kind, and the kind of each; ``strip`` of ground lies under each row."""
    lie, section = rows.lie, rows.section
    of, ahead, turned = kinds_of(lie.tables, ahead_of_tables(lie))
    modules = np.bincount(of, lie.tables.columns * rows.modules_high).astype(float)
    pitch = rows.pitch_m if np.isfinite(ahead.before_m).any() else None
    plain = normal_of(section.tilt_deg, rows.facing_deg)
    found = Field(
        over=(RowsOver(section, section.lower_edge_m, pitch, strip),),
        facing_deg=rows.facing_deg,
        along_deg=rows.along_deg,
        normals=normals_of_kinds(rows, ahead.rise, turned),
        turned_deg=turned,
        modules=modules,
        ahead=ahead,
        around=around_of(sky, with_rows(standing, others, lie), far, lie, plain),
    )
    return found, of


@dataclass(frozen=True)
class SetTo:
    """An array at each of its tilts: its tables by kind and the kind of each, and which tilt when.

    ``put_up`` is which of them it is drawn at, ``by_day`` (365) which stands on each day. One that
    follows the sun is ``moving``, and stands at one of them alone to be drawn.
    """

    at: tuple[tuple[Field, Integers], ...]
    put_up: int
    by_day: Integers
    moving: Moving | None = None


def year_of_array(sky: Sky, field: SetTo, panel: Panel, watts: float, upkeep: Upkeep) -> ArrayYear:
    """Follow the light through the year; ``watts`` is the rated power of all modules."""
    put_up, _ = field.at[field.put_up]
    if (turned := field.moving) is not None:
        light = moved_year(sky, turned.normals, turned.shaded, put_up.around, panel, upkeep)
        light = replace(light, by_kind_h=light.by_kind_h[turned.of])
    else:
        light = _set_by_days(sky, field, panel, upkeep)
    return ArrayYear(
        field=put_up,
        panel=panel,
        upkeep=upkeep,
        light=light,
        watts=watts,
        modules=round(float(put_up.modules.sum())),
        follows=field.moving is not None,
    )


def _set_by_days(sky: Sky, field: SetTo, panel: Panel, upkeep: Upkeep) -> LightYear:
    """Each of the tilts through its days."""
    on_step = field.by_day[sky.day]
    found = []
    for number in np.unique(field.by_day).tolist():
        one, of = field.at[number]
        year = light_year(sky, one, panel, upkeep, (on_step == number).astype(float))
        found.append(replace(year, by_kind_h=year.by_kind_h[of]))
    return joined_years(found)


def joined_years(parts: Sequence[LightYear]) -> LightYear:
    """Years of the same tables, each counted through days of its own, as one."""
    open_h = np.array([one.open_h for one in parts])
    left = np.array([one.left for one in parts])
    whole = max(float(open_h.sum()), 1e-12)
    return LightYear(
        power=np.asarray(sum(one.power for one in parts)),
        by_kind_h=np.asarray(sum(one.by_kind_h for one in parts)),
        open_month_h=np.asarray(sum(one.open_month_h for one in parts)),
        open_h=float(open_h.sum()),
        left=tuple((open_h @ left / whole).tolist()),
    )
