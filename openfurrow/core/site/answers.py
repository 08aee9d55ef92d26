"""What the site alone can answer: the fall, the frost, the reach of the survey, the area."""

import numpy as np
import shapely

from openfurrow.core.codes import Constant
from openfurrow.core.quantities import either
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.ground import GroundPlane, plane_through
from openfurrow.core.site.keepouts import KeepOuts
from openfurrow.core.site.known import Known
from openfurrow.core.site.soil import Soil
from openfurrow.core.site.surface import Surface, distinct
from openfurrow.core.site.tickets import LOCAL_RULE, Locate
from openfurrow.core.working import (
    COMMON_PRACTICE,
    GEOMETRY,
    GIVEN,
    Answer,
    Input,
    Source,
    Working,
)

FALL_OVER_M = 10.0
TRIANGLES = Source("triangles between the shots (Delaunay), level by the plane of each", "geometry")


def site_answers(
    givens: SiteGivens,
    known: Known,
    soils: tuple[Soil, ...],
    keepouts: KeepOuts,
    hand_dig: Constant,
    found: Locate,
) -> tuple[Answer, ...]:
    """The answers in the order a planner reads them."""
    said = (
        _fall(givens, known),
        _given(
            "frost",
            "Footings end below",
            "z_frost",
            givens.frost_depth_m,
            "tape",
            givens.frost_from,
            "Every footing ends below this.",
            headline=True,
        ),
        (
            Answer(
                "site",
                "locate",
                "Buried lines",
                Working(
                    "",
                    "",
                    (Input("day", "digging starts", found.day, "text"),),
                    "located" if found.settled else "not all located",
                    "text",
                    LOCAL_RULE,
                    "; ".join(line.words for line in found.lines) + ".",
                ),
                True,
            ),
        ),
        _survey_answers(known),
        _grip(givens, soils),
        _given(
            "wind",
            "Design wind",
            "V",
            givens.wind_speed_m_s,
            "speed",
            givens.wind_from,
            "3-second gust in the us pack, 10-minute mean in the metric pack. The load grows with "
            "its square.",
        ),
        _given(
            "ground_snow",
            "Snow on the ground",
            "p_g",
            givens.ground_snow_pa,
            "pressure",
            givens.snow_from,
            "On level ground; the table's own snow stands in Footings.",
        ),
        (
            Answer(
                "site",
                "hand_dig",
                "Dug by hand either side of a mark",
                Working(
                    "b_hand",
                    "",
                    (),
                    hand_dig.value,
                    "tape",
                    hand_dig.source,
                    "Beyond the band in which the line may lie.",
                ),
            ),
        ),
        _boundary_answers(keepouts),
    )
    return tuple(answer for part in said for answer in part)


def _given(
    key: str,
    label: str,
    symbol: str,
    value: float | None,
    kind: str,
    source: str,
    note: str,
    *,
    headline: bool = False,
) -> tuple[Answer, ...]:
    """What was said of the site, as it was said; nothing where nobody has."""
    if value is None:
        return ()
    working = Working(symbol, "", (), value, kind, _from(source), note)
    return (Answer("site", key, label, working, headline),)


def _from(words: str) -> Source:
    return Source(words.strip(), "given") if words.strip() else GIVEN


def _fall(givens: SiteGivens, known: Known) -> tuple[Answer, ...]:
    slope = givens.slope
    note = "Check it with a level and a tape before trusting the plane."
    slope = givens.slope
    if known.surface is not None:
        best = best_plane(known.surface)
        slope = best.slope
        note = (
            f"The plane that fits the shots best falls toward {best.falls_toward_deg:.0f}° true; "
            "the stages ask the surface itself."
        )
    if slope is None:
        return ()
    answer = Answer(
        "site",
        "fall",
        f"Fall over {either('33 ft', '10 m')}",
        Working(
            "fall",
            "s * L",
            (
                Input("s", "slope of the ground", slope, "ratio"),
                Input("L", "level length", FALL_OVER_M, "run"),
            ),
            slope * FALL_OVER_M,
            "tape",
            GEOMETRY,
            note,
        ),
        True,
    )
    return (answer,)


def best_plane(surface: Surface) -> GroundPlane:
    """The plane that fits the shots of a surface best."""
    points = surface.points_m
    return plane_through(points[:, 0], points[:, 1], points[:, 2])


def _survey_answers(known: Known) -> tuple[Answer, ...]:
    surface = known.surface
    if surface is None:
        return ()
    levels = surface.points_m[:, 2]
    steep = float(np.hypot(*surface.slopes.T).max())
    return (
        Answer(
            "site",
            "shots",
            "Shots used",
            Working(
                "n",
                "",
                (Input("d", "usual spacing", surface.spacing_m, "run"),),
                float(len(distinct(known.shots.points_m))),
                "count",
                TRIANGLES,
                f"{len(surface.triangles)} triangles; between shots further apart nothing is taken as "
                "known." + (f" They keep to {len(known.breaks)} break lines." if known.breaks else ""),
            ),
        ),
        Answer(
            "site",
            "known_area",
            "Ground that is known",
            Working(
                "A",
                "",
                (),
                float(surface.extent.area),
                "area",
                TRIANGLES,
                "Level area.",
            ),
        ),
        Answer(
            "site",
            "relief",
            "Lowest to highest shot",
            Working(
                "h",
                "z_high - z_low",
                (
                    Input("z_high", "highest", float(levels.max()), "coordinate"),
                    Input("z_low", "lowest", float(levels.min()), "coordinate"),
                ),
                float(np.ptp(levels)),
                "tape",
                GEOMETRY,
            ),
        ),
        Answer(
            "site",
            "steepest",
            "Steepest triangle",
            Working(
                "s_max",
                "",
                (),
                steep,
                "ratio",
                TRIANGLES,
                "Of all triangles, down its own steepest way.",
            ),
        ),
    )


def _grip(givens: SiteGivens, soils: tuple[Soil, ...]) -> tuple[Answer, ...]:
    """How much of the ground frost can grip; nothing where soil or frost has not been said."""
    frost_m = givens.frost_depth_m
    if not soils or frost_m is None:
        return ()
    worst = max(soils, key=lambda soil: soil.frost_grip_m)
    return (Answer("site", "grip", "Frost can grip", _gripped(givens, worst, frost_m)),)


def _gripped(givens: SiteGivens, worst: Soil, frost_m: float) -> Working:
    if worst.hole:
        return Working(
            "t_grip",
            "",
            (
                Input("hole", "deepest fine soil", worst.hole, "text"),
                Input("z_frost", "frost depth", frost_m, "tape"),
            ),
            worst.frost_grip_m,
            "tape",
            COMMON_PRACTICE,
            "At the test hole where it is deepest; the nearest hole governs each post.",
        )
    fine = worst.frost_grip_m if givens.fine_soil_top_m is None else givens.fine_soil_top_m
    return Working(
        "t_grip",
        "min(t_fine, z_frost)",
        (
            Input("t_fine", "fine soil on top", fine, "tape"),
            Input("z_frost", "frost depth", frost_m, "tape"),
        ),
        worst.frost_grip_m,
        "tape",
        COMMON_PRACTICE,
        "Only silt and clay freeze onto steel hard enough to lift it; clean gravel drains.",
    )


def _boundary_answers(keepouts: KeepOuts) -> tuple[Answer, ...]:
    whole, inside = keepouts.trench_inside, keepouts.inside
    if whole is None or inside is None:
        return ()
    return (
        Answer(
            "site",
            "land",
            "Land inside the boundary",
            Working(
                "A",
                "",
                (Input("P", "round it", float(shapely.length(whole)), "run"),),
                float(whole.area),
                "area",
                GEOMETRY,
            ),
        ),
        Answer(
            "site",
            "buildable",
            "Of it, inside the setback",
            Working(
                "A_in",
                "",
                (Input("b", "setback and how sure the line is", keepouts.setback_m, "run"),),
                float(inside.area),
                "area",
                GEOMETRY,
            ),
        ),
    )
