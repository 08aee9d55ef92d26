"""Wind along the row by hand: what it meets, how the posts share it, what that asks of post and soil.

Friction and drag: EN 1991-1-4, 7.5 to 7.9 (from memory); sharing by cantilevers and alike, the more of
the two: common practice, no published source.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur
from tests.reference.test_every_post import ibc_depth_m
from tests.reference.test_thin_walls import by_f2

G = 9.80665
RIBBED, FLAT, ROUND = 0.04, 2.0, 1.2
GUST = {"us": 0.85, "metric": 1.0}


def job(pack: str, tilt: float, slope: float, falls: float, along: int, post: str) -> Design:
    return broken(
        plain_larkspur(),
        {
            "site": {"rule_pack": pack, "slope": slope, "falls_toward_deg": falls}
            | ({"wind_speed_m_s": 27.0} if pack == "metric" else {}),
            "rows": {"rows": 1, "modules_along": along, "tilt_deg": tilt, "follow_ground": False},
            "structure": {"post_section": post},
        },
    )


def by_hand(design: Design, found: Plan) -> tuple[float, list[tuple[float, float]]]:
    """The force on the one table, and on each post its push and its moment at the ground."""
    rows, given_s, given_m = found.rows, design.arrays[0].structure, design.arrays[0].modules
    tilt, chord = math.radians(rows.section.tilt_deg), rows.section.chord_m
    post, beam, strut = (
        section(name) for name in (given_s.post_section, given_s.beam_section, given_s.strut_section)
    )
    q = found.structure.loads_at[0].wind.velocity_pa * GUST[design.site.rule_pack]
    reveals = found.structure.supports.reveals_m.tolist()
    # Strut: from its foot on the post to where it meets the beam.
    reach = given_s.strut_reach_m
    struts = [
        math.dist((0, given_s.strut_foot_m), (-reach * math.cos(tilt), h - reach * math.sin(tilt)))
        for h in reveals
    ]
    rubbed = 2 * chord * rows.table_length_m
    beam_m = found.structure.members.beam.length_m
    flat = given_m.thickness_m * chord + len(reveals) * beam.depth_m * beam_m
    on_heads = q * (RIBBED * rubbed + FLAT * flat + ROUND * strut.depth_m * sum(struts))
    of_post = ROUND if post.shape == "pipe" else FLAT
    own = [q * of_post * post.depth_m * h for h in reveals]
    glass = [h + rows.section.stack_m * math.cos(tilt) for h in reveals]
    stiff = [1 / h**3 for h in glass]
    shares = [max(k / sum(stiff), 1 / len(stiff)) for k in stiff]
    posts = [
        (on_heads * share + drag, on_heads * share * high + drag * h / 2)
        for share, drag, high, h in zip(shares, own, glass, reveals, strict=True)
    ]
    return on_heads + sum(own), posts


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["us", "metric"]),
    st.floats(0, 50),
    st.floats(0, 0.08),
    st.floats(0, 360),
    st.integers(6, 24),
    st.sampled_from(["W6x9", "I 150 x 100 x 19", "pipe 4 in", "C 200 x 75 x 4.0"]),
)
def test_each_post_gets_its_part_and_no_table_is_held_by_less(
    pack: str, tilt: float, slope: float, falls: float, along: int, post: str
) -> None:
    design = job(pack, tilt, slope, falls, along, post)
    found = plan(design)
    table, posts = by_hand(design, found)
    told = found.structure.members.along
    assert told.table_n == pytest.approx([table])
    assert told.post_n == pytest.approx([push for push, _ in posts])
    assert told.post_n_m == pytest.approx([turn for _, turn in posts])
    assert sum(push for push, _ in posts) >= table - 1e-6
    answer = next(a for a in found.answers if a.key == "along")
    assert answer.working.value == pytest.approx(table)
    # Every combination that wind is part of is a case of its own, at both heights of a kind.
    loads, reactions = found.structure.loads_at[0], found.structure.reactions
    windy = [
        (name, dead, (below, above), wind)
        for name, dead, below, above, wind in zip(
            loads.strength.names,
            loads.strength.dead,
            loads.strength.snow,
            loads.strength.snow_back,
            loads.strength.wind,
            strict=True,
        )
        if wind
    ]
    cases = [index for index, name in enumerate(reactions.names) if name.endswith(", along the row")]
    assert len(cases) == 2 * len(windy)
    kind_of = found.structure.supports.kind
    for case, (name, dead, snow, wind) in zip(cases, windy * 2, strict=True):
        assert reactions.names[case].startswith(name)
        for kind in range(found.structure.posts.kinds.count):
            mine = [posts[index] for index in np.flatnonzero(kind_of == kind).tolist()]
            share = found.structure.posts.kinds.tributary_m[kind]
            weight = share * rows_weight(found, dead, sum(snow) / 2)
            # What lies on one half alone lies a quarter of the level depth before the middle.
            level = found.rows.section.level_depth_m
            off = (snow[0] - snow[1]) / 2 * loads.snow_pa * level * share * level / 4
            ahead = found.rows.section.stack_m * math.sin(math.radians(tilt))
            assert reactions.along_n[kind, case] == pytest.approx(wind * max(p for p, _ in mine))
            assert reactions.along_moment_n_m[kind, case] == pytest.approx(
                wind * max(m for _, m in mine)
            )
            assert reactions.down_n[kind, case] == pytest.approx(weight)
            assert reactions.moment_n_m[kind, case] == pytest.approx(-weight * ahead - off)
            assert reactions.across_n[kind, case] == 0
    others = [index for index in range(len(reactions.names)) if index not in cases]
    assert not reactions.along_n[:, others].any()


def rows_weight(found: Plan, dead: float, snow: float) -> float:
    """Dead and snow on a metre of the row."""
    loads, table = found.structure.loads_at[0], found.rows.section
    level = table.chord_m * math.cos(math.radians(table.tilt_deg))
    return dead * loads.dead_kg_per_m2 * G * table.chord_m + snow * loads.snow_pa * level


@settings(max_examples=12, deadline=None)
@given(st.floats(0, 30), st.floats(0, 0.05), st.integers(6, 20))
def test_posts_are_deep_enough_and_stiff_enough_along_the_row(
    tilt: float, slope: float, along: int
) -> None:
    """IBC 1807.3.2.1 with the push along; bending where the soil has taken up the shear."""
    design = job("us", tilt, slope, 90.0, along, "W6x9")
    design = changed(design, "site", soil_class="sandy gravel")
    # As new: nothing has rusted in the first years.
    design = changed(design, "footings", life_years=5)
    found = plan(design)
    _, posts = by_hand(design, found)
    loads, width = found.structure.loads_at[0], section("W6x9").width_m
    combined, level = loads.strength, found.rows.section.level_depth_m
    soil = found.site.soils[0]
    passive = math.tan(math.radians(45 + soil.friction_angle_deg / 2)) ** 2
    grows = 3 * passive * soil.unit_weight_n_m3 * width
    # S_y and S_x of W6x9, 1.11 and 5.56 cubic inches, and 50 ksi over 1.67.
    weak, strong = (one * 0.0254**3 * 345e6 / 1.67 for one in (1.11, 5.56))
    used, reveals = [], found.structure.supports.reveals_m.tolist()
    for index, (push, turn) in enumerate(posts):
        share = float(found.structure.supports.tributary_m[index])
        for dead, below, above, wind in zip(
            combined.dead, combined.snow, combined.snow_back, combined.wind, strict=True
        ):
            if not wind:
                continue
            # Weight lies ahead of the post, and snow on the lower half further ahead.
            ahead = found.rows.section.stack_m * math.sin(math.radians(tilt))
            front = share * rows_weight(found, dead, (below + above) / 2) * ahead
            front += (below - above) / 2 * loads.snow_pa * level * share * level / 4
            need = ibc_depth_m(wind * push, math.hypot(wind * turn, front), width)
            assert found.footings.posts.depths_m[index] >= need - 1e-3
            # Passive push grows as 3 K_p gamma b z; the shear is gone where its sum equals the push.
            at = math.sqrt(2 * wind * push / grows)
            most = wind * turn + wind * push * at - grows * at**3 / 6
            # It turns over from its bolt to a foot of soil: AISC 360-16 F2.
            left = by_f2(section("W6x9"), reveals[index] + 0.3)
            used.append(most / weak + front / (strong * left))
    check = next(c for c in found.checks if c.key == "bending_along")
    assert check.measured == pytest.approx(max(used), rel=0.03)
    # High on thin posts in a storm they do not.
    blown = changed(changed(design, "site", wind_speed_m_s=95.0), "rows", lower_edge_m=3.5)
    blown = plan(changed(blown, "structure", post_section="I 100 x 80 x 9"))
    assert next(c for c in blown.checks if c.key == "bending_along").level == "stop"


def test_where_glass_lies_flat_nothing_pushes_but_along_the_row() -> None:
    """A flat table is turned about its bolts by wind across, and pushed by none."""
    found = plan(job("us", 0.0, 0.0, 180.0, 18, "W6x9"))
    reactions = found.structure.reactions
    windy = [index for index, name in enumerate(reactions.names) if "along the row" in name]
    rest = [index for index in range(len(reactions.names)) if index not in windy]
    assert np.abs(reactions.across_n[:, rest]).max() < 1e-6 < reactions.along_n[:, windy].min()
