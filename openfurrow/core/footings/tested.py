"""What posts held that were tested, against what the tables say of the same posts in the same soil.

A test speaks for the soil that it stood in, and for no other. What it held is set against the whole
of the tested post, its top too, which a planned one is given no credit for.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.codes.section import section
from openfurrow.core.footings.axial import Gripped
from openfurrow.core.footings.body import Body, driven, poured, screwed
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.footings.lateral import bearing_held_pa_per_m
from openfurrow.core.footings.layered import Profile, lateral_capacity_n, profile_of
from openfurrow.core.site.load_tests import Loaded, LoadTestGivens
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.working import COMMON_PRACTICE, Source

Floats = NDArray[np.float64]
KINDS: tuple[Loaded, ...] = ("pulled", "pressed", "pushed sideways")


@dataclass(frozen=True, kw_only=True)
class Tested:
    """One post that was tested: in which of the site's soils, what it held and whether it gave way.

    ``share`` is what it held over what the tables say that it holds at most; ``pa_per_m`` the lateral
    bearing by depth that a push allows under the us school.
    """

    test: LoadTestGivens
    soil: int
    held_n: float
    gave_way: bool
    share: float
    pa_per_m: float | None = None

    @property
    def counts(self) -> bool:
        """Whether nobody said that it does not."""
        return not self.test.left_out.strip()


@dataclass(frozen=True, kw_only=True)
class Strength:
    """What tests of one kind in one soil say: ``taken`` is the share of the tables that is planned
    with.

    us: what the least of them held. metric: EN 1997-1, 7.6.2.2: the lesser of their mean and their
    least, each over its factor.
    """

    shares: Floats
    taken: float
    on_mean: float
    on_least: float
    pa_per_m: float | None = None

    @property
    def mean(self) -> float:
        """Their mean."""
        return float(self.shares.mean())

    @property
    def least(self) -> float:
        """The least of them."""
        return float(self.shares.min())

    @property
    def spread(self) -> float:
        """Standard deviation of what was found, over its mean; nought of one alone."""
        return float(self.shares.std(ddof=1)) / self.mean if self.shares.size > 1 else 0.0


@dataclass(frozen=True, kw_only=True)
class Proved:
    """What was proved of one of the site's soils; None of a kind that was not tested there.

    ``pulls_written``: posts that were pulled are written down, here or in another soil, so that a word
    of pulls by itself says nothing more.
    """

    soil: int = -1
    pulls_written: bool = False
    pulled: Strength | None = None
    pressed: Strength | None = None
    sideways: Strength | None = None

    def of(self, loaded: Loaded) -> Strength | None:
        """What was proved by one way of testing."""
        match loaded:
            case "pulled":
                return self.pulled
            case "pressed":
                return self.pressed
            case "pushed sideways":
                return self.sideways


NOTHING = Proved()


def rule_of(pack: RulePack) -> Source:
    """By what rule tests are turned into a strength."""
    if pack == "metric":
        return table("metric", "load_tests").source
    return COMMON_PRACTICE


def tests_of(site: SitePlan, family: FamilyName, moved_m: float, step_m: float) -> tuple[Tested, ...]:
    """Every test of one family of footing, read in the soil that it stood in.

    A post that was driven says nothing of a screw or of a pier, nor they of it.
    """
    tests = [one for one in site.load_tests if one.footing == family]
    if not tests:
        return ()
    where = site.soil_at([one.east_m for one in tests], [one.north_m for one in tests])
    return tuple(
        _read(test, int(soil), site.soils[int(soil)], site.rule_pack, moved_m, step_m)
        for test, soil in zip(tests, where, strict=True)
    )


def _read(
    test: LoadTestGivens, at: int, soil: Soil, pack: RulePack, moved_m: float, step_m: float
) -> Tested:
    held, gave_way = test.held(moved_m)
    body = body_as_tested(test)
    profile = profile_of("", soil, body, Gripped(start_m=0.0), 1.0, step_m)
    bearing = None
    if test.loaded == "pushed sideways":
        holds = lateral_capacity_n(profile, body.across_m, test.depth_m, test.height_m)
        if pack == "us":
            allowed = held / constant("us", "side_test_safety").value
            bearing = bearing_held_pa_per_m(allowed, test.height_m, test.depth_m, body.across_m)
    else:
        held_by_soil, holds = _along_and_under(test, held, body, soil, profile)
        return Tested(test=test, soil=at, held_n=held, gave_way=gave_way, share=held_by_soil / holds)
    return Tested(
        test=test, soil=at, held_n=held, gave_way=gave_way, share=held / holds, pa_per_m=bearing
    )


def _along_and_under(
    test: LoadTestGivens, held_n: float, body: Body, soil: Soil, profile: Profile
) -> tuple[float, float]:
    """What the soil held of a pull or a press, and what the tables say that it holds at most.

    Concrete helps against a pull by its weight, and presses besides where it is pressed.
    """

    def here(values: Floats) -> float:
        return float(np.interp(test.depth_m, profile.depth_m, values))

    own = float(body.weight_n(test.depth_m, soil.water_m))
    friction = here(profile.friction_n)
    if test.loaded == "pressed":
        removed = body.concrete_m2 * here(profile.pressure_pa)
        return held_n + max(own - removed, 0.0), friction + here(profile.tip_pa) * body.foot_m2
    if profile.helix_pa is not None:
        return held_n, here(profile.helix_pa) * body.foot_m2
    return max(held_n - own, 0.0), friction


def body_as_tested(test: LoadTestGivens) -> Body:
    """What was put in for a test: straight, and against the soil itself."""
    match test.footing:
        case "ground screw":
            return screwed(section(test.shaft), test.across_m)
        case "bored pier":
            return poured(test.across_m)
        case "driven post":
            return driven(section(test.post))


def proved_in(soil: int, tests: tuple[Tested, ...], pack: RulePack) -> Proved:
    """What the tests that count say of one soil."""

    def of(loaded: Loaded) -> Strength | None:
        found = [one for one in tests if one.counts and one.soil == soil and one.test.loaded == loaded]
        return _strength(found, pack) if found else None

    return Proved(
        soil=soil,
        pulls_written=any(one.counts and one.test.loaded == "pulled" for one in tests),
        pulled=of("pulled"),
        pressed=of("pressed"),
        sideways=of("pushed sideways"),
    )


def _strength(found: list[Tested], pack: RulePack) -> Strength:
    shares = np.array([one.share for one in found])
    on_mean, on_least = 1.0, 1.0
    taken = float(shares.min())
    if pack == "metric":
        factors = table("metric", "load_tests")
        row = min(len(found), len(factors.numbers["tests"])) - 1
        on_mean, on_least = (factors.number(name, row) for name in ("on_mean", "on_least"))
        taken = min(float(shares.mean()) / on_mean, taken / on_least)
    bearings = [one.pa_per_m for one in found if one.pa_per_m is not None]
    return Strength(
        shares=shares,
        taken=taken,
        on_mean=on_mean,
        on_least=on_least,
        pa_per_m=min(bearings, default=None),
    )
