"""Earthquakes by hand: a share of the weight of one table against the wind on it.

ASCE/SEI 7-16, 15.4, Table 15.4-2 (R = 1.25), 2.4.5 (0.7 E) and 12.7.2; EN 1998-1:2004, 3.2.2.5 with
q = 1.5 (from memory).
"""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import untried
from openfurrow.core.structures.families import FAMILIES
from tests.core.test_checks import broken
from tests.core.test_families import on
from tests.designs import changed, plain_larkspur

G = 9.80665


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["us", "metric"]),
    st.sampled_from(sorted(FAMILIES)),
    st.floats(0.05, 2.0),
    st.floats(5, 44),
    st.sampled_from([0.0, 800.0, 2400.0]),
)
def test_an_earthquake_pushes_with_a_share_of_the_table(
    pack: str, family: str, shakes: float, tilt: float, snow: float
) -> None:
    site = {
        "rule_pack": pack,
        "quake_acceleration": shakes,
        "ground_snow_pa": snow,
        "slope": 0.0,
        "wind_speed_m_s": 47.0 if pack == "us" else 27.0,
    }
    rows = {"rows": 1, "tables_along": 1, "tilt_deg": tilt}
    found = untried(on(broken(plain_larkspur(), {"site": site, "rows": rows}), family))
    table, loads = found.rows, found.structure.loads_at[0]
    section, supports = table.section, found.structure.supports
    # Piles of blocks are asked by themselves whether they slide.
    post_kg_per_m = 0.0
    if family != "table on blocks":
        post_kg_per_m = found.structure.posts.post.mass_kg_per_m
    kg = float(loads.dead_of_kg_per_m2[0]) * section.chord_m * table.table_length_m
    kg += sum(float(reveal) * post_kg_per_m for reveal in supports.reveals_m)
    lasting = {"us": 30 * 47.88026, "metric": 1000.0}[pack]
    level = section.chord_m * math.cos(math.radians(tilt)) * table.table_length_m
    weight = kg * G + (0.2 * loads.snow_pa * level if loads.snow_pa > lasting else 0.0)
    share = 0.7 * shakes / 1.25 if pack == "us" else 2.5 * shakes / 1.5
    answer = found.answer("structure", "earthquake")
    assert float(answer.value) == pytest.approx(share * weight, rel=1e-3)
    area = section.chord_m / 2 * table.table_length_m
    across = max(
        abs(front + back) * area * math.sin(math.radians(tilt))
        for front, back in zip(loads.wind.front_pa, loads.wind.back_pa, strict=True)
    )
    along = float(found.structure.members.along.table_n.max())
    wind = min(across, along) * {"us": 0.6, "metric": 1.5}[pack]
    (check,) = [one for one in found.checks if (one.stage, one.key) == ("structure", "earthquake")]
    assert (check.level == "sound") == (share * weight <= wind * (1 + 1e-9))


def test_where_nobody_says_how_it_shakes_nothing_is_said() -> None:
    keys = {one.key for one in untried(plain_larkspur()).answers}
    assert "earthquake" not in keys
    assert "earthquake" in {
        one.key for one in untried(changed(plain_larkspur(), "site", quake_acceleration=0.1)).answers
    }
