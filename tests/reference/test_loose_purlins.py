"""Purlins that nothing holds between beams, from first principles: stresses, warping, torsion.

Vlasov's theory of thin-walled bars; sign and size of every quantity by its definition.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section, section
from openfurrow.core.members.open_profile import open_profile
from openfurrow.core.members.unbraced import corner_stress_pa, most_twisting_n_m2, turning_n
from openfurrow.core.plan import untried
from tests.designs import changed, plain_larkspur
from tests.reference.test_thin_walls import THIN
from tests.strips import E

Floats = NDArray[np.float64]
SHEAR = E / 2.6


def fibres(profile: Section) -> tuple[Floats, Floats, Floats]:
    """Many small pieces along the middle of the walls: where (n, 2), how much area, sectorial area."""
    found = open_profile(profile)
    at, area, swept = [], [], []
    t = (np.arange(400) + 0.5) / 400
    for (first, last), (begin, end) in zip(
        zip(found.corners_m[:-1], found.corners_m[1:], strict=True),
        zip(found.swept_m2[:-1], found.swept_m2[1:], strict=True),
        strict=True,
    ):
        at.append(first + t[:, None] * (last - first))
        area.append(np.full(400, np.hypot(*(last - first)) * profile.web_m / 400))
        swept.append(begin + t * (end - begin))
    return np.concatenate(at), np.concatenate(area), np.concatenate(swept)


@pytest.mark.parametrize("name", THIN)
def test_sectorial_areas_by_their_definition(name: str) -> None:
    """Swept about the shear centre, even along each plate; no force, no bending comes of warping."""
    profile = section(name)
    found = open_profile(profile)
    at, area, swept = fibres(profile)
    scale = found.swept_m2.max() * area.sum()
    assert (area * swept).sum() == pytest.approx(0, abs=1e-9 * scale)
    for side in at.T:
        assert (area * swept * side).sum() == pytest.approx(0, abs=1e-6 * scale * np.ptp(side))
    assert (area * swept**2).sum() == pytest.approx(found.warping_m6, rel=1e-4)
    # About one point, the shear centre, every plate sweeps twice the triangle that it makes with it.
    first, last = found.corners_m[:-1], found.corners_m[1:]
    # A C's lies behind its web, a Z's in the middle of it.
    behind = found.off_web_m if profile.shape == "C" else 0.0
    centre = np.array([found.corners_m[2, 0] - behind, 0.0])
    a, b = first - centre, last - centre
    twice = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    assert np.abs(np.diff(found.swept_m2)) == pytest.approx(np.abs(twice), abs=1e-9)
    assert found.off_web_m == pytest.approx(abs(centre[0] - found.corners_m[2, 0]), abs=1e-9)


@given(
    name=st.sampled_from(THIN),
    square=st.floats(50, 4000),
    slope=st.floats(0, 800),
    twisting=st.floats(0, 60),
)
def test_stress_at_a_corner_is_what_holds_the_moments(
    name: str, square: float, slope: float, twisting: float
) -> None:
    """Even along the profile, so that its sums are the moments: a linear system, solved."""
    profile = section(name)
    at, area, swept = fibres(profile)
    found, most = open_profile(profile), 0.0
    basis = np.column_stack((np.ones(len(at)), at, swept))
    holds = basis.T @ (basis * area[:, None])
    corners = np.column_stack((np.ones(len(found.corners_m)), found.corners_m, found.swept_m2))
    for way in (1, -1):
        for turn in (1, -1):
            asked = np.array([0.0, way * slope, square, turn * twisting])
            most = max(most, np.abs(corners @ np.linalg.solve(holds, asked)).max())
    assert corner_stress_pa(profile, square, slope, twisting) == pytest.approx(most, rel=1e-3)


@given(name=st.sampled_from(THIN), turning=st.floats(5, 300), free=st.floats(0.5, 6))
def test_bimoment_by_differences(name: str, turning: float, free: float) -> None:
    """E C_w u'''' - G J u'' = m, ends held from turning and free to warp; u'' by finite differences."""
    profile = section(name)
    found = open_profile(profile)
    n = 401
    step = free / (n - 1)
    warps, twists = E * found.warping_m6, SHEAR * found.twist_m4
    # With B = -E C_w u'' it is -B'' + (G J / E C_w) B = m, and B is nought at both ends.
    inner = n - 2
    matrix = (
        np.diag(np.full(inner, 2 / step**2 + twists / warps))
        - np.diag(np.full(inner - 1, 1 / step**2), 1)
        - np.diag(np.full(inner - 1, 1 / step**2), -1)
    )
    most = np.abs(np.linalg.solve(matrix, np.full(inner, turning))).max()
    assert most_twisting_n_m2(profile, turning, free) == pytest.approx(most, rel=2e-3)


@pytest.mark.parametrize("name", THIN)
def test_torque_is_what_lies_beside_the_shear_centre(name: str) -> None:
    """In the middle of the flange's width; a C's shear centre is on the other side of its web."""
    profile = section(name)
    arm = profile.width_m / 2 + open_profile(profile).off_web_m
    assert turning_n(profile, 1000.0, 0.0) == pytest.approx(1000 * arm)
    assert turning_n(profile, 0.0, 400.0) == pytest.approx(400 * profile.depth_m / 2)
    if profile.shape == "C":
        assert arm > profile.width_m / 2
    else:
        assert arm == pytest.approx(profile.width_m / 2, abs=1e-9)


@given(
    wind=st.floats(30, 60),
    tilt=st.floats(10, 45),
    along=st.integers(2, 12),
)
def test_a_loose_purlin_called_sound_is_stressed_no_more_than_it_may_be(
    wind: float, tilt: float, along: int
) -> None:
    """Everything at once at its worst corner, from the loads that the plan itself says."""
    design = changed(plain_larkspur(), "rows", tilt_deg=tilt, modules_along=along)
    design = changed(design, "site", wind_speed_m_s=wind)
    design = changed(design, "structure", modules_hold_purlins=False, purlin_section="Z 250 x 75 x 2.5")
    found = untried(design).array.structure
    purlin = found.members.purlin
    check = next(one for one in found.checks if one.key == "purlin")
    line, profile = purlin.line, purlin.section
    span = max(np.diff(line.along_m).max(), 2 * line.along_m[0])
    per_load = purlin.bending.pressing_n_m / purlin.load_n_per_m
    worst = max(
        purlin.bending.pressing_n_m,
        purlin.bending.lifting_n_m,
        purlin.gust.pressing_n_m,
        purlin.gust.lifting_n_m,
    )
    torque = worst / per_load * profile.width_m / 2 + purlin.slope_n_per_m * profile.depth_m / 2
    # Without St. Venant's part it would be the most: it is that or a little less.
    twisting = torque * span**2 / 8
    stress = corner_stress_pa(profile, worst, purlin.slope_n_per_m * per_load, 0.7 * twisting)
    if check.level != "stop":
        assert stress <= profile.yield_pa / 1.67
    assert float(check.measured) >= stress / (profile.yield_pa / 1.67) * (1 - 1e-9)
    # What its strong axis takes by itself is not counted twice.
    whole = corner_stress_pa(profile, worst, purlin.slope_n_per_m * per_load, twisting)
    alone = worst / profile.modulus_m3
    assert 0 < purlin.sideways <= (whole - alone) / (profile.yield_pa / 1.67) * (1 + 1e-9)
