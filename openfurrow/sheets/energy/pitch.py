"""Three schools of the pitch on one chart, the modules as they lie and laid the other way."""

from openfurrow.core.checks import in_metres
from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.energy.pitches import PitchCurve, School, Span, both_ways, schools_of
from openfurrow.core.energy.stands import stand_of, watts_per_row_m
from openfurrow.core.energy.tube_pitches import tube_curve, tube_schools
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.pitching import pitch_drawing
from openfurrow.sheets.energy.parts import at_meter, number_table, take
from openfurrow.sheets.models import AskedSheet, MendText, TableText

# The share of a year that rows may take from each other where nobody says another.
ACCEPTED = 0.03
BEYOND = "not looked at"


def pitch_sheet(
    design: Design, plan: Plan, units: UnitSystem, accepted: float = ACCEPTED
) -> AskedSheet:
    """Three schools of the pitch, portrait and landscape."""
    rows = plan.rows
    if rows.travel is not None and rows.travel.rolls:
        return _tubes_sheet(plan, units, accepted)
    if rows.travel is not None:
        return AskedSheet(
            drawings=(),
            tables=(),
            takes=(),
            note="These tables follow the sun, each about its pole. Nearest they stand as far apart as "
            "what both sweep, and room to walk; what they shade each other then stands with the checks "
            "and in the year. Hold a wider pitch and read the year anew.",
        )
    window_m = rows.least_pitch_m
    upto_m = max(one for one in (rows.pitch_m, window_m) if one < float("inf"))
    span = Span(constant("common", "walk_between_m").value, upto_m)
    curves = both_ways(plan.energy.sky, stand_of(rows, plan.energy.arrays[plan.open]), span)
    schools = schools_of(curves[0], window_m, accepted)
    return AskedSheet(
        drawings=(pitch_drawing(curves, schools, rows.pitch_m, units),),
        tables=(_schools_table(plan, curves, schools, units),),
        takes=_takes(plan, schools, units),
        note=of_what(plan.energy.sky),
    )


def _takes(plan: Plan, schools: tuple[School, ...], units: UnitSystem) -> tuple[MendText, ...]:
    """A press for each school that another pitch would follow."""
    return tuple(
        take(
            plan,
            f"Hold {format_value(one.pitch_m, 'run', units)}",
            "rows.pitch_m",
            in_metres(one.pitch_m),
        )
        for one in schools
        if one.pitch_m is not None and abs(one.pitch_m - plan.rows.pitch_m) > 0.02
    )


def _tubes_sheet(plan: Plan, units: UnitSystem, accepted: float) -> AskedSheet:
    """What rows on tubes give for turning back from each other."""
    rows, year = plan.rows, plan.energy.arrays[plan.open]
    curve = tube_curve(plan.energy.sky, rows, year)
    schools = tube_schools(curve, rows.section.chord_m, accepted)
    kept, per_m = at_meter(plan), watts_per_row_m(rows, year)

    def row(name: str, pitch_m: float | None) -> tuple[str, ...]:
        if pitch_m is None:
            return (name, "cannot be had", "", "", "", "")
        hours, lost = curve.hours_at(pitch_m), curve.lost_at(pitch_m)
        brings = (BEYOND, "", "")
        if hours is not None and lost is not None:
            brings = (
                f"{lost * 100:.1f} %",
                format_value(hours * year.watts * kept, "energy", units),
                format_value(hours * kept * per_m / pitch_m / 1000, "irradiation", units),
            )
        cover = rows.section.chord_m / pitch_m
        return (name, format_value(pitch_m, "run", units), f"{cover * 100:.0f} %", *brings)

    return AskedSheet(
        drawings=(pitch_drawing((curve,), schools, rows.pitch_m, units),),
        tables=(
            number_table(
                "schools",
                "Three schools of the pitch",
                ("School", "Pitch", "Covers", "Turning back gives", "A year", "Each m² of ground"),
                (row("as it is", rows.pitch_m), *(row(one.name, one.pitch_m) for one in schools)),
                "Turning back gives: of a year beside one row alone. All rows are taken to turn back, "
                "on ground as it falls on the mean; what a row hides of the next one's sky is not in "
                "here. Closer than people can walk, all turned anyhow, is not looked at.",
            ),
        ),
        takes=_takes(plan, schools, units),
        note=of_what(plan.energy.sky),
    )


def _schools_table(
    plan: Plan, curves: tuple[PitchCurve, PitchCurve], schools: tuple[School, ...], units: UnitSystem
) -> TableText:
    """What each school loses and brings, beside the pitch as it is."""
    rows, year, own = plan.rows, plan.energy.arrays[plan.open], curves[0]
    kept, per_m = at_meter(plan), watts_per_row_m(rows, year)

    def lost(curve: PitchCurve, pitch_m: float) -> str:
        share = curve.lost_at(pitch_m)
        return BEYOND if share is None else f"{share * 100:.1f} %"

    def row(name: str, pitch_m: float | None) -> tuple[str, ...]:
        if pitch_m is None:
            return (name, "cannot be had", "", "", "", "")
        hours = own.hours_at(pitch_m)
        brings = ("", "")
        if hours is not None:
            brings = (
                format_value(hours * year.watts * kept, "energy", units),
                format_value(hours * kept * per_m / pitch_m / 1000, "irradiation", units),
            )
        length = format_value(pitch_m, "run", units)
        return (name, length, lost(own, pitch_m), lost(curves[1], pitch_m), *brings)

    way = "portrait" if own.upright else "landscape"
    return number_table(
        "schools",
        "Three schools of the pitch",
        (
            "School",
            "Pitch",
            "A row loses",
            "Laid the other way",
            "A year, all rows behind",
            "Each m² of ground",
        ),
        (row("as it is", rows.pitch_m), *(row(one.name, one.pitch_m) for one in schools)),
        f"A row loses: of a year, to the row before it, {way} as now. Winter window: no shade on the "
        "given hours at midwinter, and room to walk. Most from the ground: each area brings most, with "
        "room to walk. The ground falls on the mean; pairs of rows that differ are judged by their own "
        "heights. Closer than people can walk is not looked at.",
    )
