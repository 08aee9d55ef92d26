"""What hangs on a wall, by outlines laid on each other and by trying every place to stand.

Figures: NEC 2020, 110.26 and 404.8; IRC 2021, R328.4; IEC 60364-7-729. From memory of each.
"""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box

from openfurrow.core.plan import untried
from openfurrow.core.wiring.on_wall import apart_m, crowding, standing, wall_checks
from openfurrow.core.wiring.wall_givens import OnWallGivens
from tests.designs import changed, plain_larkspur

INCH, FOOT = 0.0254, 0.3048
OPENED = ("inverter", "panel", "switch", "box")
PARTS = ("door or window", "side wall", "anything else")


def things() -> st.SearchStrategy[tuple[OnWallGivens, ...]]:
    one = st.builds(
        OnWallGivens,
        kind=st.sampled_from([*OPENED, *PARTS, "meter", "battery"]),
        left_m=st.floats(-4, 4),
        bottom_m=st.floats(0, 2.6),
        width_m=st.floats(0.1, 1.2),
        height_m=st.floats(0.1, 1.2),
        depth_m=st.floats(0, 0.8),
        clear_beside_m=st.floats(0, 0.5),
        clear_over_m=st.floats(0, 0.5),
        clear_under_m=st.floats(0, 0.5),
    )
    return st.lists(one, min_size=2, max_size=6).map(
        lambda found: tuple(x.model_copy(update={"id": str(n)}) for n, x in enumerate(found))
    )


def outline(one: OnWallGivens, room: bool = False) -> Any:
    beside, over, under = 0.0, 0.0, 0.0
    if room and one.kind not in PARTS:
        beside, over, under = one.clear_beside_m, one.clear_over_m, one.clear_under_m
    return box(
        one.left_m - beside,
        one.bottom_m - under,
        one.left_m + one.width_m + beside,
        one.bottom_m + one.height_m + over,
    )


@given(found=things())
def test_things_are_as_far_apart_as_their_outlines(found: tuple[OnWallGivens, ...]) -> None:
    first, second = found[:2]
    far, gap = apart_m(first, second), outline(first).distance(outline(second))
    lying = outline(first).intersection(outline(second)).area
    assert max(0.0, far) == pytest.approx(gap, abs=1e-9)
    if lying > 1e-9:
        assert far < 0
    # Nothing reaches into another's room where outlines and rooms share no area.
    shared = max(
        outline(a, room=True).intersection(outline(b)).area for a in found for b in found if a is not b
    )
    worst = crowding(found)
    assert worst is not None
    if shared > 1e-6:
        assert worst.apart_m < 0
    elif worst.apart_m < 0:
        assert shared < 1e-6 and worst.apart_m > -1e-2


def free_to_stand(one: OnWallGivens, found: tuple[OnWallGivens, ...], wide: float, high: float) -> bool:
    """Every place in steps of a millimetre that takes in the whole thing: is one free of all?"""
    wanted, up = max(wide, one.width_m), max(high, one.bottom_m + one.height_m)
    for begin in np.arange(one.left_m + one.width_m - wanted, one.left_m + 1e-9, 0.001):
        place = box(begin + 2e-3, 0, begin + wanted - 2e-3, up - 1e-9)
        if not any(
            other is not one
            and other.depth_m > one.depth_m + 6 * INCH - 0.0024
            and place.intersection(outline(other)).area > 1e-9
            for other in found
        ):
            return True
    return False


@pytest.mark.parametrize(
    ("pack", "wide", "high"), [("us", 30 * INCH, 6.5 * FOOT), ("metric", 0.7, 2.0)]
)
@given(found=things())
def test_a_person_stands_wherever_no_place_was_found_wanting(
    pack: Any, wide: float, high: float, found: tuple[OnWallGivens, ...]
) -> None:
    told = {place.of.id: place for place in standing(found, pack)}
    assert set(told) == {one.id for one in found if one.kind in OPENED}
    for one in found:
        if one.kind not in OPENED:
            continue
        place, wanted = told[one.id], max(wide, one.width_m)
        if place.short_m == 0.0:
            # As it is drawn it takes in the thing, is as wide as is asked, and free of what stands out.
            assert place.from_m <= one.left_m + 1e-9 and place.to_m >= one.right_m - 1e-9
            assert place.to_m - place.from_m == pytest.approx(wanted)
            drawn = box(place.from_m + 1e-6, 0, place.to_m - 1e-6, place.up_m - 1e-6)
            assert not any(
                other is not one
                and other.depth_m > one.depth_m + 0.15 + 1e-6
                and drawn.intersection(outline(other)).area > 1e-6
                for other in found
            )
        # A hair either way is nobody's verdict.
        if abs(told[one.id].short_m) > 0.006 or told[one.id].short_m == 0.0:
            free = free_to_stand(one, found, wide, high)
            if told[one.id].short_m == 0.0:
                assert free
            elif told[one.id].short_m > 0.006:
                blockers = [o for o in found if abs(o.depth_m - one.depth_m - 0.15) < 0.003]
                assert blockers or not free


@given(
    apart=st.floats(0.01, 2),
    door=st.floats(0.01, 2),
    up=st.floats(0.2, 1.9),
    meter=st.floats(0.05, 8),
    pack=st.sampled_from(["us", "metric"]),
)
def test_batteries_switch_and_reach_by_their_printed_figures(
    apart: float, door: float, up: float, meter: float, pack: Any
) -> None:
    def at(number: int, kind: Any, left: float, bottom: float) -> OnWallGivens:
        size = {"width_m": 0.4, "height_m": 0.5, "depth_m": 0.1}
        return OnWallGivens(id=str(number), kind=kind, left_m=left, bottom_m=bottom, **size)

    found = (
        at(1, "battery", 0.0, 0.4),
        at(2, "battery", 0.4 + apart, 0.4),
        at(3, "door or window", 0.8 + apart + door, 0.0),
        at(4, "switch", -6.0, up),
        at(5, "meter", -6.4 - meter, up),
    )
    level = {check.key: check.level for check in wall_checks(found, pack)}
    us = pack == "us"
    assert level["batteries_apart"] == ("sound" if apart >= (3 * FOOT if us else 0.3) else "stop")
    openings = 3 * FOOT if us else 1.0
    assert level["battery_openings"] == ("sound" if door >= openings else "stop")
    assert level["handle_high"] == ("sound" if up + 0.5 <= 2.0 else "look")
    assert level["switch_meter"] == ("sound" if meter <= (10 * FOOT if us else 3.0) else "look")


def test_a_wall_of_which_nothing_is_known_is_not_sound() -> None:
    plain = plain_larkspur()
    check = next(
        one for one in untried(changed(plain, "wiring", on_wall=())).checks if one.key == "on_wall"
    )
    assert check.level == "look" and "not looked at" in str(check.measured)
