"""What cuts across beams: webs by the printed rule in pounds and inches, statics by free body."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes.section import Section, section
from openfurrow.core.members.bending import web_shear_limit_n
from openfurrow.core.plan import plan
from tests.designs import plain_larkspur
from tests.reference.test_thin_walls import THIN
from tests.strips import E


def web_by_hand(profile: Section) -> float:
    """AISI S100-16 G2.1 in pounds and inches, from its printed constants."""
    inch, pound = 0.0254, 4.4482216
    high, thick = (profile.depth_m - 2 * profile.flange_m) / inch, profile.web_m / inch
    ksi = 6.894757e6
    steel, yields = E / ksi, profile.yield_pa / ksi
    border = math.sqrt(steel * 5.34 / yields)
    if high / thick <= border:
        stress = 0.60 * yields
    elif high / thick <= 1.51 * border:
        stress = 0.60 * math.sqrt(steel * 5.34 * yields) / (high / thick)
    else:
        stress = 0.904 * steel * 5.34 / (high / thick) ** 2
    return stress * 1000 * pound * high * thick / 1.60


@pytest.mark.parametrize("name", THIN)
def test_webs_bear_what_cuts_across_them_as_printed(name: str) -> None:
    profile = section(name)
    assert web_shear_limit_n(profile, "us") == pytest.approx(web_by_hand(profile), rel=1e-3)
    assert web_shear_limit_n(profile, "metric") == pytest.approx(
        0.95 * 1.60 * web_shear_limit_n(profile, "us"), rel=1e-6
    )
    # However thick the web, no more than the shear that steel yields at.
    thicker = replace(profile, web_m=profile.web_m * 2)
    assert web_shear_limit_n(thicker, "us") <= 0.61 * thicker.yield_pa * thicker.web_m * thicker.depth_m


@settings(max_examples=25, deadline=None)
@given(
    tilt=st.floats(5, 50),
    wind=st.floats(35, 60),
    reach=st.floats(0.25, 0.6),
    high=st.integers(1, 3),
)
def test_what_cuts_across_a_beam_by_free_body(
    tilt: float, wind: float, reach: float, high: int
) -> None:
    """Strut and bolt hold all that is square to the beam, and the couple of what slides down it."""
    design = plain_larkspur()
    array = design.arrays[0]
    parts = {
        "rows": array.rows.model_copy(update={"tilt_deg": tilt, "modules_high": high}),
        "structure": array.structure.model_copy(update={"strut_reach_m": reach}),
    }
    made = plan(
        design.model_copy(
            update={
                "arrays": (array.model_copy(update=parts),),
                "site": design.site.model_copy(update={"wind_speed_m_s": wind}),
            }
        )
    ).array
    beam = made.structure.members.beam
    strut, bolt, _ = beam.held_n
    # Both hold all; neither side of a bolt is cut by more than what stands on it.
    whole = np.abs(strut) + np.abs(bolt)
    assert beam.shear_n <= whole.max() * (1 + 1e-9)
    # Beside the bolt both sides together are what it holds: one of them has half of that at least.
    assert beam.shear_n >= np.abs(bolt).max() / 2 * (1 - 1e-9)
    assert beam.shear_n >= np.abs(strut).max() / 2 * (1 - 1e-9)
    if high == 1 and beam.strut_m > beam.places_m[0] - beam.start_m:
        # Purlin, strut, bolt, purlin: both purlins by moments about the lower one.
        first, last = (float(one) - beam.start_m for one in beam.places_m[[0, -1]])
        turned = beam.held_n[2] * made.rows.section.stack_m
        found = []
        for sign in (1.0, -1.0):
            upper = strut * (beam.strut_m - first) + bolt * (beam.bolt_m - first) + sign * turned
            upper = upper / (last - first)
            lower = strut + bolt - upper
            found.append(max(float(np.abs(one).max()) for one in (lower, lower - strut, upper)))
        assert beam.shear_n in (pytest.approx(found[0], rel=1e-6), pytest.approx(found[1], rel=1e-6))
    assert beam.used == pytest.approx(
        math.hypot(beam.bending.used, beam.shear_n / web_by_hand(beam.section)), rel=1e-3
    )
    told = {one.key: one.working.value for one in made.structure.answers}
    check = next(one for one in made.structure.checks if one.key == "beam")
    assert check.measured == pytest.approx(told["beam_use"]) == pytest.approx(beam.used)


def test_a_beam_on_two_lines_is_cut_by_the_slope_of_its_bending() -> None:
    """Shares by the root of their squares, with the push along it: AISI S100-16 H2 beside H1."""
    design = plain_larkspur()
    array = design.arrays[0]
    structure = array.structure.model_copy(update={"family": "two post lines"})
    changed = array.model_copy(update={"structure": structure})
    made = plan(design.model_copy(update={"arrays": (changed,)})).array
    beam = made.structure.members.beam.strained
    assert beam.shear_n > 0
    assert beam.shear_limit_n == pytest.approx(web_by_hand(beam.section), rel=1e-3)
    # No bar is longer than the beam: what bends it most over that cuts it at least.
    bolts = made.structure.members.beam.bolts_m
    assert beam.shear_n >= abs(beam.moment_n_m) / (float(bolts[-1]) + 1.0)
    bent = beam.moment_n_m / beam.moment_limit_n_m
    used = abs(beam.axial_n) / beam.axial_limit_n
    used += math.hypot(bent, beam.shear_n / web_by_hand(beam.section))
    assert beam.used == pytest.approx(used, rel=1e-3)
