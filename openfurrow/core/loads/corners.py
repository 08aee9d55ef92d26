"""Gusts at a table's corner: a small piece there takes more than the table does as a whole."""

from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import RulePack, Table, constant, table
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.working import Source


@dataclass(frozen=True)
class Corner:
    """Net coefficients there, positive down, the gust in them; ``zone`` is the figure's own word."""

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


def corner(pack: RulePack, section: TableSection, longest_m: float, area_m2: float) -> Corner:
    """What meets a piece of ``area_m2`` at the corner of the longest table, ``longest_m``.

    Of tables that differ in length the longest has the widest edge, and so the worst zone. Metric: at
    the corner the ends' and the edges' zones meet, and the worse of both counts.
    """
    figure, tilt = table(pack, "wind_components"), section.tilt_deg
    if pack == "metric":
        down = max(_at(figure, f"zone_{zone}_down", tilt) for zone in "bc")
        up = min(_at(figure, f"zone_{zone}_up", tilt) for zone in "bc")
        return Corner("B and C", down, up, figure.source)
    height = section.lower_edge_m + section.rise_m / 2
    zone = zone_for(area_m2, edge_width_m(min(section.level_depth_m, longest_m), height))
    gust = constant(pack, "gust_factor").value
    down, up = (gust * _at(figure, f"zone_{zone}_{way}", tilt) for way in ("down", "up"))
    return Corner(f"{zone}", down, up, figure.source)
