"""Posts that were tested: what they say of the ground, and whether they say enough."""

import math
from dataclasses import replace

import numpy as np

from openfurrow.core.checks import Check, at_least, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.depths import IBC_LATERAL
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts, SizedKind, size_posts
from openfurrow.core.footings.tested import KINDS, Strength, Tested, body_as_tested, rule_of
from openfurrow.core.site.load_tests import Loaded
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Working

TESTS_GIVEN = "site.load_tests"
# Each by the word that its answer goes by.
WORDS: dict[Loaded, tuple[str, str]] = {
    "pulled": ("tested_pulled", "Grip as pulled, of the tables'"),
    "pressed": ("tested_pressed", "Grip as pressed, of the tables'"),
    "pushed sideways": ("tested_sideways", "Hold as pushed, of Broms'"),
}


def _strengths(posts: Posts, loaded: Loaded) -> list[tuple[Soil, Strength]]:
    """What was proved of every soil that posts stand in, for one way of testing."""
    found = {
        kind.ground.proved.soil: (kind.soil, strength)
        for kind in posts.kinds
        if (strength := kind.ground.proved.of(loaded)) is not None
    }
    return list(found.values())


def proof_answers(
    posts: Posts, site: SitePlan, structure: StructurePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """What tests say, where they say least; the depth without them."""
    if not posts.tests:
        return ()
    found = [
        Answer("footings", WORDS[loaded][0], WORDS[loaded][1], _strength_working(site, *least))
        for loaded in KINDS
        if (every := _strengths(posts, loaded))
        for least in [min(every, key=lambda one: one[1].taken)]
    ]
    bearing = _bearing_answer(posts)
    plain = size_posts(replace(site, load_tests=()), structure, givens)
    return (
        *found,
        *([bearing] if bearing else []),
        Answer(
            "footings",
            "untested",
            "Depth by the tables alone",
            Working(
                "d_0",
                "",
                (),
                plain.depth_m,
                "tape",
                COMMON_PRACTICE,
                "What would be called out if nothing had been tested.",
            ),
        ),
    )


def _strength_working(site: SitePlan, soil: Soil, strength: Strength) -> Working:
    metric = site.rule_pack == "metric"
    where = f" at {soil.hole}" if soil.hole else ""
    return Working(
        "r",
        "min(r_mean / xi_1, r_least / xi_2)" if metric else "r_least",
        (
            Input("r_least", "the least of them", strength.least, "ratio"),
            Input("r_mean", "their mean", strength.mean, "ratio"),
            Input("s", "spread about it, one standard deviation", strength.spread, "ratio"),
            Input("n", "tests that count", strength.shares.size, "count"),
            *(
                (
                    Input("xi_1", "factor on the mean of so many", strength.on_mean, "factor"),
                    Input("xi_2", "factor on the least", strength.on_least, "factor"),
                )
                if metric
                else ()
            ),
        ),
        strength.taken,
        "ratio",
        rule_of(site.rule_pack),
        f"{soil.words.capitalize()}{where}: what each post held over what the tables say that the "
        "whole of it holds there.",
    )


def _bearing_answer(posts: Posts) -> Answer | None:
    """The us school's lateral bearing by depth, worked back from the test that held least."""
    stood_in = {kind.ground.proved.soil for kind in posts.kinds}
    found = [one for one in posts.tests if one.counts and one.pa_per_m and one.soil in stood_in]
    if not found:
        return None
    least = min(found, key=lambda one: one.pa_per_m or math.inf)
    safety = constant("us", "side_test_safety")
    names = ("lateral_coefficient", "lever_coefficient", "lateral_depth_limit_m")
    a, lever, deepest = (constant("us", name).value for name in names)
    return Answer(
        "footings",
        "bearing_pushed",
        "Lateral bearing, as pushed",
        Working(
            "S",
            "3 * k_A * P / F * (d + k_h * h / 4) / (d**2 * b * min(d, z_12))",
            (
                Input("P", f"held by {least.test.called}", least.held_n, "force"),
                Input("F", "safety on it", safety.value, "factor"),
                Input("h", "pushed at", least.test.height_m, "tape"),
                Input("d", "its depth", least.test.depth_m, "tape"),
                Input("b", "its width", body_as_tested(least.test).across_m, "tape"),
                Input("k_A", "coefficient of A", a, "factor"),
                Input("k_h", "coefficient of the lever", lever, "factor"),
                Input("z_12", "bearing grows no more below", deepest, "tape"),
            ),
            least.pa_per_m or 0.0,
            "modulus_gradient",
            IBC_LATERAL,
            f"IBC 1807.3.2.1 the other way round. {safety.source.text[:1].upper()}"
            f"{safety.source.text[1:]}.",
        ),
    )


def proof_checks(posts: Posts, stand: Stand, givens: FootingsGivens) -> tuple[Check, ...]:
    """Whether tests stand for all that is built: enough, everywhere, as deep, and loaded far enough."""
    counting = [one for one in posts.tests if one.counts]
    written = () if any(one.test.loaded == "pulled" for one in counting) else _unwritten(givens)
    if not counting:
        return (*written, *_left_out(posts.tests))
    made = [loaded for loaded in KINDS if any(one.test.loaded == loaded for one in counting)]
    return (
        *written,
        _enough(posts, stand, counting, made),
        _everywhere(posts, made),
        *_as_deep(posts, counting),
        *_far_enough(posts, counting),
        *_left_out(posts.tests),
    )


def _unwritten(givens: FootingsGivens) -> tuple[Check, ...]:
    """Pull tests that are only said to have been made."""
    if not givens.pull_tested:
        return ()
    return (
        holds(
            "footings",
            "pulls_written",
            "What pull tests held is written down",
            False,
            "only said to have been made",
            "each test with its loads",
            remedy="Write each test down with its loads and how far it moved: what they held is not "
            "looked at until then.",
            source=COMMON_PRACTICE,
            given=TESTS_GIVEN,
            otherwise="look",
        ),
    )


def _enough(posts: Posts, stand: Stand, counting: list[Tested], made: list[Loaded]) -> Check:
    """Enough of them near enough: those of another array far off say little of this one."""
    names = ("load_test_share", "load_tests_least", "load_test_reach_m")
    share, least, reach = (constant("common", name).value for name in names)
    places = stand.supports.places
    near = [
        one.test.loaded
        for one in counting
        if np.hypot(places.east_m - one.test.east_m, places.north_m - one.test.north_m).min() <= reach
    ]
    fewest = min(made, key=near.count)
    count = posts.depths_m.size
    return at_least(
        "footings",
        "enough_tests",
        f"Enough posts were {fewest}, near enough",
        float(near.count(fewest)),
        float(max(math.ceil(share * count - 1e-9), min(least, count))),
        "count",
        remedy="Test more of them beside this array; the least of all in a soil counts.",
        source=constant("common", "load_test_share").source,
        given=TESTS_GIVEN,
        otherwise="look",
    )


def _everywhere(posts: Posts, made: list[Loaded]) -> Check:
    missing = sorted(
        {
            f"{loaded} in {kind.soil.words}" + (f" at {kind.soil.hole}" if kind.soil.hole else "")
            for kind in posts.kinds
            for loaded in made
            if kind.ground.proved.of(loaded) is None
        }
    )
    return holds(
        "footings",
        "tested_soils",
        "Every soil was tested that posts stand in",
        not missing,
        f"none was {missing[0]}" if missing else "each",
        "each",
        remedy="Test there too: until then it is planned by the tables.",
        source=COMMON_PRACTICE,
        given=TESTS_GIVEN,
        otherwise="look",
    )


def _as_deep(posts: Posts, counting: list[Tested]) -> tuple[Check, ...]:
    """How far the depths that are planned are from those that were tested in the same soil."""
    off = [
        min(abs(kind.depth_m / one.test.depth_m - 1) for one in alike)
        for kind in posts.kinds
        for loaded in KINDS
        if (
            alike := [
                one
                for one in counting
                if one.test.loaded == loaded and one.soil == kind.ground.proved.soil
            ]
        )
    ]
    if not off:
        return ()
    return (
        within(
            "footings",
            "test_depth",
            "They were tested about as deep as they stand",
            max(off),
            constant("common", "load_test_depth_share"),
            "ratio",
            most=True,
            remedy="Test at the depth that is planned: deeper ground may be softer.",
            given=TESTS_GIVEN,
            otherwise="look",
        ),
    )


def _far_enough(posts: Posts, counting: list[Tested]) -> tuple[Check, ...]:
    """Whether each was loaded to what is asked of the posts in its soil, with its safety."""
    found = [
        (one.held_n / asked, asked, one.test.called)
        for one in counting
        for kind in posts.kinds
        if one.soil == kind.ground.proved.soil and (asked := _asked_n(kind, one.test.loaded)) > 0
    ]
    if not found:
        return ()
    share, asked, called = min(found)
    return (
        at_least(
            "footings",
            "test_held",
            f"Held what is asked of a post there, with its safety: {called}",
            share * asked,
            asked,
            "force",
            remedy="It is planned deeper or stronger for it. Test again at the depth that is planned, "
            "and load on until it holds so much.",
            source=COMMON_PRACTICE,
            given=TESTS_GIVEN,
            otherwise="look",
        ),
    )


def _asked_n(kind: SizedKind, loaded: Loaded) -> float:
    """What a post has to hold, safety on it; a push at another height is not compared."""
    if loaded == "pulled":
        return kind.needs.uplift_n * kind.ground.lift.safety
    return kind.needs.bearing_n * kind.ground.press.safety if loaded == "pressed" else 0.0


def _left_out(tests: tuple[Tested, ...]) -> tuple[Check, ...]:
    """Tests that somebody left out: an inspector asks why."""
    out = [one for one in tests if not one.counts]
    if not out:
        return ()
    first = out[0].test
    return (
        holds(
            "footings",
            "tests_left_out",
            "Every test counts",
            False,
            f"{first.called} does not: {first.left_out.strip()}"
            + (f", and {len(out) - 1} more" if len(out) > 1 else ""),
            "each, or one made again",
            remedy="Make it again beside the place: a test that held little is the ground's answer.",
            source=COMMON_PRACTICE,
            given=TESTS_GIVEN,
            otherwise="look",
        ),
    )
