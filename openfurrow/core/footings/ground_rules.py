"""Where the posts stand: clear of what is there, on known ground, in soil somebody has seen."""

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, Mend, holds, in_metres, mended_by
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.stands import ELSEWHERE, array_mends, named, shift_words
from openfurrow.core.site.keepouts import Hit
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.tickets import locate_check
from openfurrow.core.structures.shifting import clearing_shifts
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Supports, bent_id
from openfurrow.core.working import (
    COMMON_PRACTICE,
    GIVEN,
    Answer,
    Input,
    Source,
    Working,
)

Truths = NDArray[np.bool_]

NEAREST_HOLE = Source("the nearest test hole governs (common practice)", "common practice")
SHOWN_SHIFTS = 3


def place_answers(posts: Posts, supports: Supports, site: SitePlan) -> tuple[Answer, ...]:
    """The soil that governs, the levels, and what a truck reaches."""
    soil = posts.worst.soil
    found = [
        Answer(
            "footings",
            "soil",
            "Soil that governs",
            Working(
                "",
                "",
                (Input("n", "test holes", float(len(site.hole_places_m)), "count"),),
                soil.words + (f", {soil.hole}" if soil.hole else ""),
                "text",
                NEAREST_HOLE if soil.hole else GIVEN,
                "The nearest test hole governs each post; this one asks for the greatest depth."
                if soil.hole
                else "One soil was said for the whole site.",
            ),
        ),
    ]
    away = site.access.from_path_m(supports.places.east_m, supports.places.north_m)
    if away is not None:
        chute, pump = site.access.chute, site.access.pump
        for key, label, reach in (
            ("chute", "Footings a truck's chute reaches", chute),
            ("pump", "Footings a pump's hose reaches", pump),
        ):
            found.append(
                Answer(
                    "footings",
                    key,
                    label,
                    Working(
                        "n",
                        "",
                        (
                            Input("r", "reach from the truck's path", reach.value, "run"),
                            Input("far", "furthest footing from the path", float(away.max()), "run"),
                        ),
                        f"{int((away <= reach.value + 1e-9).sum())} of {away.size}",
                        "text",
                        reach.source,
                        "Measured straight from the path on the plan; far holes are poured first.",
                    ),
                )
            )
    return tuple(found)


def place_checks(
    posts: Posts, stand: Stand, site: SitePlan, rows: RowsPlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Keep-outs, boundary, known ground, locate, refusal, the authority's own."""
    places = stand.supports.places
    hits = site.keepouts.posts_on(places.east_m, places.north_m)
    outside = np.flatnonzero(site.keepouts.points_outside(places.east_m, places.north_m))
    bad = sorted({index for hit in hits for index in hit.which} | set(outside.tolist()))
    mends = _mends(stand, site, rows, bad) if bad else ()
    remedy = "Shift posts along the row, where the spans allow it. " + ELSEWHERE
    first = hits[0].zone if hits else None
    checks = [
        locate_check("footings", site.locate),
        mended_by(
            holds(
                "footings",
                "keep_out",
                "Posts stand clear of what is there",
                not hits,
                "; ".join(f"{hit.label}: {named(hit.which, 'post')}" for hit in hits[:3]) or "clear",
                "clear of every keep-out and hand-dig zone",
                remedy=remedy,
                source=first.feature.facts.source if first else COMMON_PRACTICE,
                given="structure.shifts" if _few(stand, hits) else "rows.at_east_m",
            ),
            *mends,
        ),
        *_soil_checks(posts, stand.supports, site, givens),
        *site.note_checks.get("footings", ()),
    ]
    if site.keepouts.inside is not None:
        checks.append(
            mended_by(
                holds(
                    "footings",
                    "boundary",
                    "Posts stand inside the boundary",
                    not outside.size,
                    named(tuple(outside.tolist()), "post") + " outside" if outside.size else "inside",
                    "inside the setback",
                    remedy=remedy,
                    source=site.limits.setback_source if site.limits.setback_m is not None else GIVEN,
                    given="rows.at_east_m",
                ),
                *mends,
            )
        )
    if site.known.surface is not None:
        off = np.flatnonzero(~site.ground.known(places.east_m, places.north_m))
        checks.append(
            holds(
                "footings",
                "known",
                "The ground at every post is known",
                not off.size,
                named(tuple(off.tolist()), "post") + " off the survey" if off.size else "known",
                "shots all round",
                remedy="Shoot the ground there before a post is cut to length.",
                source=COMMON_PRACTICE,
                given="site.surveys",
            )
        )
    return tuple(checks)


def rock_check(posts: Posts, givens: FootingsGivens) -> Check:
    """Whether rock lies above the foot of any post, and is drilled."""
    met = [
        (top, layer.soil_class)
        for kind in posts.kinds
        for layer, top in zip(
            kind.soil.layers, (0.0, *(one.bottom_m for one in kind.soil.layers)), strict=False
        )
        if layer.soil_class.endswith("rock") and top < kind.depth_m - 1e-9
    ]
    drilled = (("footings.predrilled", "yes"),)
    helix = givens.family == "ground screw" and givens.screw_kind == "with a helix"
    check = holds(
        "footings",
        "rock",
        "No rock on the way down, or it is drilled",
        not met or (givens.predrilled and not helix),
        f"{min(met)[1]} from {spoken(min(met)[0], 'tape')}" if met else "soil",
        "holes drilled for rock screws" if helix else "soil, or drilled holes",
        remedy="A helix does not turn into rock: rock screws in drilled holes, or ballast."
        if helix
        else "Drill what is rock, take rock screws in drilled holes, or ballast.",
        source=COMMON_PRACTICE,
        given="footings.screw_kind" if helix else "footings.predrilled",
    )
    if helix:
        return mended_by(
            check, Mend("Take rock screws", (("footings.screw_kind", "rock screw"), *drilled))
        )
    return mended_by(check, Mend("Drill what is rock", drilled))


def unplaced(posts: Posts, stand: Stand, site: SitePlan) -> dict[int, tuple[str, ...]]:
    """What is wrong with the place of a post, by its number less one; the rest are left out."""
    places = stand.supports.places
    found: dict[int, list[str]] = {}

    def say(which: Iterable[int], words: str) -> None:
        for index in which:
            found.setdefault(index, []).append(words)

    for hit in site.keepouts.posts_on(places.east_m, places.north_m):
        say(hit.which, f"on {hit.label}")
    say(
        np.flatnonzero(site.keepouts.points_outside(places.east_m, places.north_m)).tolist(),
        "outside the boundary",
    )
    say(np.flatnonzero(~site.ground.known(places.east_m, places.north_m)).tolist(), "off the survey")
    say(stand.not_shifted.posts, "not shifted")
    stops_m = np.array([np.inf if soil.refusal_m is None else soil.refusal_m for soil in site.soils])
    short = stops_m[stand.supports.soil_of] < posts.ends_m - 1e-9
    say(np.flatnonzero(short).tolist(), "refusal above its tip")
    return {index: tuple(words) for index, words in sorted(found.items())}


def _few(stand: Stand, hits: tuple[Hit, ...]) -> bool:
    """Whether so few posts are in the way that shifting them mends it, not moving the array."""
    bad = {index for hit in hits for index in hit.which}
    return 0 < len(bad) <= max(1, stand.supports.count // 3)


def _mends(stand: Stand, site: SitePlan, rows: RowsPlan, bad: list[int]) -> tuple[Mend, ...]:
    """Shifts along the purlin that free all posts together, and those of the whole array."""
    places = stand.supports.places
    whole = array_mends(
        site.keepouts, rows.setting, (places.east_m, places.north_m), rows.lie.tables.outlines
    )
    shifts = clearing_shifts(stand, site, rows, bad)
    if not shifts:
        return whole
    moved = {
        index: by_m - float(stand.shift_m[index])
        for index, by_m in shifts.items()
        if abs(by_m - stand.shift_m[index]) > 1e-9
    }
    turn = rows.tables.turn_deg[places.of_table]
    bents = len(stand.roles) > 1
    names = {index: bent_id(rows, places, index) if bents else str(index + 1) for index in moved}
    words = [
        f"{names[index]} by {shift_words(by_m, rows.along_deg + float(turn[index]))}"
        for index, by_m in moved.items()
    ]
    more = f" and {len(words) - SHOWN_SHIFTS} more" if len(words) > SHOWN_SHIFTS else ""
    told = dict(stand.givens.shifts) | {
        bent_id(rows, places, index): by_m for index, by_m in shifts.items()
    }
    text = "\n".join(f"{post}, {in_metres(by_m)}" for post, by_m in told.items() if abs(by_m) > 1e-9)
    what = "bent" if bents else "post"
    only = f"Shift {what}{'s' if len(words) > 1 else ''} {', '.join(words[:SHOWN_SHIFTS])}{more}, alone"
    return (Mend(only, (("structure.shifts", text),)), *whole)


def _soil_checks(
    posts: Posts, supports: Supports, site: SitePlan, givens: FootingsGivens
) -> list[Check]:
    """Where a test hole says that a post will stop short, or did not go as deep as the post."""
    if not len(site.hole_places_m):
        return []
    stopped, unseen, short = [], [], False
    for index in np.unique(supports.soil_of).tolist():
        soil, mine = site.soils[index], supports.soil_of == index

        def deeper(depth_m: float, mine: Truths = mine) -> tuple[int, ...]:
            """The posts of this soil that go deeper than a depth that was met."""
            return tuple(np.flatnonzero(mine & (posts.ends_m > depth_m + 1e-9)).tolist())

        def words(said: str, depth_m: float, which: tuple[int, ...], hole: str = soil.hole) -> str:
            return f"{hole} {said} {spoken(depth_m, 'tape')}: {named(which, 'post')}"

        if soil.refusal_m is not None and (which := deeper(soil.refusal_m)):
            short = short or bool((posts.asked_m[mine] + posts.below_m > soil.refusal_m + 1e-9).any())
            stopped.append(words("stopped at", soil.refusal_m, which))
        elif soil.seen_m is not None and (which := deeper(soil.seen_m)):
            unseen.append(words("saw", soil.seen_m, which))
    return [
        holds(
            "footings",
            "refusal",
            "Nothing stops the post on its way down",
            not stopped,
            "; ".join(stopped[:2]) or "no refusal met",
            "test holes deeper than the posts",
            remedy="Drilled through and packed tight again: how it grips there is not looked at, so "
            "pull-test one."
            if givens.predrilled
            else "The depth that is reached does not carry: drill through, shift inside the span, a "
            "heavier hammer where it was a stone, or a bored pier.",
            source=NEAREST_HOLE,
            given="footings.predrilled",
            otherwise="stop" if short and not givens.predrilled else "look",
        ),
        holds(
            "footings",
            "seen",
            "Somebody has seen the soil as deep as the posts go",
            not unseen,
            "; ".join(unseen[:2]) or "seen",
            "test holes as deep as the posts",
            remedy="Bore deeper at one hole, or take the last layer to go on.",
            source=NEAREST_HOLE,
            given="site.test_holes",
            otherwise="look",
        ),
    ]
