"""Opened ground that is put back, by hand: area, topsoil, seed, straw, gravel, and when it is done.

35 g of seed and 0.2 kg of straw a square metre, bales of 16 kg, 100 mm of gravel: common practice, no
published source.
"""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import untried
from tests.core.test_checks import broken
from tests.designs import changed, designs, plain_larkspur


def job(**trench: object) -> Design:
    return broken(plain_larkspur(), {"trench": trench})


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["seeded grass", "bare earth", "gravel", "paving laid again"]),
    st.floats(0.2, 1.0),
    st.floats(0.0, 3.0),
    st.floats(0.0, 0.3),
)
def test_what_is_put_back_is_what_was_opened_and_worn(
    on_top: str, wide: float, strip: float, topsoil: float
) -> None:
    design = job(put_back=on_top, width_m=wide, strip_m=strip, topsoil_m=topsoil)
    found = untried(design)
    trench, back = found.trench, found.trench.back
    assert back is not None
    length = sum(piece.stretch.line.ground_length_m for piece in trench.dug)
    opened = sum(piece.stretch.line.ground_length_m * piece.width_m for piece in trench.dug)
    assert length > 0
    worn = opened + strip * length
    assert float(found.answer("trench", "put_back").value) == pytest.approx(worn)
    grown = on_top in ("seeded grass", "bare earth")
    keys = {one.key for one in trench.answers}
    assert ("topsoil" in keys) is (grown and topsoil > 0)
    if grown and topsoil > 0:
        told = float(found.answer("trench", "topsoil").value)
        assert told == pytest.approx(opened * topsoil)
        # What is laid apart comes out of the trench: it is no more than all of its spoil.
        assert told <= trench.spoil_m3 + 1e-9
    lines = {one.key: one for one in found.materials.lines}
    assert ("grass_seed" in lines) is (on_top == "seeded grass")
    assert ("gravel_top" in lines) is (on_top == "gravel")
    if on_top == "seeded grass":
        assert lines["grass_seed"].net == pytest.approx(0.035 * worn)
        assert lines["straw_bale"].net == pytest.approx(0.2 * worn / 16)
        assert lines["straw_bale"].quantity >= math.ceil(lines["straw_bale"].net - 1e-9)
    if on_top == "gravel":
        assert lines["gravel_top"].net == pytest.approx(0.1 * opened)
    if found.has("schedule"):
        tasks = {one.id: one for one in found.schedule.tasks}
        assert tasks["restore"].quantity == pytest.approx(worn)
        # 40 square metres an hour by two, and after the trench is filled.
        assert tasks["restore"].pace_per_h == pytest.approx(40.0)
        assert ("backfill", 0) in tasks["restore"].after


def test_nobody_said_is_a_look_and_nothing_is_made_up() -> None:
    found = untried(job())
    assert found.trench.back is None
    (check,) = [one for one in found.trench.checks if one.key == "put_back"]
    assert check.level == "look"
    keys = {one.key for one in found.materials.lines}
    assert not keys & {"grass_seed", "straw_bale", "gravel_top"}
    said = untried(job(put_back="gravel"))
    levels = {one.key: one.level for one in said.trench.checks}
    assert (levels["put_back"], levels["tracks_told"]) == ("sound", "look")
    told = untried(job(put_back="gravel", tracks_told=True))
    assert {one.key: one.level for one in told.trench.checks}["tracks_told"] == "sound"


def test_nothing_that_was_not_opened_is_put_back() -> None:
    over = job(put_back="seeded grass", laid="over the ground")
    found = untried(over)
    assert found.trench.back is None
    assert not {"put_back", "tracks_told"} & {one.key for one in found.trench.checks}
    assert "put_back" not in over.trench.shown()
    grass, paved = job(put_back="seeded grass").trench, job(put_back="paving laid again").trench
    assert {"strip_m", "topsoil_m", "tracks_told"} <= grass.shown()
    assert "topsoil_m" not in paved.shown() and "strip_m" in paved.shown()


@settings(max_examples=15, deadline=None)
@given(designs())
def test_wherever_it_is_said_each_stretch_counts_once(design: Design) -> None:
    said = design.model_copy(update={"trench": design.trench.model_copy(update={"put_back": "gravel"})})
    found = untried(said)
    if not found.has("trench") or found.trench.back is None:
        return
    worn = sum(
        piece.stretch.line.ground_length_m * (piece.width_m + said.trench.strip_m)
        for piece in found.trench.dug
    )
    assert found.trench.back.worn_m2 == pytest.approx(worn)
    assert changed(said, "rows", tilt_deg=said.arrays[0].rows.tilt_deg) == said
