"""Three schools of the pitch on one chart, the modules as they lie and laid the other way."""

import math

from openfurrow.core.checks import in_metres
from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.energy.pitches import both_ways
from openfurrow.core.energy.stands import stand_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.pitching import School, interpolated, pitch_drawing
from openfurrow.sheets.energy.parts import at_meter, number_table, take
from openfurrow.sheets.models import EnergySheet

# The share of a year that rows may take from each other where nobody says another.
ACCEPTED = 0.03


def pitch_sheet(
    design: Design, plan: Plan, units: UnitSystem, accepted: float = ACCEPTED
) -> EnergySheet:
    """Three schools of the pitch, portrait and landscape."""
    rows, year = plan.rows, plan.energy.arrays[plan.open]
    stand = stand_of(rows, year)
    walk = constant("common", "walk_between_m").value
    curves = both_ways(plan.energy.sky, stand, walk)
    own = curves[0]
    window = rows.least_pitch_m if math.isfinite(rows.least_pitch_m) else None
    schools = (
        School("window", "winter window", window),
        School("accepted", f"loses {accepted * 100:g} %", own.pitch_for(accepted)),
        School("ground", "most from the ground", own.most_from_ground_m),
    )
    watts = year.watts * at_meter(plan)
    area = stand.section.chord_m * rows.row_length_m * rows.rows
    table_rows = []
    for name, pitch in (
        ("as it is", rows.pitch_m),
        *((one.name, one.pitch_m) for one in schools),
    ):
        if pitch is None:
            table_rows.append((name, "cannot be had", "", "", "", ""))
            continue
        hours, lost = interpolated(own, pitch)
        other = curves[1].lost_at(pitch)
        ground = year.watts / 1000 / (area / stand.section.chord_m * pitch)
        table_rows.append(
            (
                name,
                format_value(pitch, "run", units),
                f"{lost * 100:.1f} %",
                f"{other * 100:.1f} %",
                format_value(hours * watts, "energy", units),
                f"{hours * ground * at_meter(plan):.0f} kWh/m²",
            )
        )
    way = "portrait" if own.upright else "landscape"
    return EnergySheet(
        drawings=(pitch_drawing(curves, schools, rows.pitch_m, units),),
        tables=(
            number_table(
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
                tuple(table_rows),
                f"A row loses: of a year, to the row before it, {way} as now. Winter window: no shade "
                "on the given hours at midwinter. Most from the ground: each area brings most, with "
                "room to walk. The ground falls on the mean; pairs of rows that differ are judged by "
                "their own heights.",
            ),
        ),
        takes=tuple(
            take(
                plan,
                f"Hold {format_value(one.pitch_m, 'run', units)}",
                "rows.pitch_m",
                in_metres(one.pitch_m),
            )
            for one in schools
            if one.pitch_m is not None and abs(one.pitch_m - rows.pitch_m) > 0.02
        ),
        note=of_what(plan.energy.sky),
    )
