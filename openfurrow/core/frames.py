"""Plane frames by direct stiffness, many at once: bars that bend, hinges, and ties that only pull.

Loads act at the joints alone, so that the bending of a bar runs straight from one end to the other.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

# Ties that go slack and come back by turns are given up after so many looks.
MOST_LOOKS = 40


class SlackError(ArithmeticError):
    """No set of ties was found that all pull."""


@dataclass(frozen=True, kw_only=True)
class PlaneFrame:
    """Frames that are joined alike and differ in where their joints are.

    ``joints_m`` (frames, joints, 2) are x level and z up; ``ends`` (bars, 2) are the joints of each
    bar. ``axial_n`` is EA and ``bending_n_m2`` EI of each bar, nought for one that only pushes and
    pulls; ``axial_n`` may differ from frame to frame (frames, bars). ``hinged`` (bars, 2) says which
    ends turn freely, ``held`` (joints, 3) or (frames, joints, 3) what stands still: x, z and turning.
    """

    joints_m: Floats
    ends: Integers
    axial_n: Floats
    bending_n_m2: Floats
    hinged: Truths
    held: Truths


@dataclass(frozen=True, kw_only=True)
class FrameForces:
    """What frames feel, (frames, loads, ...).

    ``reactions`` (..., joints, 3) are what holds the joints: x, z up, and turning counted from x to z.
    ``pull_n`` (..., bars) is positive in tension; ``moments_n_m`` (..., bars, 2) at both ends of each
    bar, seen from its start to its end positive where the left side is pressed; ``moves`` (..., joints,
    3) how far the joints go.
    """

    reactions: Floats
    pull_n: Floats
    moments_n_m: Floats
    moves: Floats


def solved(frame: PlaneFrame, loads: Floats) -> FrameForces:
    """Forces under ``loads`` (frames or 1, loads, joints, 3): x, z up, turning from x to z.

    Raises numpy.linalg.LinAlgError for a frame that is a mechanism. Source: matrix stiffness method,
    Euler-Bernoulli bars; hinges are condensed out of the bars.
    """
    frames, joints, _ = frame.joints_m.shape
    turn, stiff = _stiffness(frame)
    places = (3 * frame.ends[:, :, None] + np.arange(3)).reshape(len(frame.ends), 6)
    whole = np.zeros((frames, 3 * joints, 3 * joints))
    along = np.swapaxes(turn, -1, -2) @ stiff @ turn
    for bar, at in enumerate(places):
        whole[:, at[:, None], at] += along[:, bar]
    held = np.broadcast_to(frame.held, (frames, joints, 3)).reshape(frames, -1)
    # A joint of hinges alone turns as it likes.
    loose = np.einsum("fii->fi", whole) == 0.0
    fixed = held | loose
    count = loads.shape[1]
    pushed = np.broadcast_to(loads, (frames, count, joints, 3)).reshape(frames, count, -1)
    free = np.where(fixed[:, :, None] | fixed[:, None, :], 0.0, whole)
    every = np.arange(3 * joints)
    free[:, every, every] += fixed
    moved = np.linalg.solve(free, np.swapaxes(np.where(fixed[:, None], 0.0, pushed), 1, 2))
    resisted = np.swapaxes(whole @ moved, 1, 2) - pushed
    moves = np.swapaxes(moved, 1, 2)
    # Of each bar the forces at its ends, in its own axes: along it, square to it, turning.
    ends = np.einsum("fbij,flbj->flbi", stiff @ turn, moves[:, :, places])
    return FrameForces(
        reactions=np.where(held[:, None], resisted, 0.0).reshape(frames, count, joints, 3),
        pull_n=ends[..., 3],
        # Turning counted from x to z at the start bends the bar the other way than at its end.
        moments_n_m=np.stack((-ends[..., 2], ends[..., 5]), axis=-1),
        moves=moves.reshape(frames, count, joints, 3),
    )


def _stiffness(frame: PlaneFrame) -> tuple[Floats, Floats]:
    """Of each bar of each frame the turn into its own axes and its stiffness there, (..., 6, 6)."""
    run = frame.joints_m[:, frame.ends[:, 1]] - frame.joints_m[:, frame.ends[:, 0]]
    long = np.hypot(run[..., 0], run[..., 1])
    cosine, sine = run[..., 0] / long, run[..., 1] / long
    turn = np.zeros((*long.shape, 6, 6))
    for end in (0, 3):
        turn[..., end, end], turn[..., end, end + 1] = cosine, sine
        turn[..., end + 1, end], turn[..., end + 1, end + 1] = -sine, cosine
        turn[..., end + 2, end + 2] = 1.0
    stiff = np.zeros_like(turn)
    axial = np.broadcast_to(frame.axial_n, long.shape) / long
    stiff[..., 0, 0] = stiff[..., 3, 3] = axial
    stiff[..., 0, 3] = stiff[..., 3, 0] = -axial
    start, end = frame.hinged.T
    # How stiffly each end resists turning with the other held, and how they share it.
    both = ~start & ~end
    own = np.where(both, 4.0, np.where(start & end, 0.0, 3.0)) * frame.bending_n_m2 / long
    other = np.where(both, 2.0, 0.0) * frame.bending_n_m2 / long
    first, second = np.where(start, 0.0, own), np.where(end, 0.0, own)
    stiff[..., 2, 2], stiff[..., 5, 5] = first, second
    stiff[..., 2, 5] = stiff[..., 5, 2] = other
    for moment, values in ((2, first + other), (5, second + other)):
        for shear, sign in ((1, 1.0), (4, -1.0)):
            stiff[..., moment, shear] = stiff[..., shear, moment] = sign * values / long
    across = (first + second + 2 * other) / long**2
    stiff[..., 1, 1] = stiff[..., 4, 4] = across
    stiff[..., 1, 4] = stiff[..., 4, 1] = -across
    return turn, stiff


def seen_above(
    frame: PlaneFrame, forces: FrameForces, feet: tuple[Integers, Integers], up_m: Floats
) -> tuple[PlaneFrame, FrameForces]:
    """The same with feet seen ``up_m`` (frames,) above where they are held, cut through their bars.

    ``feet`` are joints and the upright bars that start from them. What holds the lower end of a bar,
    carried up to the cut, is what its upper part leans on.
    """
    joints, bars = feet
    places, reactions, moments = (
        frame.joints_m.copy(),
        forces.reactions.copy(),
        forces.moments_n_m.copy(),
    )
    places[:, joints, 1] += up_m[:, None]
    reactions[:, :, joints, 2] += up_m[:, None, None] * reactions[:, :, joints, 0]
    moments[:, :, bars, 0] = -reactions[:, :, joints, 2]
    return replace(frame, joints_m=places), replace(forces, reactions=reactions, moments_n_m=moments)


def solved_with_ties(frame: PlaneFrame, loads: Floats, ties: Integers) -> FrameForces:
    """The same where the bars ``ties`` only pull: every load by itself, for they do not add up.

    ``loads`` are cases that act as they stand, (frames, loads, joints, 3). Raises SlackError where no
    set of ties is found that all pull.
    """
    frames, joints, _ = frame.joints_m.shape
    count, bars = loads.shape[1], len(frame.ends)
    # One frame a load: what is slack differs.
    axial = np.broadcast_to(frame.axial_n, (frames, bars)).repeat(count, axis=0)
    held = np.broadcast_to(frame.held, (frames, joints, 3)).repeat(count, axis=0)
    each = replace(frame, joints_m=frame.joints_m.repeat(count, axis=0), held=held)
    alone = np.broadcast_to(loads, (frames, count, joints, 3)).reshape(-1, 1, joints, 3)
    first, last = frame.ends[ties].T
    run = each.joints_m[:, last] - each.joints_m[:, first]
    way = run / np.hypot(run[..., 0], run[..., 1])[..., None]
    pulling = np.ones((frames * count, len(ties)), dtype=bool)
    for _ in range(MOST_LOOKS):
        stretched = axial.copy()
        stretched[:, ties] = np.where(pulling, axial[:, ties], 0.0)
        found = solved(replace(each, axial_n=stretched), alone)
        moves = found.moves[:, 0, :, :2]
        longer = np.einsum("ntx,ntx->nt", moves[:, last] - moves[:, first], way)
        now = longer > 0
        if (now == pulling).all():
            return FrameForces(
                reactions=found.reactions.reshape(frames, count, joints, 3),
                pull_n=found.pull_n.reshape(frames, count, bars),
                moments_n_m=found.moments_n_m.reshape(frames, count, bars, 2),
                moves=found.moves.reshape(frames, count, joints, 3),
            )
        pulling = now
    raise SlackError("no set of ties was found that all pull")
