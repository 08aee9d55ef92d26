"""What the site alone would stop: no surface, wild shots, rock, open ends."""

import math
from itertools import pairwise

from openfurrow.core.checks import Check, Mend, at_least, at_most, holds, mended_by, within
from openfurrow.core.codes import constant
from openfurrow.core.quantities import spoken
from openfurrow.core.site.access import Access
from openfurrow.core.site.answers import TRIANGLES, best_plane
from openfurrow.core.site.breaks import crossing_lines
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.keepouts import KeepOuts
from openfurrow.core.site.known import Known
from openfurrow.core.site.soil import Soil
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY


def site_checks(
    givens: SiteGivens,
    known: Known,
    soils: tuple[Soil, ...],
    keepouts: KeepOuts,
    access: Access,
) -> tuple[Check, ...]:
    """The rules that need nothing but the site."""
    rock = [
        (soil, layer.soil_class)
        for soil in soils
        for layer in soil.layers
        if layer.soil_class.endswith("rock")
    ]
    return (
        *_slope(givens, known),
        *(
            (
                holds(
                    "site",
                    "rock",
                    "The ground is soil",
                    not rock,
                    f"{rock[0][1]}{f' at {rock[0][0].hole}' if rock[0][0].hole else ''}"
                    if rock
                    else soils[0].soil_class,
                    "soil, not rock",
                    remedy="Nothing is driven, screwed or dug through rock as through soil: see what "
                    "footings make of it, and how the trench is dug.",
                    source=COMMON_PRACTICE,
                    given="site.test_holes" if givens.test_holes else "site.soil_class",
                    otherwise="look",
                ),
            )
            if soils
            else ()
        ),
        *_temperatures(givens),
        *_route(givens),
        *_criteria(givens),
        _incomplete(givens),
        _boundary(keepouts),
        *_survey_checks(givens, known),
        *_access_checks(access),
    )


def _slope(givens: SiteGivens, known: Known) -> tuple[Check, ...]:
    slope = givens.slope if known.surface is None else best_plane(known.surface).slope
    if slope is None:
        return ()
    return (
        within(
            "site",
            "slope",
            "Machines can stand on the slope",
            slope,
            constant("common", "plane_slope"),
            "ratio",
            most=True,
            remedy="Steeper than 15 %: survey the ground and ask whether machines can stand on it.",
            given="site.slope" if known.surface is None else "site.surveys",
            otherwise="look",
        ),
    )


def _temperatures(givens: SiteGivens) -> tuple[Check, ...]:
    lowest, hottest = givens.lowest_temperature_c, givens.hottest_temperature_c
    if lowest is None or hottest is None:
        return ()
    return (
        at_most(
            "site",
            "temperatures",
            "Lowest is below hottest",
            lowest,
            hottest,
            "temperature",
            remedy="The lowest temperature must be below the hottest.",
            source=GEOMETRY,
            given="site.lowest_temperature_c",
        ),
    )


def _route(givens: SiteGivens) -> tuple[Check, ...]:
    if not givens.route:
        return ()
    return (
        holds(
            "site",
            "route",
            "The way to the building is drawn",
            _length(givens.route) > 0.5,
            f"{len(givens.route)} points",
            "one point or more",
            remedy="Give east and north of each bend, the last at the building's wall.",
            source=GEOMETRY,
            given="site.route",
        ),
    )


def _criteria(givens: SiteGivens) -> tuple[Check, ...]:
    sources = {
        "wind": (givens.wind_speed_m_s, givens.wind_from),
        "snow": (givens.ground_snow_pa, givens.snow_from),
        "frost": (givens.frost_depth_m, givens.frost_from),
    }
    # What has not been said yet needs no source; where nothing is said nothing is sound either.
    if all(value is None for value, _ in sources.values()):
        return ()
    missing = [
        name for name, (value, words) in sources.items() if value is not None and not words.strip()
    ]
    check = holds(
        "site",
        "criteria",
        "Design criteria say where they come from",
        not missing,
        f"no source for {', '.join(missing)}" if missing else "each has its source",
        "map, clause or person for each",
        remedy="Look them up for this place and write down where: an inspector asks.",
        source=COMMON_PRACTICE,
        given=f"site.{(missing or ['wind'])[0]}_from",
        otherwise="look",
    )
    return (check,)


def _incomplete(givens: SiteGivens) -> Check:
    """Things that cannot be kept clear of, because their place is not known."""
    bad = [feature.label for feature in givens.features if not feature.complete]
    return holds(
        "site",
        "features",
        "Everything that is there has its place",
        not bad,
        ", ".join(bad[:3]) if bad else f"{len(givens.features)} placed",
        "points enough, sides that do not cross",
        remedy="Give the missing points; walk round an area in one direction so that its sides do "
        "not cross.",
        source=GEOMETRY,
        given="site.features",
    )


def _boundary(keepouts: KeepOuts) -> Check:
    inside = keepouts.inside
    words = (
        "not drawn"
        if inside is None
        else ("nothing left inside the setback" if inside.is_empty else "drawn")
    )
    return holds(
        "site",
        "boundary",
        "The boundary is drawn and leaves room",
        words == "drawn",
        words,
        "drawn",
        remedy="Draw it from the deed or the pins: a post on the neighbour's land is pulled again.",
        source=COMMON_PRACTICE,
        given="site.features",
        otherwise="look" if inside is None else "stop",
    )


def _survey_checks(givens: SiteGivens, known: Known) -> tuple[Check, ...]:
    if givens.ground == "plane":
        return ()
    shots = known.shots
    surface = holds(
        "site",
        "surface",
        "The shots make a surface",
        known.surface is not None,
        known.why_not or f"{len(shots.points_m)} shots",
        "shots over the whole array and the way",
        remedy="Shoot the corners, the middle and wherever the ground bends; until then the plane "
        "is used.",
        source=TRIANGLES,
        given="site.surveys",
    )
    if known.surface is None:
        return (surface,)
    worst = float(abs(known.off_m[0])) if len(known.off_m) else 0.0
    first = known.off[0] if len(known.off) else 0
    named = (
        (
            f"reading {shots.number[first]} of {givens.surveys[shots.sitting[first]].name} lies "
            f"{spoken(worst, 'tape')} "
            f"{'above' if known.off_m[0] > 0 else 'below'} its neighbours"
        )
        if len(known.off)
        else "every shot fits its neighbours"
    )
    return (
        surface,
        mended_by(
            holds(
                "site",
                "outliers",
                "Shots fit their neighbours",
                len(known.off) == 0,
                named,
                "within the usual spread",
                remedy="Shoot it again, or leave it out by its number if the rod was misread.",
                source=constant("common", "outlier_spread").source,
                given="site.surveys",
                otherwise="look",
            ),
            *_left_out(givens, known),
        ),
        *_break_check(known),
    )


def _left_out(givens: SiteGivens, known: Known) -> tuple[Mend, ...]:
    """The worst reading set aside by its number, as a crew strikes it out in the book."""
    if not len(known.off):
        return ()
    worst = known.off[0]
    sitting, number = int(known.shots.sitting[worst]), int(known.shots.number[worst])
    survey = givens.surveys[sitting]
    text = ", ".join(str(n) for n in sorted({*survey.left_out, number}))
    return (Mend(f"Leave reading {number} out", ((f"site.surveys.{survey.id}.left_out", text),)),)


def _break_check(known: Known) -> tuple[Check, ...]:
    """Where two break lines cross between their shots, the ground would have two levels."""
    if not known.breaks:
        return ()
    crossing = crossing_lines(known.breaks)
    return (
        holds(
            "site",
            "breaks",
            "Break lines do not cross",
            not crossing,
            " and ".join(dict.fromkeys(crossing[0])) if crossing else f"{len(known.breaks)} lines",
            "one level at every place",
            remedy="Shoot the place where they meet and end both there, or give each line its own "
            "code: shots of one code are joined in the order of the book.",
            source=TRIANGLES,
            given="site.surveys",
            otherwise="look",
        ),
    )


def _access_checks(access: Access) -> tuple[Check, ...]:
    gate = access.narrowest
    if gate is None:
        return ()
    return (
        at_least(
            "site",
            "gate",
            f"The machine gets through {gate.label}",
            gate.width_m or 0.0,
            access.machine.value,
            "run",
            remedy="A narrower machine, another way in, or take the fence down for a day.",
            source=access.machine.source,
            given="site.machine_width_m",
            otherwise="stop",
        ),
    )


def _length(route: tuple[tuple[float, float], ...]) -> float:
    points = ((0.0, 0.0), *route)
    return sum(math.dist(a, b) for a, b in pairwise(points))
