"""What a kind of post carries at every depth it may reach: looked up where nothing is computed."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.layered import DEEPEST_M
from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.footings.sizing import MODES, sized, withstood

Truths = NDArray[np.bool_]
# How much deeper than planned anybody drives on.
BEYOND_PLAN_M = 1.5
# Said of a depth below all rungs: in layers nobody knows what it carries there.
TOO_DEEP = ("deeper than is looked at",)


@dataclass(frozen=True)
class Ladder:
    """Rungs from nought down, ``step_m`` apart; ``fails`` names what each does not carry, empty if all.

    In layers a deeper rung may carry less than a shallower one.
    """

    step_m: float
    fails: tuple[tuple[str, ...], ...]

    @property
    def deepest_m(self) -> float:
        """The lowest rung."""
        return (len(self.fails) - 1) * self.step_m

    def _rungs(self, depth_m: float) -> tuple[int, int]:
        """The rung at a depth and the next below it; the same where it lies on one."""
        at = depth_m / self.step_m
        last = len(self.fails) - 1
        return min(math.floor(at + 1e-6), last), min(math.ceil(at - 1e-6), last)

    def fails_at(self, depth_m: float) -> tuple[str, ...]:
        """What a depth between two rungs does not carry: what either of them does not."""
        if depth_m < 0:
            return MODES
        if depth_m > self.deepest_m + 1e-6:
            return TOO_DEEP
        above, below = self._rungs(depth_m)
        return tuple(mode for mode in MODES if mode in self.fails[above] or mode in self.fails[below])

    def carries(self, depth_m: float) -> bool:
        """Whether a post that stands so deep carries everything."""
        return not self.fails_at(depth_m)

    def next_m(self, depth_m: float) -> float | None:
        """The next depth that carries, at the one that is reached or below it; None where none does."""
        if depth_m > self.deepest_m + 1e-6:
            return None
        _, below = self._rungs(max(depth_m, 0.0))
        for rung in range(below, len(self.fails)):
            if not self.fails[rung]:
                return rung * self.step_m
        return None


def ladder_of(kind: SizedKind, step_m: float) -> Ladder:
    """The rungs of one kind, past the depth it is planned to; depths are called in ``step_m``."""
    deepest = min(kind.depth_m + BEYOND_PLAN_M, max(DEEPEST_M, kind.depth_m))
    count = math.ceil(deepest / step_m) + 1
    if kind.ground.profile is None:
        # In even soil what is asked for does not depend on the depth that is reached.
        needs = kind.needs.all_m
        return Ladder(step_m, tuple(_short(needs, rung * step_m) for rung in range(count)))
    depths, holds = withstood(kind.ground, kind.loads)
    # The profile is called out in the same steps, from the surface down.
    assert abs(float(depths[1] - depths[0]) - step_m) < 1e-9
    fails = ~holds[:, :count]
    return Ladder(
        step_m,
        tuple(
            tuple(mode for mode, failing in zip(MODES, rung, strict=True) if failing)
            for rung in fails.T.tolist()
        ),
    )


def fails_at(kind: SizedKind, depth_m: float) -> tuple[str, ...]:
    """What a post of a kind does not carry at just the depth that it reached."""
    needs, profile = kind.needs, kind.ground.profile
    if profile is not None and depth_m > float(profile.depth_m[-1]) + 1e-6:
        return TOO_DEEP
    if profile is not None:
        ((needs, _),) = sized(kind.ground, [kind.loads], depth_m)
    return _short(needs.all_m, depth_m)


def _short(needs_m: tuple[float, ...], depth_m: float) -> tuple[str, ...]:
    return tuple(mode for mode, need in zip(MODES, needs_m, strict=True) if need > depth_m + 1e-9)
