"""What wind, snow and weight ask of glass and clamps: small pieces at edges take more than all."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.loads.corners import corner
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.working import Source


@dataclass(frozen=True)
class OnPiece:
    """Worst loads square to the glass on a piece of one area; ``zone`` is where it is worst."""

    press_pa: float
    lift_pa: float
    zone: str
    down: float
    up: float
    source: Source


def on_piece(pack: RulePack, rows: RowsPlan, loads: TableLoads, area_m2: float) -> OnPiece:
    """The loads on a piece of ``area_m2`` at the worst place of a table.

    To be held against what a data sheet calls a design load, the tested load over 1.5: us by the
    allowable-stress combinations, metric by the service combinations, whose factors are one.
    """
    section = rows.section
    at = corner(pack, section, float(rows.tables.lengths_m.max()), area_m2)
    combined = loads.strength if pack == "us" else loads.service
    cosine = math.cos(math.radians(section.tilt_deg))
    heaviest, lightest = (
        dead * STANDARD_GRAVITY_M_S2 * cosine
        for dead in (loads.dead_kg_per_m2, loads.least_dead_kg_per_m2)
    )
    weight = combined.dead * heaviest + combined.snow * loads.snow_pa * cosine**2
    q = loads.wind.velocity_pa
    press = float((weight + combined.wind * at.down * q).max())
    largest = float(combined.wind.max())
    lift = -(constant(pack, "lightest_dead").value * lightest + largest * at.up * q)
    return OnPiece(max(0.0, press), max(0.0, lift), at.zone, at.down, at.up, at.source)
