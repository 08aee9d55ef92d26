"""The actuator as a triangle through the whole travel: how long, on what arm, under what force.

In the plane square to the cross pipe, x level to the back and z up from the pipe's middle H:

        /            The actuator runs from A on the pole to B, a down the slope from H on the
       H             lower half (or up it on the upper). What turns the table about H is held by
      /|             the actuator's force times e, the distance of its line from H.
     B |
      \\|
       A
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.loads.gusts import with_halves
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.cantilevers.carry import on_heads
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.plan import StructurePlan

Floats = NDArray[np.float64]

# Tilts from limit to limit at which the triangle is looked at.
STEPS = 61


@dataclass(frozen=True)
class Triangle:
    """Head, arm and foot of the actuator, metres: ``side`` is -1 on the lower half, 1 on the upper."""

    arm_m: float
    under_m: float
    down_m: float
    out_m: float
    side: float

    @property
    def foot_m(self) -> Floats:
        """The lower bolt, (2)."""
        return np.array([self.side * self.out_m, -self.down_m])

    def bolt_m(self, tilt_deg: ArrayLike) -> Floats:
        """The upper bolt at tilts, (..., 2)."""
        tilt = np.radians(np.asarray(tilt_deg, dtype=float))
        along = self.side * self.arm_m
        return np.stack(
            (
                along * np.cos(tilt) + self.under_m * np.sin(tilt),
                along * np.sin(tilt) - self.under_m * np.cos(tilt),
            ),
            axis=-1,
        )

    def length_m(self, tilt_deg: ArrayLike) -> Floats:
        """Bolt to bolt."""
        return np.asarray(np.linalg.norm(self.bolt_m(tilt_deg) - self.foot_m, axis=-1))

    def turns_on_m(self, tilt_deg: ArrayLike) -> Floats:
        """e: how much longer the actuator gets a radian, below nought where it gets shorter.

        Its size is the distance of the actuator's line from the head.
        """
        bolt, foot = self.bolt_m(tilt_deg), self.foot_m
        cross = bolt[..., 1] * foot[0] - bolt[..., 0] * foot[1]
        return np.asarray(cross / np.linalg.norm(bolt - foot, axis=-1))


def triangle_of(givens: StructureGivens) -> Triangle:
    """As it is said."""
    return Triangle(
        arm_m=givens.arm_m,
        under_m=givens.arm_under_m,
        down_m=givens.foot_down_m,
        out_m=givens.foot_out_m,
        side=-1.0 if givens.actuator_on == "lower half" else 1.0,
    )


@dataclass(frozen=True, kw_only=True)
class Mover:
    """What turns a table, through its travel (steps): about its cross pipe where it ``tilts``, about
    its pole where it ``turns``. Of what it does not do nothing of the figures is told.

    ``lengths_m`` are bolt to bolt, ``arms_m`` what the force has to turn the table, ``turning_n_m``
    the most that it holds about the cross pipe, ``forces_n`` the actuator's, ``pins_n`` the head's.
    ``past_m`` are its least and its greatest length when it has run on past its limits.
    ``drive_turns_n_m`` is about the pole, ``drive_tips_n_m`` what tips the head off it; ``winds_m`` is
    how far a cable goes with it.
    """

    tilts: bool
    turns: bool
    triangle: Triangle
    tilts_deg: Floats
    lengths_m: Floats
    arms_m: Floats
    turning_n_m: Floats
    forces_n: Floats
    pins_n: Floats
    past_m: tuple[float, float]
    turns_over: bool
    drive_turns_n_m: float
    drive_tips_n_m: float
    winds_m: float

    @property
    def worst(self) -> int:
        """The step at which the actuator holds most."""
        return int(self.forces_n.argmax())


@dataclass(frozen=True)
class _Held:
    """The most at a tilt: about the cross pipe, the push at the head, and what tips it along."""

    turning_n_m: float
    push_n: float
    tips_n_m: float


def _held(structure: StructurePlan, table: TableSection, loads: TableLoads) -> _Held:
    """Gusts on the whole, on either half of the chord and on one half of the length."""
    kinds = structure.posts.kinds
    gusts = replace(loads, wind=with_halves(loads.wind))
    heads = on_heads(table, gusts, kinds.tributary_m, loads.dead_of_kg_per_m2[kinds.size_of])
    level = math.cos(math.radians(table.tilt_deg))
    # Half of what blows on the whole, a quarter of the length off the pole.
    tips = np.abs(heads.normal_n) / 2 * kinds.tributary_m[:, None, None] / 4 * level
    return _Held(
        float(np.abs(heads.turning_n_m).max()),
        float(np.hypot(heads.across_n, heads.down_n).max()),
        float(tips.max()),
    )


def mover_of(structure: StructurePlan, givens: StructureGivens) -> Mover | None:
    """The mover through its travel; None where no pole stands that turns or tilts what is on it.

    Between two tilts at which loads are known the greater of both is held.
    """
    travel = givens.travel
    if travel is None or travel.rolls:
        return None
    triangle = triangle_of(givens)
    known = np.array([table.tilt_deg for table, _ in structure.travel_at])
    low, high = float(known.min()), float(known.max())
    held = [_held(structure, table, loads) for table, loads in structure.travel_at]
    tilts = np.unique(np.concatenate((np.linspace(low, high, STEPS), known)))
    tilts = tilts[(tilts >= low) & (tilts <= high)]
    after = np.clip(np.searchsorted(known, tilts - 1e-9), 0, known.size - 1)
    before = np.clip(np.searchsorted(known, tilts + 1e-9) - 1, 0, known.size - 1)
    turning, push = (
        np.maximum(every[before], every[after])
        for every in (
            np.array([one.turning_n_m for one in held]),
            np.array([one.push_n for one in held]),
        )
    )
    slope = triangle.turns_on_m(tilts)
    forces = turning / np.maximum(np.abs(slope), 1e-6)
    run_on = np.linspace(low - givens.past_limit_deg, high + givens.past_limit_deg, STEPS)
    past = triangle.length_m(run_on)
    ways = np.sign(triangle.turns_on_m(run_on))
    return Mover(
        tilts=travel.tilts,
        turns=travel.turns,
        triangle=triangle,
        tilts_deg=tilts,
        lengths_m=triangle.length_m(tilts),
        arms_m=np.abs(slope),
        turning_n_m=turning,
        forces_n=forces,
        # Loads and actuator may pull the same way at the head.
        pins_n=push + forces,
        past_m=(float(past.min()), float(past.max())),
        turns_over=bool(ways.min() != ways.max()),
        drive_turns_n_m=float(structure.reactions.twist_n_m.max()),
        drive_tips_n_m=max(math.hypot(one.turning_n_m, one.tips_n_m) for one in held),
        winds_m=travel.wound_m + travel.loop_m * math.radians(high - low),
    )
