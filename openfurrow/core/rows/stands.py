"""Whether the glass may stand where it does: what is there, whose land it is, what is known."""

import math
from collections.abc import Callable

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.checks import Check, Mend, holds, in_metres, mended_by
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.placed import Placed
from openfurrow.core.rows.tables import Setting
from openfurrow.core.site.earthwork import earthwork
from openfurrow.core.site.ground import Ground
from openfurrow.core.site.keepouts import KeepOuts, array_shift_m
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.working import COMMON_PRACTICE, GIVEN, Answer, Input, Source, Working

Floats = NDArray[np.float64]


ELSEWHERE = "Move the array or turn it, choose another place, or make it smaller."
# More tables than this are not graded flat in one go.
GRADED_TABLES = 12
# Places under a table, along it and up its slope, at which the ground is asked for grading.
GRADED = (24, 8)


def level_answers(site: SitePlan, lie: Lie) -> tuple[Answer, ...]:
    """Soil to move where the ground under the array were made level: ballast wants it so."""
    surface, tables = site.known.surface, lie.tables
    if surface is None or len(tables.row) > GRADED_TABLES:
        return ()
    found = earthwork(surface, shapely.union_all(tables.outlines))
    if found is None:
        return ()
    return (
        Answer(
            "rows",
            "level_pad",
            "Soil to move, were it made level",
            Working(
                "V",
                "",
                (
                    Input("A", "area under the glass", found.area_m2, "area"),
                    Input("z", "level at which cut and fill are alike", found.level_m, "coordinate"),
                ),
                found.cut_m3,
                "volume",
                Source("triangles of the surface, cut at the level", "geometry"),
                "As it lies, without swell. Ballast wants level ground; posts do not.",
            ),
        ),
    )


def grading_answers(ground: Ground, lie: Lie) -> tuple[Answer, ...]:
    """Soil to move where the ground under each table were brought to the plane that fits it best."""
    tables, section = lie.tables, lie.tables.section
    along = (np.arange(GRADED[0]) + 0.5) / GRADED[0] - 0.5
    up = (np.arange(GRADED[1]) + 0.5) / GRADED[1]
    a = (along[:, None] * tables.lengths_m[:, None, None]) * np.ones((1, 1, GRADED[1]))
    b = (up * section.level_depth_m)[None, None, :] * np.ones((tables.count, GRADED[0], 1))
    every = np.arange(tables.count)[:, None, None]
    level = ground.level_m(*tables.east_north_m(every, a, tables.edge_back_m + b))
    # Cells stand evenly about the middle, so that each slope is found by itself.
    off = level - level.mean(axis=(1, 2), keepdims=True)
    for way in (a, b - section.level_depth_m / 2):
        slope = (off * way).sum(axis=(1, 2)) / (way**2).sum(axis=(1, 2))
        off = off - slope[:, None, None] * way
    cell_m2 = tables.lengths_m * tables.level_share * section.level_depth_m / (GRADED[0] * GRADED[1])
    cut = np.maximum(off, 0.0).sum(axis=(1, 2)) * cell_m2
    worst = int(cut.argmax())
    return (
        Answer(
            "rows",
            "grading",
            "Soil to move to even it under the tables",
            Working(
                "V",
                "",
                (
                    Input("V_c", "cut, and as much fill", float(cut.sum()), "volume"),
                    Input("V_1", "of it under the table that asks most", float(cut[worst]), "volume"),
                    Input("d_c", "deepest cut", float(off.max()), "tape"),
                    Input("d_f", "deepest fill", float(-off.min()), "tape"),
                ),
                float(cut.sum()),
                "volume",
                Source("ground under each table against the plane that fits it best", "geometry"),
                "Cut goes into the fill beside it, as it lies, without swell. Where it costs more than "
                "posts that differ, the posts follow the ground.",
            ),
        ),
    )


def stand_checks(
    site: SitePlan, stands: Placed, swept: NDArray[np.object_] | None = None
) -> tuple[Check, ...]:
    """Tables on keep-outs, beyond the boundary, off the known surface.

    ``swept`` is what each takes of the ground where that is more than its glass lies over.
    """
    tables, keepouts, called = stands.lie.tables, site.keepouts, stands.name_of
    outlines = tables.outlines if swept is None else swept
    hits = keepouts.shapes_on(outlines, "glass")
    outside = np.flatnonzero(keepouts.shapes_outside(outlines))
    mends: tuple[Mend, ...] = ()
    if hits or outside.size:
        none = (np.empty(0), np.empty(0))
        mends = array_mends(keepouts, tables.setting, none, outlines)
    checks = [
        mended_by(
            holds(
                "rows",
                "keep_out",
                "Glass stands clear of what is there",
                not hits,
                "; ".join(f"{hit.label}: {named(hit.which, 'table', called)}" for hit in hits[:3])
                or "clear",
                "clear of every keep-out",
                remedy=ELSEWHERE,
                source=hits[0].zone.feature.facts.source if hits and hits[0].zone else COMMON_PRACTICE,
                given="rows.at_east_m",
            ),
            *mends,
        )
    ]
    if keepouts.inside is not None:
        checks.append(
            mended_by(
                holds(
                    "rows",
                    "boundary",
                    "Glass stays inside the boundary",
                    not outside.size,
                    f"{named(tuple(outside.tolist()), 'table', called)} over the setback line"
                    if outside.size
                    else "inside",
                    f"{spoken(keepouts.setback_m, 'run')} inside the boundary",
                    remedy=ELSEWHERE,
                    source=site.limits.setback_source if site.limits.setback_m is not None else GIVEN,
                    given="rows.at_east_m",
                ),
                *mends,
            )
        )
    if site.known.surface is not None:
        east, north = np.moveaxis(tables.corners, 2, 0)
        off = np.flatnonzero(~site.ground.known(east, north).all(axis=1))
        checks.append(
            holds(
                "rows",
                "known",
                "The ground under the glass is known",
                not off.size,
                f"{named(tuple(off.tolist()), 'table', called)} off the survey"
                if off.size
                else "known",
                "shots all round",
                remedy="Shoot the ground there; off the survey the nearest known level "
                "is taken, and that may be wrong.",
                source=COMMON_PRACTICE,
                given="site.surveys",
            )
        )
    return tuple(checks)


def counted(number: int) -> str:
    """Things are counted from one."""
    return str(number + 1)


def named(which: tuple[int, ...], thing: str, called: Callable[[int], str] = counted) -> str:
    """``post 4``, or ``posts 4, 5, 6 and 3 more``."""
    shown = ", ".join(called(number) for number in which[:4])
    more = f" and {len(which) - 4} more" if len(which) > 4 else ""
    return f"{thing}{'s' if len(which) > 1 else ''} {shown}{more}"


def compass_word(bearing_deg: float) -> str:
    """The nearest of eight winds."""
    winds = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
    return winds[round(bearing_deg / 45.0) % 8]


def shift_words(shift_m: float, bearing_deg: float) -> str:
    """A shift along a bearing in words: a length and a wind."""
    toward = bearing_deg if shift_m > 0 else bearing_deg + 180.0
    return f"{spoken(abs(shift_m), 'run')} {compass_word(toward % 360.0)}"


def array_mends(
    keepouts: KeepOuts,
    setting: Setting,
    posts: tuple[Floats, Floats],
    outlines: NDArray[np.object_],
) -> tuple[Mend, ...]:
    """Which shift of the whole array would clear it, along the row and across it, the least first."""
    ways = []
    for bearing in (setting.along_deg, setting.facing_deg):
        shift = array_shift_m(keepouts, posts, outlines, bearing)
        if shift is not None:
            turn = math.radians(bearing)
            edits = (
                ("rows.at_east_m", in_metres(setting.east_m + shift * math.sin(turn))),
                ("rows.at_north_m", in_metres(setting.north_m + shift * math.cos(turn))),
            )
            ways.append((abs(shift), shift_words(shift, bearing), edits))
    return tuple(Mend(f"Shift the array {words}", edits) for _, words, edits in sorted(ways))
