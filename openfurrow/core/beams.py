"""A straight member on any number of supports, by direct stiffness (Euler-Bernoulli)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.linalg import solveh_banded

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class BeamResult:
    """What a member feels.

    ``reactions_n`` (one a support, up positive), ``moments_n_m`` and ``deflections_m`` sampled at
    ``stations_m`` (sagging positive, down positive).
    """

    stations_m: Floats
    moments_n_m: Floats
    deflections_m: Floats
    reactions_n: Floats

    @property
    def largest_moment_n_m(self) -> float:
        """Largest bending moment, either way."""
        return float(np.abs(self.moments_n_m).max())


SAMPLES = 21
HAIR_M = 1e-4


def continuous_beam(
    length_m: float,
    supports_m: ArrayLike,
    uniform_n_per_m: ArrayLike,
    stiffness_n_m2: float,
    points_m: ArrayLike = (),
    point_forces_n: ArrayLike = (),
    steps_m: ArrayLike = (),
) -> BeamResult:
    """Solve a prismatic member with simple supports, a uniform load and point loads (down positive).

    ``stiffness_n_m2`` is EI. Where the load changes at ``steps_m``, in order and on the member,
    ``uniform_n_per_m`` is one more value than steps. Raises ValueError with fewer than two supports or
    a support off the member. Source: matrix stiffness method; AISC Manual beam diagrams agree.
    """
    supports = np.asarray(supports_m, dtype=float)
    points = np.asarray(points_m, dtype=float)
    forces = np.asarray(point_forces_n, dtype=float)
    steps = np.round(np.asarray(steps_m, dtype=float), 9)
    if supports.size < 2:
        raise ValueError("a member needs two supports or more")
    if supports.min() < -1e-9 or supports.max() > length_m + 1e-9:
        raise ValueError("a support lies beyond the end of the member")
    # An end a hair past its support would be an element too short to reckon with.
    supports = np.where(np.abs(supports) < HAIR_M, 0.0, supports)
    supports = np.where(np.abs(supports - length_m) < HAIR_M, length_m, supports)
    joints = np.concatenate(([0.0, length_m], supports, points, steps))
    nodes: Floats = np.unique(np.round(joints, 9)).astype(float)
    lengths = np.diff(nodes)
    middles = (nodes[:-1] + nodes[1:]) / 2
    uniform = np.atleast_1d(np.asarray(uniform_n_per_m, dtype=float))[np.searchsorted(steps, middles)]
    degrees = 2 * nodes.size
    banded = _stiffness_bands(lengths, stiffness_n_m2, degrees)
    load = np.zeros(degrees)
    fixed_shear, fixed_moment = uniform * lengths / 2, uniform * lengths**2 / 12
    np.add.at(load, 2 * np.arange(lengths.size), -fixed_shear)
    np.add.at(load, 2 * np.arange(1, nodes.size), -fixed_shear)
    np.add.at(load, 2 * np.arange(lengths.size) + 1, -fixed_moment)
    np.add.at(load, 2 * np.arange(1, nodes.size) + 1, fixed_moment)
    point_nodes = np.searchsorted(nodes, np.round(points, 9))
    np.add.at(load, 2 * point_nodes, -forces)
    held = 2 * np.searchsorted(nodes, np.round(supports, 9))
    moved = _moved(banded, load, held)
    reactions = _forces(banded, moved)[held] - load[held]
    return _sample(nodes, moved, uniform, stiffness_n_m2, reactions)


def _moved(banded: Floats, load: Floats, held: NDArray[np.int64]) -> Floats:
    """How the joints move where some are held: their rows and columns give way to an identity.

    A stiff spring instead would lose the reactions beside a very short end.
    """
    free, pushed = banded.copy(), load.copy()
    free[:, held] = 0.0
    for below in range(1, len(free)):
        before = held[held >= below] - below
        free[below, before] = 0.0
    free[0, held], pushed[held] = 1.0, 0.0
    return np.asarray(solveh_banded(free, pushed, lower=True))


def _forces(banded: Floats, moved: Floats) -> Floats:
    """The stiffness matrix, given by its lower bands, times the movements."""
    forces = banded[0] * moved
    for below in range(1, len(banded)):
        band = banded[below, : moved.size - below]
        forces[below:] += band * moved[: moved.size - below]
        forces[: moved.size - below] += band * moved[below:]
    return np.asarray(forces)


def _stiffness_bands(lengths: Floats, stiffness: float, degrees: int) -> Floats:
    """Lower bands of the assembled stiffness matrix, four deep."""
    bands = np.zeros((4, degrees))
    first = 2 * np.arange(lengths.size)
    k = stiffness / lengths**3
    entries = (
        (0, 0, 12 * k),
        (1, 0, 6 * k * lengths),
        (2, 0, -12 * k),
        (3, 0, 6 * k * lengths),
        (0, 1, 4 * k * lengths**2),
        (1, 1, -6 * k * lengths),
        (2, 1, 2 * k * lengths**2),
        (0, 2, 12 * k),
        (1, 2, -6 * k * lengths),
        (0, 3, 4 * k * lengths**2),
    )
    for below, column, value in entries:
        np.add.at(bands[below], first + column, value)
    return bands


def _sample(
    nodes: Floats, moved: Floats, uniform: Floats, stiffness: float, reactions: Floats
) -> BeamResult:
    """Moments and deflections along every element from its end movements and its own load."""
    t = np.linspace(0.0, 1.0, SAMPLES)[:, None]
    span = np.diff(nodes)
    v1, r1, v2, r2 = moved[0:-2:2], moved[1:-2:2], moved[2::2], moved[3::2]
    raised = (
        (1 - 3 * t**2 + 2 * t**3) * v1
        + (t - 2 * t**2 + t**3) * span * r1
        + (3 * t**2 - 2 * t**3) * v2
        + (t**3 - t**2) * span * r2
        - uniform * span**4 / (24 * stiffness) * t**2 * (1 - t) ** 2
    )
    bend = (
        (-6 + 12 * t) / span**2 * v1
        + (-4 + 6 * t) / span * r1
        + (6 - 12 * t) / span**2 * v2
        + (6 * t - 2) / span * r2
    )
    moments = stiffness * bend - uniform * span**2 * (1 - 6 * t + 6 * t**2) / 12
    stations = nodes[:-1] + t * span
    return BeamResult(stations.T.ravel(), moments.T.ravel(), -raised.T.ravel(), np.asarray(reactions))
