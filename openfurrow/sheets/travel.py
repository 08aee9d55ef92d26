"""A table at each of its tilts: from its end with what tilts it, and its bents with their forces."""

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.frame.mover.arm import Mover
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.strained import strained_drawings
from openfurrow.sheets.drawings.travel import (
    Curve,
    curve_of,
    degrees,
    force_drawing,
    held_at,
    limits_deg,
    side_drawing,
)
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.models import AskedSheet, Column, TableText

# Tilts through which a mover is stepped.
STEPS = 13


def travel_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """One drawing a tilt, of a mover two: from its end, and where on its curve of force it stands.

    Raises Lacking before anybody knows what stands there.
    """
    if not plan.has("frame"):
        raise Lacking(plan.lacking("frame"))
    curve, mover = curve_of(plan), plan.frame.mover
    tilts = [one.tilt_deg for one in plan.rows.positions]
    if curve is not None:
        tilts = np.linspace(*limits_deg(plan), STEPS).tolist()
    drawings: list[Drawing] = []
    for tilt in tilts:
        drawings.append(side_drawing(plan, tilt, units))
        if curve is not None:
            drawings.append(force_drawing(curve, tilt, units))
    return AskedSheet(
        drawings=tuple(drawings),
        tables=() if curve is None else (_table(curve, mover, tilts, units),),
        takes=(),
        note="Edges go the dashed ways; the bolt stays where it is." + _of_curve(curve),
    )


def _of_curve(curve: Curve | None) -> str:
    if curve is None:
        return ""
    return f" The {curve.kind} is the greatest of every gust, weight and snow there."


def _table(curve: Curve, mover: Mover | None, tilts: list[float], units: UnitSystem) -> TableText:
    return (
        _drive_table(curve, tilts, units)
        if mover is None
        else _travel_table(mover, curve, tilts, units)
    )


def _drive_table(curve: Curve, tilts: list[float], units: UnitSystem) -> TableText:
    """By the turn of a tube: how much its drive holds."""
    return TableText(
        key="travel",
        title="The drive through its travel",
        columns=(Column(title="Turned", number=True), Column(title="Holds", number=True)),
        rows=tuple(
            (degrees(tilt), format_value(held_at(curve, tilt), curve.kind, units)) for tilt in tilts
        ),
        left_out=0,
        note="Above nought it looks the way of the morning. A level on a rail beside the drive and one "
        "at each end: where they do not agree, a coupler or a clamp has slipped.",
    )


def _travel_table(found: Mover, curve: Curve, tilts: list[float], units: UnitSystem) -> TableText:
    """By the tilt: how long, how far out, on what arm, how much it holds."""
    heads = ("Tilt", "Bolt to bolt", "Arm", "Turns the table", "Holds")

    def row(tilt: float) -> tuple[str, ...]:
        triangle, force = found.triangle, held_at(curve, tilt)
        arm = abs(float(triangle.turns_on_m(tilt)))
        return (
            f"{tilt:.0f}°",
            format_value(float(triangle.length_m(tilt)), "tape", units),
            format_value(arm, "tape", units),
            format_value(force * arm, "moment", units),
            format_value(force, "force", units),
        )

    return TableText(
        key="travel",
        title="The actuator through its travel",
        columns=tuple(Column(title=head, number=True) for head in heads),
        rows=tuple(row(tilt) for tilt in tilts),
        left_out=0,
        note="Read a level on an outer rail and a tape from bolt to bolt: where both do not agree, an "
        "arm or a bracket is not where it was said to be.",
    )


def bents_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """The bents that are pressed and lifted hardest at each tilt, two drawings a tilt.

    Raises Lacking before anybody knows what stands there.
    """
    if not plan.has("structure"):
        raise Lacking(plan.lacking("structure"))
    drawings: list[Drawing] = []
    for position in plan.rows.positions:
        for one in strained_drawings(plan, units, position):
            words = f"At {position.tilt_deg:g}°, {one.title[:1].lower()}{one.title[1:]}"
            key = f"{one.key}_{position.tilt_deg:g}"
            drawings.append(one.model_copy(update={"key": key, "title": words}))
    return AskedSheet(drawings=tuple(drawings), tables=(), takes=(), note="Each tilt to its own scale.")
