"""Fixed tilts, tilts that follow the seasons, glass that follows the sun."""

import math

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.energy.movers import mover_years
from openfurrow.core.energy.seasons import SeasonPlan, Setting, season_plan, trade_plan
from openfurrow.core.energy.sky import DAYS_OF_MONTH
from openfurrow.core.energy.stands import Reach, reach_of, stand_of
from openfurrow.core.energy.tilts import Curve, tilt_curve
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.tilting import curve_drawing, seasons_drawing
from openfurrow.sheets.drawings.year import SHORT_MONTHS
from openfurrow.sheets.energy.parts import at_meter, number_table, percent, take
from openfurrow.sheets.models import EnergySheet, TableText

# The days of the solstices, by the half of the globe.
MIDWINTER_DAY = {True: 354, False: 171}


def tilt_sheet(design: Design, plan: Plan, units: UnitSystem) -> EnergySheet:
    """Fixed tilts on a curve, tilts that follow the seasons, glass that follows the sun."""
    year = plan.energy.arrays[plan.open]
    stand = stand_of(plan.rows, year)
    curve = tilt_curve(plan.energy.sky, stand)
    plans = (
        ("two settings", season_plan(curve, 2)),
        ("three", season_plan(curve, 3)),
        ("the trade's own 15, 35, 55", trade_plan(curve)),
        ("four", season_plan(curve, 4)),
    )
    latitude = design.site.latitude_deg or 0.0
    now = stand.section.tilt_deg
    best, _ = curve.best
    takes = [take(plan, f"Take {best:.0f}°", "rows.tilt_deg", f"{best:.0f}")]
    return EnergySheet(
        drawings=(
            curve_drawing("tilts", "A year by the tilt, fixed", "tilt from level", curve, now),
            seasons_drawing((plans[1], plans[0], plans[2]), latitude),
        ),
        tables=(
            _settings_table(design, plan, curve, plans, units),
            _movers_table(plan, curve, units),
        ),
        takes=tuple(takes if abs(best - now) >= 0.5 else ()),
        note="At the pitch that the rows have; the curve before wires and inverters, the lists at the "
        f"meter. {of_what(plan.energy.sky)}",
    )


def _settings_table(
    design: Design,
    plan: Plan,
    curve: Curve,
    plans: tuple[tuple[str, SeasonPlan], ...],
    units: UnitSystem,
) -> TableText:
    """Each way of setting the tilt: when, what it brings, what work it is, how far it reaches."""
    now, (best, _) = plan.rows.section.tilt_deg, curve.best
    minutes = constant("common", "tilt_change_min").value * plan.rows.tables.count
    midwinter = MIDWINTER_DAY[(design.site.latitude_deg or 0.0) >= 0]
    watts = plan.energy.arrays[plan.open].watts * at_meter(plan)

    limit_m = plan.site.limits.height_m

    def reach(one: SeasonPlan) -> Reach:
        return reach_of(plan.rows, one, plan.sun, midwinter)

    def row(name: str, settings: str, hours: float, changes: int, found: Reach) -> tuple[str, ...]:
        return (
            name,
            settings,
            format_value(hours * watts, "energy", units),
            percent(hours / curve.year_at(now) - 1),
            f"{changes * minutes:.0f} min" if changes else "none",
            format_value(found.lower_edge_m, "tape", units),
            _held(found.upper_edge_m, limit_m, units),
            format_value(found.needed_pitch_m, "run", units),
        )

    def fixed(name: str, tilt: float, hours: float) -> tuple[str, ...]:
        one = SeasonPlan((Setting(tilt, 0),), hours)
        return row(name, f"{tilt:.0f}°", hours, 0, reach(one))

    rows = [
        fixed("as it is", now, curve.year_at(now)),
        fixed("best fixed", round(best), curve.year_at(round(best))),
    ]
    for name, one in plans:
        rows.append(row(name, _settings_text(one), one.year_h, one.changes, reach(one)))
    limit = "" if limit_m is None else f" Nothing may stand over {format_value(limit_m, 'run', units)}."
    return number_table(
        "settings",
        "Fixed, or set by hand a few times a year",
        (
            "Set",
            "Tilts and days",
            "A year",
            "Against now",
            "Work",
            "Lower edge",
            "Upper edge",
            "Pitch asked",
        ),
        tuple(rows),
        "Set about the bolt, whose height follows from the lower edge at the steepest. Lower edge: "
        "least over all settings; hold it over grass and snow. Pitch: what the winter window asks for "
        f"at the tilt of midwinter.{limit} Loads are those of the tilt that is given: what stands at "
        "several tilts must carry the worst of each, which is not looked at here.",
    )


def _held(upper_m: float, limit_m: float | None, units: UnitSystem) -> str:
    """How high the upper edge comes, and whether that is too high."""
    over = limit_m is not None and upper_m > limit_m + 1e-9
    return format_value(upper_m, "tape", units) + (", too high" if over else "")


def _settings_text(plan: SeasonPlan) -> str:
    """Each tilt with the day from which it stands."""
    return ", ".join(f"{one.tilt_deg:.0f}° from {_day(one.from_day)}" for one in plan.settings)


def _day(day: int) -> str:
    ends = np.cumsum(DAYS_OF_MONTH)
    month = int(np.searchsorted(ends, day, side="right"))
    return f"{day - int(ends[month] - DAYS_OF_MONTH[month]) + 1} {SHORT_MONTHS[month]}"


def _movers_table(plan: Plan, curve: Curve, units: UnitSystem) -> TableText:
    """Glass that moves, and how many more fixed modules earn the same."""
    year = plan.energy.arrays[plan.open]
    _, most = curve.best
    rows = []
    for mover in mover_years(plan.energy.sky, year.field.around, year.panel, year.upkeep):
        gain = mover.year_h / most - 1
        more = math.ceil(year.modules * gain - 1e-9) if gain > 0 else 0
        rows.append(
            (
                mover.name,
                format_value(mover.year_h * year.watts * at_meter(plan), "energy", units),
                percent(gain),
                percent(mover.year_h / curve.year_at(0.0) - 1),
                f"{more}",
            )
        )
    return number_table(
        "movers",
        "Glass that follows the sun",
        ("Moved", "A year", "Against best fixed", "Against flat", "Fixed modules more"),
        tuple(rows),
        f"Fixed modules more: so many beside the {year.modules} at the best fixed tilt earn the same. "
        "The axis turns back so that rows do not shade each other, covering two fifths of the ground; "
        "the pole stands free. What drives and controllers use, and days that they are out of order, "
        "are not counted.",
    )
