"""Movers on the ground: what they sweep, whether two may meet, who shades whom, and what to be told."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.mover_shade import Standing, shaded_shares
from openfurrow.core.rows.rolling import (
    STANDS_CLEAR,
    reach_answer,
    rolling_checks,
    turned_back_answers,
)
from openfurrow.core.rows.shade import evenly, toward_sun
from openfurrow.core.rows.shade_rules import clock
from openfurrow.core.rows.tables import Tables
from openfurrow.core.rows.travel import Travel, poles_m, swept_ground
from openfurrow.core.site.ground import Ground
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

Floats = NDArray[np.float64]

# Bearings in which a mover is looked at, and places along each of its edges.
BEARINGS, PLACES = 48, 5
# Tilts from limit to limit at which that is looked at.
SWEPT_TILTS = 5
RECTANGLES = Source("rectangles on rectangles, seen along the light", "geometry")


@dataclass(frozen=True)
class Swept:
    """What each mover sweeps, whichever way it looks.

    One entry a table: ``radii_m`` about its pole, or to either side of its tube; ``clear_m`` the least
    that glass and rails ever stand over the ground straight below, ``tops_m`` the most that the glass
    does. ``apart_m`` is what is left between the two that come nearest, of tubes those of two lines;
    None where there is one.
    """

    radii_m: Floats
    clear_m: Floats
    tops_m: Floats
    apart_m: float | None


def swept_by(ground: Ground, lie: Lie, travel: Travel) -> Swept:
    """The most and the least over every bearing, at both limits and between them."""
    heads, lengths = poles_m(lie), lie.tables.lengths_m
    low, high = (
        np.stack(parts)
        for parts in zip(
            *(
                _over_ground(ground, heads, lie.tables, tilt, _bearings(lie.tables, travel))
                for tilt in np.linspace(*travel.limits_deg, SWEPT_TILTS)
            ),
            strict=True,
        )
    )
    apart = None
    if travel.rolls:
        radii = np.full(len(heads), travel.reach_m(lie.tables.section))
        apart = _between_lines(lie, travel)
    else:
        radii = travel.swept_m(lie.tables.section, lengths)
        if len(heads) > 1:
            apart = least_between(heads[:, :2], radii)
    return Swept(radii, low.min(axis=0), high.max(axis=0), apart)


def least_between(at: Floats, radii: Floats) -> float:
    """The least that is left between two circles; below nought where they meet."""
    tree = cKDTree(at)
    away, other = map(np.asarray, tree.query(at, k=2))
    # Of two in one place either may be told as the nearer to itself.
    second = np.where(other[:, 0] == np.arange(len(at)), 1, 0)
    every = np.arange(len(at)), second
    best = float((away[every] - radii - radii[other[every]]).min())
    # A smaller neighbour may lie nearer than a wide one reaches: none further off does better.
    pairs = tree.query_pairs(best + 2 * float(radii.max()) + 1e-6, output_type="ndarray")
    between = np.hypot(*(at[pairs[:, 0]] - at[pairs[:, 1]]).T)
    return float((between - radii[pairs].sum(axis=1)).min(initial=best))


def _between_lines(lie: Lie, travel: Travel) -> float | None:
    """The least that is left between strips of two lines, below nought where they meet; None for one.

    Strips end to end in a line never come nearer than they are put up.
    """
    strips = swept_ground(lie, travel)
    _, line = np.unique(lie.tables.line, return_inverse=True)
    order = np.argsort(line, kind="stable")
    lines = shapely.multipolygons(strips[order], indices=line[order])
    if len(lines) < 2:
        return None
    one, other = shapely.STRtree(strips).query(strips, predicate="intersects")
    meets = line[one] < line[other]
    one, other = one[meets], other[meets]
    shared = shapely.area(shapely.intersection(strips[one], strips[other]))
    if (shared > 0).any():
        # Side by side they share a band so deep along as much of the shorter as both have.
        along = np.minimum(lie.tables.lengths_m[one], lie.tables.lengths_m[other])
        return -float((shared / along).max())
    _, away = shapely.STRtree(lines).query_nearest(lines, exclusive=True, return_distance=True)
    return float(away.min())


def _bearings(tables: Tables, travel: Travel) -> Floats:
    """Ways that glass may look, radians: all round, or each table's own two (bearings, n or 1)."""
    if not travel.rolls:
        return np.linspace(0.0, 2 * np.pi, BEARINGS, endpoint=False)[:, None]
    own = np.radians(tables.setting.facing_deg + tables.turn_deg)
    return np.asarray(np.stack((own, own + np.pi)))


def _over_ground(
    ground: Ground, heads: Floats, tables: Tables, tilt_deg: float, bearings: Floats
) -> tuple[Floats, Floats]:
    """Least height of rails and most height of glass over the ground below, all ways: (n) each.

    Up the slope by u, and s square over the head's middle: u cos t back less s sin t, u sin t and
    s cos t over it. Rails are taken to lie in the plane through the head.
    """
    section, lengths_m = tables.section, tables.lengths_m
    tilt, half = np.radians(tilt_deg), section.chord_m / 2
    ups = np.array([-half, half, -half, half])
    over = np.array([0.0, 0.0, section.stack_m, section.stack_m])
    back = ups * np.cos(tilt) - over * np.sin(tilt)
    level = ups * np.sin(tilt) + over * np.cos(tilt)
    along = np.linspace(-0.5, 0.5, PLACES)[None, :] * lengths_m[:, None]
    bearing, aside = bearings.T[:, :, None, None], along[:, None, :, None]
    east = heads[:, 0, None, None, None] - back * np.sin(bearing) + aside * np.cos(bearing)
    north = heads[:, 1, None, None, None] - back * np.cos(bearing) - aside * np.sin(bearing)
    clear = heads[:, 2, None, None, None] + level - ground.level_m(east, north)
    return clear.min(axis=(1, 2, 3)), clear[..., 2:].max(axis=(1, 2, 3))


def movers_of(lie: Lie) -> Standing:
    """The movers for their shade on each other: heads stand to each other as middles of glass do."""
    return Standing(poles_m(lie), lie.tables.lengths_m, lie.tables.section.chord_m)


def window_shade(lie: Lie, travel: Travel, sun: SunPlan, facing_deg: float) -> tuple[float, float]:
    """The most of any mover's glass that others shade in the winter window, and at which hour."""
    altitude, azimuth = sun.window_altitude_deg, sun.window_azimuth_deg
    tilt, bearing = travel.looks(altitude, azimuth, facing_deg)
    which = evenly(lie.tables.count)
    shares = shaded_shares(movers_of(lie), which, tilt, bearing, toward_sun(altitude, azimuth))
    worst = int(shares.max(axis=0).argmax())
    return float(shares.max()), float(sun.window_h[worst])


def travel_answers(swept: Swept, lie: Lie, travel: Travel) -> tuple[Answer, ...]:
    """How far it reaches, how near it comes to the ground, and what is left between two."""
    section, widest = lie.tables.section, int(swept.radii_m.argmax())
    between = (
        ()
        if swept.apart_m is None
        else (
            Answer(
                "rows",
                "movers_apart",
                "Left between two movers, turned anyhow",
                Working(
                    "d",
                    "",
                    (Input("R", "what the widest sweeps", float(swept.radii_m[widest]), "run"),),
                    swept.apart_m,
                    "run",
                    GEOMETRY,
                    "Each may stand as it stopped: nobody counts on all looking the same way.",
                ),
            ),
        )
    )
    along = float(lie.tables.lengths_m[widest])
    return (
        reach_answer(section, travel) if travel.rolls else _circle_answer(section, along, travel),
        Answer(
            "rows",
            "swept_clear",
            "Nearest to the ground, any way it looks",
            Working(
                "h",
                "",
                (
                    Input("t_1", "steepest", travel.steepest_deg, "angle"),
                    Input("h_e", "lower edge as said", lie.tables.section.lower_edge_m, "tape"),
                ),
                float(swept.clear_m.min()),
                "tape",
                GEOMETRY,
                "Rails and glass over the ground straight below, all round, at both limits and "
                "between them.",
            ),
        ),
        *between,
        *(turned_back_answers(travel) if travel.rolls else ()),
    )


def _circle_answer(section: TableSection, along_m: float, travel: Travel) -> Answer:
    return Answer(
        "rows",
        "swept",
        "Sweeps, about its pole",
        Working(
            "R",
            "sqrt(a**2 + b**2)",
            (
                Input("a", "half the table along", along_m / 2, "run"),
                Input("b", "pole to the furthest edge", travel.reach_m(section), "tape"),
            ),
            float(travel.swept_m(section, along_m)),
            "run",
            GEOMETRY,
            STANDS_CLEAR,
        ),
        True,
    )


def travel_checks(
    swept: Swept,
    lie: Lie,
    travel: Travel,
    givens: RowsGivens,
    site: SitePlan,
    shade: tuple[float, float],
) -> tuple[Check, ...]:
    """Limits that make sense, level glass, the ground, other movers, height, shade."""
    low, high, room = travel.flattest_deg, travel.steepest_deg, constant("common", "walk_between_m")
    several = low < high or not travel.tilts
    inside = several and low <= travel.stow_deg <= high and low <= givens.tilt_deg <= high
    level = float(np.abs(lie.rise_along).max()) < 1e-9
    clear = float(swept.clear_m.min())
    found = [
        holds(
            "rows",
            "travel",
            "It is put up and stowed between its limits",
            inside,
            f"{low:g}° to {high:g}°, put up at {givens.tilt_deg:g}°, stowed at {travel.stow_deg:g}°",
            "flattest, then both, then steepest",
            remedy="Say limits that take in the tilt that it is put up at and the one that it lies at "
            "in wind.",
            source=GEOMETRY,
            given="structure.steepest_deg",
        ),
        holds(
            "rows",
            "travel_level",
            "The glass of a mover lies level along",
            level,
            "level" if level else "a table follows the ground",
            "level",
            remedy="Set what lies along the ground level: turned by the drive, it would tip the other "
            "way.",
            source=GEOMETRY,
            given="rows.tables",
        ),
        holds(
            "rows",
            "travel_days",
            "Nobody sets by days what follows the sun",
            not givens.positions,
            f"{len(givens.positions)} settings are not used" if givens.positions else "none",
            "no settings through the year",
            remedy="Take the settings off the list, or let the pole stand fixed.",
            source=GEOMETRY,
            given="rows.positions",
            otherwise="look",
        ),
        within(
            "rows",
            "swept_ground",
            "Whichever way it looks it clears the ground",
            clear,
            constant("common", "steel_clear_m"),
            "tape",
            most=False,
            remedy="A longer pole, a limit that is less steep, or ground that is taken off uphill.",
            given="rows.lower_edge_m",
        ),
        within(
            "rows",
            "swept_grass",
            "Whichever way it looks grass and snow fit under",
            clear,
            constant("common", "lower_edge_m"),
            "tape",
            most=False,
            remedy="A longer pole: snow that lies under a mover is met from above, and stops it.",
            given="rows.lower_edge_m",
            otherwise="look",
        ),
    ]
    if swept.apart_m is not None:
        found += [
            at_least(
                "rows",
                "swept_apart",
                "No mover can meet another",
                swept.apart_m,
                0.0,
                "run",
                remedy="Open the pitch: two rows that stop differently meet with their edges."
                if travel.rolls
                else "Open the pitch, or the gap between tables of a row: two that stop differently "
                "meet with their corners.",
                source=GEOMETRY,
                given="rows.pitch_m",
            ),
            within(
                "rows",
                "swept_room",
                "One can walk between what two sweep",
                swept.apart_m,
                room,
                "run",
                most=False,
                remedy="Open the pitch."
                if travel.rolls
                else "Open the pitch, or the gap between tables of a row.",
                given="rows.pitch_m" if travel.rolls else "rows.table_gap_m",
                otherwise="look",
            ),
            at_most(
                "rows",
                "shade_movers",
                "No mover shades another in the winter window",
                shade[0],
                0.0,
                "ratio",
                remedy=f"The most is at {clock(shade[1])} solar time: further apart, or narrow the "
                "window. The year's energy counts what is lost.",
                source=RECTANGLES,
                given="rows.pitch_m",
                otherwise="look",
            ),
        ]
    if travel.rolls:
        found += rolling_checks(lie)
    if site.limits.height_m is not None:
        found.append(
            at_most(
                "rows",
                "swept_height",
                "Whichever way it looks it stays under the height limit",
                float(swept.tops_m.max()),
                site.limits.height_m,
                "tape",
                remedy="A shorter pole, a limit that is less steep, or fewer modules high.",
                source=site.limits.height_source,
                given="structure.steepest_deg",
            )
        )
    return tuple(found)
