"""Site: the ground, what is there, the weather and the soil everything else stands in."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.checks import Check
from openfurrow.core.codes import Constant, RulePack, constant
from openfurrow.core.lacking import Lacking, said
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.site.access import Access, access_of
from openfurrow.core.site.answers import site_answers
from openfurrow.core.site.fencing import Fence, fence_answers, fence_checks, fence_of
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.ground import Ground
from openfurrow.core.site.keepouts import KeepOuts, keep_outs
from openfurrow.core.site.known import Known, ground_of
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.notes import Limits, limits_of, note_checks
from openfurrow.core.site.rules import site_checks
from openfurrow.core.site.soil import Soil, nearest, soil_in_class, soil_of_hole
from openfurrow.core.site.tickets import Locate, locate
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.working import GIVEN, Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class SitePlan:
    """What the later stages stand on.

    ``known_soils`` holds one for each test hole, or the one that was said; it is empty, and
    ``known_frost_m`` None, where that has not been said. ``note_checks`` is what the authority's open
    notes say in each stage.
    """

    rule_pack: RulePack
    display_units: UnitSystem
    known: Known
    known_soils: tuple[Soil, ...]
    hole_places_m: Floats
    hole_ids: tuple[str, ...]
    load_tests: tuple[LoadTestGivens, ...]
    survey_ids: tuple[str, ...]
    known_frost_m: float | None
    route_m: tuple[tuple[float, float], ...]
    spurs: tuple[SpurGivens, ...]
    keepouts: KeepOuts
    hand_dig: Constant
    locate: Locate
    limits: Limits
    note_checks: dict[str, tuple[Check, ...]]
    access: Access
    fence: Fence | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def ground(self) -> Ground:
        """What to ask for levels."""
        return self.known.ground

    @property
    def soils(self) -> tuple[Soil, ...]:
        """One soil for each test hole, or the one that was said. Raises Lacking."""
        if not self.known_soils:
            raise Lacking(("site.soil_class", "site.frost_depth_m"))
        return self.known_soils

    @property
    def frost_depth_m(self) -> float:
        """How deep the ground freezes. Raises Lacking."""
        return said("site.frost_depth_m", self.known_frost_m)

    def soil_at(self, east_m: ArrayLike, north_m: ArrayLike) -> NDArray[np.int64]:
        """Which of ``soils`` governs each place: that of the nearest test hole."""
        if len(self.hole_places_m) == 0:
            return np.zeros(np.shape(east_m), dtype=np.int64)
        return nearest(east_m, north_m, self.hole_places_m[:, 0], self.hole_places_m[:, 1])


def soils_of(givens: SiteGivens) -> tuple[Soil, ...]:
    """One soil for each test hole; without holes the one that was said; none where nobody has."""
    frost_m = givens.frost_depth_m
    if frost_m is None:
        return ()
    if givens.test_holes:
        return tuple(soil_of_hole(hole, frost_m) for hole in givens.test_holes)
    if givens.soil_class is None:
        return ()
    return (soil_in_class(givens.soil_class, givens.fine_soil_top_m, frost_m),)


def plan_site(givens: SiteGivens) -> SitePlan:
    """The ground, what it must keep clear of, the soils, and what the site alone says of the job."""
    known = ground_of(givens)
    soils = soils_of(givens)
    limits = limits_of(givens.notes)
    hand_dig = constant(givens.rule_pack, "hand_dig_m")
    if givens.hand_dig_m is not None:
        hand_dig = Constant(givens.hand_dig_m, GIVEN)
    keepouts = keep_outs(givens.features, hand_dig.value, limits.setback_m)
    found = locate(givens.tickets, givens.dig_date, givens.ticket_wait_days, givens.ticket_life_days)
    access = access_of(givens)
    notes = note_checks(givens.notes)
    fence = fence_of(givens.features, known.ground)
    return SitePlan(
        rule_pack=givens.rule_pack,
        display_units=givens.display_units,
        known=known,
        known_soils=soils,
        hole_places_m=np.array([(h.east_m, h.north_m) for h in givens.test_holes], dtype=float).reshape(
            -1, 2
        ),
        hole_ids=tuple(hole.id for hole in givens.test_holes),
        load_tests=givens.load_tests,
        survey_ids=tuple(survey.id for survey in givens.surveys),
        known_frost_m=givens.frost_depth_m,
        route_m=givens.route,
        spurs=givens.spurs,
        keepouts=keepouts,
        hand_dig=hand_dig,
        locate=found,
        limits=limits,
        note_checks=notes,
        access=access,
        fence=fence,
        answers=(
            *site_answers(givens, known, soils, keepouts, hand_dig, found),
            *fence_answers(fence),
        ),
        checks=(
            *site_checks(givens, known, soils, keepouts, access),
            *fence_checks(givens.features, fence),
            *notes.get("site", ()),
        ),
    )
