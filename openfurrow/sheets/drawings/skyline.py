"""Trees and walls as they stand against the sky, seen from the middle of the glass."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.rows.shade import Standing, evenly, glass_places_m, standing_of
from openfurrow.sheets.marks import Mark, area, label, line

Floats = NDArray[np.float64]
Turned = Callable[[Floats], Floats]

# A thing lower than this is not worth its name.
NAMED_FROM_DEG = 5.0
ROUND, ALONG = np.linspace(0.0, 2 * math.pi, 37), np.linspace(0.0, 1.0, 9)


@dataclass(frozen=True)
class _Outline:
    """What one thing covers of the sky: bearing over height, degrees; a tree has a trunk below it."""

    of: int
    layer: str
    points_deg: Floats
    trunk_deg: float | None = None


def skyline(plan: Plan, turned: Turned) -> list[Mark]:
    """The outlines, with the names of those that matter; ``turned`` lays true bearings on the sheet."""
    if not plan.has("rows"):
        return []
    standing = standing_of(plan.site.keepouts, plan.site.ground)
    eye = glass_places_m(plan.rows.lie, evenly(len(plan.rows.lie.tables.row))).mean(axis=0)
    # What lies across the back of the view would be drawn from one edge of the sheet to the other.
    seen = [
        outline
        for outline in (*_crowns(standing, eye, turned), *_walls(standing, eye, turned))
        if np.ptp(outline.points_deg[:, 0]) < 180 and outline.points_deg[:, 1].max() > 0
    ]
    marks: list[Mark] = []
    for outline in seen:
        points = np.maximum(outline.points_deg, [-180.0, 0.0])
        if outline.trunk_deg is not None:
            foot = float(points[:, 1].min())
            marks.append(line("trunk", (outline.trunk_deg, 0.0), (outline.trunk_deg, foot)))
        marks.append(area(outline.layer, *map(tuple, points)))
    return marks + _names(standing, seen)


def _names(standing: Standing, seen: list[_Outline]) -> list[Mark]:
    tops: dict[int, tuple[float, float]] = {}
    for outline in seen:
        bearing, height = outline.points_deg[outline.points_deg[:, 1].argmax()].tolist()
        if height > tops.get(outline.of, (0.0, NAMED_FROM_DEG))[1]:
            tops[outline.of] = (bearing, height)
    return [
        label(standing.names[of], (bearing, height + 2.0), "kind-note", free=True)
        for of, (bearing, height) in sorted(tops.items())
    ]


def _crowns(standing: Standing, eye: Floats, turned: Turned) -> Iterator[_Outline]:
    """Each crown as the disc that it shows; none for one that the eye stands under."""
    for of, crown, (wide, tall) in zip(
        standing.crown_of.tolist(), standing.crowns, standing.radii_m.tolist(), strict=True
    ):
        east, north, up = (crown - eye).tolist()
        away = math.hypot(east, north)
        if away <= wide:
            continue
        bearing = math.degrees(math.atan2(east, north))
        across = wide * np.cos(ROUND)
        azimuth = bearing + np.degrees(np.arctan2(across, away))
        height = np.degrees(np.arctan2(up + tall * np.sin(ROUND), np.hypot(away, across)))
        yield _Outline(
            of,
            "kind-tree",
            np.column_stack((turned(azimuth), height)),
            float(turned(np.array(bearing))),
        )


def _walls(standing: Standing, eye: Floats, turned: Turned) -> Iterator[_Outline]:
    """Each stretch of wall from the horizon to its top."""
    for of, (start, end), top in zip(
        standing.wall_of.tolist(), standing.walls, standing.tops_m.tolist(), strict=True
    ):
        at = start + ALONG[:, None] * (end - start) - eye[:2]
        bearing = turned(np.degrees(np.arctan2(at[:, 0], at[:, 1])))
        height = np.degrees(np.arctan2(top - eye[2], np.hypot(at[:, 0], at[:, 1])))
        above = np.column_stack((bearing, height))
        below = np.column_stack((bearing[::-1], np.zeros(len(bearing))))
        yield _Outline(of, "kind-building", np.vstack((above, below)))
