"""The trench stretch by stretch, by putting a foot down every few centimetres along it."""

import math
from itertools import pairwise
from typing import Any

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.site.features import FeatureGivens
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.write import stage_sheet
from tests.core.test_checks import find
from tests.designs import changed, plain_larkspur

INCH_M = 0.0254
# NEC 2020, Table 300.5, in inches: open ground; driveway of a dwelling; road.
US = {
    "PVC conduit": (18, 18, 24),
    "rigid metal conduit": (6, 18, 24),
    "direct-buried cable": (24, 18, 24),
    "armoured cable": (24, 18, 24),
}


def lane(number: int, at: float, turn: float, wide: float, kind: str, sure: Any) -> FeatureGivens:
    """A straight one across the north-south way of `job`."""
    slope = math.tan(math.radians(turn))
    ends = tuple((east, at + slope * east) for east in (-60.0, 60.0))
    return FeatureGivens(
        id=f"l{number}", kind=kind, name=f"lane {number}", width_m=wide, points=ends, how_sure=sure
    )


def job(features: tuple[FeatureGivens, ...], **trench: Any) -> Design:
    design = plain_larkspur()
    kept = tuple(one for one in design.site.features if one.kind not in ("road", "truck path"))
    design = changed(design, "site", features=(*kept, *features))
    return changed(design, "trench", **trench)


LANES = st.lists(
    st.tuples(
        st.floats(-5, 45),
        st.floats(-50, 50),
        st.floats(1, 6),
        st.sampled_from(["road", "truck path"]),
        st.sampled_from(["measured", "guessed"]),
    ),
    max_size=4,
)


def covers(found: Plan, at: tuple[float, float], kind: str) -> set[str]:
    """Whose band lies over a place: half its width and what nobody is sure of, from its middle."""
    return {
        zone.feature.label
        for zone in found.site.keepouts.zones
        if zone.feature.kind == kind and shapely.distance(zone.band, shapely.Point(at)) == 0
    }


@settings(max_examples=25, deadline=None)
@given(
    lanes=LANES,
    method=st.sampled_from(sorted(US)),
    dwelling=st.booleans(),
    said=st.booleans(),
    deeper=st.floats(0, 0.3),
)
def test_what_lies_over_every_step_of_the_way_is_what_is_told(
    lanes: list[Any], method: str, dwelling: bool, said: bool, deeper: float
) -> None:
    """Cover by NEC Table 300.5 typed again; the way walked in steps of 10 cm."""
    features = tuple(lane(number, *one) for number, one in enumerate(lanes))
    design = job(
        features,
        method=method,
        of_dwelling=dwelling,
        under_driveway=said,
        extra_depth_m=deeper,
    )
    found = untried(design)
    open_in, dwelling_in, road_in = US[method]
    anywhere = said
    drawn = {
        label
        for piece in found.trench.dug
        for zone in found.site.keepouts.zones
        if zone.feature.kind == "road"
        for label in [zone.feature.label]
        if shapely.intersects(
            zone.band,
            shapely.LineString(
                list(zip(piece.stretch.line.east_m, piece.stretch.line.north_m, strict=True))
            ),
        )
    }
    # A road is a dwelling's driveway only where that was said, and where it is the only one.
    own_drive = said and dwelling and len(drawn) <= 1
    wheels = max(open_in, dwelling_in if own_drive else road_in) * INCH_M
    for number, piece in enumerate(found.trench.dug, start=1):
        own = [one for one in found.trench.sections if one.stretch == number]
        assert own[0].from_m == 0
        assert own[-1].to_m == pytest.approx(piece.stretch.line.level_length_m, abs=1e-5)
        for one, after in pairwise(own):
            assert one.to_m == after.from_m
        path = shapely.LineString(
            list(zip(piece.stretch.line.east_m, piece.stretch.line.north_m, strict=True))
        )
        for step in range(int(path.length * 10)):
            at = step / 10 + 0.05
            (part,) = [one for one in own if one.from_m <= at < one.to_m]
            if min(at - part.from_m, part.to_m - at) < 1e-3:
                continue
            place = path.interpolate(at)
            roads = covers(found, (place.x, place.y), "road")
            assert {one for one in part.over.split(", ") if one.startswith("lane")} == roads
            trucks = covers(found, (place.x, place.y), "truck path")
            assert set(filter(None, part.trucks.split(", "))) == trucks
            # A driveway that is only said may lie anywhere, unless the road that is drawn is it.
            asked = wheels if roads or (said and not drawn) else open_in * INCH_M
            assert part.least_m == pytest.approx(asked)
            anywhere = anywhere or bool(roads)
    # One depth for all: what wheels ask for anywhere.
    cover = (wheels if anywhere else open_in * INCH_M) + deeper
    run = found.trench.runs[0]
    assert run.route.cover_m == pytest.approx(cover)
    assert all(one.cover_m == run.route.cover_m for one in found.trench.sections)
    assert all(one.cover_m >= one.least_m - 1e-9 for one in found.trench.sections)
    deep = found.trench.depth_m - design.trench.bedding_m - (run.outside_m if run.conduit else 0)
    assert deep >= (cover if run.conduit else 0) - 1e-9


def test_a_road_that_is_drawn_is_not_dug_under_as_if_it_were_grass() -> None:
    """Direct-drawn conduit of 6 in cover in open ground, 24 under a road: without a word on Trench."""
    across = lane(1, 20.0, 0.0, 4.0, "road", "measured")
    with_it, without = (
        plan(job(those, method="rigid metal conduit", of_dwelling=False)) for those in ((across,), ())
    )
    assert without.trench.runs[0].route.least_cover_m == pytest.approx(6 * INCH_M)
    assert with_it.trench.runs[0].route.least_cover_m == pytest.approx(24 * INCH_M)
    assert {one.over for one in with_it.trench.sections} == {"open ground", "lane 1"}


def test_a_drawn_road_is_no_driveway_unless_somebody_said_so() -> None:
    """PVC conduit, 18 in under a dwelling's driveway and 24 under a road: NEC 2020, Table 300.5."""
    across = lane(1, 20.0, 0.0, 4.0, "road", "measured")
    again = lane(2, 28.0, 0.0, 4.0, "road", "measured")
    for said, things, inches in (
        (False, (across,), 24),
        (True, (across,), 18),
        (True, (across, again), 24),
    ):
        found = plan(job(things, method="PVC conduit", of_dwelling=True, under_driveway=said))
        assert found.trench.runs[0].route.least_cover_m == pytest.approx(inches * INCH_M)


def test_a_truck_path_is_looked_at_and_asks_for_no_more_cover() -> None:
    """Common practice: filled and tamped before the truck comes, or plated."""
    across = lane(1, 20.0, 0.0, 4.0, "truck path", "measured")
    found = plan(job((across,)))
    check = find(found.checks, "trench", "trucks")
    assert check.level == "look" and "lane 1" in str(check.measured)
    assert not any(one.wheels for one in found.trench.sections)
    assert "trucks" not in {one.key for one in plan(job(())).trench.checks}


def test_over_the_ground_a_drawn_road_is_a_stop() -> None:
    across = lane(1, 20.0, 0.0, 4.0, "road", "measured")
    found = plan(job((across,), laid="over the ground"))
    assert find(found.checks, "trench", "over_wheels").level == "stop"
    assert find(plan(job((), laid="over the ground")).checks, "trench", "over_wheels").level == "sound"


@pytest.mark.parametrize("name", ["larkspur-two", "grifo", "varnbeck"])
@pytest.mark.parametrize("units", ["us", "metric"])
def test_the_list_has_every_part(name: str, units: Any) -> None:
    design = DESIGNS[name]()
    found = plan(design)
    (table,) = (
        one for one in stage_sheet("trench", design, found, units).tables if one.key == "sections"
    )
    assert len(table.rows) == len(found.trench.sections)
    by_hand = [row for row in table.rows if "by hand" in row[7]]
    assert len(by_hand) == sum(bool(one.by_hand) for one in found.trench.sections)
