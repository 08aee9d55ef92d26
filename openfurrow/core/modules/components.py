"""What wind, snow and weight ask of glass and clamps: small pieces at edges take more than all."""

import math
from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import RulePack, Table, constant, table
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


def edge_width_m(least_m: float, height_m: float) -> float:
    """a of the figure: a tenth of the least width or 0.4 h, but not under 4 % of it or 0.9 m."""
    share, lower = (constant("us", name).value for name in ("edge_share", "edge_least_share"))
    high, least = (constant("us", name).value for name in ("edge_height_share", "edge_least_m"))
    return max(min(share * least_m, high * height_m), lower * least_m, least)


def zone_for(area_m2: float, edge_m: float) -> int:
    """The zone that counts at a corner: larger pieces fall back from 3 to 2 to 1."""
    return 3 if area_m2 <= edge_m**2 else 2 if area_m2 <= 4 * edge_m**2 else 1


def _at(figure: Table, column: str, tilt_deg: float) -> float:
    return float(np.interp(tilt_deg, figure.numbers["tilt_deg"], figure.numbers[column]))


def _coefficients(
    pack: RulePack, figure: Table, rows: RowsPlan, area_m2: float, tilt_deg: float
) -> tuple[str, float, float]:
    """Zone, and the coefficients down and up with the gust in them."""
    if pack == "metric":
        # At the corner of a table the ends' and the edges' zones meet: the worse of both.
        down = max(_at(figure, f"zone_{zone}_down", tilt_deg) for zone in "bc")
        up = min(_at(figure, f"zone_{zone}_up", tilt_deg) for zone in "bc")
        return "B and C", down, up
    section = rows.section
    height = section.lower_edge_m + section.rise_m / 2
    # Of tables that differ in length the longest has the widest edge, and so the worst zone.
    edge = edge_width_m(min(section.level_depth_m, float(rows.tables.lengths_m.max())), height)
    zone = zone_for(area_m2, edge)
    gust = constant(pack, "gust_factor").value
    return (
        f"{zone}",
        gust * _at(figure, f"zone_{zone}_down", tilt_deg),
        gust * _at(figure, f"zone_{zone}_up", tilt_deg),
    )


def on_piece(pack: RulePack, rows: RowsPlan, loads: TableLoads, area_m2: float) -> OnPiece:
    """The loads on a piece of ``area_m2`` at the worst place of a table.

    To be held against what a data sheet calls a design load, the tested load over 1.5: us by the
    allowable-stress combinations, metric by the service combinations, whose factors are one.
    """
    section = rows.section
    figure = table(pack, "wind_components")
    zone, down, up = _coefficients(pack, figure, rows, area_m2, section.tilt_deg)
    combined = loads.strength if pack == "us" else loads.service
    cosine = math.cos(math.radians(section.tilt_deg))
    heaviest, lightest = (
        dead * STANDARD_GRAVITY_M_S2 * cosine
        for dead in (loads.dead_kg_per_m2, loads.least_dead_kg_per_m2)
    )
    weight = combined.dead * heaviest + combined.snow * loads.snow_pa * cosine**2
    q = loads.wind.velocity_pa
    press = float((weight + combined.wind * down * q).max())
    largest = float(combined.wind.max())
    lift = -(constant(pack, "lightest_dead").value * lightest + largest * up * q)
    return OnPiece(max(0.0, press), max(0.0, lift), zone, down, up, figure.source)
