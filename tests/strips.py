"""Finite strips: a folded plate, hinged at both ends, cut lengthwise; what stress buckles it."""

from functools import cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
E, NU = 200e9, 0.3


def corners(
    shape: str, deep: float, wide: float, thick: float, lip: float
) -> list[tuple[float, float]]:
    """Lip to lip of a C or a Z, in the middle of its walls, from outside measures."""
    h, b = deep - thick, wide - (thick if shape == "Z" else thick / 2)
    c, low = lip - thick / 2, -b if shape == "Z" else b
    return [
        (low, -h / 2 + c), (low, -h / 2), (0, -h / 2), (0, h / 2), (b, h / 2), (b, h / 2 - c)
    ]  # fmt: skip


@cache
def _strip(wide: float, thick: float, long: float) -> tuple[Floats, Floats, Floats]:
    """Stiffness of one strip, and what a pressing stress of one at either edge takes of it.

    Freedoms: across and along at both edges, then deflection and slope at both; a half wave along.
    """
    k = np.pi / long
    plate, bending = E / (1 - NU**2), E * thick**3 / 12 / (1 - NU**2)
    shear, half = E / 2 / (1 + NU), long / 2
    stiff, first, second = np.zeros((8, 8)), np.zeros((8, 8)), np.zeros((8, 8))
    for at, weight in zip(*np.polynomial.legendre.leggauss(6), strict=True):
        x, share = (at + 1) / 2, weight / 2 * wide
        a, b = 1 - x, x
        across = np.array([-1 / wide, 0, 1 / wide, 0])
        along = -k * np.array([0, a, 0, b])
        skew = np.array([k * a, -1 / wide, k * b, 1 / wide])
        stiff[:4, :4] += share * half * thick * (
            plate * (np.outer(across, across) + np.outer(along, along))
            + plate * NU * (np.outer(across, along) + np.outer(along, across))
            + shear * np.outer(skew, skew)
        )  # fmt: skip
        shape = np.array(
            [1 - 3 * x**2 + 2 * x**3, wide * x * a**2, x**2 * (3 - 2 * x), -wide * x**2 * a]
        )
        slope = np.array([-6 * x * a / wide, 1 - 4 * x + 3 * x**2, 6 * x * a / wide, 3 * x**2 - 2 * x])
        bent = np.array([12 * x - 6, wide * (6 * x - 4), 6 - 12 * x, wide * (6 * x - 2)]) / wide**2
        bowed, twisted = -(k**2) * shape, 2 * k * slope
        stiff[4:, 4:] += share * half * bending * (
            np.outer(bent, bent) + np.outer(bowed, bowed)
            + NU * (np.outer(bent, bowed) + np.outer(bowed, bent))
            + (1 - NU) / 2 * np.outer(twisted, twisted)
        )  # fmt: skip
        aside, length = np.array([a, 0, b, 0]), np.array([0, a, 0, b])
        moved = np.zeros((8, 8))
        moved[:4, :4] = np.outer(aside, aside) + np.outer(length, length)
        moved[4:, 4:] = np.outer(shape, shape)
        first += share * half * thick * k**2 * a * moved
        second += share * half * thick * k**2 * b * moved
    return stiff, first, second


def buckles_pa(
    line: list[tuple[float, float]], thick: float, lengths: Floats, *, bent: bool, parts: int = 4
) -> Floats:
    """The least stress at the upper edge that buckles it, for every half wave; bent, or all pressed."""
    points = np.array(
        [
            np.add(p, np.subtract(q, p) * step / parts)
            for p, q in pairwise(line)
            for step in range(parts)
        ]
        + [line[-1]]
    )
    way = np.diff(points, axis=0)
    wide = np.hypot(*way.T)
    middle = ((points[1:, 1] + points[:-1, 1]) / 2 * wide).sum() / wide.sum()
    stress = (
        (points[:, 1] - middle) / np.abs(points[:, 1] - middle).max() if bent else np.ones(len(points))
    )
    found = []
    for long in lengths.tolist():
        stiff, taken = np.zeros((2, 4 * len(points), 4 * len(points)))
        for n, (dx, dy) in enumerate(way / wide[:, None]):
            own, first, second = _strip(round(float(wide[n]), 9), thick, long)
            turn = np.zeros((8, 8))
            for edge in (0, 1):
                # Of each edge: to the side, up, along, and its slope.
                turn[2 * edge, 4 * edge : 4 * edge + 2] = dx, dy
                turn[2 * edge + 1, 4 * edge + 2] = 1
                turn[4 + 2 * edge, 4 * edge : 4 * edge + 2] = -dy, dx
                turn[5 + 2 * edge, 4 * edge + 3] = 1
            here = slice(4 * n, 4 * n + 8)
            stiff[here, here] += turn.T @ own @ turn
            taken[here, here] += turn.T @ (stress[n] * first + stress[n + 1] * second) @ turn
        inverse = np.linalg.inv(np.linalg.cholesky(stiff))
        found.append(1 / np.linalg.eigvalsh(inverse @ taken @ inverse.T).max())
    return np.array(found)
