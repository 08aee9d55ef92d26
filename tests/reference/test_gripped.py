"""Where clamps grip: every member under the glass laid out by hand from what was typed.

Common practice, no published source: two clamps on each of two sides, as far from both corners.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import untried
from tests.designs import changed, plain_larkspur


def gripped(family: str, across: bool, in_m: float | None, **modules: float | None) -> Design:
    design = changed(plain_larkspur(), "structure", family=family)
    design = changed(
        design,
        "rows",
        orientation="landscape" if across else "portrait",
        modules_along=3,
        tables_along=1,
        modules_high=2,
    )
    return changed(design, "modules", clamps_in_m=in_m, **modules)


@pytest.mark.parametrize(
    "family", ["one post line", "two post lines", "ballast frame", "table on blocks"]
)
@given(across=st.booleans(), in_m=st.none() | st.floats(0.05, 0.4))
def test_purlins_lie_where_clamps_were_said_to_grip(
    family: str, across: bool, in_m: float | None
) -> None:
    found = untried(gripped(family, across, in_m)).array
    modules = plain_larkspur().arrays[0].modules
    side = modules.width_m if across else modules.length_m
    grip = 0.22 * side if in_m is None else in_m
    lows = [0.0, side + modules.gap_up_m]
    expected = [place for low in lows for place in (low + grip, low + side - grip)]
    assert found.structure.members.places_m == pytest.approx(expected)


@pytest.mark.parametrize("family", ["pipe grid", "single pole"])
@given(across=st.booleans(), in_m=st.none() | st.floats(0.05, 0.4))
def test_rails_lie_where_clamps_were_said_to_grip(
    family: str, across: bool, in_m: float | None
) -> None:
    found = untried(gripped(family, across, in_m)).array
    modules = plain_larkspur().arrays[0].modules
    side = modules.length_m if across else modules.width_m
    grip = 0.22 * side if in_m is None else in_m
    first = modules.purlin_end_m + np.arange(3) * (side + modules.gap_along_m)
    expected = np.sort(np.concatenate((first + grip, first + side - grip)))
    assert found.structure.posts.lines[0].rails_m == pytest.approx(expected)


@given(
    in_m=st.floats(0.03, 1.0),
    first=st.none() | st.floats(0.0, 0.9),
    last=st.none() | st.floats(0.0, 0.9),
    across=st.booleans(),
)
def test_a_grip_is_sound_inside_its_zone_and_nowhere_else(
    in_m: float, first: float | None, last: float | None, across: bool
) -> None:
    found = untried(gripped("one post line", across, in_m, zone_from_m=first, zone_to_m=last)).array
    level = {check.key: check.level for check in found.modules.checks}
    side = plain_larkspur().arrays[0].modules.width_m if across else 1.762
    grip = min(in_m, 0.4 * side)
    # A hair either way is nobody's verdict.
    for border in (first, last, 0.4 * side):
        if border is not None and abs(border - in_m) < 1e-6:
            return
    outside = (first is not None and grip < first) or (last is not None and grip > last)
    unheard = first is None or last is None
    turned = not unheard and last < first
    expected = "stop" if outside or turned else "look" if unheard else "sound"
    assert level["clamp_zone"] == expected
    assert level["clamps_apart"] == ("stop" if in_m > 0.4 * side else "sound")
