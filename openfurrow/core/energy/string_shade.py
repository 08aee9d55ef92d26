"""What shade does to strings: each module's own, and what its string loses because it is mixed.

A module has one current, that of its weakest cells; one that lies across has as many as diodes. A
string runs at one current: those that are weaker are let past by their diodes, and give nothing.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.around import with_rows
from openfurrow.core.energy.cells import Cells
from openfurrow.core.energy.horizon import BEARINGS, FarHorizon, behind, horizons_deg
from openfurrow.core.energy.plane import normal_of, on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import Standing
from openfurrow.core.wiring.walks import modules_at

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Suns that are followed at once, so that a large array fits the memory.
SUNS_AT_ONCE = 512
# Edges that climb are followed in pieces so long, and past so far away they stand too low to matter.
PIECE_M, NEAR_M = 2.0, 120.0


@dataclass(frozen=True, kw_only=True)
class ModuleShade:
    """How the sun reaches modules through a year: ``lit`` (modules, parts, steps).

    Each part is what one diode can let past, ``lit`` the share of the sun's light that its current has:
    1, a half where one of two halves beside each other is shaded, or nought. ``whole`` (steps) is the
    light on open glass, ``even`` the share of it that no shade takes.
    """

    lit: NDArray[np.float32]
    whole: Floats
    even: Floats

    @property
    def by_module_h(self) -> Floats:
        """Share of the year's open light that each module has, by itself: (modules)."""
        best = best_of(self.lit.swapaxes(0, 1), self.even)
        return np.asarray(best @ self.whole / self.whole.sum())

    def by_string(self, order: Integers, lengths: Integers) -> Floats:
        """Share of the year's open light that each string has whose modules it takes in this order."""
        ends = np.cumsum(lengths)
        found = np.empty(lengths.size)
        for number, (end, length) in enumerate(zip(ends.tolist(), lengths.tolist(), strict=True)):
            of = self.lit[order[end - length : end]]
            found[number] = best_of(of.reshape(-1, 1, of.shape[-1]), self.even)[0] @ self.whole
        return np.asarray(found / self.whole.sum())


def best_of(lit: NDArray[np.float32], even: Floats) -> Floats:
    """The best share that parts in series give, (parts, things, steps): by the current they run at."""
    best = np.broadcast_to(even, lit.shape[1:]).copy()
    for current in (0.5, 1.0):
        able = (lit >= current - 1e-9).mean(axis=0)
        np.maximum(best, (even + current * (1 - even)) * able, out=best)
    return best


def _places(cells: Cells) -> tuple[Floats, Integers, Integers]:
    """Heights up a module at which its glass is looked from, and of which part and half each is."""
    short = cells.across_m if cells.upright else cells.up_m
    cell = short / (2 * cells.groups)
    if not cells.upright:
        parts = np.repeat(np.arange(cells.groups), 2)
        ups = (2 * parts + np.tile((0.5, 1.5), cells.groups)) * cell
        return ups, parts, np.zeros_like(parts)
    high = cells.up_m
    if not cells.halved:
        ups = np.array([cell / 2, high / 2, high - cell / 2])
        return ups, np.zeros(3, dtype=np.int64), np.zeros(3, dtype=np.int64)
    ups = np.array([cell / 4, high / 2 - cell / 4, high / 2 + cell / 4, high - cell / 4])
    return ups, np.zeros(4, dtype=np.int64), np.array([0, 0, 1, 1])


def _upper_edges(lie: Lie) -> tuple[Floats, Floats, Integers]:
    """The upper edges of all tables in short pieces: ends (p, 2, 2), level of each, and whose line."""
    tables = lie.tables
    pieces = max(1, int(np.ceil(tables.lengths_m.max() / PIECE_M)))
    share = np.linspace(0.0, 1.0, pieces + 1)
    # The two back corners of a table's outline are its upper edge.
    start, end = tables.corners[:, 3, None], tables.corners[:, 2, None]
    marks = start + share[:, None] * (end - start)
    ends = np.stack((marks[:, :-1], marks[:, 1:]), axis=2).reshape(-1, 2, 2)
    every = np.arange(tables.count)[:, None]
    middle = (share[:-1] + share[1:]) / 2 - 0.5
    level = lie.edge_at(every, middle * tables.lengths_m[:, None]) + tables.section.rise_m
    return ends, level.ravel(), np.repeat(tables.line, pieces)


def _seen_from(standing: Standing, far: FarHorizon, lie: Lie, seen: tuple[Floats, Integers]) -> Floats:
    """The horizon of each place, past what stands and the other lines of tables: (places, bearings)."""
    places, lines = seen
    ends, levels, of = _upper_edges(lie)
    found = np.empty((len(places), BEARINGS))
    for own in np.unique(lines).tolist():
        here = places[lines == own, :2]
        off = np.maximum(here.min(axis=0) - ends, ends - here.max(axis=0)).max(axis=2)
        walls = (of != own) & (off.min(axis=1) < NEAR_M)
        with_others = replace(
            standing,
            walls=np.concatenate((standing.walls, ends[walls])),
            tops_m=np.concatenate((standing.tops_m, levels[walls])),
        )
        found[lines == own] = horizons_deg(with_others, far, places[lines == own])
    return found


def module_shade(
    sky: Sky,
    rows: RowsPlan,
    chosen: Integers,
    cells: Cells,
    around: tuple[Standing, tuple[Lie, ...], FarHorizon],
    albedo: float,
) -> ModuleShade:
    """Look from the ``chosen`` modules, as strings count them off, at every sun of the year.

    ``around`` are what stands there, the tables of other arrays, and the hills. The rows themselves are
    walls up to their upper edges: what shines in under them is not counted.
    """
    standing, others, far = around
    at, section, lie = modules_at(rows), rows.section, rows.lie
    ups, parts, halves = _places(cells)
    up = rows.lows_m[at.row[chosen]][:, None] + ups
    along = np.broadcast_to(at.from_middle_m[chosen][:, None], up.shape)
    of = np.broadcast_to(at.table[chosen][:, None], up.shape)
    tilt = np.radians(section.tilt_deg)
    east, north = lie.tables.east_north_m(of, along, lie.tables.edge_back_m + up * np.cos(tilt))
    level = lie.edge_at(of, along) + up * np.sin(tilt)
    places = np.stack((east, north, level), axis=-1).reshape(-1, 3)
    lines = np.repeat(lie.tables.line[at.table[chosen]], len(ups))
    horizons = _seen_from(with_rows(standing, others, lie), far, lie, (places, lines))
    light = on_plane(sky, normal_of(section.tilt_deg, rows.facing_deg), albedo)
    suns = np.flatnonzero(light.whole > 0)
    hidden = behind(horizons, sky).reshape(len(chosen), len(ups), -1)
    lit = np.empty((len(chosen), int(parts.max()) + 1, suns.size), dtype=np.float32)
    for start in range(0, suns.size, SUNS_AT_ONCE):
        some = slice(start, start + SUNS_AT_ONCE)
        open_ = ~hidden[:, :, suns[some]]
        for part in range(lit.shape[1]):
            own = [
                open_[:, (parts == part) & (halves == half)].all(axis=1) for half in np.unique(halves)
            ]
            lit[:, part, some] = np.mean(own, axis=0)
    whole = light.whole[suns]
    return ModuleShade(lit=lit, whole=whole, even=1 - light.beam[suns] / whole)
