"""Fixed tilts, tilts that follow the seasons, glass that follows the sun."""

import math
from hashlib import sha256

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.energy.movers import mover_years
from openfurrow.core.energy.seasons import SeasonPlan, Setting, plan_of, season_plan, trade_plan
from openfurrow.core.energy.stands import Reach, reach_of, stand_of
from openfurrow.core.energy.tilts import Curve, tilt_curve
from openfurrow.core.givens import LONGEST_ID
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.year_days import day_words
from openfurrow.sheets.drawings.tilting import curve_drawing, seasons_drawing
from openfurrow.sheets.energy.parts import at_meter, number_table, percent, standing_note
from openfurrow.sheets.models import AskedSheet, EditText, MendText, TableText

# The days of the solstices, by the half of the globe.
MIDWINTER_DAY = {True: 354, False: 171}


def tilt_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
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
    fixed = plan.rows.travel is None
    takes = [
        *([_take_fixed(design, plan, best)] if plan.rows.moves or abs(best - now) >= 0.5 else []),
        *(_take_settings(design, plan, name, one) for name, one in plans),
    ]
    return AskedSheet(
        drawings=(
            curve_drawing(
                "tilts",
                "A year by the tilt, fixed",
                "tilt from level",
                curve,
                now if fixed else None,
            ),
            seasons_drawing((plans[1], plans[0], plans[2]), latitude),
        ),
        tables=(
            _settings_table(design, plan, curve, plans, units),
            _movers_table(plan, curve, units),
        ),
        takes=tuple(takes) if fixed else (),
        note=standing_note(plan)
        + "At the pitch that the rows have; the curve before wires and inverters, the lists at the "
        f"meter. {of_what(plan.energy.sky)}",
    )


def _let_go(design: Design, plan: Plan) -> list[EditText]:
    """Without the settings that there are."""
    own = design.array(plan.array.id).rows.positions
    return [EditText(path=in_array(plan.array.id, f"rows.positions.{one.id}"), text="") for one in own]


def _take_fixed(design: Design, plan: Plan, best: float) -> MendText:
    tilt = EditText(path=in_array(plan.array.id, "rows.tilt_deg"), text=f"{best:.0f}")
    return MendText(words=f"Take {best:.0f}°, fixed", edits=(*_let_go(design, plan), tilt))


def _take_settings(design: Design, plan: Plan, name: str, seasons: SeasonPlan) -> MendText:
    """The settings as positions, put up at that of midwinter; what is alike has the same ids."""
    array, midwinter = plan.array.id, _midwinter(design)
    put_up = seasons.on(midwinter).tilt_deg
    edits = [
        *_let_go(design, plan),
        EditText(path=in_array(array, "rows.tilt_deg"), text=f"{put_up:g}"),
    ]
    for number, one in enumerate(seasons.settings):
        said = f"{number} {one.tilt_deg:g} {one.from_day}"
        made = sha256(said.encode()).hexdigest()[:LONGEST_ID]
        at = in_array(array, "rows.positions")
        edits += [
            EditText(path=f"{at}.+{made}", text=""),
            EditText(path=f"{at}.{made}.tilt_deg", text=f"{one.tilt_deg:g}"),
            EditText(path=f"{at}.{made}.day", text=day_words(one.from_day)),
        ]
    return MendText(words=f"Set it so: {name}", edits=tuple(edits))


def _midwinter(design: Design) -> int:
    return MIDWINTER_DAY[(design.site.latitude_deg or 0.0) >= 0]


def _as_it_is(plan: Plan, curve: Curve) -> SeasonPlan:
    """Through the year as it is set now, or as it follows the sun."""
    if plan.rows.travel is not None:
        hours = plan.energy.arrays[plan.open].light.power.sum() * plan.energy.sky.step_h
        return SeasonPlan((Setting(plan.rows.section.tilt_deg, 0),), float(hours))
    said = [(one.tilt_deg, day) for one in plan.rows.positions for day in one.days]
    tilts, days = zip(*(said or [(plan.rows.section.tilt_deg, 0)]), strict=True)
    return plan_of(curve, tilts, days)


def _settings_table(
    design: Design,
    plan: Plan,
    curve: Curve,
    plans: tuple[tuple[str, SeasonPlan], ...],
    units: UnitSystem,
) -> TableText:
    """Each way of setting the tilt: when, what it brings, what work it is, how far it reaches."""
    now, (best, _) = _as_it_is(plan, curve), curve.best
    minutes = constant("common", "tilt_change_min").value * plan.rows.tables.count
    midwinter = _midwinter(design)
    watts = plan.energy.arrays[plan.open].watts * at_meter(plan)

    limit_m = plan.site.limits.height_m

    def reach(one: SeasonPlan) -> Reach:
        return reach_of(plan.rows, one, plan.sun, midwinter)

    def row(name: str, settings: str, hours: float, changes: int, found: Reach) -> tuple[str, ...]:
        return (
            name,
            settings,
            format_value(hours * watts, "energy", units),
            percent(hours / now.year_h - 1),
            f"{changes * minutes:.0f} min" if changes else "none",
            format_value(found.lower_edge_m, "tape", units),
            _held(found.upper_edge_m, limit_m, units),
            format_value(found.needed_pitch_m, "run", units),
        )

    def fixed(name: str, tilt: float, hours: float) -> tuple[str, ...]:
        one = SeasonPlan((Setting(tilt, 0),), hours)
        return row(name, f"{tilt:.0f}°", hours, 0, reach(one))

    rows = [
        row(
            "as it is",
            _now_text(plan, now),
            now.year_h,
            now.changes if plan.rows.moves and plan.rows.travel is None else 0,
            reach(now),
        ),
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
            "Tilts, each from its day",
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
        f"at the tilt of midwinter.{limit} What is taken from here carries the loads of every setting.",
        words=2,
    )


def _now_text(plan: Plan, now: SeasonPlan) -> str:
    """How the tables are set."""
    if plan.rows.travel is not None:
        low, high = plan.rows.travel.limits_deg
        return f"with the sun, {low:g}° to {high:g}°"
    return _settings_text(now) if plan.rows.moves else f"{plan.rows.section.tilt_deg:.0f}°"


def _held(upper_m: float, limit_m: float | None, units: UnitSystem) -> str:
    """How high the upper edge comes, and whether that is too high."""
    over = limit_m is not None and upper_m > limit_m + 1e-9
    return format_value(upper_m, "tape", units) + (", too high" if over else "")


def _settings_text(plan: SeasonPlan) -> str:
    """Each tilt with the day from which it stands."""
    told = (f"{one.tilt_deg:.0f}° {day_words(one.from_day)}" for one in plan.settings)
    return ", ".join(one.replace(" ", "\u00a0") for one in told)


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
