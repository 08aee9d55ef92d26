"""Plane frames against PyNiteFEA, an independent finite-element library, and against equilibrium."""

import itertools
import math
import warnings

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from Pynite import FEModel3D

from openfurrow.core.frames import FrameForces, PlaneFrame, solved, solved_with_ties

Floats = NDArray[np.float64]
STEEL_PA = 200e9


def places() -> st.SearchStrategy[float]:
    return st.floats(-0.3, 0.3).map(lambda value: round(value, 2))


def frames() -> st.SearchStrategy[tuple[PlaneFrame, Floats]]:
    """A portal of two storeys whose joints lie about anywhere, some bars hinged at one end."""

    def made(away: list[float], hinges: list[bool], holds: list[bool], forces: list[float]):
        even = [(0, 0), (2, 0), (0, 1.4), (2, 1.6), (0, 3), (2, 3.3)]
        joints = np.array([even], dtype=float) + np.array(away).reshape(1, 6, 2)
        ends = np.array([[0, 2], [1, 3], [2, 4], [3, 5], [4, 5], [2, 3], [2, 5]])
        hinged = np.zeros((7, 2), dtype=bool)
        # The upper beam may turn on the columns, the lower one at its far end; the brace at both.
        hinged[4, 0], hinged[5, 1], hinged[6] = hinges[0], hinges[1], True
        held = np.zeros((6, 3), dtype=bool)
        held[:2, :2] = True
        held[:2, 2] = holds
        area, inertia = np.array([1.7e-3] * 6 + [7e-4]), np.array([7e-6] * 6 + [0.0])
        frame = PlaneFrame(
            joints_m=joints,
            ends=ends,
            axial_n=STEEL_PA * area,
            bending_n_m2=STEEL_PA * inertia,
            hinged=hinged,
            held=held,
        )
        loads = np.zeros((1, 1, 6, 3))
        loads[0, 0, 2:, :] = np.array(forces).reshape(4, 3)
        return frame, loads

    return st.builds(
        made,
        st.lists(places(), min_size=12, max_size=12),
        st.lists(st.booleans(), min_size=2, max_size=2),
        st.lists(st.booleans(), min_size=2, max_size=2),
        st.lists(st.integers(-4000, 4000).map(float), min_size=12, max_size=12),
    )


def modelled(frame: PlaneFrame, loads: Floats, ties: tuple[int, ...] = ()) -> FEModel3D:
    """The first frame under its only load."""
    model = FEModel3D()
    model.add_material("steel", STEEL_PA, 77e9, 0.3, 7850)
    for joint, (x, z) in enumerate(frame.joints_m[0].tolist()):
        model.add_node(str(joint), x, z, 0.0)
        x_held, z_held, turn = np.asarray(frame.held)[joint].tolist()
        model.def_support(str(joint), x_held, z_held, True, True, True, turn)
        for name, force in zip(("FX", "FY", "MZ"), loads[0, 0, joint].tolist(), strict=True):
            if force:
                model.add_node_load(str(joint), name, force)
    for bar, (first, last) in enumerate(frame.ends.tolist()):
        area = float(frame.axial_n[bar]) / STEEL_PA
        inertia = float(frame.bending_n_m2[bar]) / STEEL_PA or 1e-6
        model.add_section(f"profile {bar}", area, inertia, inertia, inertia)
        model.add_member(
            str(bar), str(first), str(last), "steel", f"profile {bar}", tension_only=bar in ties
        )
        start, end = frame.hinged[bar].tolist()
        if frame.bending_n_m2[bar] == 0:
            start = end = True
        model.def_releases(str(bar), Rzi=start, Rzj=end)
    # What turns freely in every bar is held, as it is here.
    for joint in range(len(frame.joints_m[0])):
        bars = [
            (bar, end)
            for bar, pair in enumerate(frame.ends.tolist())
            for end in (0, 1)
            if pair[end] == joint
        ]
        if all(frame.hinged[bar, end] or frame.bending_n_m2[bar] == 0 for bar, end in bars):
            model.def_support(
                str(joint), *np.asarray(frame.held)[joint, :2].tolist(), True, True, True, True
            )
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    return model


def agree(ours: FrameForces, model: FEModel3D, bars: int) -> None:
    scale = float(np.abs(ours.reactions).max()) + 1.0
    for joint, mine in enumerate(ours.reactions[0, 0].tolist()):
        node = model.nodes[str(joint)]
        theirs = [node.RxnFX["Combo 1"], node.RxnFY["Combo 1"], node.RxnMZ["Combo 1"]]
        assert mine == pytest.approx(theirs, rel=1e-6, abs=1e-6 * scale)
    for bar in range(bars):
        # It counts pushing as positive.
        theirs = -model.members[str(bar)].axial(0.0, "Combo 1")
        assert ours.pull_n[0, 0, bar] == pytest.approx(theirs, rel=1e-6, abs=1e-6 * scale)


@pytest.mark.filterwarnings("ignore")
@settings(max_examples=25, deadline=None)
@given(made=frames())
def test_a_frame_is_what_another_program_makes_of_it(made: tuple[PlaneFrame, Floats]) -> None:
    frame, loads = made
    ours = solved(frame, loads)
    agree(ours, modelled(frame, loads), len(frame.ends))


@settings(max_examples=40, deadline=None)
@given(made=frames())
def test_every_joint_and_the_whole_stand_still(made: tuple[PlaneFrame, Floats]) -> None:
    frame, loads = made
    ours = solved(frame, loads)
    joints, given_up = frame.joints_m[0], ours.reactions[0, 0] + loads[0, 0]
    scale = float(np.abs(loads).max()) + 1.0
    # The whole: forces, and moments about the origin counted from x to z.
    assert np.abs(given_up[:, :2].sum(axis=0)).max() < 1e-6 * scale
    turned = (joints[:, 0] * given_up[:, 1] - joints[:, 1] * given_up[:, 0] + given_up[:, 2]).sum()
    assert abs(turned) < 1e-5 * scale
    # Joint by joint: what bars bring against what acts. A bar's moments make its shear.
    left = given_up.copy()
    for bar, (first, last) in enumerate(frame.ends.tolist()):
        run = joints[last] - joints[first]
        long = math.hypot(*run)
        way, side = run / long, np.array([-run[1], run[0]]) / long
        pull, (start, end) = ours.pull_n[0, 0, bar], ours.moments_n_m[0, 0, bar]
        # Where the left side is pressed the start turns the joint from z to x, the end back.
        left[first, 2] += start
        left[last, 2] -= end
        shear = (start - end) / long
        left[first, :2] += pull * way + shear * side
        left[last, :2] -= pull * way + shear * side
    assert np.abs(left).max() < 1e-6 * scale


def test_a_cantilever_and_a_hinge_are_those_of_the_books() -> None:
    frame = PlaneFrame(
        joints_m=np.array([[[0.0, 0.0], [0.0, 2.0], [3.0, 2.0]]]),
        ends=np.array([[0, 1], [1, 2]]),
        axial_n=np.full(2, STEEL_PA * 2e-3),
        bending_n_m2=np.full(2, STEEL_PA * 8e-6),
        hinged=np.array([[False, False], [True, True]]),
        held=np.array([[True, True, True], [False, False, False], [False, True, False]]),
    )
    loads = np.zeros((1, 1, 3, 3))
    loads[0, 0, 1, 0] = 1500.0
    found = solved(frame, loads)
    # P h³ / 3 E I and P h: the bar on hinges follows.
    assert found.moves[0, 0, 1, 0] == pytest.approx(1500 * 8 / (3 * STEEL_PA * 8e-6), rel=1e-9)
    assert found.reactions[0, 0, 0].tolist() == pytest.approx([-1500.0, 0.0, 3000.0], abs=1e-6)
    assert found.moments_n_m[0, 0, 0].tolist() == pytest.approx([-3000.0, 0.0], abs=1e-6)


def crossed_line(heights: list[float], bays: list[int], push: float, hold: bool):
    """Posts in a line, hinged to a bar at their heads, some bays crossed by ties."""
    count, span = len(heights), 2.4
    feet = [(span * at, -height) for at, height in enumerate(heights)]
    joints = np.array([feet + [(span * at, 0.0) for at in range(count)]])
    ends = [[at, at + count] for at in range(count)]
    ends += [[at + count, at + count + 1] for at in range(count - 1)]
    bars = len(ends)
    for bay in bays:
        ends += [[bay, bay + 1 + count], [bay + 1, bay + count]]
    hinged = np.zeros((len(ends), 2), dtype=bool)
    hinged[:count, 1], hinged[count:] = True, True
    held = np.zeros((2 * count, 3), dtype=bool)
    held[:count, :2], held[:count, 2] = True, hold
    frame = PlaneFrame(
        joints_m=joints,
        ends=np.array(ends),
        axial_n=np.array([STEEL_PA * 1.7e-3] * bars + [1e11 * 2e-5] * (len(ends) - bars)),
        bending_n_m2=np.array([STEEL_PA * 9e-7] * count + [0.0] * (len(ends) - count)),
        hinged=hinged,
        held=held,
    )
    loads = np.zeros((1, 1, 2 * count, 3))
    loads[0, 0, count:, 0] = push
    return frame, loads, np.arange(bars, len(ends))


LINES = [
    (heights, bays, push, hold)
    for heights in ([1.1, 1.3, 1.2], [0.6, 0.9, 1.6, 1.2, 0.7])
    for bays in ([0], [0, 1])
    for push in (900.0, -900.0)
    for hold in (True, False)
]


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize(("heights", "bays", "push", "hold"), LINES)
def test_ties_that_only_pull_are_those_of_another_program(
    heights: list[float], bays: list[int], push: float, hold: bool
) -> None:
    frame, loads, ties = crossed_line(heights, bays, push, hold)
    ours = solved_with_ties(frame, loads, ties)
    agree(ours, modelled(frame, loads, tuple(ties.tolist())), len(frame.ends))
    assert float(ours.pull_n[0, 0, ties].min()) >= 0
    # One of each pair.
    assert int((ours.pull_n[0, 0, ties] > 1.0).sum()) == len(bays)


@settings(max_examples=25, deadline=None)
@given(
    heights=st.lists(st.floats(0.5, 2).map(lambda value: round(value, 2)), min_size=3, max_size=5),
    hold=st.booleans(),
    push=st.integers(-3000, 3000).filter(lambda value: abs(value) > 10).map(float),
)
def test_no_other_set_of_ties_would_do(heights: list[float], hold: bool, push: float) -> None:
    """Every set that could pull is tried: only one has all its ties pulling and all others slack."""
    frame, loads, ties = crossed_line(heights, [0, 1], push, hold)
    ours = solved_with_ties(frame, loads, ties)
    fits = []
    for kept in itertools.product((True, False), repeat=len(ties)):
        if not hold and not any(kept):
            continue
        axial = frame.axial_n.copy()
        axial[ties] = np.where(kept, axial[ties], 1e-3)
        one = PlaneFrame(
            joints_m=frame.joints_m,
            ends=frame.ends,
            axial_n=axial,
            bending_n_m2=frame.bending_n_m2,
            hinged=frame.hinged,
            held=frame.held,
        )
        found = solved(one, loads)
        if ((found.pull_n[0, 0, ties] > 0) == np.array(kept)).all():
            fits.append(found.pull_n[0, 0, ties])
    assert len(fits) == 1
    assert ours.pull_n[0, 0, ties].tolist() == pytest.approx(fits[0].tolist(), rel=1e-5, abs=1e-3)
