"""Purlins of every family that has some: what they carry, how they bend and sag."""

import itertools
import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import continuous_beam
from openfurrow.core.codes import RulePack
from openfurrow.core.codes.section import Section
from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import bending_limits, bends
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.edge_gusts import Gust, Member, crossing_n, gust_on
from openfurrow.core.structures.layout import PostLine
from openfurrow.core.structures.loose import Loose, loose_purlin

Floats = NDArray[np.float64]


def purlin_places_m(rows: RowsPlan) -> Floats:
    """Distance of each purlin from the lower edge, two to a module row, where clamps grip."""
    side, grip = rows.module_up_m, rows.clamped_m(rows.module_up_m)
    starts = np.arange(rows.modules_high) * (side + rows.gap_up_m)
    return np.sort(np.concatenate((starts + grip, starts + side - grip)))


def normal_pressure_pa(
    table: TableSection, loads: TableLoads, dead_kg_per_m2: float, combined: Combinations
) -> tuple[Floats, Floats]:
    """Load square to the glass on the lower and upper half: combinations × wind cases, flat.

    ``dead_kg_per_m2`` is the weight of the table that is meant. Weight acts by cos(tilt), snow (given
    per level area) by its square.
    """
    cosine = math.cos(math.radians(table.tilt_deg))
    weight = combined.dead * dead_kg_per_m2 * STANDARD_GRAVITY_M_S2 * cosine
    square_pa, factor = loads.snow_pa * cosine**2, combined.wind[:, None]
    front = (weight + combined.snow * square_pa)[:, None] + factor * loads.wind.front_pa
    back = (weight + combined.snow_back * square_pa)[:, None] + factor * loads.wind.back_pa
    return front.ravel(), back.ravel()


def down_slope_pa(table: TableSection, loads: TableLoads, dead_kg_per_m2: float) -> Floats:
    """What of weight and snow runs down the slope, over the glass, combination by combination."""
    tilt, combined = math.radians(table.tilt_deg), loads.strength
    snow = np.maximum(combined.snow, combined.snow_back) * loads.snow_pa * math.cos(tilt)
    weight = combined.dead * dead_kg_per_m2 * STANDARD_GRAVITY_M_S2
    return np.asarray((weight + snow) * math.sin(tilt))


@dataclass(frozen=True)
class Bending:
    """Largest bending either way, against what the section may carry; ``words`` say what that is."""

    pressing_n_m: float
    lifting_n_m: float
    limit_n_m: float
    lifting_limit_n_m: float
    words: str

    @property
    def used(self) -> float:
        """Share of the resistance used, the worse of pressing and lifting."""
        return max(self.pressing_n_m / self.limit_n_m, self.lifting_n_m / self.lifting_limit_n_m)

    def under(self, gust: Gust) -> "Bending":
        """The same member, bent by a gust on one bay."""
        return replace(self, pressing_n_m=gust.pressing_n_m, lifting_n_m=gust.lifting_n_m)


@dataclass(frozen=True)
class Purlin:
    """One purlin line of a table, continuous over the posts' beams ``line``.

    ``slope_n_per_m`` is what of weight and snow runs down the slope. ``loose`` is how it would be bent
    sideways and twisted by all that presses on its flange: modules keep it from that where they have it
    ``held``, or it is a pipe, and None. ``gust`` is on
    one bay alone, None where the member carries the table as a whole; ``crossing_n`` the most that one
    presses or pulls any crossing with. Of tables that differ it is the one that is used most; ``sag_m``
    and ``sag_span_m`` are of the one that sags most for its span.
    """

    section: Section
    line: PostLine
    load_n_per_m: float
    lift_n_per_m: float
    slope_n_per_m: float
    loose: Loose | None
    held: bool
    bending: Bending
    gust: Gust | None
    gust_bending: Bending | None
    crossing_n: float
    sag_m: float
    sag_span_m: float
    shape_sag_m: Floats
    shape_moment_n_m: Floats
    stations_m: Floats

    @property
    def sideways(self) -> float:
        """How much more of it would be used, were it loose."""
        return 0.0 if self.loose is None else self.loose.used

    @property
    def used(self) -> float:
        """How much of it is used, every way together where modules do not hold it sideways."""
        gust = 0.0 if self.gust_bending is None else self.gust_bending.used
        return max(self.bending.used, gust) + (0.0 if self.held else self.sideways)


def size_purlin(
    rows: RowsPlan,
    line: PostLine,
    loads: TableLoads,
    dead_kg_per_m2: float,
    purlin: Section,
    pack: RulePack,
    *,
    held: bool,
) -> Purlin:
    """The purlin under the worst half of the chord; its share is chord over the number of purlins.

    Not ``held`` by modules it may turn over between beams, and is taken to be loose there.
    """
    share = rows.section.chord_m / (2 * rows.modules_high)
    front, back = normal_pressure_pa(rows.section, loads, dead_kg_per_m2, loads.strength)
    worst, least = max(front.max(), back.max()) * share, min(front.min(), back.min()) * share
    front, back = normal_pressure_pa(rows.section, loads, dead_kg_per_m2, loads.service)
    sagging = max(abs(front).max(), abs(back).max()) * share
    stiffness = purlin.elastic_pa * purlin.inertia_m4
    unit = continuous_beam(line.purlin_m, line.along_m, 1.0, stiffness)
    between = 0.0 if held else line.longest_span_m
    strong, free = bending_limits(purlin, pack, between)
    sag = np.abs(unit.deflections_m)
    inside = (unit.stations_m >= line.along_m[0]) & (unit.stations_m <= line.along_m[-1])
    # An overhang counts as half a span of twice its length.
    ratios = (
        sag[inside].max() / line.span_m,
        sag[~inside].max(initial=0) / (2 * line.overhang_m if line.overhang_m > 0 else math.inf),
    )
    in_span = ratios[0] >= ratios[1]
    lies = Member(line.purlin_m, line.along_m, share, along=True)
    gust = gust_on(pack, rows, loads, dead_kg_per_m2, lies)
    down_slope = share * float(down_slope_pa(rows.section, loads, dead_kg_per_m2).max())
    lift, per_load = max(0.0, -least), unit.largest_moment_n_m
    square = max(worst, lift, gust.pressing_n_m / per_load, gust.lifting_n_m / per_load)
    bending = Bending(
        worst * per_load, lift * per_load, strong, free, bends(purlin, pack, between).words
    )
    return Purlin(
        section=purlin,
        line=line,
        load_n_per_m=worst,
        lift_n_per_m=lift,
        slope_n_per_m=down_slope,
        loose=loose_purlin(purlin, (square, down_slope), per_load, line.longest_span_m, pack),
        held=held,
        bending=bending,
        gust=gust,
        gust_bending=bending.under(gust),
        crossing_n=crossing_n(pack, rows, loads, dead_kg_per_m2, (share, line.tributary_m)),
        sag_m=float(sagging * (sag[inside].max() if in_span else sag[~inside].max())),
        sag_span_m=line.span_m if in_span else 2 * line.overhang_m,
        shape_sag_m=unit.deflections_m * sagging,
        shape_moment_n_m=unit.moments_n_m * worst,
        stations_m=unit.stations_m,
    )


def worst_purlin(purlins: list[Purlin]) -> Purlin:
    """Of the purlins of all tables the one that is bent most, with the worst of any in all else."""
    sagging = max(purlins, key=lambda one: one.sag_m / one.sag_span_m)
    gusty = max(purlins, key=lambda one: 0.0 if one.gust_bending is None else one.gust_bending.used)
    return replace(
        max(purlins, key=lambda one: one.bending.used),
        gust=gusty.gust,
        gust_bending=gusty.gust_bending,
        loose=max(purlins, key=lambda one: one.sideways).loose,
        sag_m=sagging.sag_m,
        sag_span_m=sagging.sag_span_m,
        crossing_n=max(one.crossing_n for one in purlins),
    )


def purlin_shares_m(rows: RowsPlan) -> Floats:
    """How much of the lower and of the upper half of the chord each purlin carries, (2, purlins).

    A module lies on its two purlins as a beam that reaches past both; the gaps go with the modules
    beside them. Both sums and both moments are those of the halves.
    """
    places = purlin_places_m(rows)
    chord = rows.section.chord_m
    edges = np.concatenate(([0.0], rows.lows_m[1:] - rows.gap_up_m / 2, [chord]))
    shares = np.zeros((2, places.size))
    for row, (low, high) in enumerate(itertools.pairwise(edges.tolist())):
        first, second = places[2 * row], places[2 * row + 1]
        for half, (begin, end) in enumerate(((0.0, chord / 2), (chord / 2, chord))):
            begin, end = max(low, begin), min(high, end)
            long = max(0.0, end - begin)
            upper = long * ((begin + end) / 2 - first) / (second - first)
            shares[half, 2 * row : 2 * row + 2] += long - upper, upper
    return shares
