"""Gusts at a table's corner: a small piece there takes more than the table does as a whole."""

import itertools
from collections.abc import Callable
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


@dataclass(frozen=True)
class Stretches:
    """What a gust brings to one bay of a member, stretch by stretch between ``edges_m`` along it.

    Net coefficients, ``down`` and ``up``, over the whole width that the member carries there.
    """

    zone: str
    edges_m: tuple[float, ...]
    down: tuple[float, ...]
    up: tuple[float, ...]
    source: Source


def on_bay(
    pack: RulePack,
    section: TableSection,
    longest_m: float,
    member: tuple[float, float, bool],
    bay_m: tuple[float, float],
) -> Stretches:
    """A bay of a member that is (long, carries so wide a strip, lies along the row or up the slope).

    us: one coefficient for the area that loads the bay, whose width counts as a third of its length at
    least (ASCE/SEI 7-16, 26.2). Metric: each strip of the figure where it lies, a tenth of the table
    from its edges; at the corner the worse of both, and a member up the slope stands at the row's end.
    """
    (long_m, wide_m, along), (begin, end) = member, bay_m
    if pack == "us":
        found = corner(pack, section, longest_m, (end - begin) * max(wide_m, (end - begin) / 3))
        return Stretches(f"zone {found.zone}", (begin, end), (found.down,), (found.up,), found.source)
    figure, share = table(pack, "wind_components"), constant(pack, "edge_strip").value

    def both(pick: Callable[[float, float], float], way: str) -> tuple[float, float]:
        field, ends, edges = (_at(figure, f"zone_{zone}_{way}", section.tilt_deg) for zone in "abc")
        if not along:
            return pick(ends, edges), ends
        strip = min(1.0, share * section.chord_m / wide_m)
        mixed = strip * pick(ends, edges) + (1 - strip) * ends
        return mixed, pick(strip * edges + (1 - strip) * field, field)

    strip_m = share * long_m
    inner = [one for one in (strip_m, long_m - strip_m) if begin < one < end]
    edges = (begin, *inner, end)
    at_end = [
        (first + last) / 2 < strip_m or (first + last) / 2 > long_m - strip_m
        for first, last in itertools.pairwise(edges)
    ]
    down, up = both(max, "down"), both(min, "up")
    return Stretches(
        "zones A, B and C",
        edges,
        tuple(down[0] if one else down[1] for one in at_end),
        tuple(up[0] if one else up[1] for one in at_end),
        figure.source,
    )
